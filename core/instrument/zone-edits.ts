import { plural } from "../params";
import { byIdentity } from "./by-identity";
import { assetsOf } from "./chains";
import { withoutDead } from "./dead-references";
import type { Edit } from "./edit";
import type { Instrument, Loop, Sample, Zone } from "./instrument";

let listed: { readonly lists: readonly (readonly Zone[])[]; readonly zones: readonly Zone[] } = {
  lists: [],
  zones: [],
};

const zonesOfLayers = byIdentity((layers: Instrument["layers"]): readonly Zone[] => {
  const lists = layers.flatMap((layer) => layer.groups.map((group) => group.zones));
  // An edit of something else leaves the zones what they were.
  const same = lists.length === listed.lists.length && lists.every((list, i) => list === listed.lists[i]);
  if (!same) listed = { lists, zones: lists.length === 1 ? (lists[0] ?? []) : lists.flat() };
  return listed.zones;
});

/** Every zone of a document, in order; the very same list as long as no zone changes. */
export const listZones = (instrument: Pick<Instrument, "layers">): readonly Zone[] => zonesOfLayers(instrument.layers);

const notesOf = byIdentity((samples: Instrument["samples"]): readonly Sample[] =>
  samples.filter((s) => s.use === "note"),
);

/** The samples that are there to be played, impulses left aside. */
export const listNotes = (instrument: Instrument): readonly Sample[] => notesOf(instrument.samples);

/** A zone that plays a sample. */
export type SampledZone = Zone & { readonly sample: string };
const isSampled = (zone: Zone): zone is SampledZone => zone.sample !== null;
const sampledOf = byIdentity((zones: readonly Zone[]): readonly SampledZone[] => zones.filter(isSampled));

/** The zones that play samples. */
export const listSampled = (instrument: Instrument): readonly SampledZone[] => sampledOf(listZones(instrument));

/**
 * The zones that may sound without end: not those that play to their end whatever the key does, nor those that a key's release sets off. `layer`: only
 * those of that layer.
 */
export const listLoopable = (instrument: Instrument, layer: string | null = null): readonly SampledZone[] =>
  instrument.layers
    .filter((l) => layer === null || l.id === layer)
    .flatMap((l) => l.groups)
    .filter((group) => group.settings.params.trigger !== "noteOff")
    .flatMap((group) => group.zones.filter(isSampled).filter((zone) => !zone.oneShot));

/** The content of every sample that sounds in voices: those that zones play, and those that sources take to pieces. */
export function playedSamples(instrument: Instrument): Set<string> {
  const played = new Set<string>();
  for (const { sample } of listZones(instrument)) if (sample !== null) played.add(sample);
  for (const { source } of instrument.layers) if (source.sample) played.add(source.sample);
  return played;
}

/** The samples that are there to be played and that nothing plays yet. */
export function listUnplayed(instrument: Instrument): readonly Sample[] {
  const played = playedSamples(instrument);
  return listNotes(instrument).filter((s) => !played.has(s.sha));
}

/** The content of every sample that a zone plays or a unit uses. */
export const usedSamples = (instrument: Instrument): Set<string> =>
  new Set([...playedSamples(instrument), ...assetsOf(instrument)]);

/** A list with some zones changed or left out (null); the very same list where nothing changes. */
function changedZones(zones: readonly Zone[], change: (zone: Zone) => Zone | null): readonly Zone[] {
  let next: Zone[] | null = null;
  for (let i = 0; i < zones.length; i++) {
    const zone = zones[i] as Zone;
    const changed = change(zone);
    if (changed === zone && next === null) continue;
    next ??= zones.slice(0, i);
    if (changed) next.push(changed);
  }
  return next ?? zones;
}

/** The document with some zones changed or left out; what has none of them stays the very same. */
export function mapZones(doc: Instrument, change: (zone: Zone) => Zone | null): Instrument {
  let same = true;
  const layers = doc.layers.map((layer) => {
    const groups = layer.groups.map((group) => {
      const zones = changedZones(group.zones, change);
      return zones === group.zones ? group : { ...group, zones };
    });
    if (groups.every((group, i) => group === layer.groups[i])) return layer;
    same = false;
    return { ...layer, groups };
  });
  return same ? doc : { ...doc, layers };
}

/** A zone put in order: ranges within 0–127 (velocity 1–127) and not reversed, the loop inside the sound, its fade no longer than there is material. */
export function settleZone(zone: Zone, frames: number): Zone {
  const within = (x: number, low: number, high: number) => Math.min(high, Math.max(low, Math.round(x)));
  const keyLow = within(zone.keyLow, 0, 127);
  const velLow = within(zone.velLow, 1, 127);
  const start = within(zone.start, 0, frames - 1);
  const end = within(zone.end, start + 1, frames);
  const keyHigh = within(zone.keyHigh, keyLow, 127);
  const velHigh = within(zone.velHigh, velLow, 127);
  return {
    ...zone,
    keyLow,
    keyHigh,
    keyFadeLow: within(zone.keyFadeLow, 0, keyHigh - keyLow),
    keyFadeHigh: within(zone.keyFadeHigh, 0, keyHigh - keyLow),
    velLow,
    velHigh,
    velFadeLow: within(zone.velFadeLow, 0, velHigh - velLow),
    velFadeHigh: within(zone.velFadeHigh, 0, velHigh - velLow),
    root: within(zone.root, 0, 127),
    start,
    end,
    loop: zone.loop && settleLoop(zone.loop, start, end),
    releaseLoop: zone.releaseLoop && settleLoop(zone.releaseLoop, start, end),
    variants: zone.variants.flatMap((loop) => settleLoop(loop, start, end) ?? []),
    variant: within(zone.variant, 0, Math.max(0, zone.variants.length - 1)),
  };
}

/** A loop put in order: inside `[from, to)`, at least 2 frames long, its crossfade no longer than there is material for its mode. */
export function settleLoop(loop: Loop, from: number, to: number): Loop | null {
  const end = Math.min(to, Math.max(from + 2, Math.round(loop.end)));
  const start = Math.min(end - 2, Math.max(from, Math.round(loop.start)));
  if (start < from) return null;
  const before = loop.mode === "backward" ? Number.POSITIVE_INFINITY : start - from;
  const after = loop.mode === "forward" ? Number.POSITIVE_INFINITY : to - end;
  const fade = Math.max(0, Math.min(Math.round(loop.fade), before, after, end - start));
  return { ...loop, start, end, fade, times: Math.min(1000, Math.max(0, Math.round(loop.times))) };
}

/** Changes some zones; each is settled afterwards. `what` names it, as in “Set root of 3 zones”. */
export function changeZones(ids: ReadonlySet<string>, what: string, change: (zone: Zone) => Zone): Edit {
  const count = plural(ids.size, "zone");
  return {
    name: `${what} of ${count}`,
    merge: `zones:${what}:${[...ids].sort().join()}`,
    apply: (doc) => {
      const framesOf = new Map<string | null, number>(doc.samples.map((s) => [s.sha, s.frames]));
      return mapZones(doc, (zone) => {
        if (!ids.has(zone.id)) return zone;
        const changed = change(zone);
        return settleZone(changed, framesOf.get(changed.sample) ?? changed.end);
      });
    },
  };
}

export const removeZones = (ids: ReadonlySet<string>): Edit => ({
  name: `Remove ${plural(ids.size, "zone")}`,
  apply: (doc) => mapZones(doc, (zone) => (ids.has(zone.id) ? null : zone)),
});

/** Puts zones into a group of a layer; with `replace`, in place of all that were there. */
export const placeZones = (layerId: string, groupId: string, zones: readonly Zone[], replace: boolean): Edit => ({
  name: `Place ${plural(zones.length, "zone")}`,
  apply: (doc) => ({
    ...doc,
    layers: doc.layers.map((layer) =>
      layer.id === layerId
        ? {
            ...layer,
            groups: layer.groups.map((group) =>
              group.id === groupId ? { ...group, zones: replace ? zones : [...group.zones, ...zones] } : group,
            ),
          }
        : layer,
    ),
  }),
});

/** Adds samples; those of the same content are taken over with their newer name and measurements, and keep what somebody has said of them. */
export const addSamples = (samples: readonly Sample[]): Edit => ({
  name: `Add ${plural(samples.length, "sample")}`,
  apply: (doc) => {
    const fresh = new Map(samples.map((s) => [s.sha, s]));
    const kept = doc.samples.map((s) => {
      const again = fresh.get(s.sha);
      return again ? { ...again, use: again.use === "impulse" ? again.use : s.use, beat: again.beat ?? s.beat } : s;
    });
    const known = new Set(doc.samples.map((s) => s.sha));
    return { ...doc, samples: [...kept, ...[...fresh.values()].filter((s) => !known.has(s.sha))] };
  },
});

/** Calls a sample otherwise. */
export const renameSample = (sha: string, name: string): Edit => ({
  name: `Rename sample to ${name}`,
  apply: (doc) => ({ ...doc, samples: doc.samples.map((s) => (s.sha === sha ? { ...s, name } : s)) }),
});

/** Leaves samples out of the pool that nothing uses; those that something has come to use stay. */
export const dropSamples = (shas: ReadonlySet<string>): Edit => ({
  name: `Drop ${plural(shas.size, "sample")}`,
  apply: (doc) => {
    const used = usedSamples(doc);
    const samples = doc.samples.filter((s) => !shas.has(s.sha) || used.has(s.sha));
    return samples.length === doc.samples.length ? doc : { ...doc, samples };
  },
});

/** Removes samples, with the zones that play them and whatever names them. */
export const removeSamples = (shas: ReadonlySet<string>): Edit => ({
  name: `Remove ${plural(shas.size, "sample")}`,
  apply: (doc) => {
    const next = mapZones(doc, (zone) => (zone.sample !== null && shas.has(zone.sample) ? null : zone));
    return withoutDead({ ...next, samples: next.samples.filter((s) => !shas.has(s.sha)) });
  },
});
