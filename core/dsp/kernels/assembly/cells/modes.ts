// Up to 32 resonances driven by what comes in: complex numbers that turn and die away (Mathews and Smith, 2003).
import { CELL_INPUTS, CELL_SIZE, CELL_STATE, CELL_TABLE, INPUT_BYTES, MOVING, SUMS } from "../../layout";
import { add, flush, madd, mul, num, sub } from "../arithmetic";
import { put, stepOf, targetOf, value } from "../cell";
import { cosine, exp2, lanesOf, sine } from "../functions";

/**
 * Cycles per frame of the ratio 1; by how much all decays are longer, as a logarithm to base 2; by how many octaves a decay is shorter with each octave of
 * ratio; octaves more with each octave of ratio; gain of what they give; and how much of them is heard.
 */
export const INPUTS: i32 = 6;
const CYCLES = 0, LONGER = 1, DAMPING = 2, STRETCH = 3, GAIN = 4, MIX = 5;
// Of each: its two parts, cosine and sine of its turn with what is left after a frame, and how far it is driven.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const RE = 0, IM = 16, COS = 32, SIN = 48, DRIVEN = 64, BYTES = 80;
// Of the table, for each: log2 of its ratio, level, and log2 of the octaves by which it falls in a frame.
const ROW = 16;

/** `size`: how many. */
export function bytes(size: i32): i32 { return <i32>HEAD + size * BYTES; }

// @ts-ignore: decorator
@inline function aim(cell: usize, at: usize, row: usize, lanes: v128): void {
  const octaves = num(load<f32>(row));
  const cycles = mul(targetOf(cell, CYCLES), exp2(madd(octaves, targetOf(cell, STRETCH), octaves)));
  const fall = exp2(f32x4.pmin(num(0), sub(madd(octaves, targetOf(cell, DAMPING), num(load<f32>(row + 8))), targetOf(cell, LONGER))));
  const left = exp2(sub(num(0), fall));
  const half = mul(f32x4.pmin(num(0.5), cycles), num(3.141592653589793));
  const s = sine(half);
  const c = cosine(half);
  // As loud as each other when noise drives them, however long they ring; those above half the rate are left alone.
  const even = f32x4.sqrt(f32x4.pmax(num(0), mul(num(2), sub(num(1), mul(left, left)))));
  const heard = f32x4.lt(cycles, num(0.49));
  const driven = v128.and(mul(num(load<f32>(row + 4)), even), heard);
  v128.store(at, v128.bitselect(mul(left, sub(num(1), mul(num(2), mul(s, s)))), v128.load(at, COS), lanes), COS);
  v128.store(at, v128.bitselect(mul(left, mul(num(2), mul(s, c))), v128.load(at, SIN), lanes), SIN);
  v128.store(at, v128.bitselect(driven, v128.load(at, DRIVEN), lanes), DRIVEN);
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const lanes = lanesOf(side);
  let row = <usize>load<u32>(cell + CELL_TABLE);
  const end = cell + bytes(load<i32>(cell + CELL_SIZE));
  for (let at = cell + HEAD; at < end; at += BYTES) {
    aim(cell, at, row, lanes);
    v128.store(at, v128.andnot(v128.load(at, RE), lanes), RE);
    v128.store(at, v128.andnot(v128.load(at, IM), lanes), IM);
    row += ROW;
  }
}

export function control(cell: usize, pair: usize, frames: i32): void {
  const moving = load<i32>(cell + CELL_STATE) == MOVING;
  let row = <usize>load<u32>(cell + CELL_TABLE);
  const end = cell + bytes(load<i32>(cell + CELL_SIZE));
  for (let at = cell + HEAD; at < end; at += BYTES) {
    if (moving) aim(cell, at, row, i32x4.splat(-1));
    v128.store(at, flush(v128.load(at, RE)), RE);
    v128.store(at, flush(v128.load(at, IM)), IM);
    row += ROW;
  }
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const size = <usize>frames << 4;
  const sums = block + SUMS;
  memory.fill(sums, 0, size);
  const past = cell + bytes(load<i32>(cell + CELL_SIZE));
  for (let at = cell + HEAD; at < past; at += BYTES) {
    let re = v128.load(at, RE), im = v128.load(at, IM);
    const c = v128.load(at, COS), s = v128.load(at, SIN), driven = v128.load(at, DRIVEN);
    for (let n: usize = 0; n < size; n += 16) {
      const x = mul(driven, v128.load(block + n));
      const next = add(x, sub(mul(re, c), mul(im, s)));
      im = madd(re, s, mul(im, c));
      re = next;
      v128.store(sums + n, add(v128.load(sums + n), im));
    }
    v128.store(at, re, RE);
    v128.store(at, im, IM);
  }
  let gain = value(cell, GAIN), share = value(cell, MIX);
  const gainStep = stepOf(cell, GAIN), shareStep = stepOf(cell, MIX);
  for (let n: usize = 0; n < size; n += 16) {
    const x = v128.load(block + n);
    v128.store(block + n, madd(share, sub(mul(gain, v128.load(sums + n)), x), x));
    gain = add(gain, gainStep);
    share = add(share, shareStep);
  }
  put(cell, GAIN, gain);
  put(cell, MIX, share);
}
