import type { Cents, Decibels } from "../audio";
import { layersOfNotes } from "./layers";

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

/** Velocity at a level below the loudest layer's, on the usual 40 dB law: velocity 127 is 0 dB, 12 dB less is half. */
const velocityAt = (below: Decibels): number => Math.round(127 * 10 ** (below / 40));

/** The members of each note by strength: as their owner said where he said it of all of a note, else by their levels, all such notes together. */
function clustersOf(notes: readonly (readonly Placeable[])[], wanted: number | null): number[][][] {
  const isTold = (members: readonly Placeable[]) => members.every((m) => (m.strength ?? null) !== null);
  const heard = layersOfNotes(
    notes.filter((m) => !isTold(m)).map((members) => members.map((m) => m.loudness)),
    wanted,
  );
  let next = 0;
  return notes.map((members) => {
    if (!isTold(members)) return heard[next++] ?? [];
    const rising = [...new Set(members.map((m) => m.strength ?? 0))].sort((a, b) => a - b);
    return rising.map((s) => members.flatMap((m, i) => (m.strength === s ? [i] : [])));
  });
}

/**
 * Sorts sounds into notes, velocity layers and round robins: the nearest note once the common detuning is taken off, layers
 * as the levels of all notes together tell them (or `wanted` of them), and the rest as repeats in the given order. Sounds without note and pitch are left out.
 */
export function sortSounds(sounds: readonly Placeable[], wanted: number | null = null): Sorting {
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
  const rising = [...byNote].sort(([a], [b]) => a - b);
  const clustered = clustersOf(
    rising.map(([, members]) => members),
    wanted,
  );
  for (const [n, [note, members]] of rising.entries()) {
    const clusters = clustered[n] ?? [];
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
