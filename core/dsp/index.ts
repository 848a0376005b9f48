export { type BentLine, bent, lineAt, unbent } from "./bend";
export { Convolver } from "./convolver";
export { fadeWeights, likeness, likenessOf } from "./crossfade";
export { Compressor, compressedBy, MOST_AHEAD } from "./effects/compressor";
export { Crusher } from "./effects/crusher";
export { Delay } from "./effects/delay";
export { bendBy, Drive, type DriveCurve } from "./effects/drive";
export { type BandKind, type BandSettings, bandResponse, Equaliser } from "./effects/equaliser";
export { Gate } from "./effects/gate";
export { Hall, type HallSettings } from "./effects/hall";
export { Phaser } from "./effects/phaser";
export { Rotary } from "./effects/rotary";
export { Stereo } from "./effects/stereo";
export { SweptDelay } from "./effects/swept-delay";
export { Tremolo } from "./effects/tremolo";
export { TruePeakLimiter } from "./effects/true-peak-limiter";
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
  MIDDLE_C,
  poleShift,
  resonanceOf,
  type SectionDesign,
  steadyResonance,
} from "./filter-design";
export { MOST_STRETCH } from "./impulse-room";
export { KernelMemory } from "./kernel-memory";
export { compileKernels } from "./kernels/compile-kernels";
export { type CellKernel, type Kernels, kindOf, startKernels } from "./kernels/kernels";
export {
  ABSENT,
  BANK,
  BANK_ROWS,
  BANK_TAPS,
  BENCH_BYTES,
  BLOCK_BYTES,
  BREAKS,
  BROKEN_LANES,
  BUS,
  CELL_ALONE,
  CELL_BYTES,
  CELL_COUNT,
  CELL_INPUTS,
  CELL_KIND,
  CELL_SIZE,
  CELL_SPLICE,
  CELL_STATE,
  CELL_TABLE,
  CELL_VARIANT,
  CELLS,
  COEFFICIENTS,
  COMPUTED,
  CONTROL,
  CORNER_A,
  CORNER_B,
  ENDED,
  FINISHED,
  FIRST_CELL,
  FLOAT32,
  FROM_A,
  FROM_B,
  GAIN,
  GAIN_CORNER,
  GAIN_TARGET,
  HEARD_A,
  HEARD_B,
  IDLE,
  IN_DRIVE,
  IN_K,
  IN_PITCH,
  IN_WEIGHT,
  INPUT_BYTES,
  INT16,
  INT24,
  KEPT,
  LADDER,
  METER,
  MOST_PAIRS,
  MOVED,
  ONE_POLE,
  OWN_ROWS,
  PAIR_BYTES,
  PEAK,
  PHASE_BITS,
  PHASES,
  PLAYING,
  POSITION,
  RATE,
  RATE_STATE,
  RATE_STEP,
  RATE_TARGET,
  ROW_BYTES,
  SECTION_BYTES,
  SECTION_MEMORY,
  SEED_A,
  SEED_B,
  SPAN,
  SPAN_BYTES,
  SPAN_FORMAT,
  SPAN_GAIN,
  SPAN_JUMP,
  SPAN_LEFT,
  SPAN_LEFT_LOW,
  SPAN_LIMIT,
  SPAN_MASK,
  SPAN_MIRROR,
  SPAN_NEXT,
  SPAN_RIGHT,
  SPAN_RIGHT_LOW,
  SPAN_SLOPE,
  STATE,
  STEADY,
  SVF,
  TABLE_EVEN,
  TABLE_ROWS,
  TAP,
  TIME,
  VOICE_A,
  VOICE_B,
  WEIGHT_STATE,
  WET,
  WET_TARGET,
} from "./kernels/layout";
export { type LfoShape, lfoAt } from "./lfo";
export { Limiter } from "./limiter";
export { type LevelCurve, LoopGain } from "./loop-gain";
export { firstEnd, type LoopTap, loopedSample, loopTap, periodOf, type StreamLoop, tapped } from "./loop-stream";
export { PathBank } from "./path-envelope";
export { Reverb } from "./reverb";
export { curveAt, type ShaperCurve } from "./shaper-curves";
export { banksOf, interpolate, MOST_TAPS, type Quality, type SincBank } from "./sinc";
export { STEP_FLOATS } from "./step-table";
export {
  bakeCycles,
  type CycleMap,
  countCycles,
  cycleOf,
  MOST_CYCLES,
  mapsOf,
  type ReadyCycles,
  USUAL_CYCLES,
} from "./wave-cycles";
export { bakeWaves, type ReadyWaves, WAVE_FLOATS, WAVE_TABLES, WAVES, type WaveTable, writeFirst } from "./waves";
