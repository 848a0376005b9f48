import { nameOfNote, type Random, seededRandom } from "../../audio";
import type { NamedSound } from "./reading";

/** A sound that somebody has named: what it is, and what was measured of it. */
export interface Named extends NamedSound {
  readonly note: number;
  /** From 1, the softest. */
  readonly strength: number;
  readonly repeat: number;
}

interface Facts {
  readonly note: number;
  readonly strength: number;
  readonly strengths: number;
  readonly repeat: number;
  readonly repeats: number;
  /** Its place among all, from 1. */
  readonly count: number;
  readonly random: Random;
}

/** One way in which people name their samples. */
interface Habit {
  readonly name: string;
  readonly path: (facts: Facts) => string;
  /** How many strengths and repeats it can tell at the most. */
  readonly strengths?: number;
  readonly repeats?: number;
  /** Its lowest note, where that isn't a usual one. */
  readonly first?: number;
}

const FLATS = ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"];
const S_SHARPS = ["C", "Cs", "D", "Ds", "E", "F", "Fs", "G", "Gs", "A", "As", "B"];
const GERMAN = ["C", "Cis", "D", "Dis", "E", "F", "Fis", "G", "Gis", "A", "B", "H"];
const GERMAN_FLATS = ["C", "Des", "D", "Es", "E", "F", "Ges", "G", "As", "A", "B", "H"];
const SYLLABLES = ["do", "do#", "re", "re#", "mi", "fa", "fa#", "sol", "sol#", "la", "la#", "si"];
const SPELLED = ["C", "Csharp", "D", "Dsharp", "E", "F", "Fsharp", "G", "Gsharp", "A", "Asharp", "B"];
const SPELLED_FLATS = ["C", "D flat", "D", "E flat", "E", "F", "G flat", "G", "A flat", "A", "B flat", "B"];

/** A note by a table of names, with middle C in a given octave. */
const called = (names: readonly string[], note: number, middle = 4): string =>
  `${names[note % 12]}${Math.floor(note / 12) - 5 + middle}`;
const padded = (x: number, digits: number): string => String(x).padStart(digits, "0");

const WORDS: Readonly<Record<number, readonly string[]>> = {
  1: ["mf"],
  2: ["p", "f"],
  3: ["p", "mf", "ff"],
  4: ["pp", "mp", "mf", "ff"],
};
const PLAIN: Readonly<Record<number, readonly string[]>> = {
  1: ["medium"],
  2: ["soft", "hard"],
  3: ["soft", "medium", "hard"],
  4: ["verysoft", "soft", "hard", "veryhard"],
};
const LEISE: Readonly<Record<number, readonly string[]>> = {
  1: ["mittel"],
  2: ["leise", "laut"],
  3: ["leise", "mittel", "laut"],
  4: ["leise", "mittel", "stark", "max"],
};
const word = (table: Readonly<Record<number, readonly string[]>>, f: Facts): string =>
  table[f.strengths]?.[f.strength - 1] ?? String(f.strength);
const top = (f: Facts): number => Math.round((127 * f.strength) / f.strengths);
const bottom = (f: Facts): number => Math.round((127 * (f.strength - 1)) / f.strengths) + 1;
const pick = (f: Facts, words: readonly string[]): string => words[Math.floor(f.random() * words.length)] as string;
const hertz = (note: number): number => 440 * 2 ** ((note - 69) / 12);

/** Many habits: orders, separators, languages, octave conventions, zero padding, missing tokens, stray words with digits, takes, folders, copies. */
export const HABITS: readonly Habit[] = [
  { name: "words, note in the middle", path: (f) => `spoke_${nameOfNote(f.note)}_${word(WORDS, f)}_rr${f.repeat}` },
  {
    name: "take first, C3 is middle",
    path: (f) => `old tube - take${f.repeat} - ${word(WORDS, f)} - ${called(S_SHARPS, f.note, 3)}`,
  },
  { name: "MIDI number, tops", path: (f) => `frame_${padded(f.note, 3)}_${padded(top(f), 3)}_${f.repeat}` },
  { name: "MIDI number labelled", path: (f) => `bell-n${f.note}-v${f.strength}-r${f.repeat}` },
  { name: "ranges of velocities", path: (f) => `fork ${called(FLATS, f.note)} ${bottom(f)}-${top(f)} ${f.repeat}` },
  {
    name: "German notes and words",
    path: (f) => `Speiche_${called(GERMAN, f.note)}_${word(LEISE, f)}_Versuch${f.repeat}`,
  },
  {
    name: "German flats, lower case",
    path: (f) => `kette ${called(GERMAN_FLATS, f.note).toLowerCase()} ${word(LEISE, f)} ${f.repeat}`,
  },
  {
    name: "syllables",
    path: (f) =>
      `rayon-${called(SYLLABLES, f.note)}-${word({ 1: ["moyen"], 2: ["doux", "fort"], 3: ["doux", "moyen", "fort"], 4: ["pp", "p", "f", "ff"] }, f)}-prise${f.repeat}`,
  },
  {
    name: "syllables alone first",
    path: (f) => `${called(SYLLABLES, f.note, 3).toUpperCase()} ${word(WORDS, f)} ${f.repeat}`,
  },
  { name: "spelled out, glued", path: (f) => `${called(SPELLED, f.note)}_vel${f.strength}_${padded(f.repeat, 2)}` },
  { name: "spelled out, spaced", path: (f) => `${called(SPELLED_FLATS, f.note)} ${word(PLAIN, f)} take ${f.repeat}` },
  { name: "unicode sharps", path: (f) => `hub ${nameOfNote(f.note).replace("#", "♯")} ${word(PLAIN, f)} #${f.repeat}` },
  {
    name: "unicode flats, C5 is middle",
    path: (f) => `hub–${called(FLATS, f.note, 5).replace(/(?<=[A-G])b/, "♭")}–${word(PLAIN, f)}–${f.repeat}`,
  },
  { name: "hertz", path: (f) => `tube_${Math.round(hertz(f.note) * 10) / 10}Hz_${word(PLAIN, f)}_${f.repeat}` },
  { name: "hertz spaced", path: (f) => `${hertz(f.note).toFixed(0)} hz take ${f.repeat} ${word(WORDS, f)}` },
  {
    name: "percents",
    path: (f) => `${nameOfNote(f.note)} ${Math.round((100 * f.strength) / f.strengths)}% ${f.repeat}`,
  },
  { name: "decibels", path: (f) => `${nameOfNote(f.note)}_${-8 * (f.strengths - f.strength)}dB_rr${f.repeat}` },
  { name: "ranks downwards", path: (f) => `rim_${nameOfNote(f.note)}_L${f.strengths + 1 - f.strength}_${f.repeat}` },
  { name: "ranks without a label", path: (f) => `rim_${nameOfNote(f.note)}_${f.strength}_${f.repeat}` },
  { name: "repeat before strength", path: (f) => `rim_${f.repeat}_${f.strength}_${nameOfNote(f.note)}` },
  {
    name: "letters for repeats",
    path: (f) => `nipple ${nameOfNote(f.note)} v${f.strength}${"abcdefgh"[f.repeat - 1]}`,
  },
  {
    name: "camel case",
    path: (f) =>
      `WheelSpoke${nameOfNote(f.note).replace("#", "s")}${word({ 1: ["Medium"], 2: ["Soft", "Hard"], 3: ["Soft", "Medium", "Hard"], 4: ["VerySoft", "Soft", "Hard", "VeryHard"] }, f)}Take${f.repeat}`,
  },
  { name: "folders for strengths", path: (f) => `Spokes/${word(PLAIN, f)}/${nameOfNote(f.note)} ${f.repeat}` },
  { name: "folders for notes", path: (f) => `${called(S_SHARPS, f.note)}/${word(WORDS, f)} rr${f.repeat}` },
  { name: "folders for repeats", path: (f) => `take ${f.repeat}/${padded(f.note, 3)} vel${top(f)}` },
  {
    name: "a date and a model",
    path: (f) => `2026-11-0${1 + (f.count % 4)} mk2 ${nameOfNote(f.note)} ${word(WORDS, f)} ${f.repeat}`,
  },
  { name: "a running number", path: (f) => `${padded(f.count, 4)}_${nameOfNote(f.note)}_${word(WORDS, f)}` },
  {
    name: "a running number behind",
    path: (f) => `${nameOfNote(f.note)}_${word(PLAIN, f)}_${padded(f.count + 112, 4)}`,
  },
  {
    name: "stray words before",
    path: (f) =>
      `${pick(f, ["big wheel", "wheel", "the very big wheel", "small wheel 28"])} ${nameOfNote(f.note)} ${word(WORDS, f)} ${f.repeat}`,
  },
  {
    name: "stray words behind",
    path: (f) => `${called(FLATS, f.note, 3)} v${top(f)} rr${f.repeat}${pick(f, ["", " clean", " nice one", " 48k"])}`,
  },
  { name: "copies", path: (f) => `${nameOfNote(f.note)} ${word(PLAIN, f)}${f.repeat > 1 ? ` (${f.repeat})` : ""}` },
  {
    name: "copies by word",
    path: (f) => `${called(S_SHARPS, f.note, 3)}-${word(WORDS, f)}${f.repeat > 1 ? ` copy ${f.repeat}` : ""}`,
  },
  { name: "no repeats told", path: (f) => `bar ${nameOfNote(f.note)} ${word(WORDS, f)}`, repeats: 1 },
  { name: "no strengths told", path: (f) => `bar ${called(GERMAN, f.note)} ${f.repeat}`, strengths: 1 },
  { name: "only notes", path: (f) => `${called(FLATS, f.note, 3)}`, strengths: 1, repeats: 1 },
  { name: "only numbers", path: (f) => `${f.note}`, strengths: 1, repeats: 1 },
  {
    name: "notes below 0",
    path: (f) => `low pipe ${called(S_SHARPS, f.note, 3)} v${f.strength} r${f.repeat}`,
    first: 14,
  },
  {
    name: "octave apart from its note",
    path: (f) => `crank_${FLATS[f.note % 12]}_${Math.floor(f.note / 12) - 1}_${word(WORDS, f)}_${f.repeat}`,
  },
  {
    name: "lower case, minus for parts",
    path: (f) => `pedal-${nameOfNote(f.note).toLowerCase()}-v${padded(top(f), 3)}-${f.repeat}`,
  },
  {
    name: "tops, C3 is middle, note last",
    path: (f) => `ring_v${padded(top(f), 3)}_rr${f.repeat}_${called(S_SHARPS, f.note, 3)}`,
  },
  {
    name: "note letters without octave in folders of octaves",
    path: (f) => `oct ${Math.floor(f.note / 12) - 1}/${S_SHARPS[f.note % 12]} ${word(PLAIN, f)} ${f.repeat}`,
  },
  { name: "key and layer words", path: (f) => `Key ${f.note} Layer ${f.strength} Take ${f.repeat}` },
  { name: "dots", path: (f) => `chain.${nameOfNote(f.note)}.${word(WORDS, f)}.${f.repeat}` },
  { name: "brackets", path: (f) => `[${nameOfNote(f.note)}] {${word(PLAIN, f)}} (${f.repeat})` },
  { name: "another script", path: (f) => `спица ${nameOfNote(f.note)} v${f.strength} ${f.repeat}` },
];

const HEARD_WRONG = 0.02;
const NOT_HEARD = 0.04;

/** A set of sounds as somebody with a habit has named it, in a shuffled order; a few pitches are measured an octave off, or not at all. */
export function setByHabit(habit: Habit, seed: number): Named[] {
  const random = seededRandom(seed);
  const within = (low: number, high: number): number => low + Math.floor(random() * (high - low + 1));
  const strengths = Math.min(habit.strengths ?? 4, within(1, 4));
  const repeats = Math.min(habit.repeats ?? 4, within(1, 4));
  const step = within(1, 5);
  const first = habit.first ?? within(34, 52);
  const notes = Array.from({ length: Math.max(6, Math.floor(within(18, 40) / step)) }, (_, i) => first + i * step);
  const detune = (random() - 0.5) * 0.3;
  const sounds: Named[] = [];
  for (const note of notes) {
    const body = (random() - 0.5) * 8;
    for (let strength = 1; strength <= strengths; strength++)
      for (let repeat = 1; repeat <= repeats; repeat++) {
        const path = habit.path({ note, strength, strengths, repeat, repeats, count: sounds.length + 1, random });
        const wrong = random() < HEARD_WRONG ? (random() < 0.5 ? -12 : 12) : 0;
        const pitch = random() < NOT_HEARD ? null : note + detune + (random() - 0.5) * 0.1 + wrong;
        const loudness = -40 + body + strength * 7 + (random() - 0.5) * 3;
        sounds.push({ path, pitch, loudness, note, strength, repeat });
      }
  }
  return sounds
    .map((s) => [random(), s] as const)
    .sort(([a], [b]) => a - b)
    .map(([, s]) => s);
}
