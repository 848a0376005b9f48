export { Adsr, type AdsrStage } from "./adsr";
export { fadeWeights, likeness, loopedSample } from "./crossfade";
export { compileKernels, type Kernels, startKernels } from "./kernels/kernels";
export {
  BANK,
  BANK_ROWS,
  BANK_TAPS,
  BUS,
  FINISHED,
  GAIN,
  IDLE,
  MAX_STAGES,
  PAIR_BYTES,
  PHASE_BITS,
  PHASES,
  PLAYING,
  POSITION,
  RATE,
  RATE_STEP,
  SPAN,
  SPAN_BYTES,
  SPAN_END,
  SPAN_JUMP,
  SPAN_LEFT,
  SPAN_NEXT,
  SPAN_RIGHT,
  STAGE_0,
  STAGE_BYTES,
  STAGE_COUNT,
  STAGE_G,
  STAGE_K,
  STAGE_M0,
  STAGE_M1,
  STAGE_M2,
  STAGE_S1,
  STAGE_S2,
  STATE,
  VOICE_A,
  VOICE_B,
  VOICE_BYTES,
} from "./kernels/layout";
export { type LfoShape, lfoAt } from "./lfo";
export { Limiter } from "./limiter";
export { Reverb } from "./reverb";
export { interpolate, MOST_TAPS, makeBanks, type SincBank } from "./sinc";
export { dampingOf, type FilterMode, type SvfCoefficients, svfResponse, tuneSvf } from "./svf";
