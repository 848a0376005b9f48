import { Circle, Square } from "lucide-react";
import { useState } from "react";
import { useStore } from "zustand";
import { formatNumber } from "../../../core/params";
import { type InputKind, recorder } from "../../audio/recorder";
import { addRecording } from "../../state/files";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { useInstrument } from "../../state/use-session";
import { Button, Hint } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";

const INPUTS = [
  { id: "bench", label: "Bench mic (stand-in)" },
  { id: "microphone", label: "Microphone" },
];
const LOWEST = -60;
const place = (level: number) => `${Math.max(0, Math.min(1, (level - LOWEST) / -LOWEST)) * 100}%`;

/** Input, meter with peak hold and clip light, and the record button. */
export function RecordStrip() {
  const { takes } = useInstrument();
  const [input, setInput] = useState<InputKind>("bench");
  const view = useStore(recorder.store);
  const open = view.input !== null;

  const record = async () => {
    if (!open) await recorder.open(input);
    if (recorder.store.getState().input === null) return;
    await recorder.record(freshId(), `take ${takes.length + 1}`);
  };
  const stop = async () => {
    const recorded = await recorder.stop();
    if (!recorded) return;
    if ((recorded.channels[0]?.length ?? 0) === 0) {
      tell("doubt", "Nothing came in, so there is no take.");
    } else {
      await addRecording(recorded.info.name, recorded.channels, recorded.info.rate);
    }
    await recorder.forget(recorded.info.id);
  };
  return (
    <section
      aria-label="Recording"
      className="flex h-14 shrink-0 items-center gap-3 border-rule border-b bg-ground px-3.5"
    >
      <Choice
        label="Input"
        value={view.input ?? input}
        options={INPUTS}
        onChange={(id) => (open ? void recorder.open(id as InputKind) : setInput(id as InputKind))}
        className="w-[170px]"
      />
      {view.recording ? (
        <Button look="record" pressed onClick={() => void stop()}>
          <Square size={12} aria-hidden fill="currentColor" /> Stop
        </Button>
      ) : (
        <Button
          look="record"
          disabled={view.opening}
          onClick={() => void record()}
          hint="Records uncompressed, with all voice processing off; stored as it comes in"
        >
          <Circle size={12} aria-hidden fill="currentColor" /> Record
        </Button>
      )}
      {!view.recording && (
        <Button
          disabled={view.opening}
          onClick={() => (open ? void recorder.close() : void recorder.open(input))}
          hint="Opens the input to see its level"
        >
          {view.opening ? "Opening …" : open ? "Close input" : "Check level"}
        </Button>
      )}
      <div
        role="meter"
        aria-label="Input level"
        aria-valuenow={Math.round(view.level)}
        className="relative h-[18px] min-w-24 flex-1 border border-rule bg-well"
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
      <Hint text="Highest level so far; click to begin anew">
        <button type="button" className="num w-[72px] text-right" onClick={() => recorder.resetPeak()}>
          {view.held > -120 ? formatNumber("decibels", view.held) : "– dB"}
        </button>
      </Hint>
      <Hint
        text={
          view.clipped > 0
            ? `${view.clipped} samples at full scale: lower the gain at the device and click to reset`
            : "Lights when the input is at full scale"
        }
      >
        <button
          type="button"
          aria-label={view.clipped > 0 ? "Clipped" : "Not clipped"}
          onClick={() => recorder.resetPeak()}
          className={`num rounded-[2px] px-1.5 text-s ${view.clipped > 0 ? "bg-vermilion text-on-spot" : "bg-well text-ink-faint"}`}
        >
          clip
        </button>
      </Hint>
      <span className="num w-[64px] text-right">{view.recording ? formatNumber("seconds", view.seconds) : ""}</span>
      {view.failure && <span className="max-w-64 text-vermilion">{view.failure}</span>}
    </section>
  );
}
