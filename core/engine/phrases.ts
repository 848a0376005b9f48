/** One note of a phrase: beats from its beginning, length in beats, MIDI key, velocity. */
interface PhraseNote {
  readonly at: number;
  readonly length: number;
  readonly key: number;
  readonly velocity: number;
}

/** Something short to play while one listens; `beats` is where it begins again. */
export interface Phrase {
  readonly id: string;
  readonly label: string;
  readonly beats: number;
  readonly notes: readonly PhraseNote[];
}

const run = (keys: readonly number[], step: number, length: number, velocities: readonly number[]): PhraseNote[] =>
  keys.map((key, i) => ({ at: i * step, length, key, velocity: velocities[i % velocities.length] ?? 90 }));

/** Keys that stand for the lowest and the highest that sound, where nothing is mapped yet. */
const LOW_END = 48;
const HIGH_END = 74;

export const PHRASES: readonly Phrase[] = [
  {
    id: "arpeggio",
    label: "Slow arpeggio",
    beats: 8,
    notes: run([50, 57, 62, 65, 69, 65, 62, 57], 1, 0.9, [100, 70, 84, 110]),
  },
  {
    id: "repeats",
    label: "Same note, softer and harder",
    beats: 8,
    notes: run([62, 62, 62, 62, 62, 62, 62, 62], 1, 0.8, [40, 40, 40, 40, 112, 112, 112, 112]),
  },
  {
    id: "chords",
    label: "Chords",
    beats: 8,
    notes: [
      [50, 57, 65],
      [53, 60, 69],
    ].flatMap((chord, i) => chord.map((key) => ({ at: i * 4, length: 3.6, key, velocity: 88 }))),
  },
  { id: "long", label: "One long note", beats: 16, notes: [{ at: 0, length: 15, key: 62, velocity: 100 }] },
  {
    id: "ends",
    label: "Lowest and highest",
    beats: 4,
    notes: run([LOW_END, HIGH_END, LOW_END, HIGH_END], 1, 0.8, [30, 30, 127, 127]),
  },
];

/**
 * A phrase for the keys of an instrument, those that sound, from the lowest on: moved by the octaves that let most of it sound, and, where that isn't
 * half of it (a kit), with its keys laid on theirs in order; what still finds none takes the nearest. What asks for the ends gets them.
 */
export function phraseFor(phrase: Phrase, keys: readonly number[]): Phrase {
  const [low, high] = [keys[0], keys.at(-1)];
  if (low === undefined || high === undefined) return phrase;
  const moved = (place: (key: number) => number): Phrase => ({
    ...phrase,
    notes: phrase.notes.map((note) => ({ ...note, key: place(note.key) })),
  });
  if (phrase.id === "ends") return moved((key) => (key === LOW_END ? low : key === HIGH_END ? high : key));
  const sounding = new Set(keys);
  const answered = (by: number) => phrase.notes.filter((n) => sounding.has(n.key + by)).length;
  const octaves = [0, -12, 12, -24, 24, -36, 36, -48, 48];
  const by = octaves.reduce((best, o) => (answered(o) > answered(best) ? o : best));
  const nearest = (key: number) => keys.reduce((best, k) => (Math.abs(k - key) < Math.abs(best - key) ? k : best), low);
  if (2 * answered(by) >= phrase.notes.length) return moved((key) => nearest(key + by));
  const own = [...new Set(phrase.notes.map((n) => n.key))].sort((a, b) => a - b);
  const step = (keys.length - 1) / Math.max(1, own.length - 1);
  return moved((key) => keys[Math.round(own.indexOf(key) * Math.min(1, step))] ?? low);
}

/** A phrase as channel messages in seconds at a tempo, in time order. */
export function phraseEvents(
  phrase: Phrase,
  tempo: number,
): { seconds: number; status: number; data1: number; data2: number }[] {
  const beat = 60 / tempo;
  return phrase.notes
    .flatMap((n) => [
      { seconds: n.at * beat, status: 0x90, data1: n.key, data2: n.velocity },
      { seconds: (n.at + n.length) * beat, status: 0x80, data1: n.key, data2: 0 },
    ])
    .sort((a, b) => a.seconds - b.seconds || a.status - b.status);
}
