export { type BentLine, bent, lineAt } from "./bend";
export { Convolver } from "./convolver";
export { fadeWeights, likeness, likenessOf } from "./crossfade";
export { Compressor, compressedBy } from "./effects/compressor";
export { Crusher } from "./effects/crusher";
export { Delay } from "./effects/delay";
export { bendBy, Drive, type DriveCurve } from "./effects/drive";
export { type BandKind, type BandSettings, bandResponse, Equaliser } from "./effects/equaliser";
export { Phaser } from "./effects/phaser";
export { Stereo } from "./effects/stereo";
export { SweptDelay } from "./effects/swept-delay";
export { Tremolo } from "./effects/tremolo";
export { EnvelopeBank, SEGMENT, type Segments } from "./envelope";
export {
  dampingOf,
  designFilter,
  type FilterCharacter,
  type FilterMode,
  type FilterSettings,
  type FilterSlope,
  feedbackOf,
  filterResponse,
  ladderWeights,
  type SectionDesign,
} from "./filter-design";
export { compileKernels, type Kernels, startKernels } from "./kernels/kernels";
export {
  ABSENT,
  BANK,
  BANK_ROWS,
  BANK_TAPS,
  BREAKS,
  BROKEN_LANES,
  BUS,
  COEFFICIENTS,
  CONTROL,
  CORNER_A,
  CORNER_B,
  ENDED,
  FINISHED,
  FLOAT32,
  GAIN,
  GAIN_CORNER,
  GAIN_TARGET,
  IDLE,
  IN_DRIVE,
  IN_K,
  IN_PITCH,
  IN_WEIGHT,
  INT16,
  INT24,
  LADDER,
  MAX_SECTIONS,
  MOST_PAIRS,
  MOVED,
  ONE_POLE,
  PAIR_BYTES,
  PHASE_BITS,
  PHASES,
  PLAYING,
  POSITION,
  RATE,
  RATE_STATE,
  RATE_STEP,
  RATE_TARGET,
  SECTION_BYTES,
  SECTION_COUNT,
  SECTION_KIND,
  SECTION_MEMORY,
  SECTION_STATE,
  SECTION_STRIDE,
  SECTIONS,
  SPAN,
  SPAN_BYTES,
  SPAN_FORMAT,
  SPAN_JUMP,
  SPAN_LEFT,
  SPAN_LEFT_LOW,
  SPAN_LIMIT,
  SPAN_MASK,
  SPAN_MIRROR,
  SPAN_NEXT,
  SPAN_RIGHT,
  SPAN_RIGHT_LOW,
  STATE,
  STEADY,
  SVF,
  VOICE_A,
  VOICE_B,
  WEIGHT_STATE,
} from "./kernels/layout";
export { type LfoShape, lfoAt } from "./lfo";
export { Limiter } from "./limiter";
export { firstEnd, type LoopTap, loopedSample, loopTap, periodOf, type StreamLoop } from "./loop-stream";
export { PathBank } from "./path-envelope";
export { Reverb } from "./reverb";
export { interpolate, MOST_TAPS, makeBanks, type Quality, type SincBank } from "./sinc";
