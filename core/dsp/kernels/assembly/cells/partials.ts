// Up to 256 sines of each voice by Goertzel's recurrence in Reinsch's form (J. Stoer and R. Bulirsch, 1980, 1.3), which stays exact at low frequencies: two of each
// voice in a vector, [first A, second A, first B, second B]. It begins anew from a phase that is counted in whole numbers before what rounding adds up to is heard.
import {
  CELL_INPUTS, CELL_SIZE, CELL_STATE, CELL_TABLE, CELL_VARIANT, CONTROL, INPUT_BYTES, MOVING, OWN_ROWS, ROW_BYTES, SUMS, TABLE_ROWS, VOICE_A, VOICE_B,
} from "../../layout";
import { add, flush, madd, mul, num, sub } from "../arithmetic";
import { finish, targetOf } from "../cell";
import { cosine, exp2, lanesOf, sine, sineOf } from "../functions";

/**
 * Cycles per frame of the fundamental; level; by how many octaves of level each octave of ratio is louder; how many octaves more each octave of ratio is; how far
 * to the sides their places are; how much louder the odd (below 0) or the even ones are; by how many octaves all decays are longer, and each octave of ratio
 * shorter; how far their phases are apart at the beginning; how many times as fast they rise. Then the numbers of rows that voices have of their own.
 */
const OWN = 10, NUMBERS = 7;
export const INPUTS: i32 = OWN + OWN_ROWS * NUMBERS;
const CYCLES = 0, LEVEL = 1, TILT = 2, STRETCH = 3, SPREAD = 4, ODD = 5, LONGER = 6, DAMPING = 7, SCATTER = 8, QUICKER = 9;
// Of a row: log2 of its ratio, octaves beside it, level, place, 1 if it is an even harmonic and −1 an odd one, log2 of the octaves by which it falls in a frame, how far it rises in one (0: at once).
const OCTAVES = 0, BESIDE = 1, LOUD = 2, SIDE = 3, EVEN = 4, FALL = 5, RISE = 6;
// Bits of the variant: they have places; they die away; they rise.
const PLACED = 1, DYING = 2, RISING = 4;
// Frames since each voice began, and since its sines began from their phases (whole numbers); then of each vector its phase and its turn in a frame (2³² are one
// turn), twice the sine of half that turn, its sine now and how far it is to the next, its level now to the left and to the right, and the steps of these; where its
// levels would be at the next control step if it hadn't to rise, by what they fall in one, and how far it rises in a frame.
const AGES: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const SINCE: usize = AGES + 16;
// Whether all levels stand still.
const AT_REST: usize = SINCE + 16;
const HEAD: usize = AT_REST + 16;
const PHASE = 0, TURN = 16, HALF = 32, SINE = 48, GAP = 64, LEFT = 80, LEFT_STEP = 96, RIGHT = 112, RIGHT_STEP = 128;
const ALL_LEFT = 144, ALL_RIGHT = 160, FALLS = 176, RISES = 192, BYTES = 208;
const SIDE_SUMS = 2048;
// So many frames the sines of what rests go on before they begin anew, for their turn is rounded; the faster ones (from a fifth of the rate on), which that
// leads further astray, begin anew at each control step.
const LASTING = 128;
const FAST: f32 = 1.3;
// Below −120 dB nothing of it is heard.
const OVER: f32 = 1e-6;

/** `size`: vectors, of two partials each. */
export function bytes(size: i32): i32 { return <i32>HEAD + size * BYTES; }

// One number of the two rows of a vector, for both voices.
// @ts-ignore: decorator
@inline function common(row: usize, n: i32): v128 {
  const at = row + <usize>(n << 2);
  return v128.shuffle<f32>(v128.load32_splat(at), v128.load32_splat(at + ROW_BYTES), 0, 4, 0, 4);
}

// The same, where voices may have numbers of their own.
function ownNumber(cell: usize, table: usize, vector: i32, n: i32): v128 {
  let x = common(table + TABLE_ROWS + <usize>vector * (2 * ROW_BYTES), n);
  for (let s = 0; s < OWN_ROWS; s++) {
    const row = load<i32>(table + <usize>(s << 2));
    if (row < 0 || row >> 1 != vector) continue;
    x = v128.bitselect(targetOf(cell, OWN + s * NUMBERS + n), x, row & 1 ? i32x4(0, -1, 0, -1) : i32x4(-1, 0, -1, 0));
  }
  return x;
}

// Aims one vector: its turn at once, its levels for the next control step.
function aim(cell: usize, at: usize, vector: i32, own: bool): void {
  const table = <usize>load<u32>(cell + CELL_TABLE);
  const row = table + TABLE_ROWS + <usize>vector * (2 * ROW_BYTES);
  const variant = load<i32>(cell + CELL_VARIANT);
  const octaves = own ? ownNumber(cell, table, vector, OCTAVES) : common(row, OCTAVES);
  const beside = own ? ownNumber(cell, table, vector, BESIDE) : common(row, BESIDE);
  const loud = own ? ownNumber(cell, table, vector, LOUD) : common(row, LOUD);
  const even = own ? ownNumber(cell, table, vector, EVEN) : common(row, EVEN);
  const cycles = mul(targetOf(cell, CYCLES), exp2(add(beside, madd(octaves, targetOf(cell, STRETCH), octaves))));
  // Towards half the rate it fades.
  const room = f32x4.pmin(num(1), f32x4.pmax(num(0), mul(sub(num(0.5), cycles), num(20))));
  const kept = f32x4.pmin(num(1), f32x4.pmax(num(0), madd(even, targetOf(cell, ODD), num(1))));
  let level = mul(mul(loud, targetOf(cell, LEVEL)), mul(mul(room, kept), exp2(mul(octaves, targetOf(cell, TILT)))));
  if (variant & DYING) {
    const fall = own ? ownNumber(cell, table, vector, FALL) : common(row, FALL);
    const speed = exp2(f32x4.pmax(num(-120), f32x4.pmin(num(4), sub(madd(octaves, targetOf(cell, DAMPING), fall), targetOf(cell, LONGER)))));
    level = mul(level, exp2(f32x4.pmax(num(-120), sub(num(0), mul(speed, v128.load(cell + AGES))))));
    v128.store(at, exp2(f32x4.pmax(num(-120), mul(speed, num(<f32>-CONTROL)))), FALLS);
  }
  if (variant & RISING) v128.store(at, mul(own ? ownNumber(cell, table, vector, RISE) : common(row, RISE), targetOf(cell, QUICKER)), RISES);
  const turn = f32x4.pmin(num(0.5), cycles);
  v128.store(at, i32x4.trunc_sat_f32x4_s(mul(turn, num(4294967296.0))), TURN);
  v128.store(at, mul(num(2), sine(mul(turn, num(3.141592653589793)))), HALF);
  if (variant & PLACED) {
    const side = own ? ownNumber(cell, table, vector, SIDE) : common(row, SIDE);
    const place = f32x4.pmin(num(1), f32x4.pmax(num(-1), mul(side, targetOf(cell, SPREAD))));
    const angle = mul(add(place, num(1)), num(0.7853981633974483));
    v128.store(at, mul(level, mul(num(1.4142135623730951), cosine(angle))), ALL_LEFT);
    v128.store(at, mul(level, mul(num(1.4142135623730951), sine(angle))), ALL_RIGHT);
  } else v128.store(at, level, ALL_LEFT);
}

// What its levels are so far of where they would be.
// @ts-ignore: decorator
@inline function risenOf(cell: usize, at: usize, variant: i32): v128 {
  if (!(variant & RISING)) return num(1);
  const rise = v128.load(at, RISES);
  return v128.bitselect(f32x4.pmin(num(1), mul(rise, v128.load(cell + AGES))), num(1), f32x4.gt(rise, num(0)));
}

// Phases apart by a law that leaves little of a peak (Schroeder, 1970): the n-th of N begins n²/2N of a turn late.
// @ts-ignore: decorator
@inline function phaseOf(vector: i32, size: i32): v128 {
  const first = <f32>(vector * 2), second = first + 1, each = <f32>1 / <f32>(size * 4);
  const a = first * first * each, b = second * second * each;
  const turns = f32x4(a, b, a, b);
  return sub(turns, f32x4.floor(turns));
}

// Sine and gap of a vector, `since` frames after its phase, as its turn says.
// @ts-ignore: decorator
@inline function start(at: usize, since: v128): void {
  const turn = v128.load(at, TURN);
  const phase = v128.add<i32>(v128.load(at, PHASE), v128.mul<i32>(turn, since));
  v128.store(at, sineOf(phase), SINE);
  const between = v128.add<i32>(v128.add<i32>(phase, v128.shr<u32>(turn, 1)), i32x4.splat(0x40000000));
  v128.store(at, mul(v128.load(at, HALF), sineOf(between)), GAP);
}

function beginVector(cell: usize, at: usize, vector: i32, size: i32, lanes: v128, own: bool): void {
  const turn = v128.load(at, TURN), half = v128.load(at, HALF), was = v128.load(at, SINE), gap = v128.load(at, GAP);
  const variant = load<i32>(cell + CELL_VARIANT);
  aim(cell, at, vector, own);
  const risen = risenOf(cell, at, variant);
  v128.store(at, v128.bitselect(mul(v128.load(at, ALL_LEFT), risen), v128.load(at, LEFT), lanes), LEFT);
  v128.store(at, v128.andnot(v128.load(at, LEFT_STEP), lanes), LEFT_STEP);
  if (variant & PLACED) {
    v128.store(at, v128.bitselect(mul(v128.load(at, ALL_RIGHT), risen), v128.load(at, RIGHT), lanes), RIGHT);
    v128.store(at, v128.andnot(v128.load(at, RIGHT_STEP), lanes), RIGHT_STEP);
  }
  const turns = mul(targetOf(cell, SCATTER), phaseOf(vector, size));
  const phase = i32x4.trunc_sat_f32x4_s(mul(sub(turns, f32x4.nearest(turns)), num(4294967040.0)));
  v128.store(at, v128.bitselect(phase, v128.load(at, PHASE), lanes), PHASE);
  start(at, num(0));
  // The other voice goes on as it was.
  v128.store(at, v128.bitselect(v128.load(at, TURN), turn, lanes), TURN);
  v128.store(at, v128.bitselect(v128.load(at, HALF), half, lanes), HALF);
  v128.store(at, v128.bitselect(v128.load(at, SINE), was, lanes), SINE);
  v128.store(at, v128.bitselect(v128.load(at, GAP), gap, lanes), GAP);
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const lanes = lanesOf(side);
  v128.store(cell + AGES, v128.andnot(v128.load(cell + AGES), lanes));
  v128.store(cell + SINCE, v128.andnot(v128.load(cell + SINCE), lanes));
  store<i32>(cell + AT_REST, 0);
  const size = load<i32>(cell + CELL_SIZE);
  const table = <usize>load<u32>(cell + CELL_TABLE);
  for (let i = 0; i < size; i++) beginVector(cell, cell + HEAD + <usize>i * BYTES, i, size, lanes, false);
  for (let s = 0; s < OWN_ROWS; s++) {
    const row = load<i32>(table + <usize>(s << 2));
    if (row >= 0 && row >> 1 < size) beginVector(cell, cell + HEAD + <usize>(row >> 1) * BYTES, row >> 1, size, lanes, true);
  }
}

// @ts-ignore: decorator
@inline function isFast(at: usize): bool { return v128.any_true(f32x4.gt(v128.load(at, HALF), num(FAST))); }

export function control(cell: usize, pair: usize, frames: i32): void {
  const size = load<i32>(cell + CELL_SIZE);
  const variant = load<i32>(cell + CELL_VARIANT);
  const dying = (variant & DYING) != 0, placed = (variant & PLACED) != 0;
  const moved = load<i32>(cell + CELL_STATE) == MOVING;
  const levels = moved || (variant & (DYING | RISING)) != 0;
  v128.store(cell + AGES, add(v128.load(cell + AGES), num(<f32>frames)));
  let since = v128.load(cell + SINCE);
  const anew = moved || v128.any_true(i32x4.ge_s(since, i32x4.splat(LASTING)));
  const past = cell + HEAD + <usize>size * BYTES;
  if (!levels && !anew && load<i32>(cell + AT_REST)) {
    for (let at = cell + HEAD; at < past; at += BYTES) if (isFast(at)) start(at, since);
    return;
  }
  store<i32>(cell + AT_REST, levels ? 0 : 1);
  if (anew) {
    for (let at = cell + HEAD; at < past; at += BYTES)
      v128.store(at, v128.add<i32>(v128.load(at, PHASE), v128.mul<i32>(v128.load(at, TURN), since)), PHASE);
    since = num(0);
    v128.store(cell + SINCE, since);
  }
  if (moved) {
    for (let i = 0; i < size; i++) aim(cell, cell + HEAD + <usize>i * BYTES, i, false);
    const table = <usize>load<u32>(cell + CELL_TABLE);
    for (let s = 0; s < OWN_ROWS; s++) {
      const row = load<i32>(table + <usize>(s << 2));
      if (row >= 0 && row >> 1 < size) aim(cell, cell + HEAD + <usize>(row >> 1) * BYTES, row >> 1, true);
    }
  } else if (dying)
    for (let at = cell + HEAD; at < past; at += BYTES) {
      const falls = v128.load(at, FALLS);
      v128.store(at, flush(mul(v128.load(at, ALL_LEFT), falls)), ALL_LEFT);
      if (placed) v128.store(at, flush(mul(v128.load(at, ALL_RIGHT), falls)), ALL_RIGHT);
    }
  // What stands still is exactly where it is to be: the next look at it may be long after.
  const inverse = levels ? num(<f32>1 / <f32>frames) : num(0);
  let most = num(0);
  for (let at = cell + HEAD; at < past; at += BYTES) {
    if (anew || isFast(at)) start(at, since);
    const risen = risenOf(cell, at, variant);
    const left = v128.load(at, ALL_LEFT);
    if (!levels) v128.store(at, left, LEFT);
    most = f32x4.pmax(most, f32x4.abs(left));
    v128.store(at, mul(sub(mul(left, risen), v128.load(at, LEFT)), inverse), LEFT_STEP);
    if (!placed) continue;
    const right = v128.load(at, ALL_RIGHT);
    if (!levels) v128.store(at, right, RIGHT);
    most = f32x4.pmax(most, f32x4.abs(right));
    v128.store(at, mul(sub(mul(right, risen), v128.load(at, RIGHT)), inverse), RIGHT_STEP);
  }
  // One that has only begun to rise isn't over.
  if (!dying) return;
  const over = i32x4.bitmask(f32x4.lt(most, num(OVER)));
  if ((over & 3) == 3) finish(pair + VOICE_A);
  if ((over & 12) == 12) finish(pair + VOICE_B);
}

// By so much of itself the gap shrinks with each frame.
// @ts-ignore: decorator
@inline function bendOf(at: usize): v128 {
  const half = v128.load(at, HALF);
  return sub(num(0), mul(half, half));
}

// One vector over the frames, added to the sums.
function one(placed: bool, at: usize, sums: usize, end: usize): void {
  let left = v128.load(at, LEFT), right = v128.load(at, RIGHT), y = v128.load(at, SINE), d = v128.load(at, GAP);
  const leftStep = v128.load(at, LEFT_STEP), rightStep = v128.load(at, RIGHT_STEP), bend = bendOf(at);
  for (let sum = sums; sum < end; sum += 16) {
    v128.store(sum, madd(left, y, v128.load(sum)));
    left = add(left, leftStep);
    if (placed) {
      v128.store(sum, madd(right, y, v128.load(sum, SIDE_SUMS)), SIDE_SUMS);
      right = add(right, rightStep);
    }
    y = add(y, d);
    d = madd(bend, y, d);
  }
  v128.store(at, left, LEFT);
  if (placed) v128.store(at, right, RIGHT);
  v128.store(at, y, SINE);
  v128.store(at, d, GAP);
}

// Four vectors at once: the sums are read and written once for all of them. `moves`: whether any of their levels does.
// @ts-ignore: decorator
@inline function together(moves: bool, at: usize, sums: usize, end: usize): void {
  const b = at + BYTES, c = b + BYTES, e = c + BYTES;
  let l1 = v128.load(at, LEFT), y1 = v128.load(at, SINE), d1 = v128.load(at, GAP);
  let l2 = v128.load(b, LEFT), y2 = v128.load(b, SINE), d2 = v128.load(b, GAP);
  let l3 = v128.load(c, LEFT), y3 = v128.load(c, SINE), d3 = v128.load(c, GAP);
  let l4 = v128.load(e, LEFT), y4 = v128.load(e, SINE), d4 = v128.load(e, GAP);
  const k1 = bendOf(at), k2 = bendOf(b), k3 = bendOf(c), k4 = bendOf(e);
  for (let sum = sums; sum < end; sum += 16) {
    v128.store(sum, madd(l4, y4, madd(l3, y3, madd(l2, y2, madd(l1, y1, v128.load(sum))))));
    y1 = add(y1, d1);
    y2 = add(y2, d2);
    y3 = add(y3, d3);
    y4 = add(y4, d4);
    d1 = madd(k1, y1, d1);
    d2 = madd(k2, y2, d2);
    d3 = madd(k3, y3, d3);
    d4 = madd(k4, y4, d4);
    if (moves) {
      l1 = add(l1, v128.load(at, LEFT_STEP));
      l2 = add(l2, v128.load(b, LEFT_STEP));
      l3 = add(l3, v128.load(c, LEFT_STEP));
      l4 = add(l4, v128.load(e, LEFT_STEP));
    }
  }
  if (moves) {
    v128.store(at, l1, LEFT);
    v128.store(b, l2, LEFT);
    v128.store(c, l3, LEFT);
    v128.store(e, l4, LEFT);
  }
  v128.store(at, y1, SINE); v128.store(at, d1, GAP);
  v128.store(b, y2, SINE); v128.store(b, d2, GAP);
  v128.store(c, y3, SINE); v128.store(c, d3, GAP);
  v128.store(e, y4, SINE); v128.store(e, d4, GAP);
}

// @ts-ignore: decorator
@inline function stepsOf(at: usize): v128 { return v128.or(v128.load(at, LEFT_STEP), v128.load(at + BYTES, LEFT_STEP)); }

function four(at: usize, sums: usize, end: usize): void {
  if (v128.any_true(v128.or(stepsOf(at), stepsOf(at + 2 * BYTES)))) together(true, at, sums, end);
  else together(false, at, sums, end);
}

// Two vectors that have places at once.
function twoPlaced(at: usize, sums: usize, end: usize): void {
  const b = at + BYTES;
  let l1 = v128.load(at, LEFT), r1 = v128.load(at, RIGHT), y1 = v128.load(at, SINE), d1 = v128.load(at, GAP);
  let l2 = v128.load(b, LEFT), r2 = v128.load(b, RIGHT), y2 = v128.load(b, SINE), d2 = v128.load(b, GAP);
  const k1 = bendOf(at), k2 = bendOf(b);
  for (let sum = sums; sum < end; sum += 16) {
    v128.store(sum, madd(l2, y2, madd(l1, y1, v128.load(sum))));
    v128.store(sum, madd(r2, y2, madd(r1, y1, v128.load(sum, SIDE_SUMS))), SIDE_SUMS);
    y1 = add(y1, d1);
    y2 = add(y2, d2);
    d1 = madd(k1, y1, d1);
    d2 = madd(k2, y2, d2);
    l1 = add(l1, v128.load(at, LEFT_STEP));
    r1 = add(r1, v128.load(at, RIGHT_STEP));
    l2 = add(l2, v128.load(b, LEFT_STEP));
    r2 = add(r2, v128.load(b, RIGHT_STEP));
  }
  v128.store(at, l1, LEFT); v128.store(at, r1, RIGHT); v128.store(at, y1, SINE); v128.store(at, d1, GAP);
  v128.store(b, l2, LEFT); v128.store(b, r2, RIGHT); v128.store(b, y2, SINE); v128.store(b, d2, GAP);
}

// Whether anything of a vector is heard: what isn't needn't turn, for where it begins again nobody knows its phase.
// @ts-ignore: decorator
@inline function isHeard(at: usize): bool {
  return v128.any_true(v128.or(v128.or(v128.load(at, LEFT), v128.load(at, LEFT_STEP)), v128.or(v128.load(at, RIGHT), v128.load(at, RIGHT_STEP))));
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const sums = block + SUMS;
  const bytes = <usize>frames << 4;
  const end = sums + bytes;
  const placed = (load<i32>(cell + CELL_VARIANT) & PLACED) != 0;
  memory.fill(sums, 0, bytes);
  if (placed) memory.fill(sums + SIDE_SUMS, 0, bytes);
  v128.store(cell + SINCE, v128.add<i32>(v128.load(cell + SINCE), i32x4.splat(frames)));
  const past = cell + HEAD + <usize>load<i32>(cell + CELL_SIZE) * BYTES;
  let at = cell + HEAD;
  if (placed) {
    for (; at + 2 * BYTES <= past; at += 2 * BYTES) if (isHeard(at) || isHeard(at + BYTES)) twoPlaced(at, sums, end);
  } else
    for (; at + 4 * BYTES <= past; at += 4 * BYTES)
      if (isHeard(at) || isHeard(at + BYTES) || isHeard(at + 2 * BYTES) || isHeard(at + 3 * BYTES)) four(at, sums, end);
  for (; at < past; at += BYTES)
    if (isHeard(at)) {
      if (placed) one(true, at, sums, end);
      else one(false, at, sums, end);
    }
  for (let sum = sums; sum < end; sum += 16) {
    const x = v128.load(sum);
    const l = add(x, v128.shuffle<f32>(x, x, 1, 0, 3, 2));
    if (placed) {
      const z = v128.load(sum, SIDE_SUMS);
      v128.store(block, v128.shuffle<f32>(l, add(z, v128.shuffle<f32>(z, z, 1, 0, 3, 2)), 0, 4, 2, 6));
    } else v128.store(block, l);
    block += 16;
  }
}
