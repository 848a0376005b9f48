import { memo, useMemo } from "react";
import type { Instrument, SampledZone } from "../../../core/instrument";
import { kindText, type LoopCandidate } from "../../../core/looping";
import { formatNumber, plural } from "../../../core/params";
import { type Command, useCommands } from "../../state/commands";
import { isTaken, takeLoop, useFoundLoops } from "../../state/loops";
import { Hint } from "../../widgets/Button";
import { cx } from "../../widgets/class-names";
import type { Span } from "../../widgets/wave-span";
import { WishMenu } from "./WishMenu";

interface FoundRowProps {
  readonly zone: SampledZone;
  readonly samples: Instrument["samples"];
  readonly rate: number;
  /** What the wave shows. */
  readonly span: Span;
  /** A loop was taken: it comes into view. */
  readonly onTake: (candidate: LoopCandidate) => void;
}

/** What tells a candidate from the others in a few words. */
function shortly({ start, end, parts, mode, flat }: LoopCandidate, rate: number): string {
  const { bars } = parts;
  const length =
    bars !== null && Math.abs(bars - Math.round(bars)) < 0.01
      ? plural(Math.round(bars), "bar")
      : formatNumber("seconds", (end - start) / rate);
  const pulse = parts.pulse >= 1.5 && bars === null ? ` ± ${(parts.pulse / 2).toFixed(1)} dB` : "";
  return `${length}${flat ? ", levelled out" : ""}${mode === "alternating" ? ", ping-pong" : ""}${pulse}`;
}

/** Loops that were found, best first, each under a digit with its score: one press takes it, and it is heard at once where the key is held. */
export const FoundRow = memo(function FoundRow({ zone, samples, rate, span, onTake }: FoundRowProps) {
  const { data, error } = useFoundLoops(zone, samples);
  const candidates = data?.candidates ?? [];
  const take = (candidate: LoopCandidate) => {
    takeLoop(zone, candidate);
    onTake(candidate);
  };
  const at = candidates.findIndex((c) => isTaken(zone, c));
  // biome-ignore lint/correctness/useExhaustiveDependencies: what they do is asked when they are done
  const commands = useMemo<readonly Command[]>(() => {
    const none = () => (candidates.length > 0 ? null : "no loop was found here");
    const go = (to: number) => {
      const candidate = candidates[(to + candidates.length) % candidates.length];
      if (candidate) take(candidate);
    };
    return [
      {
        id: "next-found",
        label: "Take the next loop that was found",
        chords: ["Alt+ArrowDown"],
        why: none,
        run: () => go(at + 1),
      },
      {
        id: "found-before",
        label: "Take the loop before it",
        chords: ["Alt+ArrowUp"],
        why: none,
        run: () => go(Math.max(0, at) - 1),
      },
      ...candidates.map((candidate, i) => ({
        id: `found-${i + 1}`,
        label: `Take loop ${i + 1} that was found`,
        chords: [`Alt+${i + 1}`],
        run: () => take(candidate),
      })),
    ];
  }, [candidates, at, zone.id]);
  useCommands("Loops found", commands);
  return (
    <div className="flex h-10 shrink-0 items-center border-rule border-b bg-ground pr-3.5">
      <div className="flex h-full min-w-0 flex-1 items-center gap-1.5 overflow-x-auto pr-1.5 pl-3.5 [scrollbar-width:none]">
        <span className="mr-1 shrink-0 text-ink-soft text-s" title={data ? kindText(data) : undefined}>
          {error ? "It can’t be searched" : data ? (data.none ?? "Found") : "Looking for loops …"}
        </span>
        {candidates.map((candidate, i) => {
          const on = isTaken(zone, candidate);
          return (
            <Hint key={`${candidate.start} ${candidate.end}`} text={candidate.reason} keys={`Alt+${i + 1}`}>
              <button
                type="button"
                aria-pressed={on}
                aria-label={`Loop ${i + 1}: score ${candidate.score}, ${candidate.reason}`}
                onClick={() => take(candidate)}
                className={cx(
                  "flex h-7 shrink-0 items-center gap-1 rounded-s border px-1.5 text-s",
                  on ? "border-cobalt border-2 bg-tint-cobalt" : "border-rule-strong bg-sheet hover:bg-well",
                )}
              >
                <span className="num text-ink-soft">{i + 1}</span>
                <span className="num font-semibold">{candidate.score}</span>
                <span>{shortly(candidate, rate)}</span>
              </button>
            </Hint>
          );
        })}
      </div>
      <WishMenu zone={zone.id} span={span} />
    </div>
  );
});

/** Why the loop that a zone has was proposed, or what it is worth as it was made. */
export function WhyThisOne({
  zone,
  samples,
  judged,
}: {
  zone: SampledZone;
  samples: Instrument["samples"];
  judged: LoopCandidate | null;
}) {
  const { data, error } = useFoundLoops(zone, samples);
  if (!zone.loop) return null;
  // Where it comes from isn't known before what can be found is.
  if (!data && !error) return <p className="mb-2 text-ink-soft text-s">It is being looked at …</p>;
  const found = data?.candidates.find((c) => isTaken(zone, c) && zone.loop?.fade === c.crossfade);
  if (found)
    return (
      <p className="mb-2 text-ink-soft text-s">
        Score <b className="num">{found.score}</b>. Found in {data ? kindText(data) : "the sound"}: {found.reason}.
      </p>
    );
  return (
    <p className="mb-2 text-ink-soft text-s">
      None of those that are found here
      {judged ? (
        <>
          , score <b className="num">{judged.score}</b>: {judged.reason}.
        </>
      ) : (
        "."
      )}
    </p>
  );
}
