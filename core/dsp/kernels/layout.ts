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
/** How many cells the pair has (some of them may be absent), and the bus to which it is added. */
export const CELL_COUNT = 208;
export const BUS = 212;
/** Address of the pair's first cell; the others follow it in a row. */
export const CELLS = 216;
/** A bit for each lane whose numbers were too large, or none at all: the engine ends such a voice. */
export const BROKEN_LANES = 220;
/** What the chain put out at the loudest since the last control step, lane by lane, while a voice of the pair has finished. */
export const PEAK = 224;
/** 1: the first cell is the source; 0: samples are read. */
export const COMPUTED = 240;
/** Of each voice a number by which its noise differs from others'. */
export const SEED_A = 244;
export const SEED_B = 248;
/** Where the pair leaves what it puts out for other layers, frame by frame; 0: nobody listens. */
export const TAP = 252;
/** Where the squares of its peaks are added, one number for what the samples' reader puts out and one for each cell; 0: nobody looks. */
export const METER = 256;
/** Where somebody looks: the square of how loud each voice of the pair was behind its last cell, in the last segment. */
export const HEARD_A = 260;
export const HEARD_B = 264;
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

/**
 * A cell makes or changes the sound of both voices of a pair: a section of a filter, or one of the kernels in assembly/cells. All begin with their
 * kind, their state (of the inputs) and the bytes to the next cell.
 */
export const CELL_KIND = 0;
export const CELL_STATE = 4;
export const CELL_BYTES = 12;
/** Beside STEADY, MOVED and MOVING: the cell's memory came from another pair's, so that who begins goes on with it. */
export const KEPT = 4;
/** The kinds from here on are kernels of assembly/cells; those below are sections of filters. */
export const FIRST_CELL = 8;
/** Of a kernel's cell: the size of its memory as the kernel counts it, a table that all voices share (0: none), and which of its variants it is. */
export const CELL_SIZE = 16;
export const CELL_TABLE = 20;
export const CELL_VARIANT = 24;
/** Where what another layer's voice puts out in this segment stands, for each voice: left and right in every 16 bytes; 0 for none. */
export const FROM_A = 28;
export const FROM_B = 44;
/** How much of the sound goes through it, 0 to 1: now, its step per frame, where it is to be. */
export const WET = 32;
export const WET_STEP = 36;
export const WET_TARGET = 40;
/** Frames in which it comes in or goes out, as a float. */
export const CELL_SPLICE = 48;
/** 1: while it comes in, the sound past it isn't heard: what it stands in is faded in itself. */
export const CELL_ALONE = 52;
/** Its inputs, a vector each: where it is to be at the next control step, where it is, its step per frame. The kernel's memory follows them. */
export const CELL_INPUTS = 64;
export const INPUT_BYTES = 48;

/**
 * A table of rows that all voices of a layer share. Its head: of which row each voice has its own numbers (the row's number, −1 for none), and how much all
 * levels together are above one; then the rows, each of a few floats. Own numbers are inputs of the cell, behind its others.
 */
export const OWN_ROWS = 8;
export const TABLE_EVEN = 32;
export const TABLE_ROWS = 48;
export const ROW_BYTES = 32;

/** At the beginning of the memory: how many frames of voices have been rendered, as a whole number that goes round. */
export const CLOCK = 28;
/** And how many have passed since the engine began, whether anything sounded or not. */
export const TIME = 24;

/** What voices are computed in: the block, the block before a cell that comes in or goes out, and sums. */
export const BLOCK_BYTES = 2048;
export const DRY = 2048;
export const SUMS = 4096;
export const BENCH_BYTES = 8192;

/** A section of a filter, for both voices. Inputs (vectors) are what the engine sets; coefficients are value and step. */
export const SECTION_BYTES = 464;
export const MOST_PAIRS = 288;
/** Apart from the poles, the weights of the outputs: they seldom move. */
export const WEIGHT_STATE = 8;
/** log2 of cutoff / sample rate; damping or feedback; drive; up to five weights of the outputs. */
export const IN_PITCH = 16;
export const IN_K = 32;
export const IN_DRIVE = 48;
export const IN_WEIGHT = 64;
export const COEFFICIENTS = 144;
export const SECTION_MEMORY = 400;
export const PAIR_BYTES = 320;
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
/** What is read is multiplied by the gain at the limit, and by so much more for each frame before it (floats). */
export const SPAN_GAIN = 40;
export const SPAN_SLOPE = 44;
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
