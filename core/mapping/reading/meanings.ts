import { noteOf } from "../../audio";
import { LABELS, microphoneOfWord, plain, strengthOfWord, triggerOfWord } from "./lexicon";
import type { Piece, WrittenNote } from "./pieces";

/** What a piece of a name may say of a sound. */
export const ROLES = ["note", "strength", "repeat", "microphone", "trigger", "group"] as const;
export type Role = (typeof ROLES)[number];

/** How a role stands in a pattern: `{note}`; a velocity layer is `{layer}`. */
export const tokenOf = (role: Role): string => `{${role === "strength" ? "layer" : role}}`;

/** In which of several ways it says that. */
export type Manner =
  | "note" // with its octave
  | "class" // without
  | "midi"
  | "hertz"
  | "word"
  | "top" // a strength as the highest velocity, or as a rank
  | "range"
  | "percent"
  | "decibels"
  | "count"
  | "letter";

/** What a piece says in one manner, and how likely that is by itself, 0 to 1. */
export interface Meaning {
  /** Comparable within one manner: a note, a strength, a repeat; or the word itself. */
  readonly value: number | string;
  /** Of a range, its lower end. */
  readonly low?: number;
  readonly likely: number;
  /** How many pieces it takes. */
  readonly pieces: number;
}

const STEPS: Readonly<Record<string, number>> = { c: 0, d: 2, e: 4, f: 5, g: 7, a: 9, b: 11, h: 11, n: 11 };

/** Semitones above C, which may leave the octave (C flat is −1). `german`: B means B flat, and `Es`, `As` are flats. */
export function classOf({ letter, accidental }: WrittenNote, german: boolean): number {
  const step = german && letter === "b" ? 10 : (STEPS[letter] ?? 0);
  switch (accidental) {
    case "sharp":
    case "is":
      return step + 1;
    case "flat":
    case "es":
      return step - 1;
    case "s":
      return german && (letter === "e" || letter === "a") ? step - 1 : step + 1;
    default:
      return step;
  }
}

/** What an octave's number means before it is known which C is middle C: here C4 is 60. */
const noteIn = (octave: number, step: number): number => (octave + 1) * 12 + step;

const isWhole = (piece: Piece, low: number, high: number): boolean =>
  piece.kind === "number" && piece.unit === "" && piece.number !== null && piece.number >= low && piece.number <= high;

/** Of a name's pieces at a place, what they say of the note. */
function notesAt(pieces: readonly Piece[], at: number, german: boolean, manner: Manner): Meaning | null {
  const piece = pieces[at] as Piece;
  if (piece.note) {
    const step = classOf(piece.note, german);
    const { octave } = piece.note;
    if (manner === "note" && octave !== null) return { value: noteIn(octave, step), likely: 1, pieces: 1 };
    if (octave !== null) return null;
    const next = pieces[at + 1];
    if (manner === "note" && next?.part === piece.part && next.text.length <= 2 && isWhole(next, 0, 10))
      return { value: noteIn(next.number ?? 0, step), likely: 0.7, pieces: 2 };
    const apart = pieces.find((p) => LABELS.octave.has(p.word) && isWhole(p, 0, 10));
    if (manner === "note" && apart) return { value: noteIn(apart.number ?? 0, step), likely: 0.9, pieces: 1 };
    if (manner === "class")
      return { value: ((step % 12) + 12) % 12, likely: piece.text.length > 1 ? 0.6 : 0.4, pieces: 1 };
    return null;
  }
  if (piece.kind !== "number" || piece.number === null) return null;
  if (
    manner === "hertz" &&
    piece.number > 8 &&
    piece.number < 13000 &&
    (piece.unit === "hz" || /^(hz|freq)$/.test(piece.word))
  )
    return { value: noteOf(piece.number), likely: 1, pieces: 1 };
  if (manner === "midi" && isWhole(piece, 0, 127) && piece.text.length <= 3) {
    const told = LABELS.note.has(piece.word);
    const other = LABELS.strength.has(piece.word) || LABELS.repeat.has(piece.word) || LABELS.nothing.has(piece.word);
    // Nobody means the keys below the lowest octave by a number that says nothing else.
    return { value: piece.number, likely: told ? 1 : other || piece.number < 12 ? 0.1 : 0.5, pieces: 1 };
  }
  return null;
}

function strengthsAt(pieces: readonly Piece[], at: number, manner: Manner): Meaning | null {
  const piece = pieces[at] as Piece;
  const label = LABELS.strength.has(piece.word);
  const other = LABELS.repeat.has(piece.word) || LABELS.microphone.has(piece.word) || LABELS.nothing.has(piece.word);
  if (manner === "word") {
    // A note without an octave may be the word for loud.
    const value = strengthOfWord(piece.kind === "number" ? "" : piece.word);
    const two = pieces[at + 1];
    const pair = two?.part === piece.part ? strengthOfWord(plain(piece.text + (two?.text ?? ""))) : null;
    if (pair !== null && piece.kind === "word" && two?.kind === "word") return { value: pair, likely: 1, pieces: 2 };
    return value === null ? null : { value, likely: piece.text.length > 1 ? 1 : 0.8, pieces: 1 };
  }
  if (piece.kind !== "number" || piece.number === null) return null;
  if (manner === "percent" && (piece.unit === "%" || /^(pct|percent)$/.test(piece.word)))
    return { value: piece.number, likely: 0.9, pieces: 1 };
  if (manner === "decibels" && piece.unit === "db") return { value: piece.number, likely: 0.9, pieces: 1 };
  if (piece.unit !== "" || piece.number > 127 || piece.text.length > 3) return null;
  if (manner === "top") return { value: piece.number, likely: label ? 1 : other ? 0.1 : 0.4, pieces: 1 };
  const next = pieces[at + 1];
  if (
    manner === "range" &&
    next?.part === piece.part &&
    next.start - piece.end <= 4 &&
    isWhole(next, piece.number, 127)
  )
    return { value: next.number as number, low: piece.number, likely: label ? 1 : 0.5, pieces: 2 };
  return null;
}

function repeatsAt(pieces: readonly Piece[], at: number, manner: Manner): Meaning | null {
  const piece = pieces[at] as Piece;
  if (manner === "letter")
    return piece.kind !== "number" && /^[a-h]$/i.test(piece.text)
      ? { value: piece.text.toLowerCase().charCodeAt(0) - 96, likely: 0.3, pieces: 1 }
      : null;
  if (!isWhole(piece, 0, 99999)) return null;
  const label = LABELS.repeat.has(piece.word);
  const other = LABELS.strength.has(piece.word) || LABELS.note.has(piece.word) || LABELS.nothing.has(piece.word);
  return { value: piece.number as number, likely: label ? 1 : other ? 0.1 : 0.4, pieces: 1 };
}

/** The manners in which each role is written. */
export const MANNERS: Readonly<Record<Role, readonly Manner[]>> = {
  note: ["note", "class", "midi", "hertz"],
  strength: ["word", "top", "range", "percent", "decibels"],
  repeat: ["count", "letter"],
  microphone: ["word", "count"],
  trigger: ["word"],
  group: ["word"],
};

/** What the piece at a place of a name says of a role in one manner; null where it can't say anything. */
export function meaningAt(
  pieces: readonly Piece[],
  at: number,
  role: Role,
  manner: Manner,
  german: boolean,
): Meaning | null {
  const piece = pieces[at];
  if (!piece) return null;
  switch (role) {
    case "note":
      return notesAt(pieces, at, german, manner);
    case "strength":
      return strengthsAt(pieces, at, manner);
    case "repeat":
      return repeatsAt(pieces, at, manner);
    case "microphone": {
      if (manner === "count")
        return isWhole(piece, 0, 32) && LABELS.microphone.has(piece.word)
          ? { value: `mic ${piece.number}`, likely: 0.9, pieces: 1 }
          : null;
      const mic = piece.kind === "number" ? null : microphoneOfWord(piece.word);
      return mic === null ? null : { value: mic, likely: 0.9, pieces: 1 };
    }
    case "trigger": {
      const trigger = piece.kind === "number" ? null : triggerOfWord(piece.word);
      return trigger === null ? null : { value: trigger, likely: trigger === "noteOff" ? 0.9 : 0.5, pieces: 1 };
    }
    case "group":
      return piece.kind === "word" ? { value: piece.word, likely: 0.3, pieces: 1 } : null;
  }
}
