import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { decibelsOf } from "../../../core/audio";
import { formatNumber } from "../../../core/params";
import { engine } from "../../state/engine";
import { aboutMix, MixWatch } from "../../state/mix-watch";
import { useInstrument } from "../../state/use-session";
import { cx } from "../../widgets/class-names";
import { Section } from "../../widgets/ParamControl";

/** Level at the left end of a bar. */
const FLOOR = -60;

/** How loud each layer was in what sounded last, and what is to be said about it. */
export function InTheMix() {
  const layers = useInstrument((i) => i.layers);
  const [watch] = useState(() => new MixWatch());
  useEffect(() => {
    const stop = engine.watch();
    const unsubscribe = engine.store.subscribe(({ peaks, status }, before) => {
      if (peaks !== before.peaks) watch.take(peaks, status.limiter, performance.now());
    });
    return () => {
      unsubscribe();
      stop();
    };
  }, [watch]);
  const mix = useStore(watch.store);
  const said = aboutMix(mix, layers);
  return (
    <Section title="In the mix">
      {layers.map(({ id, name, strip }) => {
        const peak = mix.peaks[id];
        const level = peak === undefined ? null : decibelsOf(peak);
        const feeds = Number(strip.params.mute ?? 0) >= 0.5;
        return (
          <div key={id} className="grid h-6 grid-cols-[64px_minmax(0,1fr)_64px] items-center gap-2 text-s">
            <span className="truncate" title={feeds ? `${name}: heard only through others` : name}>
              {name}
            </span>
            <span className="h-2 bg-well" aria-hidden>
              <span
                className={cx("block h-full", feeds ? "bg-rule-strong" : "bg-ink")}
                style={{ width: `${level === null ? 0 : Math.min(100, Math.max(0, (1 - level / FLOOR) * 100))}%` }}
              />
            </span>
            <span className="num text-right text-ink-soft">
              {level === null || level < -90 ? "—" : formatNumber("decibels", level)}
            </span>
          </div>
        );
      })}
      {said.map((sentence) => (
        <p key={sentence} className="mt-1 text-ochre text-s">
          {sentence}
        </p>
      ))}
      {Object.keys(mix.peaks).length === 0 && (
        <p className="text-ink-soft text-s">Play a key: it shows how layers compare.</p>
      )}
    </Section>
  );
}
