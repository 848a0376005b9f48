import { LABELS, microphoneOfWord, strengthOfWord, triggerOfWord } from "./reading/lexicon";
import { PIECE_OPTIONS, type Piece, piecesOf } from "./reading/pieces";

/** What is known of a sound whose name is looked at: its path, and what a reading took of it for something else. */
export interface KitName {
  readonly path: string;
  readonly microphone: string | null;
  readonly trigger: "press" | "release" | null;
}

/** A sound of a kit: what it is called, the key that its names give, and which names are its own, by their places. */
export interface KitSound {
  readonly name: string;
  readonly key: number | null;
  readonly members: readonly number[];
}

/** Keys that numbers in front of names may mean. */
const LOWEST_KEY = 21;
const HIGHEST_KEY = 108;
/** Words that say how hard as often as they say which: a low tom, a hi hat. They stay in the name. */
const WHICH = new Set([
  "hi",
  "high",
  "highest",
  "lo",
  "low",
  "lowest",
  "mid",
  "middle",
  "medium",
  "med",
  "medio",
  "mono",
]);

const [OPTIONS] = PIECE_OPTIONS;
const ALL_LABELS = [LABELS.strength, LABELS.repeat, LABELS.note, LABELS.octave, LABELS.microphone, LABELS.nothing];

/** Whether a word is part of what a sound is called. */
function isName(piece: Piece, next: Piece | undefined, { microphone, trigger }: KitName): boolean {
  if (piece.kind === "number" || (piece.note?.octave ?? null) !== null || piece.text.length < 2) return false;
  const { word } = piece;
  const labels = next?.kind === "number" && next.word === word && ALL_LABELS.some((set) => set.has(word));
  if (labels || (strengthOfWord(word) !== null && !WHICH.has(word))) return false;
  if (microphone !== null && microphoneOfWord(word) === microphone) return false;
  return !(trigger === "release" && triggerOfWord(word) === "release");
}

/** The words by which one part of a path calls a sound. */
function wordsOf(pieces: readonly Piece[], part: number, name: KitName): string {
  const own = pieces.filter((p) => p.part === part);
  return own
    .filter((piece, i) => isName(piece, own[i + 1], name))
    .map((p) => p.text)
    .join(" ");
}

/** A name's words, its own or else its folder's, and the number in front of it. */
function takeName(name: KitName): { words: string; number: number | null } {
  const pieces = OPTIONS ? piecesOf(name.path, OPTIONS) : [];
  const first = pieces.find((p) => p.part === 0);
  const number = first?.kind === "number" && first.unit === "" ? first.number : null;
  return { words: wordsOf(pieces, 0, name) || wordsOf(pieces, 1, name), number };
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
export function kitOf(names: readonly KitName[]): KitSound[] | null {
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
export function looksLikeKit(names: readonly KitName[], { manner, agreement, pitches }: KitSigns): boolean {
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
