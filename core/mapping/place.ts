import { SURE } from "../analysis";
import { MOST_VARIANTS, newLoop, newZone, type Sample, tuneOf, type Zone } from "../instrument";
import type { Weighed } from "./reading";
import { type FittingRelease, fittingRelease } from "./release";
import { type Sorted, sortSounds } from "./sort";
import { type KeyRange, type SpreadOptions, spreadRoots } from "./spread";

/** A sample that is to be placed, with what the evidence says of it. */
export interface PlaceSound {
  readonly sample: Sample;
  readonly says: Pick<
    Weighed,
    "note" | "strength" | "repeat" | "velocities" | "microphone" | "trigger" | "group" | "doubt"
  > &
    Partial<Pick<Weighed, "keys">>;
}

/** Zones that belong together: of one kind of sound, and of one trigger. */
export interface PlacedGroup {
  /** Empty for the first, which every placement has. */
  readonly name: string;
  readonly trigger: "press" | "release";
  readonly zones: readonly Zone[];
}

/** What placing made, and what was left out and why. */
export interface Placement {
  readonly groups: readonly PlacedGroup[];
  /** The zones of all groups. */
  readonly zones: readonly Zone[];
  /** Microphones that zones name, by their ids. */
  readonly microphones: readonly string[];
  readonly leftOut: readonly { readonly sample: Sample; readonly reason: string }[];
  readonly doubts: readonly { readonly sample: Sample; readonly zone: string; readonly doubt: string }[];
  /** Roots, whether there are velocity layers, and how far all sounds together are off standard pitch in cents. */
  readonly roots: number;
  readonly layered: boolean;
  readonly detune: number;
  /** A release that fits the placed sounds, and why; null where none was placed. */
  readonly release: FittingRelease | null;
  /** Whether no note was found anywhere, so that each sound got a key of its own. */
  readonly kit: boolean;
}

/** First key of a kit: C2. */
const KIT_FROM = 36;

const pitchOf = (s: Sample): number | null => (s.confidence >= SURE ? s.pitch : null);

/** What a sample says by itself: its pitch, and what was said of it when it was cut. */
const bySound = (sample: Sample): PlaceSound => ({
  sample,
  says: {
    ...{ note: null, velocities: null, microphone: null, trigger: null, group: null, doubt: "" },
    strength: sample.strength,
    repeat: sample.repeat,
  },
});

/**
 * Places samples on the keys by what was measured: by pitch, level and order; each zone is tuned so that it sounds at
 * equal temperament. Where no sample has a pitch, each gets a key of its own from C2 up. `idOf` gives each zone its id.
 */
export const placeSamples = (
  samples: readonly Sample[],
  spread: SpreadOptions,
  idOf: (index: number) => string,
): Placement => placeSounds(samples.map(bySound), spread, idOf);

/** Places samples by what the evidence says of each; what is silent about it is taken from the sound. `layers`: how many velocity layers a note has whose strengths nobody tells. */
export function placeSounds(
  sounds: readonly PlaceSound[],
  spread: SpreadOptions & { readonly layers?: number },
  idOf: (index: number) => string,
): Placement {
  const noteOf = ({ says, sample }: PlaceSound): number | null => says.note ?? pitchOf(sample);
  if (sounds.every((s) => noteOf(s) === null)) return placeKit(sounds, idOf);
  const leftOut: { sample: Sample; reason: string }[] = sounds
    .filter((s) => noteOf(s) === null)
    .map(({ sample }) => ({ sample, reason: "no clear pitch" }));
  const doubts: { sample: Sample; zone: string; doubt: string }[] = [];
  const roots = new Set<number>();
  let layered = false;
  let detune = 0;
  let count = 0;
  const groups = groupsOf(sounds).map(({ name, trigger, members }): PlacedGroup => {
    const sorting = sortAll(members, spread.layers ?? null);
    const ranges = spreadRoots([...sorting.layersOf.keys()], spread);
    detune ||= sorting.detune;
    const zones = sorting.sorted.flatMap((place): Zone[] => {
      const sound = members[Number(place.id)] as PlaceSound;
      const { sample, says } = sound;
      const range = ranges.get(place.note);
      if (!range) {
        leftOut.push({ sample, reason: "its note lies outside the limits" });
        return [];
      }
      const layers = sorting.layersOf.get(place.note) ?? 1;
      if (layers > 1) layered = true;
      roots.add(place.note);
      const zone = newZone({
        id: idOf(count++),
        sample: sample.sha,
        end: sample.frames,
        // What a file names itself is believed, if its root lies in it.
        ...keysOf(says.keys, place.note, range),
        root: place.note,
        tune: tuneOf(place.note, pitchOf(sample)),
        ...velocitiesOf(place, members, sorting.sorted, sorting.bounds.get(layers) ?? [127]),
        repeat: place.repeat,
        mic: says.microphone,
        ...loopsOf(sample),
      });
      if (says.doubt !== "") doubts.push({ sample, zone: zone.id, doubt: says.doubt });
      return [zone];
    });
    return { name, trigger, zones };
  });
  const microphones = [...new Set(sounds.flatMap((s) => s.says.microphone ?? []))];
  const zones = groups.flatMap((g) => g.zones);
  const release = releaseOf(sounds, zones);
  return { groups, zones, microphones, leftOut, doubts, roots: roots.size, layered, detune, release, kit: false };
}

/** The release that fits what was placed. */
function releaseOf(sounds: readonly PlaceSound[], zones: readonly Zone[]): FittingRelease | null {
  const placed = new Set(zones.map((z) => z.sample));
  return fittingRelease(sounds.map((s) => s.sample).filter((s) => placed.has(s.sha)));
}

function keysOf(said: Weighed["keys"] | undefined, note: number, range: KeyRange): Pick<Zone, "keyLow" | "keyHigh"> {
  const { low, high } = said && said.low <= note && said.high >= note ? said : range;
  return { keyLow: low, keyHigh: high };
}

/** The loops that the sample's file gives, those that lie inside: the first, and all of them to choose from where there are several. */
function loopsOf({ file, frames }: Sample): Pick<Zone, "loop" | "variants"> {
  const given = file?.loop ? [file.loop, ...(file.further ?? [])] : [];
  const loops = given.filter((l) => l.end - l.start > 1 && l.end <= frames).map((l) => newLoop(l));
  return { loop: loops[0] ?? null, variants: loops.length > 1 ? loops.slice(0, MOST_VARIANTS) : [] };
}

interface Members {
  readonly name: string;
  readonly trigger: "press" | "release";
  readonly members: readonly PlaceSound[];
}

/** Sounds by what they are, those that keys press first. */
function groupsOf(sounds: readonly PlaceSound[]): Members[] {
  const groups = new Map<string, { name: string; trigger: "press" | "release"; members: PlaceSound[] }>();
  for (const sound of sounds) {
    const name = sound.says.group ?? "";
    const trigger = sound.says.trigger ?? "press";
    const key = `${trigger} ${name}`;
    const group = groups.get(key) ?? { name, trigger, members: [] };
    group.members.push(sound);
    groups.set(key, group);
  }
  return [...groups.values()].sort((a, b) => a.trigger.localeCompare(b.trigger));
}

type All = ReturnType<typeof sortSounds>;

/** Sorts the sounds of each microphone alike: strengths and repeats by the first one's where names don't tell them. */
function sortAll(members: readonly PlaceSound[], layers: number | null): All {
  const placeable = members.map(({ sample, says }, i) => ({
    id: String(i),
    note: says.note,
    pitch: pitchOf(sample),
    loudness: sample.loudness,
    strength: says.strength,
    repeat: says.repeat,
  }));
  const microphones = [...new Set(members.map((m) => m.says.microphone))];
  const [first, ...others] = microphones.map((mic) =>
    sortSounds(
      placeable.filter((_, i) => members[i]?.says.microphone === mic),
      layers,
    ),
  );
  if (!first) return sortSounds([]);
  return { ...first, sorted: [...first.sorted, ...others.flatMap((s) => likeFirst(first.sorted, s.sorted))] };
}

/** The places of a further microphone's sounds: where it has as many of a note as the first, in the same order, its strokes are the first one's, softer and louder alike. */
function likeFirst(first: readonly Sorted[], others: readonly Sorted[]): Sorted[] {
  const inOrder = (sorted: readonly Sorted[], note: number) =>
    sorted.filter((s) => s.note === note).sort((a, b) => Number(a.id) - Number(b.id));
  return others.map((other) => {
    const [own, theirs] = [inOrder(others, other.note), inOrder(first, other.note)];
    const stroke = own.length === theirs.length ? theirs[own.indexOf(other)] : undefined;
    return stroke ? { ...other, layer: stroke.layer, repeat: stroke.repeat } : other;
  });
}

/** The velocities of a place: as names give them, else by the bounds that levels have told. */
function velocitiesOf(
  place: Sorted,
  members: readonly PlaceSound[],
  sorted: readonly Sorted[],
  bounds: readonly number[],
): { velLow: number; velHigh: number } {
  const said = (s: Sorted) => members[Number(s.id)]?.says.velocities ?? null;
  const own = said(place);
  if (!own) {
    const { layer } = place;
    return { velLow: layer === 0 ? 1 : (bounds[layer - 1] ?? 0) + 1, velHigh: bounds[layer] ?? 127 };
  }
  const tops = sorted.flatMap((s) => (s.note === place.note ? (said(s)?.high ?? []) : []));
  const below = Math.max(0, ...tops.filter((t) => t < own.high));
  const high = Math.max(1, Math.min(127, own.low === null && own.high === Math.max(...tops) ? 127 : own.high));
  return { velLow: Math.max(1, Math.min(high, own.low ?? below + 1)), velHigh: high };
}

function placeKit(sounds: readonly PlaceSound[], idOf: (index: number) => string): Placement {
  const zones = sounds.slice(0, 128 - KIT_FROM).map(({ sample }, i) => {
    const key = KIT_FROM + i;
    return newZone({ id: idOf(i), sample: sample.sha, end: sample.frames, keyLow: key, keyHigh: key, root: key });
  });
  const leftOut = sounds.slice(zones.length).map(({ sample }) => ({ sample, reason: "there are no keys left for it" }));
  const groups: PlacedGroup[] = [{ name: "", trigger: "press", zones }];
  return {
    groups,
    zones,
    microphones: [],
    leftOut,
    doubts: [],
    roots: zones.length,
    layered: false,
    detune: 0,
    release: releaseOf(sounds, zones),
    kit: true,
  };
}
