import {
  doubtsOf,
  type Flux,
  type FoundSlice,
  findAttacks,
  findSlices,
  type Levels,
  type MeasuredSlice,
  sliceAtAttacks,
  sliceAtMarkers,
  sliceByGrid,
} from "../analysis";
import { newSlice, type Slice, type Take } from "../instrument";

/** Slices as the document keeps them, from what was found and measured; those of which something speaks against are not kept. */
export function slicesOf(measured: readonly MeasuredSlice[], idOf: (index: number) => string): Slice[] {
  const doubts = doubtsOf(measured);
  return measured.map((m, i) =>
    newSlice({
      id: idOf(i),
      start: m.start,
      end: m.end,
      onset: m.onset,
      pitch: m.pitch,
      confidence: m.confidence,
      peak: m.peak,
      loudness: m.loudness,
      tone: m.tone,
      doubt: doubts[i] ?? "",
      keep: (doubts[i] ?? "") === "",
    }),
  );
}

/** Ids of slices are numbered by their attack, so that a new search finds the same sound under the same id. */
export const sliceId = (onset: number): string => `s${Math.round(onset)}`;

/** The slices of a new search, with what their owner had said of those that are still there; slices whose edges were moved stay. */
export function mergeSlices(before: readonly Slice[], found: readonly Slice[], rate: number): Slice[] {
  const near = (a: { onset: number }, b: { onset: number }) => Math.abs(a.onset - b.onset) < rate * 0.02;
  const kept = before.filter((s) => s.edited);
  const fresh = found
    .filter((s) => !kept.some((k) => near(k, s)))
    .map((s) => {
      const old = before.find((b) => near(b, s));
      if (!old) return s;
      const { id, note, cents, strength, repeat, treatments } = old;
      const said = note !== null || cents !== null || strength !== null;
      return { ...s, id, note, cents, strength, repeat, treatments, keep: said ? old.keep : s.keep };
    });
  return [...kept, ...fresh].sort((a, b) => a.start - b.start);
}

/** Finds the sounds of a take as its search says. `flux` is asked for when attacks are looked for. */
export function searchTake(
  take: Pick<Take, "search" | "markers" | "frames" | "rate">,
  levels: Levels,
  flux: () => Flux,
): FoundSlice[] {
  const { search, frames, rate } = take;
  switch (search.by) {
    case "level":
      return findSlices(levels, search);
    case "attack":
      return sliceAtAttacks(levels, findAttacks(flux(), levels, search.sensitivity, search.minGap), search);
    case "grid":
      return sliceByGrid(frames, rate, Math.max(64 / rate, (search.beats * 60) / search.tempo), search.origin);
    case "markers":
      return sliceAtMarkers(frames, take.markers);
  }
}
