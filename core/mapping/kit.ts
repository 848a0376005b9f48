import type { EvidentSound, Reading, Weighed } from "./reading";
import { type NamedPath, plainPieces, wordsOf } from "./reading/name-words";

/** A sound of a kit: what it is called, the key that its names give, and which names are its own, by their places. */
export interface KitSound {
  readonly name: string;
  readonly key: number | null;
  readonly members: readonly number[];
}

/** Keys that numbers in front of names may mean. */
const LOWEST_KEY = 21;
const HIGHEST_KEY = 108;
/** A name's words, its own or else its folder's, and the number in front of it. */
function takeName(name: NamedPath): { words: string; number: number | null } {
  const first = plainPieces(name.path).find((p) => p.part === 0);
  const number = first?.kind === "number" && first.unit === "" ? first.number : null;
  return { words: wordsOf(name, 0) || wordsOf(name, 1), number };
}

const partBy = <K>(count: number, key: (n: number) => K): Map<K, number[]> => {
  const parts = new Map<K, number[]>();
  for (let n = 0; n < count; n++) parts.set(key(n), [...(parts.get(key(n)) ?? []), n]);
  return parts;
};

/**
 * The sounds that names tell apart, in the order in which they come: all words of a name that say neither how hard, which repeat nor which microphone are
 * one name, and different names are different sounds. A number in front that goes with one set of words alone is that set's own, and a key where
 * every set has one that can be. Null where names tell no two sounds apart.
 */
export function kitOf(names: readonly NamedPath[]): KitSound[] | null {
  const taken = names.map(takeName);
  if (taken.some((t) => t.words === "")) return null;
  const wordsAt = (n: number) => (taken[n]?.words ?? "").toLowerCase();
  const numberAt = (n: number) => taken[n]?.number ?? null;
  const byNumber = partBy(names.length, numberAt);
  const oneSet = [...byNumber].every(([, all]) => new Set(all.map(wordsAt)).size === 1);
  // Numbers that only count the files part nothing.
  const words = partBy(names.length, wordsAt);
  const numbered = oneSet && !byNumber.has(null) && (byNumber.size < names.length || words.size === names.length);
  const sets = numbered ? partBy(names.length, (n) => `${numberAt(n)} ${wordsAt(n)}`) : words;
  if (sets.size < 2) return null;
  const isKey = (number: number | null) => number !== null && number >= LOWEST_KEY && number <= HIGHEST_KEY;
  const keyed = numbered && [...byNumber.keys()].every(isKey);
  const twice = partBy(sets.size, (s) => wordsAt([...sets.values()][s]?.[0] ?? 0));
  return [...sets.values()].map((members) => {
    const [first = 0] = members;
    const called = taken[first]?.words ?? "";
    // Several sets of the same words are told apart by their numbers.
    const name = (twice.get(called.toLowerCase())?.length ?? 0) > 1 ? `${called} ${numberAt(first)}` : called;
    return { name: name.slice(0, 60), key: keyed ? numberAt(first) : null, members };
  });
}

/** What speaks for a kit or against it: how names tell notes, how many of them sound so, and which sounds have a clear pitch. */
export interface KitSigns {
  /** How the names write notes; null where they don't. */
  readonly manner: string | null;
  /** Share of the notes that sound as they are called; null where no sound says. */
  readonly agreement: number | null;
  readonly pitches: readonly (number | null)[];
}

/** Share of the sounds below which those with a clear pitch are but some of a kit. */
const TONAL = 0.5;

/** Whether sounds are likelier a kit, a key for each, than the notes of one instrument. */
export function looksLikeKit(names: readonly NamedPath[], { manner, agreement, pitches }: KitSigns): boolean {
  const pitched = pitches.filter((p) => p !== null).length;
  if (pitched === 0 && manner === null) return true;
  const sounds = kitOf(names);
  if (!sounds) return false;
  if (manner !== null && manner !== "midi") return false;
  // Numbers may be keys: of notes where they sound so, of a kit where each goes with a name of its own.
  const words = new Set(names.map((n) => takeName(n).words.toLowerCase()));
  if (manner === "midi") return words.size > 1 && sounds.every((s) => s.key !== null) && (agreement ?? 0) < TONAL;
  return pitched < TONAL * pitches.length;
}

/** Whether sounds are likelier a kit, by the evidence about them and the reading of their names that was taken. */
export const isKitBy = (
  sounds: readonly EvidentSound[],
  weighed: readonly Weighed[],
  reading: Reading | null,
): boolean =>
  looksLikeKit(
    sounds.map(({ path }, n) => ({
      path,
      microphone: weighed[n]?.microphone ?? null,
      trigger: weighed[n]?.trigger ?? null,
    })),
    {
      manner: reading?.columns.note?.manner ?? null,
      agreement: reading?.agreement ?? null,
      pitches: sounds.map((s) => s.pitch),
    },
  );
