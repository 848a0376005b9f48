import { plain, solfegeOf } from "./lexicon";

/** A note as it is written: its letter or syllable, what raises or lowers it, its octave where one is written. */
export interface WrittenNote {
  /** `a` to `h`, where `h` is German for what others call `b`; `n` is the syllable for it, which is meant by nobody else. */
  readonly letter: string;
  readonly accidental: "" | "sharp" | "flat" | "s" | "is" | "es";
  readonly octave: number | null;
}

/** The ways in which a set may be written, the most usual first. */
export const PIECE_OPTIONS: readonly PieceOptions[] = [
  { below: false, forte: false },
  { below: true, forte: false },
  { below: false, forte: true },
];

/** A piece of a name that may mean something: a word, a number, a note. */
export interface Piece {
  readonly kind: "word" | "number" | "note";
  readonly text: string;
  /** Where it stands in the path: characters `[start, end)`. */
  readonly start: number;
  readonly end: number;
  /** Which part of the path: 0 the name itself, 1 the folder that it lies in, and so on. */
  readonly part: number;
  /** The word in the lexicon's spelling: its own, or that which stands before a number. */
  readonly word: string;
  readonly number: number | null;
  /** What a number is counted in, as `hz`, `db`, `%`; empty where nothing is said. */
  readonly unit: string;
  readonly note: WrittenNote | null;
}

const SHARP = "#|♯|sharp|diese|dièse|kreuz";
const FLAT = "♭|flat|bemol|bémol";
/** A letter, what alters it, an octave. What isn't sure by itself, as a lone letter, is one meaning of several. */
const LETTER_NOTE = new RegExp(
  `([A-Ha-h])(?:[ _-]?(${SHARP}|${FLAT})|(is|es|s|b))?(?:[ _-]?(?<=sharp[ _-]|flat[ _-]|diese[ _-]|dièse[ _-])(10|\\d)|(-[1-3]|10|\\d))?(?![\\p{L}\\d])`,
  "uy",
);
const LETTER_NOTE_THEN_WORD = new RegExp(`([A-Ha-h])(?:(${SHARP})|(is|es|s|b))?()(-[1-3]|10|\\d)(?!\\d)`, "uy");
const SYLLABLE_NOTE = new RegExp(
  `(do|ut|re|ré|mi|fa|sol|la|si|ti)(?:[ _-]?(${SHARP}|${FLAT})|([sb])(?=-?\\d))?()(-[1-3]|10|\\d)?(?![\\p{L}\\d])`,
  "uyi",
);
const MEASURE = /(-?\d+(?:[.,_]\d+)?) ?(khz|hz|db|%|pct|percent|prozent)(?![\p{L}])/iuy;
const NUMBER = /\d+/y;
const WORD = /\p{Lu}?[\p{Ll}\p{Lm}\p{Lo}\p{M}]+|\p{Lu}+(?!\p{Ll})|[\p{L}\p{M}]/uy;

/** What can't be known before a whole set of names has been looked at. */
export interface PieceOptions {
  /** Whether octaves below 0 are written, as `C-1`; else the dash parts. */
  readonly below: boolean;
  /** Whether `f1` and `f2` are strong hits, not notes. */
  readonly forte: boolean;
}

/** Whether a new word may begin at a place: there is no letter before it, or a small one before a capital. */
function begins(text: string, at: number): boolean {
  const before = text[at - 1] ?? "";
  if (!/\p{L}|\p{M}/u.test(before)) return true;
  return /\p{Ll}/u.test(before) && /\p{Lu}/u.test(text[at] ?? "");
}

const wordAccidental = (word: string): "sharp" | "flat" => (/^(#|♯|sharp|di|kreuz)/i.test(word) ? "sharp" : "flat");

function noteFrom(match: RegExpExecArray, letter: string): WrittenNote {
  const [, , sign, glued, spaced, octave] = match;
  const small = glued?.toLowerCase();
  const accidental =
    sign !== undefined
      ? wordAccidental(sign)
      : small === "b"
        ? "flat"
        : small === "is" || small === "s" || small === "es"
          ? small
          : "";
  const told = spaced || octave;
  return { letter, accidental, octave: told ? Number(told) : null };
}

const LETTERS: Readonly<Record<number, string>> = { 0: "c", 2: "d", 4: "e", 5: "f", 7: "g", 9: "a", 11: "n" };

function noteAt(text: string, at: number, { below, forte }: PieceOptions): { note: WrittenNote; end: number } | null {
  if (!begins(text, at) || (forte && text[at] === "f")) return null;
  for (const pattern of [LETTER_NOTE, LETTER_NOTE_THEN_WORD, SYLLABLE_NOTE]) {
    pattern.lastIndex = at;
    const match = pattern.exec(text);
    if (!match) continue;
    const syllable = pattern === SYLLABLE_NOTE ? solfegeOf(plain(match[1] ?? "")) : null;
    const letter = syllable === null ? (match[1] ?? "").toLowerCase() : (LETTERS[syllable] ?? "c");
    const note = noteFrom(match, letter);
    if (note.octave !== null && note.octave < 0 && !below) {
      // The dash parts: what is before it is a note without an octave.
      return { note: { ...note, octave: null }, end: at + match[0].length - (match[5] ?? "").length };
    }
    return { note, end: at + match[0].length };
  }
  return null;
}

/** The pieces of one part of a path. `offset`: where it begins in the path. Linear in its length. */
function piecesOfPart(text: string, offset: number, part: number, options: PieceOptions): Piece[] {
  const pieces: Piece[] = [];
  let last: { word: string; end: number } | null = null;
  const add = (kind: Piece["kind"], at: number, end: number, more: Partial<Piece>): void => {
    const label = last && at - last.end <= 1 ? last.word : "";
    pieces.push({
      kind,
      text: text.slice(at, end),
      start: offset + at,
      end: offset + end,
      part,
      word: kind === "number" ? label : plain(text.slice(at, end)),
      number: null,
      unit: "",
      note: null,
      ...more,
    });
    last = kind === "number" ? null : { word: plain(text.slice(at, end)), end };
  };
  let at = 0;
  while (at < text.length) {
    const note = noteAt(text, at, options);
    if (note) {
      add("note", at, note.end, { note: note.note });
      at = note.end;
      continue;
    }
    MEASURE.lastIndex = at;
    const measure = MEASURE.exec(text);
    const minus = measure?.[1]?.startsWith("-");
    if (measure && (!minus || /^db$/i.test(measure[2] ?? ""))) {
      const unit = (measure[2] ?? "").toLowerCase();
      const value = Number((measure[1] ?? "").replace(/[,_]/, "."));
      add("number", at, at + measure[0].length, {
        number: unit === "khz" ? value * 1000 : value,
        unit: unit === "khz" ? "hz" : unit.startsWith("p") ? "%" : unit,
      });
      at += measure[0].length;
      continue;
    }
    NUMBER.lastIndex = at;
    const number = NUMBER.exec(text);
    if (number) {
      add("number", at, at + number[0].length, { number: Number(number[0]) });
      at += number[0].length;
      continue;
    }
    WORD.lastIndex = at;
    const word = WORD.exec(text);
    if (word) {
      add("word", at, at + word[0].length, {});
      at += word[0].length;
      continue;
    }
    at++;
  }
  return pieces;
}

/** The longest part of a name that is looked at: what is behind it says nothing. */
const MOST = 300;

/** A path with its pieces. */
export interface TakenName {
  readonly path: string;
  readonly pieces: readonly Piece[];
}

/** Takes paths apart. */
export const takeApart = (paths: readonly string[], options: PieceOptions): TakenName[] =>
  paths.map((path) => ({ path, pieces: piecesOf(path, options) }));

/** The pieces of a path, the folders' first; `/` parts folders. */
export function piecesOf(path: string, options: PieceOptions): Piece[] {
  const parts = path.split("/");
  let offset = 0;
  return parts.flatMap((text, p) => {
    const at = offset;
    offset += text.length + 1;
    return piecesOfPart(text.slice(0, MOST), at, parts.length - 1 - p, options);
  });
}
