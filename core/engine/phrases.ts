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

/** A phrase for the keys of an instrument: what asks for its lowest and highest key gets them. `keys` are those that sound. */
export function phraseFor(phrase: Phrase, keys: { readonly low: number; readonly high: number } | null): Phrase {
  if (phrase.id !== "ends" || !keys) return phrase;
  const place = (key: number) => (key === LOW_END ? keys.low : key === HIGH_END ? keys.high : key);
  return { ...phrase, notes: phrase.notes.map((note) => ({ ...note, key: place(note.key) })) };
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
