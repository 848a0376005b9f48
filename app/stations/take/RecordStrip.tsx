import { useQuery } from "@tanstack/react-query";
import { Circle, Headphones, Square } from "lucide-react";
import { useStore } from "zustand";
import { formatNumber, plural } from "../../../core/params";
import type { ChannelChoice } from "../../audio/channel-choice";
import { BENCH, recorder } from "../../audio/recorder";
import { startRecording, stopRecording } from "../../state/recording";
import { Button, Hint } from "../../widgets/Button";
import { Choice, type ChoiceOption } from "../../widgets/Choice";

const CHANNELS: readonly { id: ChannelChoice; label: string }[] = [
  { id: "stereo", label: "Stereo" },
  { id: "left", label: "Left" },
  { id: "right", label: "Right" },
  { id: "mono", label: "Mono" },
];
const RATES = ["44100", "48000", "96000"].map((id) => ({ id, label: `${Number(id) / 1000} kHz` }));
const LOWEST = -60;
const place = (level: number) => `${Math.max(0, Math.min(1, (level - LOWEST) / -LOWEST)) * 100}%`;

/** The inputs there are; devices have names only once one of them was allowed. */
async function listInputs(): Promise<ChoiceOption[]> {
  const devices = (await navigator.mediaDevices?.enumerateDevices()) ?? [];
  const named = devices.filter((d) => d.kind === "audioinput" && d.deviceId !== "" && d.deviceId !== "default");
  return [
    { id: BENCH, label: "Bench mic (stand-in)" },
    { id: "default", label: "Microphone" },
    ...named.map((d) => ({ id: d.deviceId, label: d.label || "another microphone" })),
  ];
}

/** Input, channels, rate, meter with peak hold and clip light, monitor, and the record button. */
export function RecordStrip() {
  const view = useStore(recorder.store);
  const { open, choice } = view;
  // What is recorded keeps its input, channels and rate to its end.
  const fixed = view.recording !== null || view.busy;
  const inputs = useQuery({ queryKey: ["inputs", open], queryFn: listInputs, placeholderData: (before) => before });
  return (
    <section aria-label="Recording" className="shrink-0 border-rule border-b bg-ground">
      <div className="flex h-12 items-center gap-2.5 px-3.5">
        {view.recording ? (
          <Button
            look="record"
            pressed
            disabled={view.busy}
            keys="R"
            hint="Ends the recording"
            onClick={() => void stopRecording()}
          >
            <Square size={12} aria-hidden fill="currentColor" /> Stop
          </Button>
        ) : (
          <Button
            look="record"
            disabled={view.opening || view.busy}
            keys="R"
            onClick={() => void startRecording()}
            hint="Records uncompressed, with all voice processing off; stored as it comes in"
          >
            <Circle size={12} aria-hidden fill="currentColor" /> Record
          </Button>
        )}
        <Choice
          label="Input"
          value={choice.device}
          options={inputs.data ?? [{ id: BENCH, label: "Bench mic (stand-in)" }]}
          disabled={fixed}
          onChange={(device) => recorder.choose({ device })}
          className="w-[168px]"
        />
        <Choice
          label="Channels"
          value={choice.channels}
          options={CHANNELS}
          disabled={fixed}
          onChange={(channels) => recorder.choose({ channels: channels as ChannelChoice })}
          className="w-[74px]"
        />
        <Choice
          label="Rate"
          value={String(view.rate || choice.rate)}
          options={RATES}
          disabled={fixed}
          onChange={(rate) => recorder.choose({ rate: Number(rate) })}
          className="w-[84px]"
        />
        {!view.recording && (
          <Button
            disabled={view.opening || view.busy}
            onClick={() => (open ? void recorder.close() : void recorder.open())}
            hint="Opens the input to see its level"
          >
            {view.opening ? "Opening …" : open ? "Close" : "Check level"}
          </Button>
        )}
        <Button
          aria-label="Monitor"
          pressed={view.monitor}
          disabled={!open}
          onClick={() => recorder.setMonitor(!view.monitor)}
          hint="Hear the input; with loudspeakers beside the microphone it may howl"
        >
          <Headphones size={14} aria-hidden />
        </Button>
        <div
          role="meter"
          aria-label="Input level"
          aria-valuenow={Math.round(view.level)}
          aria-valuemin={LOWEST}
          aria-valuemax={0}
          className="relative h-[18px] min-w-12 flex-1 border border-rule bg-well"
        >
          <div className="absolute inset-y-0 left-0 bg-ink" style={{ width: place(view.level) }} />
          {[-48, -36, -24, -12, -6].map((db) => (
            <div
              key={db}
              className="absolute inset-y-0 w-px bg-rule-strong"
              style={{ left: place(db) }}
              title={`${db} dB`}
            />
          ))}
          {view.held > LOWEST && (
            <div className="absolute inset-y-0 w-[2px] bg-vermilion" style={{ left: place(view.held) }} />
          )}
        </div>
        <Hint text="Highest level so far; click to reset">
          <button type="button" className="num w-[66px] text-right" onClick={() => recorder.resetPeak()}>
            {view.held > -120 ? formatNumber("decibels", view.held) : "– dB"}
          </button>
        </Hint>
        <Hint
          text={
            view.clipped > 0
              ? `${plural(view.clipped, "sample")} at full scale: lower the gain at the device and click to reset`
              : "Counts samples at full scale"
          }
        >
          <button
            type="button"
            aria-label={view.clipped > 0 ? `clip ${view.clipped}: reset` : "clip: nothing so far"}
            onClick={() => recorder.resetPeak()}
            className={`num rounded-[2px] px-1.5 text-s ${view.clipped > 0 ? "bg-vermilion text-on-spot" : "bg-well text-ink-faint"}`}
          >
            {view.clipped > 0 ? `clip ${view.clipped}` : "clip"}
          </button>
        </Hint>
        {view.gaps > 0 && (
          <Hint text="Sound was lost: the computer was too busy. Close other programs and record again">
            <span role="alert" className="num rounded-[2px] bg-vermilion px-1.5 text-on-spot text-s">
              {plural(view.gaps, "gap")}
            </span>
          </Hint>
        )}
        {view.recording && <span className="num w-[64px] text-right">{formatNumber("seconds", view.seconds)}</span>}
      </div>
      {view.failure && (
        <p role="alert" className="border-rule border-t px-3.5 py-1 text-vermilion">
          {view.failure}
        </p>
      )}
    </section>
  );
}
