import type { Slice, Take } from "../instrument";
import { type NameFacts, nameAll, type ProposedName, usableNames } from "../mapping";
import { centsOfSlice, noteOfSlice } from "./make-sample";

/** What a name can say of a slice; `number` is its place among those that are named together, from 1. */
export function factsOfSlice(take: Pick<Take, "name" | "rate">, slice: Slice, number: number): NameFacts {
  return {
    take: take.name,
    number,
    note: noteOfSlice(slice),
    cents: centsOfSlice(slice),
    strength: slice.strength,
    repeat: slice.repeat,
    peak: slice.peak,
    length: (slice.end - slice.start) / take.rate,
  };
}

const factsOf = (take: Pick<Take, "name" | "rate">, slices: readonly Slice[]) =>
  slices.map((slice, i) => factsOfSlice(take, slice, i + 1));

/** The names of a take's slices by a pattern, with what is wrong with each. */
export const proposeNames = (
  pattern: string,
  take: Pick<Take, "name" | "rate">,
  slices: readonly Slice[],
): ProposedName[] => nameAll(pattern, factsOf(take, slices));

/** The names of a take's slices by a pattern, mended so that all can be files beside one another. */
export const namesOfSlices = (pattern: string, take: Pick<Take, "name" | "rate">, slices: readonly Slice[]): string[] =>
  usableNames(pattern, factsOf(take, slices));
