// Up to 128 resonances driven by what comes in: complex numbers that turn and die away (Mathews and Smith, 2003).
import { CELL_INPUTS, CELL_SIZE, CELL_STATE, CELL_TABLE, INPUT_BYTES, MOVING, OWN_ROWS, ROW_BYTES, SUMS, TABLE_EVEN, TABLE_ROWS } from "../../layout";
import { add, flush, madd, mul, num, sub } from "../arithmetic";
import { put, stepOf, targetOf, value } from "../cell";
import { cosine, exp2, lanesOf, sine, sineOf } from "../functions";

/**
 * Cycles per frame of the ratio 1; by how much all decays are longer, as a logarithm to base 2; by how many octaves a decay is shorter with each octave of
 * ratio; octaves more with each octave of ratio; gain of what they give; how much of them is heard; where it is hit, as a share of its length, and how much
 * that matters; how much of what all levels are above one is taken off; whether their decays are those of a material, and the octaves by which that lets any of
 * them fall in a frame, and how many more for each cycle per frame. Then the numbers of rows that voices have of their own.
 */
const OWN = 12, NUMBERS = 3;
export const INPUTS: i32 = OWN + OWN_ROWS * NUMBERS;
const CYCLES = 0, LONGER = 1, DAMPING = 2, STRETCH = 3, GAIN = 4, MIX = 5, PLACE = 6, PLACED = 7, EVENED = 8, MATERIAL = 9, LOSES = 10, LOSES_MORE = 11;
// Of a row: log2 of its ratio, level, and log2 of the octaves by which it falls in a frame.
const OCTAVES = 0, LOUD = 1, FALL = 2;
// Of each: its two parts, cosine and sine of its turn with what is left after a frame, and how far it is driven.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const RE = 0, IM = 16, COS = 32, SIN = 48, DRIVEN = 64, BYTES = 80;

/** `size`: how many. */
export function bytes(size: i32): i32 { return <i32>HEAD + size * BYTES; }

// @ts-ignore: decorator
@inline function aimTo(cell: usize, at: usize, octaves: v128, loud: v128, falls: v128, lanes: v128): void {
  const ratio = exp2(madd(octaves, targetOf(cell, STRETCH), octaves));
  const cycles = mul(targetOf(cell, CYCLES), ratio);
  const material = f32x4.gt(targetOf(cell, MATERIAL), num(0));
  // What a material loses by friction grows with the frequency (Wildes and Richards, 1988).
  const lost = v128.bitselect(madd(targetOf(cell, LOSES_MORE), cycles, targetOf(cell, LOSES)), num(1), material);
  const speed = sub(madd(octaves, targetOf(cell, DAMPING), v128.andnot(falls, material)), targetOf(cell, LONGER));
  const fall = f32x4.pmin(num(1), mul(lost, exp2(f32x4.pmin(num(16), speed))));
  const left = exp2(sub(num(0), fall));
  const half = mul(f32x4.pmin(num(0.5), cycles), num(3.141592653589793));
  const s = sine(half);
  const c = cosine(half);
  // As loud as each other when noise drives them, however long they ring; those above half the rate are left alone.
  const even = f32x4.sqrt(f32x4.pmax(num(0), mul(num(2), sub(num(1), mul(left, left)))));
  const heard = f32x4.lt(cycles, num(0.49));
  // Where a mode has a node it isn't driven: |sin(π·place·ratio)|.
  const turns = mul(mul(num(0.5), targetOf(cell, PLACE)), ratio);
  const there = f32x4.abs(sineOf(i32x4.trunc_sat_f32x4_s(mul(sub(turns, f32x4.nearest(turns)), num(4294967040.0)))));
  const reached = madd(targetOf(cell, PLACED), sub(there, num(1)), num(1));
  const driven = v128.and(mul(mul(loud, reached), even), heard);
  v128.store(at, v128.bitselect(mul(left, sub(num(1), mul(num(2), mul(s, s)))), v128.load(at, COS), lanes), COS);
  v128.store(at, v128.bitselect(mul(left, mul(num(2), mul(s, c))), v128.load(at, SIN), lanes), SIN);
  v128.store(at, v128.bitselect(driven, v128.load(at, DRIVEN), lanes), DRIVEN);
}

function aimAll(cell: usize, lanes: v128): void {
  const table = <usize>load<u32>(cell + CELL_TABLE);
  const size = load<i32>(cell + CELL_SIZE);
  let row = table + TABLE_ROWS;
  let at = cell + HEAD;
  for (let i = 0; i < size; i++) {
    aimTo(cell, at, v128.load32_splat(row), v128.load32_splat(row, LOUD * 4), v128.load32_splat(row, FALL * 4), lanes);
    row += ROW_BYTES;
    at += BYTES;
  }
  for (let s = 0; s < OWN_ROWS; s++) {
    const own = load<i32>(table + <usize>(s << 2));
    if (own < 0 || own >= size) continue;
    const first = OWN + s * NUMBERS;
    aimTo(cell, cell + HEAD + <usize>own * BYTES, targetOf(cell, first + OCTAVES), targetOf(cell, first + LOUD), targetOf(cell, first + FALL), lanes);
  }
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const lanes = lanesOf(side);
  aimAll(cell, lanes);
  const end = cell + bytes(load<i32>(cell + CELL_SIZE));
  for (let at = cell + HEAD; at < end; at += BYTES) {
    v128.store(at, v128.andnot(v128.load(at, RE), lanes), RE);
    v128.store(at, v128.andnot(v128.load(at, IM), lanes), IM);
  }
}

export function control(cell: usize, pair: usize, frames: i32): void {
  if (load<i32>(cell + CELL_STATE) == MOVING) aimAll(cell, i32x4.splat(-1));
  const end = cell + bytes(load<i32>(cell + CELL_SIZE));
  for (let at = cell + HEAD; at < end; at += BYTES) {
    v128.store(at, flush(v128.load(at, RE)), RE);
    v128.store(at, flush(v128.load(at, IM)), IM);
  }
}

// One mode over the frames, added to the sums.
function one(at: usize, block: usize, sums: usize, size: usize): void {
  let re = v128.load(at, RE), im = v128.load(at, IM);
  const c = v128.load(at, COS), s = v128.load(at, SIN), driven = v128.load(at, DRIVEN);
  for (let n: usize = 0; n < size; n += 16) {
    const next = madd(driven, v128.load(block + n), sub(mul(re, c), mul(im, s)));
    im = madd(re, s, mul(im, c));
    re = next;
    v128.store(sums + n, add(v128.load(sums + n), im));
  }
  v128.store(at, re, RE);
  v128.store(at, im, IM);
}

// Four at once: the sums are read and written once for all of them.
function four(at: usize, block: usize, sums: usize, size: usize): void {
  const b = at + BYTES, d = b + BYTES, e = d + BYTES;
  let r1 = v128.load(at, RE), i1 = v128.load(at, IM), r2 = v128.load(b, RE), i2 = v128.load(b, IM);
  let r3 = v128.load(d, RE), i3 = v128.load(d, IM), r4 = v128.load(e, RE), i4 = v128.load(e, IM);
  for (let n: usize = 0; n < size; n += 16) {
    const x = v128.load(block + n);
    let c = v128.load(at, COS), s = v128.load(at, SIN);
    let next = madd(v128.load(at, DRIVEN), x, sub(mul(r1, c), mul(i1, s)));
    i1 = madd(r1, s, mul(i1, c));
    r1 = next;
    c = v128.load(b, COS);
    s = v128.load(b, SIN);
    next = madd(v128.load(b, DRIVEN), x, sub(mul(r2, c), mul(i2, s)));
    i2 = madd(r2, s, mul(i2, c));
    r2 = next;
    c = v128.load(d, COS);
    s = v128.load(d, SIN);
    next = madd(v128.load(d, DRIVEN), x, sub(mul(r3, c), mul(i3, s)));
    i3 = madd(r3, s, mul(i3, c));
    r3 = next;
    c = v128.load(e, COS);
    s = v128.load(e, SIN);
    next = madd(v128.load(e, DRIVEN), x, sub(mul(r4, c), mul(i4, s)));
    i4 = madd(r4, s, mul(i4, c));
    r4 = next;
    v128.store(sums + n, add(v128.load(sums + n), add(add(i1, i2), add(i3, i4))));
  }
  v128.store(at, r1, RE); v128.store(at, i1, IM);
  v128.store(b, r2, RE); v128.store(b, i2, IM);
  v128.store(d, r3, RE); v128.store(d, i3, IM);
  v128.store(e, r4, RE); v128.store(e, i4, IM);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const size = <usize>frames << 4;
  const sums = block + SUMS;
  memory.fill(sums, 0, size);
  const past = cell + bytes(load<i32>(cell + CELL_SIZE));
  let at = cell + HEAD;
  for (; at + 4 * BYTES <= past; at += 4 * BYTES) four(at, block, sums, size);
  for (; at < past; at += BYTES) one(at, block, sums, size);
  const table = <usize>load<u32>(cell + CELL_TABLE);
  // Louder together than one alone, they are brought down to it as far as is wished.
  const less = num(load<f32>(table + TABLE_EVEN) - 1);
  let gain = value(cell, GAIN), share = value(cell, MIX), evened = value(cell, EVENED);
  const gainStep = stepOf(cell, GAIN), shareStep = stepOf(cell, MIX), evenedStep = stepOf(cell, EVENED);
  for (let n: usize = 0; n < size; n += 16) {
    const x = v128.load(block + n);
    const all = mul(gain, madd(evened, less, num(1)));
    v128.store(block + n, madd(share, sub(mul(all, v128.load(sums + n)), x), x));
    gain = add(gain, gainStep);
    share = add(share, shareStep);
    evened = add(evened, evenedStep);
  }
  put(cell, GAIN, gain);
  put(cell, MIX, share);
  put(cell, EVENED, evened);
}
