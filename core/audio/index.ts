export { type Audio, framesOf, monoOf, peakOf, sliceAudio } from "./audio";
export {
  deconvolve,
  makeRoom,
  makeSweep,
  responseOfClap,
  SWEEP,
  type Sweep,
  trimResponse,
} from "./deconvolve";
export { learnNoise, type NoiseProfile, quietestStretch, reduceNoise } from "./denoise";
export { Fft, fftOf } from "./fft";
export { AnyFft } from "./fft-any";
export {
  type Cents,
  type Decibels,
  decibelsOf,
  gainOf,
  type Hertz,
  hertzOf,
  type Metres,
  type Note,
  nameOfNote,
  noteOf,
  parseNote,
  type Seconds,
  type Semitones,
} from "./measures";
export { outlineOf } from "./outline";
export { type CloseSamples, columnPeaks, PEAK_STEP, type Peaks, peaksOf } from "./peaks";
export { type Random, seededRandom } from "./random";
export { resample } from "./resample";
export { amplify, type FadeShape, fade, fadeAt, removeOffset, reversed, zeroCrossing } from "./shape";
export { stretch } from "./stretch";
