import { ChevronLeft, ChevronRight } from "lucide-react";
import type { ReactNode } from "react";
import type { Loop } from "../../../core/instrument";
import { parseNumber } from "../../../core/params";
import { Choice } from "../../widgets/Choice";
import { Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { type LoopUnit, lengthText, placeText, typedLength, typedPlace, type UnitFacts } from "./loop-units";

const MODES = [
  { id: "forward", label: "Forward" },
  { id: "alternating", label: "Ping-pong" },
  { id: "backward", label: "Backward" },
];
const LAWS = [
  { id: "match", label: "Auto" },
  { id: "gain", label: "Equal gain" },
  { id: "power", label: "Equal power" },
];
const UNTIL = [
  { id: "end", label: "End of note" },
  { id: "release", label: "Release" },
];

interface LoopFieldsProps {
  readonly title: string;
  /** Whether it is the one that goes round while the key is down. */
  readonly sustain: boolean;
  readonly loop: Loop | null;
  readonly unit: LoopUnit;
  readonly facts: UnitFacts;
  /** Whether another loop follows once the key is let go: then this one always ends there. */
  readonly released: boolean;
  /** Whether the sound is at hand, from which a loop is made. */
  readonly ready: boolean;
  /** A loop to start from; null when there is no room for one. */
  readonly first: () => Loop | null;
  readonly change: (what: string, loop: Loop | null, gesture?: string) => void;
  /** Moves one end to the next place where it would fit; without it there is no way to. */
  readonly further?: (which: "start" | "end", by: 1 | -1) => void;
  readonly empty: string;
  /** What else belongs to it. */
  readonly children?: ReactNode;
}

/** One loop of a zone: whether there is one, where, which way round, how often and until when. */
export function LoopFields(given: LoopFieldsProps) {
  const { title, sustain, loop, unit, facts, released, ready, first, change, further, empty, children } = given;
  const name = title.toLowerCase();
  const well = (
    label: string,
    text: string,
    typed: (text: string) => number | null,
    set: (frames: number) => Loop,
    now: number,
  ) => (
    <Well
      label={sustain ? label : `${title}: ${label.toLowerCase()}`}
      text={text}
      width={104}
      align="right"
      hint="Typed in any unit: 12 ms, 300 samples, 3 periods, 2 beats, 1 bar"
      onType={(written) => {
        const frames = typed(written);
        if (frames === null) return false;
        change(`Set ${label.toLowerCase()}`, set(frames));
        return true;
      }}
      onStep={(steps) => change(`Set ${label.toLowerCase()}`, set(now + stepOf(steps, unit, facts)), "step")}
    />
  );
  const place = (id: "start" | "end", label: string) =>
    loop && (
      <Row label={label}>
        {well(
          label,
          placeText(loop[id], unit, facts),
          (text) => typedPlace(text, unit, facts),
          (frame) => ({ ...loop, [id]: frame }),
          loop[id],
        )}
        {further && <Further which={id} go={(by) => further(id, by)} />}
      </Row>
    );
  const choice = (id: "mode" | "law" | "until", label: string, help: string, options: typeof MODES) =>
    loop && (
      <Row label={label} help={help}>
        <Choice
          label={`${title}: ${label.toLowerCase()}`}
          value={loop[id]}
          options={options}
          onChange={(value) => change(`Set ${label.toLowerCase()} of ${name}`, { ...loop, [id]: value } as Loop)}
          className="flex-1"
        />
      </Row>
    );
  return (
    <Section
      title={title}
      aside={
        <Toggle
          label={sustain ? "Loop" : title}
          on={loop !== null}
          disabled={!ready}
          onChange={(on) => change(`Switch ${name} ${on ? "on" : "off"}`, on ? first() : null)}
        />
      }
    >
      {!loop && <p className="text-ink-soft text-s">{empty}</p>}
      {place("start", "Loop start")}
      {place("end", "Loop end")}
      {loop && (
        <Row label="Length" help="Moves the loop’s end">
          {well(
            "Loop length",
            lengthText(loop.end - loop.start, unit, facts),
            (text) => typedLength(text, unit, facts),
            (frames) => ({ ...loop, end: loop.start + Math.max(2, frames) }),
            loop.end - loop.start,
          )}
        </Row>
      )}
      {choice("mode", "Direction", "Playback direction of the loop", MODES)}
      {loop && (
        <Row label="Crossfade">
          {well(
            "Crossfade",
            lengthText(loop.fade, unit, facts),
            (text) => typedLength(text, unit, facts),
            (frames) => ({ ...loop, fade: Math.max(0, frames) }),
            loop.fade,
          )}
        </Row>
      )}
      {loop &&
        loop.fade > 0 &&
        choice("law", "Crossfade curve", "Curve of the crossfade; auto: by how alike both sides are", LAWS)}
      {loop && (
        <Row label="Loop count" help="Number of passes; 0: endless">
          <Well
            label={`${title}: times`}
            text={loop.times === 0 ? "endless" : String(loop.times)}
            width={104}
            align="right"
            onType={(text) => {
              const times = /^no/.test(text.trim()) ? 0 : parseNumber("count", text);
              if (times === null) return false;
              change("Set times of loop", { ...loop, times: Math.min(1000, Math.max(0, Math.round(times))) });
              return true;
            }}
            onStep={(steps) =>
              change("Set times of loop", { ...loop, times: Math.max(0, loop.times + Math.sign(steps)) }, "step")
            }
          />
        </Row>
      )}
      {sustain &&
        (released && loop ? (
          <Row label="Loop until">
            <span className="text-ink-soft">the release, then the release loop</span>
          </Row>
        ) : (
          choice("until", "Loop until", "Whether the loop is left at release", UNTIL)
        ))}
      {children}
    </Section>
  );
}

/** Frames of a step by the arrow keys: a sample, or a period or a hundredth of a beat where that is shown. */
function stepOf(steps: number, unit: LoopUnit, { period, beat }: UnitFacts): number {
  if (unit === "periods" && period) return Math.round(steps * period);
  if (unit === "beats" && beat) return Math.round((steps * beat.frames) / 4);
  return steps;
}

/** Takes one end to the place before, or the next, at which both sides of the joint run alike. */
function Further({ which, go }: { which: "start" | "end"; go: (by: 1 | -1) => void }) {
  const button = (by: 1 | -1) => (
    <button
      type="button"
      aria-label={`Loop ${which}: ${by === 1 ? "next" : "last"} place that fits`}
      title={`Moves the loop’s ${which} alone ${by === 1 ? "on" : "back"} to where both sides of the joint run alike`}
      onClick={() => go(by)}
      className="grid h-[22px] w-5 place-items-center rounded-[2px] text-ink-soft hover:bg-well hover:text-ink"
    >
      {by === 1 ? <ChevronRight size={13} aria-hidden /> : <ChevronLeft size={13} aria-hidden />}
    </button>
  );
  return (
    <span className="flex">
      {button(-1)}
      {button(1)}
    </span>
  );
}
