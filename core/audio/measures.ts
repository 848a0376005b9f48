/** Aliases that say what a number is measured in. */
export type Hertz = number;
export type Seconds = number;
export type Metres = number;
export type Decibels = number;
export type Cents = number;
export type Semitones = number;
/** A MIDI note number; fractions are allowed where a pitch is meant. */
export type Note = number;

/** Amplitude factor of a level in decibels. */
export const gainOf = (level: Decibels): number => 10 ** (level / 20);

/** Level in decibels of an amplitude factor; silence is −Infinity. */
export const decibelsOf = (gain: number): Decibels => 20 * Math.log10(Math.abs(gain));

/** Frequency of a MIDI note in equal temperament with A4 (note 69) at `a4`. */
export const hertzOf = (note: Note, a4: Hertz = 440): Hertz => a4 * 2 ** ((note - 69) / 12);

/** MIDI note, with fraction, of a frequency above 0 Hz. */
export const noteOf = (frequency: Hertz, a4: Hertz = 440): Note => 69 + 12 * Math.log2(frequency / a4);

const NAMES = ["C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"] as const;
const STEPS: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** Name of a whole MIDI note with middle C as C4, such as `A#3`. */
export const nameOfNote = (note: Note): string => `${NAMES[((note % 12) + 12) % 12]}${Math.floor(note / 12) - 1}`;

/** MIDI note of a name such as `a#3`, `Bb-1` or a number `0`–`127`; null when it is neither. */
export function parseNote(text: string): Note | null {
  const trimmed = text.trim();
  if (/^\d{1,3}$/.test(trimmed)) return Number(trimmed) <= 127 ? Number(trimmed) : null;
  const match = /^([A-Ga-g])([#♯b♭]?)(-?\d)$/.exec(trimmed);
  if (!match) return null;
  const [, letter = "", accidental = "", octave = ""] = match;
  const step = STEPS[letter.toUpperCase()] ?? 0;
  const shift = accidental === "" ? 0 : accidental === "#" || accidental === "♯" ? 1 : -1;
  const note = (Number(octave) + 1) * 12 + step + shift;
  return note >= 0 && note <= 127 ? note : null;
}
