// Band-limited impulses: all harmonics below half the rate, as strong as each other (Stilson and Smith, 1996): sin(πMx)/(P·sin(πx)) − 1/P.
import { CELL_INPUTS, INPUT_BYTES } from "../../layout";
import { add, mul, num, sub } from "../arithmetic";
import { put, stepOf, targetOf, value } from "../cell";
import { lanesOf, sineOf } from "../functions";

/** Cycles per frame, and level: that of an impulse. */
export const INPUTS: i32 = 2;
const CYCLES = 0, LEVEL = 1;
// Phase (2³² is a turn); how many harmonics there are, both sides and the middle: now, and where the step leads; how far it has gone, and its step.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const NOW: usize = HEAD + 16, THEN: usize = HEAD + 32, WAY: usize = HEAD + 48;

export function bytes(size: i32): i32 { return <i32>HEAD + 64; }

// Of the highest harmonics there are as many as leave it below half the rate all the way.
// @ts-ignore: decorator
@inline function harmonics(cell: usize): v128 {
  const fastest = f32x4.pmax(num(1e-6), value(cell, CYCLES));
  const wanted = f32x4.pmax(fastest, targetOf(cell, CYCLES));
  const each = f32x4.pmin(num(20000), f32x4.floor(f32x4.div(num(0.5), wanted)));
  return i32x4.trunc_sat_f32x4_s(add(add(each, each), num(1)));
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const lanes = lanesOf(side);
  v128.store(cell + HEAD, v128.andnot(v128.load(cell + HEAD), lanes));
  const m = harmonics(cell);
  v128.store(cell + NOW, v128.bitselect(m, v128.load(cell + NOW), lanes));
  v128.store(cell + THEN, v128.bitselect(m, v128.load(cell + THEN), lanes));
}

export function control(cell: usize, pair: usize, frames: i32): void {
  v128.store(cell + NOW, v128.load(cell + THEN));
  v128.store(cell + THEN, harmonics(cell));
  store<f32>(cell + WAY, 0);
  store<f32>(cell + WAY + 4, <f32>1 / <f32>frames);
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
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const below = sineOf(v128.shr<i32>(phase, 1));
    let y = kernel(phase, now, below);
    if (turning) {
      y = add(y, mul(num(way), sub(kernel(phase, then, below), y)));
      way += wayStep;
    }
    v128.store(block, mul(level, mul(cycles, sub(y, num(1)))));
    phase = v128.add<i32>(phase, i32x4.trunc_sat_f32x4_u(mul(cycles, num(4294967296.0))));
    cycles = add(cycles, cyclesStep);
    level = add(level, levelStep);
  }
  store<f32>(cell + WAY, way);
  v128.store(cell + HEAD, phase);
  put(cell, CYCLES, cycles);
  put(cell, LEVEL, level);
}
