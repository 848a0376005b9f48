import { useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import { decibelsOf } from "../../core/audio";
import { formatNumber, plural } from "../../core/params";
import { engine } from "../state/engine";
import { tell } from "../state/notices";
import { Hint } from "../widgets/Button";

const LOWEST = -60;
const place = (level: number): number => Math.max(0, Math.min(1, (level - LOWEST) / -LOWEST));

interface Trouble {
  readonly thinned: number;
  readonly dropped: number;
  readonly broken: number;
}

const WORDS: Readonly<Record<keyof Trouble, (count: number) => string>> = {
  thinned: (n) =>
    `This computer can't keep up: ${plural(n, "voice")} gave way so that the sound goes on. Fewer voices or the economy quality help.`,
  dropped: (n) => `${plural(n, "message")} came too many at once and ${n === 1 ? "was" : "were"} left out.`,
  broken: (n) =>
    `${plural(n, "stretch", "stretches")} of sound could not be computed and ${n === 1 ? "was" : "were"} left silent.`,
};

/** Tells once what the engine had to leave out. */
function useTrouble(now: Trouble): void {
  const told = useRef<Trouble>({ thinned: 0, dropped: 0, broken: 0 });
  const { thinned, dropped, broken } = now;
  useEffect(() => {
    const counts = { thinned, dropped, broken };
    for (const id of ["thinned", "dropped", "broken"] as const) {
      const more = counts[id] - told.current[id];
      if (more > 0) tell("doubt", WORDS[id](more));
    }
    told.current = counts;
  }, [thinned, dropped, broken]);
}

/** Output level of both sides with the peak, the limiter's light, voices and load. */
export function Meter() {
  const { voices, left, right, limiter, thinned, dropped, broken } = useStore(engine.store, (s) => s.status);
  useTrouble({ thinned, dropped, broken });
  const load = useStore(engine.store, (s) => s.load);
  const state = useStore(engine.store, (s) => s.state);
  const loaded = useStore(engine.store, (s) => s.loaded);
  const wanted = useStore(engine.store, (s) => s.wanted);
  const [peak, setPeak] = useState({ level: Number.NEGATIVE_INFINITY, limited: false });
  // Below −100 dB is silence: a reverb never falls to nothing.
  const loudest = decibelsOf(Math.max(left, right));
  const level = loudest < -100 ? Number.NEGATIVE_INFINITY : loudest;
  useEffect(() => {
    setPeak((p) => {
      const next = { level: Math.max(p.level, level), limited: p.limited || limiter < -0.05 };
      // What stays as it was isn't drawn once more, thirty times a second.
      return next.level === p.level && next.limited === p.limited ? p : next;
    });
  }, [level, limiter]);
  useEffect(() => {
    if (voices > 0) return;
    const timer = setTimeout(() => setPeak({ level: Number.NEGATIVE_INFINITY, limited: false }), 3000);
    return () => clearTimeout(timer);
  }, [voices]);
  const words =
    state === "running" && loaded < wanted
      ? `loading ${loaded}/${wanted}`
      : state === "running" || state === "off"
        ? `${plural(voices, "voice")} · ${Math.round(load * 100)} %`
        : state;
  return (
    <div className="flex items-center gap-2.5">
      <Hint text="Voices that sound, and the share of one processor core that the engine takes">
        <span className="num whitespace-nowrap text-[12px] text-ink-soft" data-testid="voices">
          {words}
        </span>
      </Hint>
      <Hint
        text={
          peak.limited
            ? "The limiter held the output back: lower a level"
            : "Output level; the light at its end shows the limiter at work"
        }
      >
        <div
          role="meter"
          aria-label="Output level"
          aria-valuenow={Math.round(Math.max(LOWEST, level))}
          aria-valuemin={LOWEST}
          aria-valuemax={0}
          className="relative h-[14px] w-[120px] border border-rule bg-well"
        >
          {[left, right].map((x, i) => (
            <div
              // biome-ignore lint/suspicious/noArrayIndexKey: the two sides
              key={i}
              className="absolute left-px h-[5px] bg-ink"
              style={{ top: i * 6 + 1, width: `${place(decibelsOf(x)) * 90}%` }}
            />
          ))}
          <div
            className="absolute inset-y-px w-[2px] bg-vermilion"
            style={{ left: `${place(peak.level) * 90}%`, opacity: peak.level > LOWEST ? 1 : 0 }}
          />
          <div
            className={
              peak.limited
                ? "absolute inset-y-px right-px w-[8px] bg-vermilion"
                : "absolute inset-y-px right-px w-[8px] border-rule border-l"
            }
          />
        </div>
      </Hint>
      <span className="num w-[62px] text-right text-[12px]">{formatNumber("decibels", peak.level)}</span>
    </div>
  );
}
