import type { Loop } from "../../../core/instrument";
import { formatNumber, grouped, parseNumber } from "../../../core/params";
import { Choice } from "../../widgets/Choice";
import { Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";

const MODES = [
  { id: "forward", label: "Forward" },
  { id: "alternating", label: "There and back" },
  { id: "backward", label: "Backward" },
];
const LAWS = [
  { id: "match", label: "As alike as they are" },
  { id: "gain", label: "Equal gain" },
  { id: "power", label: "Equal power" },
];
const UNTIL = [
  { id: "end", label: "For ever" },
  { id: "release", label: "Until let go" },
];

/** One loop of a zone: whether there is one, where, which way round, how often and until when. */
export function LoopFields({
  title,
  sustain,
  loop,
  rate,
  released,
  ready,
  first,
  change,
  empty,
}: {
  title: string;
  /** Whether it is the one that goes round while the key is down. */
  sustain: boolean;
  loop: Loop | null;
  rate: number;
  /** Whether another loop follows once the key is let go: then this one always ends there. */
  released: boolean;
  /** Whether the sound is at hand, from which a loop is made. */
  ready: boolean;
  /** A loop to start from; null when there is no room for one. */
  first: () => Loop | null;
  change: (what: string, loop: Loop | null, gesture?: string) => void;
  empty: string;
}) {
  const name = title.toLowerCase();
  const frame = (id: "start" | "end" | "fade", label: string) =>
    loop && (
      <Row label={label}>
        <Well
          label={sustain ? label : `${title}: ${label.toLowerCase()}`}
          text={`${((loop[id] / rate) * 1000).toFixed(2)} ms`}
          width={100}
          align="right"
          onType={(text) => {
            const seconds = parseNumber("seconds", text);
            if (seconds === null) return false;
            change(`Set ${label.toLowerCase()}`, { ...loop, [id]: Math.round(seconds * rate) });
            return true;
          }}
          onStep={(steps) => change(`Set ${label.toLowerCase()}`, { ...loop, [id]: loop[id] + steps }, "step")}
        />
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
      {frame("start", "Loop start")}
      {frame("end", "Loop end")}
      {choice("mode", "Direction", "Which way the part is played", MODES)}
      {frame("fade", "Crossfade")}
      {loop && loop.fade > 0 && choice("law", "Fades by", "How the crossfade keeps the level", LAWS)}
      {loop && (
        <Row label="Times" help="How often it is played in all; 0 has no end">
          <Well
            label={`${title}: times`}
            text={loop.times === 0 ? "no end" : String(loop.times)}
            width={100}
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
          <Row label="Lasts">
            <span className="text-ink-soft">until let go, then the release loop</span>
          </Row>
        ) : (
          choice("until", "Lasts", "Whether letting the key go leaves the loop", UNTIL)
        ))}
      {loop && (
        <Row label="Length">
          <span className="num text-[12px]">
            {formatNumber("seconds", (loop.end - loop.start) / rate)} · {grouped(loop.end - loop.start)} fr
          </span>
        </Row>
      )}
    </Section>
  );
}
