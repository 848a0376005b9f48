import { useState } from "react";
import {
  type Beat,
  HIGHEST_TEMPO,
  LOWEST_TEMPO,
  newLoop,
  type Sample,
  type SampledZone,
  setBeat,
  setSong,
  type Zone,
} from "../../../core/instrument";
import { beatFrames } from "../../../core/looping";
import { parseNumber } from "../../../core/params";
import { reasonOf } from "../../basis/reason-of";
import { lookForBeat, sliceToKeys } from "../../state/beats";
import { followTempo } from "../../state/follow-tempo";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";

interface BeatPanelProps {
  readonly zone: SampledZone;
  readonly sample: Sample | undefined;
  readonly change: (what: string, fn: (zone: Zone) => Zone) => void;
  /** A loop was made: it comes into view. */
  readonly onLoop: (loop: { readonly start: number; readonly end: number }) => void;
}

const BARS = [1, 2, 4, 8] as const;

/** A tempo that a song may have, to a hundredth. */
const within = (bpm: number): number => Math.round(Math.min(HIGHEST_TEMPO, Math.max(LOWEST_TEMPO, bpm)) * 100) / 100;

const failed = (error: unknown): void => void tell("error", `It can’t be done: ${reasonOf(error)}.`);

/** The beat of a sample: its tempo and where a bar begins, found or typed; loops of whole bars, slices, and another tempo. */
export function BeatPanel({ zone, sample, change, onLoop }: BeatPanelProps) {
  const [busy, setBusy] = useState(false);
  const tempo = useInstrument((i) => i.song.tempo);
  if (!sample) return null;
  const { beat, rate } = sample;
  const during = (work: Promise<void>) => {
    setBusy(true);
    void work.catch(failed).finally(() => setBusy(false));
  };
  const set = (to: Partial<Beat>, gesture: string | null = null) =>
    session.commit(setBeat(sample.sha, { tempo: 120, downbeat: zone.start, bar: 4, ...beat, ...to }), gesture);
  const find = (
    <Button
      disabled={busy}
      onClick={() => during(lookForBeat(zone))}
      hint="Looks for the attacks and the grid that they lie on"
    >
      {busy ? "Listening …" : beat ? "Find it again" : "Find the beat"}
    </Button>
  );
  if (!beat) {
    return (
      <Section title="Beat">
        <p className="mb-2 text-ink-soft">
          A sample with a beat can loop by whole bars, be sliced onto keys, and follow another tempo.
        </p>
        <div className="flex flex-wrap gap-1.5">
          {find}
          <Button onClick={() => set({})} hint="120 beats a minute from the start on, to be typed over">
            Type it
          </Button>
        </div>
      </Section>
    );
  }
  const bar = beatFrames(beat, rate) * beat.bar;
  const loopBars = (bars: number) => {
    const from = zone.loop ? Math.round((zone.loop.start - beat.downbeat) / bar) : 0;
    const start = Math.max(zone.start, Math.round(beat.downbeat + Math.max(0, from) * bar));
    const fits = start + bars * bar <= zone.end + 0.006 * rate;
    const begin = fits ? start : Math.max(zone.start, Math.round(beat.downbeat));
    const loop = newLoop({
      start: begin,
      end: Math.min(zone.end, Math.round(begin + bars * bar)),
      fade: Math.min(begin - zone.start, Math.round(0.003 * rate)),
      law: "power",
    });
    change(`Loop ${bars === 1 ? "a bar" : `${bars} bars`}`, (z) => ({ ...z, loop }));
    onLoop(loop);
  };
  return (
    <>
      <Section title="Beat" aside={find}>
        <Row label="Tempo">
          <Well
            label="Tempo of the sample"
            text={`${Number(beat.tempo.toFixed(3))} bpm`}
            width={82}
            align="right"
            onType={(text) => {
              const bpm = parseNumber("count", text.replace(/\s*bpm$/i, ""));
              if (bpm === null || !(bpm >= 10 && bpm <= 1000)) return false;
              set({ tempo: bpm });
              return true;
            }}
            onStep={(steps) => set({ tempo: Math.min(1000, Math.max(10, beat.tempo + steps / 10)) }, "step")}
          />
          <span className="flex gap-0.5">
            <Button
              className="h-[22px] px-1 text-s"
              hint="Half the tempo"
              onClick={() => set({ tempo: Math.max(10, beat.tempo / 2) })}
            >
              ÷2
            </Button>
            <Button
              className="h-[22px] px-1 text-s"
              hint="Twice the tempo"
              onClick={() => set({ tempo: Math.min(1000, beat.tempo * 2) })}
            >
              ×2
            </Button>
          </span>
        </Row>
        <Row label="Bar begins" help="Where the first beat of a bar lies">
          <Well
            label="Where a bar begins"
            text={`${((beat.downbeat / rate) * 1000).toFixed(1)} ms`}
            width={104}
            align="right"
            onType={(text) => {
              const seconds = parseNumber("seconds", text);
              if (seconds === null || seconds < 0) return false;
              set({ downbeat: Math.min(sample.frames, Math.round(seconds * rate)) });
              return true;
            }}
            onStep={(steps) => set({ downbeat: Math.max(0, beat.downbeat + steps) }, "step")}
          />
        </Row>
        <Row label="Beats of a bar">
          <Well
            label="Beats of a bar"
            text={String(beat.bar)}
            width={104}
            align="right"
            onType={(text) => {
              const count = parseNumber("count", text);
              if (count === null || !(count >= 1 && count <= 64)) return false;
              set({ bar: Math.round(count) });
              return true;
            }}
            onStep={(steps) => set({ bar: Math.min(64, Math.max(1, beat.bar + Math.sign(steps))) }, "step")}
          />
        </Row>
        <Button look="quiet" className="px-1" onClick={() => session.commit(setBeat(sample.sha, null))}>
          It has no beat
        </Button>
      </Section>
      <Section title="Loop whole bars">
        <div className="flex gap-1.5">
          {BARS.map((bars) => (
            <Button
              key={bars}
              disabled={bars * bar > zone.end - beat.downbeat + 0.006 * rate}
              hint={`${bars === 1 ? "One bar" : `${bars} bars`} from the bar at which the loop is, or from the first`}
              onClick={() => loopBars(bars)}
            >
              {bars}
            </Button>
          ))}
          <span className="self-center text-ink-soft">bars</span>
        </div>
      </Section>
      <Section title="In another tempo">
        <div className="flex flex-col items-start gap-1.5">
          <Button
            disabled={busy}
            onClick={() => during(sliceToKeys(zone, beat))}
            hint="Cuts it at its attacks, each slice on a key; a phrase plays them in order, at whatever tempo is set above"
          >
            Slice to keys
          </Button>
          <Button
            disabled={busy || Math.abs(tempo / beat.tempo - 1) < 1e-4}
            hint="Makes a longer or shorter sample of it at the same pitch, and plays that instead"
            onClick={() => during(followTempo(zone, sample, tempo))}
          >
            Stretch to {tempo} bpm
          </Button>
          <Button
            look="quiet"
            className="px-1"
            disabled={tempo === within(beat.tempo)}
            onClick={() => session.commit(setSong({ tempo: within(beat.tempo) }))}
          >
            Set the tempo above to {within(beat.tempo)} bpm
          </Button>
        </div>
      </Section>
    </>
  );
}
