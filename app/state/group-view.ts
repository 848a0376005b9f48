import { createStore } from "zustand/vanilla";
import type { Instrument, Zone } from "../../core/instrument";
import { hearAs, showEngine } from "./engine";
import { setView, useView } from "./view";

/** A group by its layer and its own id. */
export const groupKey = (layer: string, group: string): string => `${layer}/${group}`;
/** A microphone, among groups. */
export const micKey = (mic: string): string => `mics/${mic}/`;

/** What can be switched for groups and microphones while one works at the map; nothing of it is in the document. */
export type GroupSwitch = "paled" | "locked" | "muted" | "alone";

/** Turns a switch of some groups, or of a microphone: on unless it is on for all of them. */
export function turnGroups(which: GroupSwitch, keys: readonly string[]): void {
  const next = new Set(useView.getState()[which]);
  const on = keys.some((key) => !next.has(key));
  for (const key of keys) {
    if (on) next.add(key);
    else next.delete(key);
  }
  setView({ [which]: next });
}

const isMic = (key: string): boolean => key.startsWith("mics/") && key.endsWith("/");

/** Switches of one kind as they are looked up: by group, by microphone. */
interface Marked {
  readonly groups: ReadonlySet<string>;
  readonly mics: ReadonlySet<string>;
}
const markedOf = (keys: ReadonlySet<string>): Marked => ({
  groups: new Set([...keys].filter((k) => !isMic(k))),
  mics: new Set([...keys].filter(isMic).map((k) => k.slice("mics/".length, -1))),
});

/** The zones of the field as they are looked at: those that can be touched, those that only show through, those that stay where they are. */
export function zonesInView(
  instrument: Pick<Instrument, "layers">,
  paled: ReadonlySet<string>,
  locked: ReadonlySet<string>,
): { readonly free: readonly Zone[]; readonly pale: readonly Zone[]; readonly fixed: readonly Zone[] } {
  const into = { free: [] as (readonly Zone[])[], pale: [] as (readonly Zone[])[], fixed: [] as (readonly Zone[])[] };
  const [pales, locks] = [markedOf(paled), markedOf(locked)];
  for (const layer of instrument.layers) {
    for (const group of layer.groups) {
      if (group.zones.length === 0) continue;
      const key = groupKey(layer.id, group.id);
      const whole = pales.groups.has(key) ? "pale" : locks.groups.has(key) ? "fixed" : "free";
      if (pales.mics.size + locks.mics.size === 0) {
        into[whole].push(group.zones);
        continue;
      }
      const placeOf = ({ mic }: Zone) => {
        if (whole === "pale" || (mic !== null && pales.mics.has(mic))) return "pale";
        return whole === "fixed" || (mic !== null && locks.mics.has(mic)) ? "fixed" : "free";
      };
      for (const place of ["free", "pale", "fixed"] as const)
        into[place].push(group.zones.filter((z) => placeOf(z) === place));
    }
  }
  return { free: joined(into.free), pale: joined(into.pale), fixed: joined(into.fixed) };
}

const NO_ZONES: readonly Zone[] = [];

/** Lists as one; of none and of one the very same each time, so that whoever draws them sees that nothing has changed. */
const joined = (given: readonly (readonly Zone[])[]): readonly Zone[] => {
  const lists = given.filter((list) => list.length > 0);
  return lists.length === 0 ? NO_ZONES : lists.length === 1 ? (lists[0] ?? NO_ZONES) : lists.flat();
};

interface Heard {
  readonly of: Instrument["layers"];
  readonly muted: ReadonlySet<string>;
  readonly alone: ReadonlySet<string>;
  readonly layers: Instrument["layers"];
}
const last = createStore<{ readonly heard: Heard | null }>(() => ({ heard: null }));

/** Layers without the zones that aren't to be heard: those of muted groups and microphones, and where some are heard alone, all but those. */
export function audibleLayers(
  layers: Instrument["layers"],
  muted: ReadonlySet<string>,
  alone: ReadonlySet<string>,
): Instrument["layers"] {
  const [mutes, solos] = [markedOf(muted), markedOf(alone)];
  return layers.map((layer) => ({
    ...layer,
    groups: layer.groups.map((group) => {
      const key = groupKey(layer.id, group.id);
      if (mutes.groups.has(key) || (solos.groups.size > 0 && !solos.groups.has(key))) return { ...group, zones: [] };
      if (mutes.mics.size + solos.mics.size === 0) return group;
      const zones = group.zones.filter(
        ({ mic }) => (mic === null || !mutes.mics.has(mic)) && (solos.mics.size === 0 || solos.mics.has(mic ?? "")),
      );
      return { ...group, zones };
    }),
  }));
}

/** The instrument without what isn't to be heard. */
function withoutSilent(instrument: Instrument): Instrument {
  const { muted, alone } = useView.getState();
  if (muted.size === 0 && alone.size === 0) return instrument;
  const { heard } = last.getState();
  if (heard?.of === instrument.layers && heard.muted === muted && heard.alone === alone)
    return { ...instrument, layers: heard.layers };
  const layers = audibleLayers(instrument.layers, muted, alone);
  last.setState({ heard: { of: instrument.layers, muted, alone, layers } });
  return { ...instrument, layers };
}

hearAs(withoutSilent);
/** Lets everything be heard again. */
export const hearAll = (): void => setView({ muted: new Set(), alone: new Set() });

useView.subscribe((view, before) => {
  if (view.muted !== before.muted || view.alone !== before.alone) showEngine();
});
