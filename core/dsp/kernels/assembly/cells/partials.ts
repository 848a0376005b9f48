// Up to 256 sines of each voice as complex numbers that turn (Mathews and Smith, 2003), two of each voice in a vector: [first A, second A, first B, second B].
import {
  CELL_INPUTS, CELL_SIZE, CELL_STATE, CELL_TABLE, CELL_VARIANT, INPUT_BYTES, MOVING, OWN_ROWS, ROW_BYTES, SUMS, TABLE_ROWS, VOICE_A, VOICE_B,
} from "../../layout";
import { add, madd, mul, num, sub } from "../arithmetic";
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
// Frames since each voice began; then of each vector its two parts, cosine and sine of its turn, its level now to the left and to the right, and the steps of these.
const AGES: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const HEAD: usize = AGES + 16;
const RE = 0, IM = 16, COS = 32, SIN = 48, LEFT = 64, LEFT_STEP = 80, RIGHT = 96, RIGHT_STEP = 112, BYTES = 128;
const SIDE_SUMS = 2048;
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

// Aims one vector: its turn at once; levels are left at LEFT_STEP and RIGHT_STEP, from where the caller takes them. What it is at the loudest is given back.
function aim(cell: usize, at: usize, vector: i32, own: bool): v128 {
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
  }
  // One that has only begun to rise isn't over.
  const loudest = level;
  if (variant & RISING) {
    const rise = mul(own ? ownNumber(cell, table, vector, RISE) : common(row, RISE), targetOf(cell, QUICKER));
    const risen = f32x4.pmin(num(1), mul(rise, v128.load(cell + AGES)));
    level = mul(level, v128.bitselect(risen, num(1), f32x4.gt(rise, num(0))));
  }
  const half = mul(f32x4.pmin(num(0.5), cycles), num(3.141592653589793));
  const s = sine(half);
  const c = cosine(half);
  v128.store(at, sub(num(1), mul(num(2), mul(s, s))), COS);
  v128.store(at, mul(num(2), mul(s, c)), SIN);
  if (variant & PLACED) {
    const side = own ? ownNumber(cell, table, vector, SIDE) : common(row, SIDE);
    const place = f32x4.pmin(num(1), f32x4.pmax(num(-1), mul(side, targetOf(cell, SPREAD))));
    const angle = mul(add(place, num(1)), num(0.7853981633974483));
    v128.store(at, mul(level, mul(num(1.4142135623730951), cosine(angle))), LEFT_STEP);
    v128.store(at, mul(level, mul(num(1.4142135623730951), sine(angle))), RIGHT_STEP);
  } else {
    v128.store(at, level, LEFT_STEP);
    v128.store(at, num(0), RIGHT_STEP);
  }
  return loudest;
}

// Phases apart by a law that leaves little of a peak (Schroeder, 1970): the n-th of N begins n²/2N of a turn late.
// @ts-ignore: decorator
@inline function phaseOf(vector: i32, size: i32): v128 {
  const first = <f32>(vector * 2), second = first + 1, each = <f32>1 / <f32>(size * 4);
  const a = first * first * each, b = second * second * each;
  const turns = f32x4(a, b, a, b);
  return sub(turns, f32x4.floor(turns));
}

function beginVector(cell: usize, at: usize, vector: i32, size: i32, lanes: v128, own: bool): void {
  const cos = v128.load(at, COS), sin = v128.load(at, SIN);
  const left = v128.load(at, LEFT_STEP), right = v128.load(at, RIGHT_STEP);
  aim(cell, at, vector, own);
  v128.store(at, v128.bitselect(v128.load(at, COS), cos, lanes), COS);
  v128.store(at, v128.bitselect(v128.load(at, SIN), sin, lanes), SIN);
  v128.store(at, v128.bitselect(v128.load(at, LEFT_STEP), v128.load(at, LEFT), lanes), LEFT);
  v128.store(at, v128.bitselect(v128.load(at, RIGHT_STEP), v128.load(at, RIGHT), lanes), RIGHT);
  v128.store(at, v128.andnot(left, lanes), LEFT_STEP);
  v128.store(at, v128.andnot(right, lanes), RIGHT_STEP);
  const scatter = targetOf(cell, SCATTER);
  const turns = mul(scatter, phaseOf(vector, size));
  const phase = i32x4.trunc_sat_f32x4_s(mul(sub(turns, f32x4.nearest(turns)), num(4294967040.0)));
  const quarter = v128.add<i32>(phase, i32x4.splat(0x40000000));
  v128.store(at, v128.bitselect(sineOf(quarter), v128.load(at, RE), lanes), RE);
  v128.store(at, v128.bitselect(sineOf(phase), v128.load(at, IM), lanes), IM);
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const lanes = lanesOf(side);
  v128.store(cell + AGES, v128.andnot(v128.load(cell + AGES), lanes));
  const size = load<i32>(cell + CELL_SIZE);
  const table = <usize>load<u32>(cell + CELL_TABLE);
  for (let i = 0; i < size; i++) beginVector(cell, cell + HEAD + <usize>i * BYTES, i, size, lanes, false);
  for (let s = 0; s < OWN_ROWS; s++) {
    const row = load<i32>(table + <usize>(s << 2));
    if (row >= 0 && row >> 1 < size) beginVector(cell, cell + HEAD + <usize>(row >> 1) * BYTES, row >> 1, size, lanes, true);
  }
}

export function control(cell: usize, pair: usize, frames: i32): void {
  const size = load<i32>(cell + CELL_SIZE);
  const inverse = num(<f32>1 / <f32>frames);
  const variant = load<i32>(cell + CELL_VARIANT);
  const dying = (variant & DYING) != 0, placed = (variant & PLACED) != 0;
  const moving = (variant & (DYING | RISING)) != 0 || load<i32>(cell + CELL_STATE) == MOVING;
  v128.store(cell + AGES, add(v128.load(cell + AGES), num(<f32>frames)));
  let most = num(0);
  for (let i = 0; i < size; i++) {
    const at = cell + HEAD + <usize>i * BYTES;
    if (moving) most = f32x4.pmax(most, f32x4.abs(aim(cell, at, i, false)));
    else {
      v128.store(at, v128.load(at, LEFT), LEFT_STEP);
      v128.store(at, v128.load(at, RIGHT), RIGHT_STEP);
    }
    // Rounding makes it longer or shorter in the long run.
    const re = v128.load(at, RE), im = v128.load(at, IM);
    const right = mul(num(0.5), sub(num(3), madd(re, re, mul(im, im))));
    v128.store(at, mul(re, right), RE);
    v128.store(at, mul(im, right), IM);
  }
  const table = <usize>load<u32>(cell + CELL_TABLE);
  if (moving)
    for (let s = 0; s < OWN_ROWS; s++) {
      const row = load<i32>(table + <usize>(s << 2));
      if (row >= 0 && row >> 1 < size) most = f32x4.pmax(most, f32x4.abs(aim(cell, cell + HEAD + <usize>(row >> 1) * BYTES, row >> 1, true)));
    }
  for (let i = 0; i < size; i++) {
    const at = cell + HEAD + <usize>i * BYTES;
    v128.store(at, mul(sub(v128.load(at, LEFT_STEP), v128.load(at, LEFT)), inverse), LEFT_STEP);
    if (placed) v128.store(at, mul(sub(v128.load(at, RIGHT_STEP), v128.load(at, RIGHT)), inverse), RIGHT_STEP);
  }
  if (!dying) return;
  const over = i32x4.bitmask(f32x4.lt(most, num(OVER)));
  if ((over & 3) == 3) finish(pair + VOICE_A);
  if ((over & 12) == 12) finish(pair + VOICE_B);
}

// One vector over the frames, added to the sums.
function one(placed: bool, at: usize, sums: usize, end: usize): void {
  let left = v128.load(at, LEFT), right = v128.load(at, RIGHT), re = v128.load(at, RE), im = v128.load(at, IM);
  const leftStep = v128.load(at, LEFT_STEP), rightStep = v128.load(at, RIGHT_STEP), c = v128.load(at, COS), s = v128.load(at, SIN);
  for (let sum = sums; sum < end; sum += 16) {
    v128.store(sum, madd(left, im, v128.load(sum)));
    left = add(left, leftStep);
    if (placed) {
      v128.store(sum, madd(right, im, v128.load(sum, SIDE_SUMS)), SIDE_SUMS);
      right = add(right, rightStep);
    }
    const next = sub(mul(re, c), mul(im, s));
    im = madd(re, s, mul(im, c));
    re = next;
  }
  v128.store(at, left, LEFT);
  if (placed) v128.store(at, right, RIGHT);
  v128.store(at, re, RE);
  v128.store(at, im, IM);
}

// Four vectors at once: the sums are read and written once for all of them.
function four(at: usize, sums: usize, end: usize): void {
  const b = at + BYTES, d = b + BYTES, e = d + BYTES;
  let l1 = v128.load(at, LEFT), r1 = v128.load(at, RE), i1 = v128.load(at, IM);
  let l2 = v128.load(b, LEFT), r2 = v128.load(b, RE), i2 = v128.load(b, IM);
  let l3 = v128.load(d, LEFT), r3 = v128.load(d, RE), i3 = v128.load(d, IM);
  let l4 = v128.load(e, LEFT), r4 = v128.load(e, RE), i4 = v128.load(e, IM);
  for (let sum = sums; sum < end; sum += 16) {
    v128.store(sum, madd(l4, i4, madd(l3, i3, madd(l2, i2, madd(l1, i1, v128.load(sum))))));
    let c = v128.load(at, COS), s = v128.load(at, SIN);
    let next = sub(mul(r1, c), mul(i1, s));
    i1 = madd(r1, s, mul(i1, c));
    r1 = next;
    l1 = add(l1, v128.load(at, LEFT_STEP));
    c = v128.load(b, COS);
    s = v128.load(b, SIN);
    next = sub(mul(r2, c), mul(i2, s));
    i2 = madd(r2, s, mul(i2, c));
    r2 = next;
    l2 = add(l2, v128.load(b, LEFT_STEP));
    c = v128.load(d, COS);
    s = v128.load(d, SIN);
    next = sub(mul(r3, c), mul(i3, s));
    i3 = madd(r3, s, mul(i3, c));
    r3 = next;
    l3 = add(l3, v128.load(d, LEFT_STEP));
    c = v128.load(e, COS);
    s = v128.load(e, SIN);
    next = sub(mul(r4, c), mul(i4, s));
    i4 = madd(r4, s, mul(i4, c));
    r4 = next;
    l4 = add(l4, v128.load(e, LEFT_STEP));
  }
  v128.store(at, l1, LEFT); v128.store(at, r1, RE); v128.store(at, i1, IM);
  v128.store(b, l2, LEFT); v128.store(b, r2, RE); v128.store(b, i2, IM);
  v128.store(d, l3, LEFT); v128.store(d, r3, RE); v128.store(d, i3, IM);
  v128.store(e, l4, LEFT); v128.store(e, r4, RE); v128.store(e, i4, IM);
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
  const past = cell + HEAD + <usize>load<i32>(cell + CELL_SIZE) * BYTES;
  let at = cell + HEAD;
  if (!placed)
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
