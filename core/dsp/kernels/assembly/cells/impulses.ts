// Band-limited impulses: all harmonics below half the rate, as strong as each other (Stilson and Smith, 1996): sin(πMx)/(P·sin(πx)) − 1/P. A row of poles and zeros at
// equal distances in octaves tilts them by so many decibels an octave (Smith and Smith, 2016).
import { CELL_INPUTS, INPUT_BYTES, SEED_A, SEED_B } from "../../layout";
import { add, flush, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, put, stepOf, targetOf, value } from "../cell";
import { even, lanesOf, shift, sineOf } from "../functions";
import { sow } from "./noise";

/** Cycles per frame; level: that of an impulse; by what share of it the time from one to the next is longer or shorter, by chance; then of each section of the tilt its zero and its pole. */
const SECTIONS = 9;
export const INPUTS: i32 = 3 + 2 * SECTIONS;
const CYCLES = 0, LEVEL = 1, JITTER = 2, ZERO = 3, POLE = 3 + SECTIONS;
// Phase (2³² is a turn); how many harmonics there are, both sides and the middle: now, and where the step leads; how far it has gone, and its step.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const NOW: usize = HEAD + 16, THEN: usize = HEAD + 32, WAY: usize = HEAD + 48;
// How much faster this cycle is, the random numbers, and of each section of the tilt what came in and went out last.
const FASTER: usize = HEAD + 64, NUMBERS: usize = HEAD + 80, TILT: usize = HEAD + 96, END: usize = TILT + SECTIONS * 32;

export function bytes(size: i32): i32 { return <i32>END; }

// Of the highest harmonics there are as many as leave it below half the rate all the way.
// @ts-ignore: decorator
@inline function harmonics(cell: usize): v128 {
  const fastest = f32x4.pmax(num(1e-6), value(cell, CYCLES));
  const wanted = mul(f32x4.pmax(fastest, targetOf(cell, CYCLES)), madd(targetOf(cell, JITTER), num(1), num(1)));
  const each = f32x4.pmin(num(20000), f32x4.floor(f32x4.div(num(0.5), wanted)));
  return i32x4.trunc_sat_f32x4_s(add(add(each, each), num(1)));
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const lanes = lanesOf(side);
  v128.store(cell + HEAD, v128.andnot(v128.load(cell + HEAD), lanes));
  const m = harmonics(cell);
  v128.store(cell + NOW, v128.bitselect(m, v128.load(cell + NOW), lanes));
  v128.store(cell + THEN, v128.bitselect(m, v128.load(cell + THEN), lanes));
  v128.store(cell + FASTER, v128.bitselect(num(1), v128.load(cell + FASTER), lanes));
  // Both sides jump at the same moment.
  const at = cell + NUMBERS + (side ? 8 : 0);
  sow(at, load<i32>(pair + (side ? SEED_B : SEED_A)));
  store<u32>(at + 4, load<u32>(at));
  clearLanes(cell + TILT, cell + END, side);
}

export function control(cell: usize, pair: usize, frames: i32): void {
  v128.store(cell + NOW, v128.load(cell + THEN));
  v128.store(cell + THEN, harmonics(cell));
  store<f32>(cell + WAY, 0);
  store<f32>(cell + WAY + 4, <f32>1 / <f32>frames);
  for (let at = cell + TILT; at < cell + END; at += 16) v128.store(at, flush(v128.load(at)));
}

// Tilts the block: each section is (1 − z·q)/(1 − p·q), as loud at 0 Hz as it was.
function tilt(cell: usize, block: usize, frames: i32): void {
  const end = block + (<usize>frames << 4);
  for (let s = 0; s < SECTIONS; s++) {
    const held = cell + TILT + <usize>s * 32;
    let before = v128.load(held), last = v128.load(held, 16);
    let zero = value(cell, ZERO + s), pole = value(cell, POLE + s);
    const zeroStep = stepOf(cell, ZERO + s), poleStep = stepOf(cell, POLE + s);
    for (let at = block; at < end; at += 16) {
      const x = v128.load(at);
      const y = madd(pole, last, sub(x, mul(zero, before)));
      before = x;
      last = y;
      v128.store(at, y);
      zero = add(zero, zeroStep);
      pole = add(pole, poleStep);
    }
    v128.store(held, before);
    v128.store(held, last, 16);
    put(cell, ZERO + s, zero);
    put(cell, POLE + s, pole);
  }
}

// sin(πMx)/sin(πx) for phases of which a turn is 2³²; M is odd.
// @ts-ignore: decorator
@inline function kernel(phase: v128, m: v128, below: v128): v128 {
  const top = sineOf(v128.mul<i32>(v128.shr<i32>(phase, 1), m));
  const near = i32x4.lt_u(i32x4.abs(phase), i32x4.splat(2048));
  const ratio = f32x4.div(top, v128.bitselect(num(1), below, near));
  return v128.bitselect(f32x4.convert_i32x4_s(m), ratio, near);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  let phase = v128.load(cell + HEAD);
  let cycles = value(cell, CYCLES), level = value(cell, LEVEL);
  const cyclesStep = stepOf(cell, CYCLES), levelStep = stepOf(cell, LEVEL);
  const now = v128.load(cell + NOW), then = v128.load(cell + THEN);
  let way = load<f32>(cell + WAY);
  const wayStep = load<f32>(cell + WAY + 4);
  const turning = v128.any_true(v128.xor(now, then));
  let jitter = value(cell, JITTER), faster = v128.load(cell + FASTER), numbers = v128.load(cell + NUMBERS);
  const jitterStep = stepOf(cell, JITTER);
  const jumps = v128.any_true(v128.or(jitter, jitterStep));
  const end = block + (<usize>frames << 4);
  const tilted = v128.any_true(v128.xor(v128.or(value(cell, ZERO), targetOf(cell, ZERO)), v128.or(value(cell, POLE), targetOf(cell, POLE))));
  const first = block;
  for (; block < end; block += 16) {
    const below = sineOf(v128.shr<i32>(phase, 1));
    let y = kernel(phase, now, below);
    if (turning) {
      y = add(y, mul(num(way), sub(kernel(phase, then, below), y)));
      way += wayStep;
    }
    v128.store(block, mul(level, mul(cycles, sub(y, num(1)))));
    if (jumps) {
      const before = phase;
      phase = v128.add<i32>(phase, i32x4.trunc_sat_f32x4_u(mul(mul(cycles, faster), num(4294967296.0))));
      // Half way between two impulses the next one's time is drawn: there the change of speed is heard least.
      const over = v128.and(i32x4.gt_s(before, i32x4.splat(0)), i32x4.lt_s(phase, i32x4.splat(0)));
      const next = shift(numbers);
      numbers = v128.bitselect(next, numbers, over);
      faster = v128.bitselect(madd(jitter, even(numbers), num(1)), faster, over);
      jitter = add(jitter, jitterStep);
    } else phase = v128.add<i32>(phase, i32x4.trunc_sat_f32x4_u(mul(cycles, num(4294967296.0))));
    cycles = add(cycles, cyclesStep);
    level = add(level, levelStep);
  }
  v128.store(cell + FASTER, faster);
  v128.store(cell + NUMBERS, numbers);
  put(cell, JITTER, jitter);
  if (tilted) tilt(cell, first, frames);
  store<f32>(cell + WAY, way);
  v128.store(cell + HEAD, phase);
  put(cell, CYCLES, cycles);
  put(cell, LEVEL, level);
}
