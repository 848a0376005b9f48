import type { Cents, Decibels } from "../audio";

/** One sound that wants a place: its pitch as a MIDI note with fraction (null: none), and its loudness. */
export interface Placeable {
  readonly id: string;
  /** The note that it is, where that is known otherwise. */
  readonly note?: number | null;
  readonly pitch: number | null;
  readonly loudness: Decibels;
  /** What its owner said: how hard it was struck, from 1, and which repeat it is. */
  readonly strength?: number | null;
  readonly repeat?: number | null;
}

/** A sound with its place: root note, velocity layer from 0 (softest), round robin from 1. */
export interface Sorted {
  readonly id: string;
  readonly note: number;
  readonly layer: number;
  readonly repeat: number;
}

/** What sorting found: how far the whole is off standard pitch, the places, the layers' upper velocity bounds by note. */
export interface Sorting {
  readonly detune: Cents;
  readonly sorted: readonly Sorted[];
  readonly layersOf: ReadonlyMap<number, number>;
  /** For a number of layers: the highest velocity of each, softest first; the last is 127. */
  readonly bounds: ReadonlyMap<number, readonly number[]>;
}

/** Level difference that parts two velocity layers, at the least. */
const LEAST_STEP: Decibels = 3.5;

/** How far all pitches together are off equal temperament: the circular mean of their distances to the nearest note, in cents. */
export function overallDetune(pitches: readonly number[]): Cents {
  let x = 0;
  let y = 0;
  for (const pitch of pitches) {
    x += Math.cos(2 * Math.PI * pitch);
    y += Math.sin(2 * Math.PI * pitch);
  }
  // Pitches spread evenly over the semitone have no common detuning.
  if (Math.hypot(x, y) < 0.3 * pitches.length) return 0;
  return (Math.atan2(y, x) / (2 * Math.PI)) * 100;
}

/** Parts levels into clusters where they leave gaps: the indices of each cluster, softest first, in their given order inside. */
export function clusterLevels(levels: readonly Decibels[]): number[][] {
  const order = levels.map((_, i) => i).sort((a, b) => (levels[a] ?? 0) - (levels[b] ?? 0));
  const gaps = order.slice(1).map((i, k) => (levels[i] ?? 0) - (levels[order[k] ?? 0] ?? 0));
  const sortedGaps = [...gaps].sort((a, b) => a - b);
  const usual = sortedGaps[Math.floor(sortedGaps.length / 2)] ?? 0;
  const least = Math.max(LEAST_STEP, gaps.length > 2 ? Math.min(usual * 2, 9) : 0);
  const clusters: number[][] = [[]];
  order.forEach((index, k) => {
    if (k > 0 && (gaps[k - 1] ?? 0) >= least) clusters.push([]);
    clusters.at(-1)?.push(index);
  });
  return clusters.map((c) => c.sort((a, b) => a - b));
}

/** Velocity at a level below the loudest layer's, on the usual 40 dB law: velocity 127 is 0 dB, 12 dB less is half. */
const velocityAt = (below: Decibels): number => Math.round(127 * 10 ** (below / 40));

/** The members of one note by strength: as their owner said where he said it of all, else by the gaps between their levels. */
function clustersOf(members: readonly Placeable[]): number[][] {
  const strengths = members.map((m) => m.strength ?? null);
  if (strengths.some((s) => s === null)) return clusterLevels(members.map((m) => m.loudness));
  const rising = [...new Set(strengths)].sort((a, b) => (a ?? 0) - (b ?? 0));
  return rising.map((s) => strengths.flatMap((x, i) => (x === s ? [i] : [])));
}

/**
 * Sorts sounds into notes, velocity layers and round robins: the nearest note once the common detuning is taken off, layers
 * where the levels of one note leave a gap, and the rest as repeats in the given order. Sounds without note and pitch are left out.
 */
export function sortSounds(sounds: readonly Placeable[]): Sorting {
  const detune = overallDetune(sounds.flatMap((s) => s.pitch ?? []));
  const byNote = new Map<number, Placeable[]>();
  for (const sound of sounds) {
    const heard = sound.pitch === null ? null : Math.round(sound.pitch - detune / 100);
    const told = sound.note ?? heard;
    if (told === null) continue;
    const note = Math.min(127, Math.max(0, told));
    byNote.set(note, [...(byNote.get(note) ?? []), sound]);
  }
  const sorted: Sorted[] = [];
  const layersOf = new Map<number, number>();
  const steps = new Map<number, number[][]>();
  for (const [note, members] of [...byNote].sort(([a], [b]) => a - b)) {
    const clusters = clustersOf(members);
    layersOf.set(note, clusters.length);
    const means = clusters.map((c) => c.reduce((sum, i) => sum + (members[i]?.loudness ?? 0), 0) / c.length);
    const top = means.at(-1) ?? 0;
    const limits = means.slice(1).map((mean, i) => velocityAt((mean + (means[i] ?? 0)) / 2 - top));
    steps.set(clusters.length, [...(steps.get(clusters.length) ?? []), limits]);
    clusters.forEach((cluster, layer) => {
      const ordered = cluster.flatMap((i) => members[i] ?? []).sort((a, b) => (a.repeat ?? 0) - (b.repeat ?? 0));
      ordered.forEach((member, k) => {
        sorted.push({ id: member.id, note, layer, repeat: k + 1 });
      });
    });
  }
  return { detune, sorted, layersOf, bounds: meanBounds(steps) };
}

function meanBounds(steps: ReadonlyMap<number, readonly number[][]>): Map<number, number[]> {
  const bounds = new Map<number, number[]>();
  for (const [count, rows] of steps) {
    const tops: number[] = [];
    for (let i = 0; i < count - 1; i++) {
      const mean = rows.reduce((sum, row) => sum + (row[i] ?? 64), 0) / rows.length;
      tops.push(Math.max((tops.at(-1) ?? 0) + 1, Math.min(126 - (count - 2 - i), Math.round(mean))));
    }
    bounds.set(count, [...tops, 127]);
  }
  return bounds;
}
