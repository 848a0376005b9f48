/**
 * The one description of the kernels' memory, in bytes, compiled by TypeScript and AssemblyScript alike.
 *
 * Voices stand in pairs so that two stereo voices fill one vector: [leftA, rightA, leftB, rightB].
 * A ramped value is two vectors: the value now, and its step per frame.
 */
export const GAIN = 0;
/** Two voice records follow the gain ramp. */
export const VOICE_A = 32;
export const VOICE_BYTES = 64;
export const VOICE_B = 96;
/** Inside a voice record: position and rate are 32.32 fixed point, in frames of the span being read. */
export const POSITION = 0;
export const RATE = 8;
export const RATE_STEP = 16;
export const SPAN = 24;
export const BANK = 28;
export const STATE = 32;
export const BUS = 36;
export const IDLE = 0;
export const PLAYING = 1;
export const FINISHED = 2;
/** How many of the pair's filter stages run. */
export const STAGE_COUNT = 160;
export const STAGE_0 = 176;
export const STAGE_BYTES = 192;
export const MAX_STAGES = 4;
/** Inside a stage: five ramps (g, k and the three output weights), then the two integrator states. */
export const STAGE_G = 0;
export const STAGE_K = 32;
export const STAGE_M0 = 64;
export const STAGE_M1 = 96;
export const STAGE_M2 = 128;
export const STAGE_S1 = 160;
export const STAGE_S2 = 176;
export const PAIR_BYTES = 960;

/** A span is one uninterrupted read of sample data; at `end` (frames) the voice goes to `next`, moved by `jump` frames. */
export const SPAN_LEFT = 0;
export const SPAN_RIGHT = 4;
export const SPAN_END = 8;
export const SPAN_NEXT = 12;
export const SPAN_JUMP = 16;
export const SPAN_BYTES = 32;

/** An interpolation bank: a header with its number of taps, then for each phase its taps and their differences to the next phase. */
export const BANK_TAPS = 0;
export const BANK_ROWS = 16;
export const PHASE_BITS = 9;
export const PHASES = 512;
