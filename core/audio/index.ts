export { type Audio, fadeEnds, framesOf, monoOf, peakOf, sliceAudio } from "./audio";
export { Fft } from "./fft";
export { columnPeaks, PEAK_STEP, type Peaks, peaksOf } from "./peaks";
export { type Random, seededRandom } from "./random";
export {
  type Cents,
  type Decibels,
  decibelsOf,
  gainOf,
  type Hertz,
  hertzOf,
  type Note,
  nameOfNote,
  noteOf,
  parseNote,
  type Seconds,
  type Semitones,
} from "./units";
