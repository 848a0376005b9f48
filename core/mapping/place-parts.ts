import { SURE } from "../analysis";
import { MOST_VARIANTS, newLoop, type Sample, type Zone } from "../instrument";
import type { Weighed } from "./reading";
import { type FittingRelease, fittingRelease } from "./release";
import { type Sorted, sortSounds } from "./sort";

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
  readonly trigger: "noteOn" | "noteOff";
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
  /** Whether each sound got a key of its own, whatever its pitch. */
  readonly kit: boolean;
}

/** A sample's pitch where it is sure. */
export const pitchOf = (s: Sample): number | null => (s.confidence >= SURE ? s.pitch : null);

/** The release that fits what was placed. */
export function releaseOf(sounds: readonly PlaceSound[], zones: readonly Zone[]): FittingRelease | null {
  const placed = new Set(zones.map((z) => z.sample));
  return fittingRelease(sounds.map((s) => s.sample).filter((s) => placed.has(s.sha)));
}

/** The loops that the sample's file gives, those that lie inside: the first, and all of them to choose from where there are several. */
export function loopsOf({ file, frames }: Sample): Pick<Zone, "loop" | "variants"> {
  const given = file?.loop ? [file.loop, ...(file.further ?? [])] : [];
  const loops = given.filter((l) => l.end - l.start > 1 && l.end <= frames).map((l) => newLoop(l));
  return { loop: loops[0] ?? null, variants: loops.length > 1 ? loops.slice(0, MOST_VARIANTS) : [] };
}

type All = ReturnType<typeof sortSounds>;

/** Sorts the sounds of each microphone alike: strengths and repeats by the first one's where names don't tell them. */
export function sortAll(members: readonly PlaceSound[], layers: number | null): All {
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
export function velocitiesOf(
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
