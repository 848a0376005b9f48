import { type RefObject, useEffect } from "react";
import { decibelsOf } from "../../../../core/audio";
import { byIdentity, type Instrument } from "../../../../core/instrument";
import { engine, heardNow } from "../../../state/engine";
import { groupKey, micKey } from "../../../state/group-view";

/** For each zone, by the engine's number, the keys of its group and its microphone. */
const keysOfZones = byIdentity((layers: Instrument["layers"]): readonly (readonly string[])[] =>
  layers.flatMap((l) =>
    l.groups.flatMap((g) => {
      const key = groupKey(l.id, g.id);
      return g.zones.map(({ mic }) => (mic === null ? [key] : [key, micKey(mic)]));
    }),
  ),
);

/** How many voices sound of each group and microphone. */
export function countVoices(
  instrument: Pick<Instrument, "layers">,
  cursors: readonly { readonly zone: number }[],
): ReadonlyMap<string, number> {
  const keys = keysOfZones(instrument.layers);
  const counts = new Map<string, number>();
  for (const { zone } of cursors) for (const key of keys[zone] ?? []) counts.set(key, (counts.get(key) ?? 0) + 1);
  return counts;
}

/** Decibels below full level that a meter shows. */
const DEPTH = 60;

/** Voices for which a meter is full. */
const MANY = 8;

/** Shows what sounds as long as the outline is there, without drawing it anew: levels of layers (`data-level`), voices of groups and microphones (`data-voices`). */
export function useActivity(list: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const each = (name: string) => list.current?.querySelectorAll<HTMLElement>(`[data-${name}]`) ?? [];
    const showLevels = (peaks: Readonly<Record<string, number>> | null) => {
      for (const bar of each("level")) {
        const level = decibelsOf(peaks?.[bar.dataset.level ?? ""] ?? 0);
        bar.style.width = `${100 * Math.min(1, Math.max(0, 1 + level / DEPTH))}%`;
        bar.style.backgroundColor = level > 0 ? "var(--vermilion)" : "";
      }
    };
    const showVoices = (cursors: readonly { readonly zone: number }[]) => {
      const { instrument } = heardNow.getState();
      const counts = instrument ? countVoices(instrument, cursors) : null;
      for (const mark of each("voices")) {
        const count = counts?.get(mark.dataset.voices ?? "") ?? 0;
        mark.style.width = `${100 * Math.min(1, count / MANY)}%`;
      }
    };
    const stop = engine.watch();
    const unsubscribe = engine.store.subscribe(({ peaks, cursors }, before) => {
      if (peaks !== before.peaks) showLevels(peaks);
      if (cursors !== before.cursors) showVoices(cursors);
    });
    return () => {
      unsubscribe();
      stop();
    };
  }, [list]);
}
