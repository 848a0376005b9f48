import { newZone, type Sample } from "../instrument";
import { type KitSound, kitOf } from "./kit";
import {
  loopsOf,
  type PlacedGroup,
  type Placement,
  type PlaceSound,
  releaseOf,
  sortAll,
  velocitiesOf,
} from "./place-parts";

/** First key of a kit: C2. */
const KIT_FROM = 36;

/** The sounds of a kit; where names don't tell them apart each sample is one. */
function soundsOf(sounds: readonly PlaceSound[]): readonly KitSound[] {
  const named = kitOf(
    sounds.map(({ sample, says }) => ({
      path: sample.file?.path ?? sample.name,
      microphone: says.microphone,
      trigger: says.trigger,
    })),
  );
  return named ?? sounds.map((_, n) => ({ name: "", key: null, members: [n] }));
}

/** The key of each sound: its own, else the next from C2 that nobody has; null where none is left. */
function keysFor(kit: readonly KitSound[]): (number | null)[] {
  const taken = new Set(kit.flatMap((s) => s.key ?? []));
  let next = KIT_FROM;
  return kit.map(({ key }) => {
    if (key !== null) return key;
    while (taken.has(next)) next++;
    return next > 127 ? null : next++;
  });
}

/** A value that all of several sounds share says nothing of how they differ. */
function apart<T>(members: readonly PlaceSound[], told: (sound: PlaceSound) => T): boolean {
  return new Set(members.map((m) => JSON.stringify(told(m)))).size > 1;
}

/** Those of a sound as they are sorted: all on its key, with strengths only where they tell its samples apart. */
function membersOf(all: readonly PlaceSound[], { members }: KitSound, key: number): PlaceSound[] {
  const own = members.flatMap((n) => all[n] ?? []);
  const strengths = apart(own, (m) => m.says.strength);
  const velocities = apart(own, (m) => m.says.velocities);
  return own.map(({ sample, says }) => ({
    sample,
    says: {
      ...says,
      note: key,
      strength: strengths ? says.strength : null,
      velocities: velocities ? says.velocities : null,
    },
  }));
}

/**
 * Places a kit: one key for each sound as names tell them apart, with its velocity layers and repeats, in a group of its own that is called after it;
 * nothing is tuned.
 */
export function placeKit(
  sounds: readonly PlaceSound[],
  layers: number | null,
  idOf: (index: number) => string,
): Placement {
  const kit = soundsOf(sounds);
  const keys = keysFor(kit);
  const leftOut: { sample: Sample; reason: string }[] = [];
  const groups: PlacedGroup[] = [];
  let layered = false;
  let count = 0;
  kit.forEach((sound, k) => {
    const key = keys[k] ?? null;
    const own = membersOf(sounds, sound, key ?? 0);
    if (key === null) {
      leftOut.push(...own.map(({ sample }) => ({ sample, reason: "there are no keys left for it" })));
      return;
    }
    for (const trigger of ["noteOn", "noteOff"] as const) {
      const members = own.filter((m) => (m.says.trigger ?? "noteOn") === trigger);
      if (members.length === 0) continue;
      const sorting = sortAll(members, layers);
      const depth = sorting.layersOf.get(key) ?? 1;
      if (depth > 1) layered = true;
      const zones = sorting.sorted.flatMap((place) => {
        const { sample, says } = members[Number(place.id)] as PlaceSound;
        return newZone({
          id: idOf(count++),
          sample: sample.sha,
          end: sample.frames,
          ...{ keyLow: key, keyHigh: key, root: key },
          ...velocitiesOf(place, members, sorting.sorted, sorting.bounds.get(depth) ?? [127]),
          repeat: place.repeat,
          mic: says.microphone,
          ...loopsOf(sample),
        });
      });
      groups.push({ name: sound.name, trigger, zones });
    }
  });
  const placed = together(groups);
  const zones = placed.flatMap((g) => g.zones);
  return {
    groups: placed,
    zones,
    microphones: [...new Set(sounds.flatMap((s) => s.says.microphone ?? []))],
    leftOut,
    doubts: [],
    roots: new Set(zones.map((z) => z.root)).size,
    layered,
    detune: 0,
    release: releaseOf(sounds, zones),
    kit: true,
  };
}

/** Sounds without a name share one group; groups that keys press come first. */
function together(groups: readonly PlacedGroup[]): PlacedGroup[] {
  const nameless = groups.filter((g) => g.name === "");
  const named = groups.filter((g) => g.name !== "");
  const joined = (["noteOn", "noteOff"] as const).flatMap((trigger) => {
    const zones = nameless.filter((g) => g.trigger === trigger).flatMap((g) => g.zones);
    return zones.length > 0 ? [{ name: "", trigger, zones }] : [];
  });
  return [...joined, ...named].sort((a, b) => Number(a.trigger === "noteOff") - Number(b.trigger === "noteOff"));
}
