import type { Decibels } from "../audio";

/** Level difference that parts two velocity layers, at the least. */
const LEAST_STEP: Decibels = 3.5;
/** Most layers that are looked for by level. */
const MOST_LAYERS = 8;
/** Spread of the repeats of one layer, at the least: nobody strikes alike. */
const LEAST_SPREAD: Decibels = 0.5;
/** What a part that is larger or smaller than the others costs, as squared decibels for each sound more or less. */
const UNEVEN = 0.6;
/** What a note with another number of layers than the rest costs, in variances. */
const UNLIKE = 6;
/** Notes with more sounds than that are parted by their gaps alone. */
const MOST_SOUNDS = 400;

/** A note's levels, softest first, parted into layers. */
interface Parted {
  /** Where each layer ends, in the order of the levels. */
  readonly ends: readonly number[];
  /** Squared distances from the layers' means. */
  readonly within: number;
  /** The smallest distance between the means of neighbours; infinite for one layer. */
  readonly step: Decibels;
}

/** The best parts of sorted levels: least squared distances from their means, and sizes alike (dynamic programming over the ends). */
function part(levels: readonly Decibels[], count: number): Parted {
  const n = levels.length;
  const sums = new Float64Array(n + 1);
  const squares = new Float64Array(n + 1);
  levels.forEach((x, i) => {
    sums[i + 1] = (sums[i] as number) + x;
    squares[i + 1] = (squares[i] as number) + x * x;
  });
  const spread = (from: number, to: number): number => {
    const sum = (sums[to] as number) - (sums[from] as number);
    return Math.max(0, (squares[to] as number) - (squares[from] as number) - (sum * sum) / (to - from));
  };
  const usual = n / count;
  const cost = new Float64Array((count + 1) * (n + 1)).fill(Number.POSITIVE_INFINITY);
  const cut = new Int32Array((count + 1) * (n + 1));
  cost[0] = 0;
  for (let k = 1; k <= count; k++)
    for (let to = k; to <= n; to++)
      for (let from = k - 1; from < to; from++) {
        const before = cost[(k - 1) * (n + 1) + from] as number;
        const all = before + spread(from, to) + UNEVEN * (to - from - usual) ** 2;
        if (all >= (cost[k * (n + 1) + to] as number)) continue;
        cost[k * (n + 1) + to] = all;
        cut[k * (n + 1) + to] = from;
      }
  const ends: number[] = [];
  for (let k = count, to = n; k > 0; k--) {
    ends.unshift(to);
    to = cut[k * (n + 1) + to] as number;
  }
  let within = 0;
  let step = Number.POSITIVE_INFINITY;
  let mean = 0;
  ends.forEach((end, k) => {
    const from = ends[k - 1] ?? 0;
    within += spread(from, end);
    const own = ((sums[end] as number) - (sums[from] as number)) / (end - from);
    if (k > 0) step = Math.min(step, own - mean);
    mean = own;
  });
  return { ends, within, step };
}

const medianOf = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) / 2)] ?? 0;

/** How many layers all notes together have: the number that explains their levels best for what it costs (Schwarz's criterion), with a step between them that can be heard. */
function usualLayers(notes: readonly (readonly Decibels[])[]): { count: number; spread: Decibels } {
  const total = notes.reduce((sum, levels) => sum + levels.length, 0);
  const most = Math.min(MOST_LAYERS, Math.max(...notes.map((levels) => levels.length)));
  let best = { count: 1, spread: LEAST_SPREAD, worth: Number.POSITIVE_INFINITY };
  for (let count = 1; count <= most; count++) {
    const parted = notes.map((levels) => part(levels, Math.min(count, levels.length)));
    if (count > 1 && medianOf(parted.map((p) => p.step)) < LEAST_STEP) continue;
    const within = parted.reduce((sum, p) => sum + p.within, 0);
    const means = parted.reduce((sum, p) => sum + p.ends.length, 0);
    const worth = total * Math.log(within / total + 0.09) + means * Math.log(Math.max(8, total));
    // The usual spread: one note with more layers than the rest doesn't widen it for all.
    const spreads = parted.flatMap(({ within: own, ends }, n) => {
      const free = (notes[n]?.length ?? 0) - ends.length;
      return free > 0 ? [Math.sqrt(own / free)] : [];
    });
    if (worth < best.worth) best = { count, worth, spread: Math.max(LEAST_SPREAD, medianOf(spreads)) };
  }
  return best;
}

/** A note's own number of layers: that of all, unless its levels say clearly otherwise. */
function ownLayers(levels: readonly Decibels[], usual: number, spread: Decibels): Parted {
  let best: { parted: Parted; worth: number } | null = null;
  for (let count = 1; count <= Math.min(MOST_LAYERS, levels.length); count++) {
    const parted = part(levels, count);
    if (count !== usual && count > 1 && parted.step < LEAST_STEP) continue;
    const worth =
      parted.within / spread ** 2 + 2 * count * Math.log(levels.length + 1) + (count === usual ? 0 : UNLIKE);
    if (!best || worth < best.worth) best = { parted, worth };
  }
  return best?.parted ?? part(levels, 1);
}

/**
 * Parts the levels of notes into velocity layers, all notes together: they were most likely struck at as many strengths each, however loud the notes are
 * among one another. For each note the indices of each layer, softest first, in their given order inside. `wanted`: so many layers, where a note has as many
 * sounds; null: as many as the levels tell.
 */
export function layersOfNotes(notes: readonly (readonly Decibels[])[], wanted: number | null = null): number[][][] {
  const orders = notes.map((levels) =>
    levels.map((_, i) => i).sort((a, b) => (levels[a] as number) - (levels[b] as number)),
  );
  const sorted = orders.map((order, n) => order.map((i) => notes[n]?.[i] as number));
  if (wanted !== null) return sorted.map((levels, n) => partsOf(orders[n] ?? [], partEnds(levels, wanted)));
  const small = sorted.filter((levels) => levels.length > 0 && levels.length <= MOST_SOUNDS);
  const { count, spread } = small.length > 0 ? usualLayers(small) : { count: 1, spread: LEAST_SPREAD };
  return sorted.map((levels, n) => {
    const order = orders[n] as number[];
    if (levels.length === 0) return [];
    const ends = levels.length <= MOST_SOUNDS ? ownLayers(levels, count, spread).ends : byGaps(levels);
    return partsOf(order, ends);
  });
}

/** An order cut at some ends, each part in the given order. */
const partsOf = (order: readonly number[], ends: readonly number[]): number[][] =>
  ends.map((end, k) => order.slice(ends[k - 1] ?? 0, end).sort((a, b) => a - b));

/** Where levels are parted into so many layers, or as many as there are levels; very many are parted evenly. */
function partEnds(levels: readonly Decibels[], wanted: number): readonly number[] {
  const count = Math.min(Math.max(1, wanted), levels.length);
  if (levels.length <= MOST_SOUNDS) return levels.length === 0 ? [] : part(levels, count).ends;
  return Array.from({ length: count }, (_, k) => Math.round(((k + 1) * levels.length) / count));
}

/** Where sorted levels leave gaps. */
function byGaps(levels: readonly Decibels[]): number[] {
  const ends = levels.flatMap((x, i) => (i > 0 && x - (levels[i - 1] as number) >= LEAST_STEP ? [i] : []));
  return [...ends, levels.length];
}
