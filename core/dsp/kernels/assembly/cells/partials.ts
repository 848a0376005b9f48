// Up to 64 sines of each voice as complex numbers that turn (Mathews and Smith, 2003), two of each voice in a vector: [first A, second A, first B, second B].
import { CELL_INPUTS, CELL_SIZE, CELL_STATE, CELL_TABLE, INPUT_BYTES, MOVING, SUMS } from "../../layout";
import { add, madd, mul, num, sub } from "../arithmetic";
import { targetOf } from "../cell";
import { cosine, exp2, lanesOf, sine } from "../functions";

/** Cycles per frame of the fundamental, level, by how many octaves of level each octave of ratio is louder, and how many octaves more each octave of ratio is. */
export const INPUTS: i32 = 4;
const CYCLES = 0, LEVEL = 1, TILT = 2, STRETCH = 3;
// Of each vector: its two parts, cosine and sine of its turn, its level now and the step of that.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const RE = 0, IM = 16, COS = 32, SIN = 48, AMP = 64, STEP = 80, BYTES = 96;
// Of the table, for each vector: log2 of the ratios, then levels, each for A and again for B.
const ROW = 32;

/** `size`: vectors, of two partials each. */
export function bytes(size: i32): i32 { return <i32>HEAD + size * BYTES; }

// Aims one vector: its turn at once, its level over the next frames (or, of a voice that begins, at once).
// @ts-ignore: decorator
@inline function aim(cell: usize, at: usize, row: usize): v128 {
  const octaves = v128.load(row);
  const cycles = mul(targetOf(cell, CYCLES), exp2(madd(octaves, targetOf(cell, STRETCH), octaves)));
  // Towards half the rate it fades.
  const room = f32x4.pmin(num(1), f32x4.pmax(num(0), mul(sub(num(0.5), cycles), num(20))));
  const level = mul(mul(v128.load(row, 16), targetOf(cell, LEVEL)), mul(room, exp2(mul(octaves, targetOf(cell, TILT)))));
  const half = mul(f32x4.pmin(num(0.5), cycles), num(3.141592653589793));
  const s = sine(half);
  const c = cosine(half);
  v128.store(at, sub(num(1), mul(num(2), mul(s, s))), COS);
  v128.store(at, mul(num(2), mul(s, c)), SIN);
  return level;
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const lanes = lanesOf(side);
  let row = <usize>load<u32>(cell + CELL_TABLE);
  const end = cell + bytes(load<i32>(cell + CELL_SIZE));
  for (let at = cell + HEAD; at < end; at += BYTES) {
    const cos = v128.load(at, COS), sin = v128.load(at, SIN);
    const level = aim(cell, at, row);
    v128.store(at, v128.bitselect(v128.load(at, COS), cos, lanes), COS);
    v128.store(at, v128.bitselect(v128.load(at, SIN), sin, lanes), SIN);
    v128.store(at, v128.bitselect(level, v128.load(at, AMP), lanes), AMP);
    v128.store(at, v128.andnot(v128.load(at, STEP), lanes), STEP);
    v128.store(at, v128.bitselect(num(1), v128.load(at, RE), lanes), RE);
    v128.store(at, v128.andnot(v128.load(at, IM), lanes), IM);
    row += ROW;
  }
}

export function control(cell: usize, pair: usize, frames: i32): void {
  let row = <usize>load<u32>(cell + CELL_TABLE);
  const end = cell + bytes(load<i32>(cell + CELL_SIZE));
  const inverse = num(<f32>1 / <f32>frames);
  const moving = load<i32>(cell + CELL_STATE) == MOVING;
  for (let at = cell + HEAD; at < end; at += BYTES) {
    v128.store(at, moving ? mul(sub(aim(cell, at, row), v128.load(at, AMP)), inverse) : num(0), STEP);
    // Rounding makes it longer or shorter in the long run.
    const re = v128.load(at, RE), im = v128.load(at, IM);
    const right = mul(num(0.5), sub(num(3), madd(re, re, mul(im, im))));
    v128.store(at, mul(re, right), RE);
    v128.store(at, mul(im, right), IM);
    row += ROW;
  }
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const sums = block + SUMS;
  const end = sums + (<usize>frames << 4);
  const past = cell + bytes(load<i32>(cell + CELL_SIZE));
  let first = true;
  for (let at = cell + HEAD; at < past; at += BYTES) {
    let amp = v128.load(at, AMP), re = v128.load(at, RE), im = v128.load(at, IM);
    const step = v128.load(at, STEP), c = v128.load(at, COS), s = v128.load(at, SIN);
    if (!first && !v128.any_true(v128.or(amp, step))) {
      // Nobody hears it; it goes on turning, so that it needn't begin anew.
      for (let n = 0; n < frames; n++) {
        const next = sub(mul(re, c), mul(im, s));
        im = madd(re, s, mul(im, c));
        re = next;
      }
    } else {
      for (let sum = sums; sum < end; sum += 16) {
        v128.store(sum, first ? mul(amp, im) : madd(amp, im, v128.load(sum)));
        const next = sub(mul(re, c), mul(im, s));
        im = madd(re, s, mul(im, c));
        re = next;
        amp = add(amp, step);
      }
      first = false;
    }
    v128.store(at, amp, AMP);
    v128.store(at, re, RE);
    v128.store(at, im, IM);
  }
  for (let sum = sums; sum < end; sum += 16) {
    const x = first ? num(0) : v128.load(sum);
    const y = add(x, v128.shuffle<f32>(x, x, 1, 0, 3, 2));
    v128.store(block, y);
    block += 16;
  }
}
