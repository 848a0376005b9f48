import type { Group, Instrument, Layer, Zone } from "../../core/instrument";
import { engine } from "./engine";
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

/** The zones that are heard: all but those of muted groups and microphones, and where some are heard alone, of those. */
export function audibleZones(
  { layers }: Pick<Instrument, "layers">,
  muted: ReadonlySet<string>,
  alone: ReadonlySet<string>,
): readonly Zone[] {
  const [mutes, solos] = [markedOf(muted), markedOf(alone)];
  const isGroup = ({ id }: Layer, group: Group): boolean => {
    const key = groupKey(id, group.id);
    return !mutes.groups.has(key) && (solos.groups.size === 0 || solos.groups.has(key));
  };
  const isHeard = ({ mic }: Zone): boolean =>
    (mic === null || !mutes.mics.has(mic)) && (solos.mics.size === 0 || solos.mics.has(mic ?? ""));
  return layers.flatMap((layer) =>
    layer.groups.filter((group) => isGroup(layer, group)).flatMap((group) => group.zones.filter(isHeard)),
  );
}

/** A group or microphone by its address, from its key. */
const addressOf = (key: string): string => {
  const [layer, group] = key.split("/");
  return isMic(key) ? key.slice(0, -1) : `layers/${layer}/groups/${group}`;
};

/** Lets everything be heard again. */
export const hearAll = (): void => setView({ muted: new Set(), alone: new Set() });

useView.subscribe((view, before) => {
  if (view.muted !== before.muted || view.alone !== before.alone)
    engine.mute([...view.muted].map(addressOf), [...view.alone].map(addressOf));
});
