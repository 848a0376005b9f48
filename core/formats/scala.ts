import { noteOf } from "../audio";
import { FormatError } from "./format-error";

/** A scale: its description and its degrees in cents above the first; the last is the interval at which it repeats. */
export interface Scale {
  readonly description: string;
  readonly cents: readonly number[];
}

/** Which keys play which degrees; null leaves a key silent. */
export interface KeyboardMapping {
  readonly first: number;
  readonly last: number;
  readonly middle: number;
  readonly referenceKey: number;
  readonly referenceHertz: number;
  /** The degree at which the mapping repeats. */
  readonly octave: number;
  readonly degrees: readonly (number | null)[];
}

const MOST = 1024;

const linesOf = (text: string): string[] => text.split(/\r\n|\n|\r/).filter((line) => !line.startsWith("!"));

function wholeOf(text: string | undefined, what: string, low: number, high: number): number {
  const match = /^\s*(-?\d{1,9})/.exec(text ?? "");
  const value = match ? Number(match[1]) : Number.NaN;
  if (!(value >= low && value <= high))
    throw new FormatError("damaged", 0, `${what} is missing or not from ${low} to ${high}`);
  return value;
}

/** Cents of a pitch line: `701.955` (with a point) is cents, `3/2` and `2` are ratios; what follows is a remark. */
function centsOf(line: string): number {
  const [word = ""] = line.trim().split(/\s+/);
  if (/^-?\d*\.\d*$/.test(word) && word.length > 1) return Number(word);
  const ratio = /^(\d{1,15})(?:\/(\d{1,15}))?$/.exec(word);
  const value = ratio ? Number(ratio[1]) / Number(ratio[2] ?? 1) : Number.NaN;
  if (!(value > 0) || !Number.isFinite(value))
    throw new FormatError("damaged", 0, `“${word.slice(0, 40)}” is neither cents nor a ratio`);
  return 1200 * Math.log2(value);
}

/** Reads a scale (`.scl`, Scala's documented format). Throws FormatError for damage. */
export function readScale(text: string): Scale {
  const [description = "", count, ...lines] = linesOf(text);
  const size = wholeOf(count, "the number of notes", 1, MOST);
  const pitches = lines.filter((line) => line.trim() !== "").slice(0, size);
  if (pitches.length < size)
    throw new FormatError("truncated", 0, `${size} notes are announced, ${pitches.length} are there`);
  const cents = pitches.map(centsOf);
  if (!((cents.at(-1) ?? 0) > 0))
    throw new FormatError("damaged", 0, "the scale doesn't rise: its last note must lie above the first");
  return { description: description.trim(), cents };
}

/** Reads a keyboard mapping (`.kbm`, Scala's documented format). Throws FormatError for damage. */
export function readMapping(text: string): KeyboardMapping {
  const lines = linesOf(text).filter((line) => line.trim() !== "");
  const size = wholeOf(lines[0], "the size of the map", 0, MOST);
  const hertz = Number.parseFloat(lines[5] ?? "");
  if (!(hertz > 0 && hertz < 1e5))
    throw new FormatError("damaged", 0, "the reference frequency is missing or no frequency");
  return {
    first: wholeOf(lines[1], "the first key", 0, 127),
    last: wholeOf(lines[2], "the last key", 0, 127),
    middle: wholeOf(lines[3], "the middle key", 0, 127),
    referenceKey: wholeOf(lines[4], "the reference key", 0, 127),
    referenceHertz: hertz,
    octave: wholeOf(lines[6], "the degree of the octave", 0, MOST),
    degrees: Array.from({ length: size }, (_, i) => {
      const line = lines[7 + i];
      return line === undefined || /^\s*x/i.test(line) ? null : wholeOf(line, "a degree", -MOST, MOST);
    }),
  };
}

/** Without a mapping: every key a degree, middle C the first, A4 (key 69) at 440 Hz as far as the scale has it there: C at its usual pitch. */
const PLAIN: KeyboardMapping = {
  first: 0,
  last: 127,
  middle: 60,
  referenceKey: 60,
  referenceHertz: 440 * 2 ** (-9 / 12),
  octave: 0,
  degrees: [],
};

/** The pitch of each of 128 keys as a note with fraction (A4 is 69), or null where a key is silent. */
export function tuneKeys(scale: Scale, mapping: KeyboardMapping = PLAIN): (number | null)[] {
  const { cents } = scale;
  const size = cents.length;
  const period = cents[size - 1] ?? 1200;
  const degreeCents = (degree: number): number => {
    const turn = Math.floor(degree / size);
    const rest = degree - turn * size;
    return turn * period + (rest === 0 ? 0 : (cents[rest - 1] ?? 0));
  };
  const centsOfKey = (key: number): number | null => {
    const away = key - mapping.middle;
    const width = mapping.degrees.length;
    if (width === 0) return degreeCents(away);
    const turn = Math.floor(away / width);
    const degree = mapping.degrees[away - turn * width];
    if (degree === null || degree === undefined) return null;
    return degreeCents(degree) + turn * degreeCents(mapping.octave === 0 ? size : mapping.octave);
  };
  const reference = centsOfKey(mapping.referenceKey) ?? 0;
  const base = noteOf(mapping.referenceHertz);
  return Array.from({ length: 128 }, (_, key) => {
    const own = key < mapping.first || key > mapping.last ? null : centsOfKey(key);
    const note = own === null ? null : base + (own - reference) / 100;
    return note !== null && note > -100 && note < 250 ? note : null;
  });
}
