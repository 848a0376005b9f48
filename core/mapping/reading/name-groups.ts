import { plain } from "./lexicon";
import { wordsOf } from "./name-words";
import type { NameReading, ReadPiece } from "./reading";

/** Most groups into which names part a set, and fewest sounds of each. */
const MOST_GROUPS = 12;
const FEWEST_SOUNDS = 2;

/** Whether something that is told is the same within every group, and another in another: then it tells the groups, not what it was taken for. */
function tellsGroups(groups: readonly (readonly number[])[], told: (n: number) => unknown): boolean {
  const values = groups.map((members) => new Set(members.map((n) => JSON.stringify(told(n)))));
  return (
    values.every((set) => set.size === 1) && new Set(values.flatMap((set) => [...set])).size > 1 && groups.length > 1
  );
}

/**
 * Parts a set by what its sounds are called where several would else take the same place: different names are different groups, never layers of one
 * another. A number that goes with one name alone is that name's, not a strength or a repeat. `notes`: where each is to be placed.
 */
export function partByName(
  paths: readonly string[],
  names: readonly NameReading[],
  pieces: readonly (readonly ReadPiece[])[],
  notes: readonly (number | null)[],
): readonly NameReading[] {
  const phrases = paths.map((path, n) => {
    const { microphone = null, trigger = null } = names[n] ?? {};
    return plain(wordsOf({ path, microphone, trigger }, 0, pieces[n]));
  });
  const byPhrase = new Map<string, number[]>();
  phrases.forEach((phrase, n) => {
    byPhrase.set(phrase, [...(byPhrase.get(phrase) ?? []), n]);
  });
  const groups = [...byPhrase.values()];
  const parted = groups.length > 1 && groups.length <= MOST_GROUPS && !byPhrase.has("");
  if (!parted || groups.some((members) => members.length < FEWEST_SOUNDS)) return names;
  // What parts the set already isn't parted anew unless names part it further.
  if (groups.some((members) => new Set(members.map((n) => names[n]?.group ?? null)).size > 1)) return names;
  if (new Set(names.map((n) => n.group)).size >= groups.length) return names;
  const strengths = tellsGroups(groups, (n) => names[n]?.strength ?? null);
  const repeats = tellsGroups(groups, (n) => names[n]?.repeat ?? null);
  const cleared = names.map((name) => ({
    ...name,
    ...(strengths ? { strength: null, velocities: null } : {}),
    ...(repeats ? { repeat: null } : {}),
  }));
  const places = new Map<string, string>();
  const meet = cleared.some(({ strength, repeat, microphone, trigger }, n) => {
    const place = JSON.stringify([notes[n], strength, repeat, microphone, trigger]);
    const other = places.get(place);
    places.set(place, phrases[n] as string);
    return other !== undefined && other !== phrases[n];
  });
  return meet ? cleared.map((name, n) => ({ ...name, group: phrases[n] as string })) : names;
}
