/**
 * The one description of the kernels' memory, in bytes, compiled by TypeScript and AssemblyScript alike.
 *
 * Voices stand in pairs so that two stereo voices fill one vector: [leftA, rightA, leftB, rightB]. Both voices of a pair
 * belong to the same layer, so that one chain of filter sections serves both.
 */
/** Gain now, and its step per frame; where the engine wants it at the next control step, and at the corner on the way there. */
export const GAIN = 0;
export const GAIN_STEP = 16;
export const GAIN_TARGET = 32;
export const GAIN_CORNER = 48;
/** Frames until each voice's corner (0: none): the frame at which its envelope turns; then those from there to the target. */
export const CORNER_A = 192;
export const CORNER_B = 196;
export const REST_A = 200;
export const REST_B = 204;
/** How many sections the pair has at the most (some of them may be absent), and the bus to which it is added. */
export const SECTION_COUNT = 208;
export const BUS = 212;
/** Address of the pair's first section; further ones follow at SECTION_STRIDE, so that the first ones of all pairs lie together. */
export const SECTIONS = 216;
/** A bit for each lane whose numbers were too large, or none at all: the engine ends such a voice. */
export const BROKEN_LANES = 220;
export const VOICE_A = 64;
export const VOICE_BYTES = 64;
export const VOICE_B = 128;
/** Inside a voice record: position and rate are 32.32 fixed point, in frames of the span being read; the rate is a magnitude. */
export const POSITION = 0;
export const RATE = 8;
export const RATE_STEP = 16;
/** The rate to be reached at the next control step, as a 64-bit float. */
export const RATE_TARGET = 24;
/** MOVED while a new target waits, MOVING during the ramp, else 0. */
export const RATE_STATE = 32;
export const SPAN = 36;
export const BANK = 40;
export const STATE = 44;
/** Counts, at the beginning of the memory, how often a voice has come to the end of its spans. */
export const ENDED = 16;
/** Counts, beside it, how often a pair was found with a broken lane. */
export const BREAKS = 20;
/** What a voice puts out stays below this (+120 dB), and what its filters remember below the next: beyond it, it is broken, and adds nothing. */
export const LOUDEST = 1000000;
export const LARGEST_STATE = 1000000000;
export const IDLE = 0;
export const PLAYING = 1;
export const FINISHED = 2;

export const STEADY = 0;
export const MOVED = 1;
export const MOVING = 2;
/** Of a section: its ramps for the step that comes are set already. */
export const AIMED = 3;

/** A section of a filter, for both voices. Inputs (vectors) are what the engine sets; coefficients are value and step. */
export const SECTION_BYTES = 464;
export const MAX_SECTIONS = 16;
export const MOST_PAIRS = 288;
export const SECTION_STRIDE = MOST_PAIRS * SECTION_BYTES;
export const SECTION_KIND = 0;
export const SECTION_STATE = 4;
/** Apart from the poles, the weights of the outputs: they seldom move. */
export const WEIGHT_STATE = 8;
/** log2 of cutoff / sample rate; damping or feedback; drive; up to five weights of the outputs. */
export const IN_PITCH = 16;
export const IN_K = 32;
export const IN_DRIVE = 48;
export const IN_WEIGHT = 64;
export const COEFFICIENTS = 144;
export const SECTION_MEMORY = 400;
export const PAIR_BYTES = 224;
/** Kinds of section: state-variable (two poles), one pole, ladder (four poles, saturating). */
export const SVF = 0;
export const ONE_POLE = 1;
export const LADDER = 2;
/** A section that isn't there: the sound goes past it. */
export const ABSENT = 3;

/**
 * A span is one uninterrupted read of sample data, forward or backward. Once (index ^ mask) reaches `limit` the voice goes to
 * `next` (0: it has finished): its position is moved by `jump` frames, or mirrored: jump − position.
 */
export const SPAN_LEFT = 0;
export const SPAN_RIGHT = 4;
/** 24-bit samples keep their low bytes apart. */
export const SPAN_LEFT_LOW = 8;
export const SPAN_RIGHT_LOW = 12;
export const SPAN_LIMIT = 16;
export const SPAN_MASK = 20;
export const SPAN_NEXT = 24;
export const SPAN_JUMP = 28;
export const SPAN_MIRROR = 32;
export const SPAN_FORMAT = 36;
export const SPAN_BYTES = 48;
/** Formats of sample data. */
export const FLOAT32 = 0;
export const INT16 = 1;
export const INT24 = 2;

/** An interpolation bank: a header with its number of taps, then for each phase its taps and their slopes over the phase. */
export const BANK_TAPS = 0;
export const BANK_ROWS = 16;
export const PHASE_BITS = 8;
export const PHASES = 256;

/** Frames between two control steps. */
export const CONTROL = 32;
