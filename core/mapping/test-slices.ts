import { hertzOf } from "../audio";
import { newSlice, type Slice } from "../instrument";

export const RATE = 8000;
const { sin, exp, PI } = Math;
/** A slice of a middle C at its place in a take. */
export const slice = (i: number, change: Partial<Slice> = {}): Slice =>
  newSlice({
    id: `s${i}`,
    start: i * 1000,
    end: i * 1000 + 800,
    confidence: 0.9,
    pitch: 60,
    loudness: -20,
    tone: 80,
    ...change,
  });
/** A decaying tone of a note. */
export const tone = (note: number, level: number, seconds = 0.6): Float32Array => {
  const step = (2 * PI * hertzOf(note)) / RATE;
  return Float32Array.from({ length: seconds * RATE }, (_, i) => level * sin(i * step) * exp((-7 * i) / RATE));
};
