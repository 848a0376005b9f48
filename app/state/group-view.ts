import { createStore } from "zustand/vanilla";
import type { Instrument, Zone } from "../../core/instrument";
import { hearAs, showEngine } from "./engine";
import { setView, useView } from "./view";

/** A group by its layer and its own id. */
export const groupKey = (layer: string, group: string): string => `${layer}/${group}`;

/** What can be switched for a group while one works at the map; nothing of it is in the document. */
export type GroupSwitch = "paled" | "locked" | "muted" | "alone";

/** Turns a switch of a group. */
export function turnGroup(which: GroupSwitch, key: string): void {
  const next = new Set(useView.getState()[which]);
  if (!next.delete(key)) next.add(key);
  setView({ [which]: next });
}

/** Whether a group is shown pale and can't be touched: it was put back, or others are shown alone. */
const isSilent = (key: string, muted: ReadonlySet<string>, alone: ReadonlySet<string>): boolean =>
  muted.has(key) || (alone.size > 0 && !alone.has(key));

/** The zones of the field as they are looked at: those that can be touched, and those that only show through. */
export function zonesInView(
  instrument: Pick<Instrument, "layers">,
  paled: ReadonlySet<string>,
  locked: ReadonlySet<string>,
): { readonly free: readonly Zone[]; readonly pale: readonly Zone[]; readonly fixed: readonly Zone[] } {
  const free: (readonly Zone[])[] = [];
  const pale: (readonly Zone[])[] = [];
  const fixed: (readonly Zone[])[] = [];
  for (const layer of instrument.layers) {
    for (const group of layer.groups) {
      const key = groupKey(layer.id, group.id);
      const into = paled.has(key) ? pale : locked.has(key) ? fixed : free;
      if (group.zones.length > 0) into.push(group.zones);
    }
  }
  return { free: joined(free), pale: joined(pale), fixed: joined(fixed) };
}

const NO_ZONES: readonly Zone[] = [];

/** Lists as one; of none and of one the very same each time, so that whoever draws them sees that nothing has changed. */
const joined = (lists: readonly (readonly Zone[])[]): readonly Zone[] =>
  lists.length === 0 ? NO_ZONES : lists.length === 1 ? (lists[0] ?? NO_ZONES) : lists.flat();

interface Heard {
  readonly of: Instrument["layers"];
  readonly muted: ReadonlySet<string>;
  readonly alone: ReadonlySet<string>;
  readonly layers: Instrument["layers"];
}
const last = createStore<{ readonly heard: Heard | null }>(() => ({ heard: null }));

/** The instrument without the zones of groups that aren't to be heard. */
function withoutSilent(instrument: Instrument): Instrument {
  const { muted, alone } = useView.getState();
  if (muted.size === 0 && alone.size === 0) return instrument;
  const { heard } = last.getState();
  if (heard?.of === instrument.layers && heard.muted === muted && heard.alone === alone)
    return { ...instrument, layers: heard.layers };
  const layers = instrument.layers.map((layer) => ({
    ...layer,
    groups: layer.groups.map((g) => (isSilent(groupKey(layer.id, g.id), muted, alone) ? { ...g, zones: [] } : g)),
  }));
  last.setState({ heard: { of: instrument.layers, muted, alone, layers } });
  return { ...instrument, layers };
}

hearAs(withoutSilent);
useView.subscribe((view, before) => {
  if (view.muted !== before.muted || view.alone !== before.alone) showEngine();
});
