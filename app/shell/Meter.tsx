import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { decibelsOf } from "../../core/audio";
import type { EngineStatus } from "../../core/engine";
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
  dropped: (n) => `${plural(n, "message")} came too many at once and ${n === 1 ? "was" : "were"} dropped.`,
  broken: (n) =>
    `${plural(n, "stretch", "stretches")} of sound could not be computed and ${n === 1 ? "was" : "were"} left silent.`,
};

/** The loudest that was heard since the last silence, and whether the limiter was at work. */
interface Peak {
  readonly level: number;
  readonly limited: boolean;
}
const NO_PEAK: Peak = { level: Number.NEGATIVE_INFINITY, limited: false };

/** Level of a report in decibels. Below −100 dB is silence: a reverb never falls to nothing. */
function levelOf({ left, right }: EngineStatus): number {
  const loudest = decibelsOf(Math.max(left, right));
  return loudest < -100 ? Number.NEGATIVE_INFINITY : loudest;
}

/**
 * The peak as the engine's reports come, and told once each what the engine had to leave out. It hears the reports themselves: were it to follow what is drawn of
 * them, each drawing would ask for another, and React takes reports that have piled up on a busy page for a loop without end.
 */
function useReports(): Peak {
  const [peak, setPeak] = useState(NO_PEAK);
  useEffect(() => {
    let held = NO_PEAK;
    let told: Trouble = { thinned: 0, dropped: 0, broken: 0 };
    let letGo: ReturnType<typeof setTimeout> | undefined;
    const show = (next: Peak) => {
      // What stays as it was isn't drawn once more, thirty times a second.
      if (next.level !== held.level || next.limited !== held.limited) setPeak(next);
      held = next;
    };
    let sounding: boolean | null = null;
    const take = (status: EngineStatus) => {
      for (const id of ["thinned", "dropped", "broken"] as const)
        if (status[id] > told[id]) tell("warning", WORDS[id](status[id] - told[id]));
      told = status;
      show({ level: Math.max(held.level, levelOf(status)), limited: held.limited || status.limiter < -0.05 });
      if (sounding === status.voices > 0) return;
      sounding = status.voices > 0;
      clearTimeout(letGo);
      if (!sounding) letGo = setTimeout(() => show(NO_PEAK), 3000);
    };
    take(engine.store.getState().status);
    const stop = engine.store.subscribe(({ status }, before) => {
      if (status !== before.status) take(status);
    });
    return () => {
      stop();
      clearTimeout(letGo);
    };
  }, []);
  return peak;
}

/** Output level of both sides with the peak, the limiter's light, voices and load. */
export function Meter() {
  const status = useStore(engine.store, (s) => s.status);
  const load = useStore(engine.store, (s) => s.load);
  const state = useStore(engine.store, (s) => s.state);
  const loaded = useStore(engine.store, (s) => s.loaded);
  const wanted = useStore(engine.store, (s) => s.wanted);
  const peak = useReports();
  const { voices, left, right } = status;
  const level = levelOf(status);
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
