// A wave read from tables of one cycle each, a third of an octave apart, each with just the harmonics that stay below half the rate; up to eight parts
// of unison, two of each voice in a vector. ../../oscillator-tables.ts lays the tables out.
import { CELL_INPUTS, CELL_TABLE, CELL_VARIANT, FROM_A, FROM_B, INPUT_BYTES, SUMS } from "../../layout";
import { add, madd, mul, num, sub } from "../arithmetic";
import { put, stepOf, targetOf, value } from "../cell";
import { heardAt } from "./feed";

/**
 * Of four vectors of parts [first A, second A, first B, second B]: cycles per frame, gain to the left, gain to the right; then the width of the pulse, how much of
 * the wave is taken off again a width later (1: a pulse), where in its cycle it begins (0 to 1; read once), and how many
 * cycles what another layer puts out moves its phase at full level.
 */
export const INPUTS: i32 = 16;
const VECTORS = 4, CYCLES = 0, LEFT = 4, RIGHT = 8, WIDTH = 12, PULSE = 13, START = 14, DEPTH = 15;
// Phases of each vector; for each voice the number of its table now and after this step; how far the step has gone, and its step.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const MAPS: usize = HEAD + VECTORS * 16, WAY: usize = MAPS + 16, END: usize = WAY + 16;

// Of the set of tables: for each, the most cycles per frame for which it is made (0 after the last), its address, and log2 of its points.
const ROW = 16, MOST = 0, AT = 4, BITS = 8;

export function bytes(size: i32): i32 { return <i32>END; }

// The number of the table whose harmonics all stay below half the rate at so many cycles per frame, from one near it on.
function mapFor(set: usize, cycles: f32, near: i32): i32 {
  let n = near;
  while (n > 0 && cycles > load<f32>(set + <usize>n * ROW + MOST)) n--;
  while (load<f32>(set + <usize>(n + 1) * ROW + MOST) >= cycles) n++;
  return n;
}

// The fastest that any part of a voice goes in this step.
function fastest(cell: usize, side: i32): f32 {
  let most: f32 = 1e-6;
  for (let i = 0; i < VECTORS; i++) {
    const both = f32x4.pmax(value(cell, CYCLES + i), targetOf(cell, CYCLES + i));
    const first = side ? f32x4.extract_lane(both, 2) : f32x4.extract_lane(both, 0);
    const second = side ? f32x4.extract_lane(both, 3) : f32x4.extract_lane(both, 1);
    most = max(most, max(first, second));
  }
  return most;
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const start = targetOf(cell, START);
  const turn = side ? f32x4.extract_lane(start, 2) : f32x4.extract_lane(start, 0);
  for (let part = 0; part < VECTORS * 2; part++) {
    // Parts begin apart from each other, by the golden section of a turn.
    const phase = <u32>(<i64>(turn * <f32>4294967296.0)) + <u32>part * 2654435769;
    store<u32>(cell + HEAD + <usize>(part >> 1) * 16 + (side ? 8 : 0) + <usize>(part & 1) * 4, phase);
  }
  keep(cell, pair, side);
}

/** A voice goes on from where another stood, perhaps by the tables of another wave. */
export function keep(cell: usize, pair: usize, side: i32): void {
  const map = mapFor(<usize>load<u32>(cell + CELL_TABLE), fastest(cell, side), 0);
  store<i32>(cell + MAPS + (side ? 8 : 0), map);
  store<i32>(cell + MAPS + (side ? 12 : 4), map);
}

export function control(cell: usize, pair: usize, frames: i32): void {
  const set = <usize>load<u32>(cell + CELL_TABLE);
  for (let side = 0; side < 2; side++) {
    const at = cell + MAPS + (side ? 8 : 0);
    const now = load<i32>(at + 4);
    store<i32>(at, now);
    store<i32>(at + 4, mapFor(set, fastest(cell, side), now));
  }
  store<f32>(cell + WAY, 0);
  store<f32>(cell + WAY + 4, <f32>1 / <f32>frames);
}

// Four phases by the tables of two voices, between two points each. `mask` and `scale` belong to what is left of a phase below its point.
// @ts-ignore: decorator
@inline function lookUp(phase: v128, tableA: usize, tableB: usize, shiftA: u32, shiftB: u32, mask: v128, scale: v128): v128 {
  const a = tableA + (<usize>(<u32>i32x4.extract_lane(phase, 0) >> shiftA) << 2);
  const b = tableA + (<usize>(<u32>i32x4.extract_lane(phase, 1) >> shiftA) << 2);
  const c = tableB + (<usize>(<u32>i32x4.extract_lane(phase, 2) >> shiftB) << 2);
  const d = tableB + (<usize>(<u32>i32x4.extract_lane(phase, 3) >> shiftB) << 2);
  const ab = v128.shuffle<f32>(v128.load64_zero(a), v128.load64_zero(b), 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(v128.load64_zero(c), v128.load64_zero(d), 0, 4, 1, 5);
  const low = v128.shuffle<f32>(ab, cd, 0, 1, 4, 5), high = v128.shuffle<f32>(ab, cd, 2, 3, 6, 7);
  const rest = mul(f32x4.convert_i32x4_s(v128.and(phase, mask)), scale);
  return madd(rest, sub(high, low), low);
}

// Cycles as a phase: whole ones don't matter.
// @ts-ignore: decorator
@inline function turned(cycles: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(mul(sub(cycles, f32x4.nearest(cycles)), num(4294967040.0)));
}

// @ts-ignore: decorator
@inline function parts(pulse: bool, moved: bool, cell: usize, i: i32, sums: usize, frames: i32, first: bool, mapA: i32, mapB: i32, weight: f32, weightStep: f32, last: bool): void {
  const set = <usize>load<u32>(cell + CELL_TABLE);
  const rowA = set + <usize>mapA * ROW, rowB = set + <usize>mapB * ROW;
  const tableA = <usize>load<u32>(rowA + AT), tableB = <usize>load<u32>(rowB + AT);
  const shiftA = <u32>(32 - load<i32>(rowA + BITS)), shiftB = <u32>(32 - load<i32>(rowB + BITS));
  const maskA = (1 << shiftA) - 1, maskB = (1 << shiftB) - 1;
  const mask = i32x4(maskA, maskA, maskB, maskB);
  const scaleA = <f32>1 / <f32>(1 << shiftA), scaleB = <f32>1 / <f32>(1 << shiftB);
  const scale = f32x4(scaleA, scaleA, scaleB, scaleB);
  let phase = v128.load(cell + HEAD + <usize>i * 16);
  let cycles = value(cell, CYCLES + i), left = value(cell, LEFT + i), right = value(cell, RIGHT + i);
  let width = value(cell, WIDTH), off = value(cell, PULSE);
  const cyclesStep = stepOf(cell, CYCLES + i), leftStep = stepOf(cell, LEFT + i), rightStep = stepOf(cell, RIGHT + i);
  const fromA = <usize>load<u32>(cell + FROM_A), fromB = <usize>load<u32>(cell + FROM_B);
  let depth = value(cell, DEPTH);
  const depthStep = stepOf(cell, DEPTH);
  const end = sums + (<usize>frames << 5);
  for (let at = sums; at < end; at += 32) {
    let now = phase;
    if (moved) {
      const heard = heardAt(fromA, fromB, (at - sums) >> 1);
      now = v128.add<i32>(now, turned(mul(depth, v128.shuffle<f32>(heard, heard, 0, 0, 2, 2))));
      depth = add(depth, depthStep);
    }
    let y = lookUp(now, tableA, tableB, shiftA, shiftB, mask, scale);
    if (pulse) {
      const later = v128.add<i32>(now, i32x4.trunc_sat_f32x4_u(mul(width, num(4294967040.0))));
      y = sub(y, mul(off, lookUp(later, tableA, tableB, shiftA, shiftB, mask, scale)));
      width = add(width, stepOf(cell, WIDTH));
      off = add(off, stepOf(cell, PULSE));
    }
    y = mul(y, num(weight));
    weight += weightStep;
    const l = mul(y, left), r = mul(y, right);
    v128.store(at, first ? l : add(v128.load(at), l));
    v128.store(at, first ? r : add(v128.load(at, 16), r), 16);
    phase = v128.add<i32>(phase, i32x4.trunc_sat_f32x4_u(mul(cycles, num(4294967296.0))));
    cycles = add(cycles, cyclesStep);
    left = add(left, leftStep);
    right = add(right, rightStep);
  }
  if (!last) return;
  v128.store(cell + HEAD + <usize>i * 16, phase);
  put(cell, CYCLES + i, cycles);
  put(cell, LEFT + i, left);
  put(cell, RIGHT + i, right);
}

// Whether any part of a vector is heard.
function heard(cell: usize, i: i32): bool {
  const any = v128.or(v128.or(value(cell, LEFT + i), stepOf(cell, LEFT + i)), v128.or(value(cell, RIGHT + i), stepOf(cell, RIGHT + i)));
  return v128.any_true(any);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const sums = block + SUMS;
  const nowA = load<i32>(cell + MAPS), thenA = load<i32>(cell + MAPS + 4), nowB = load<i32>(cell + MAPS + 8), thenB = load<i32>(cell + MAPS + 12);
  const turning = nowA != thenA || nowB != thenB;
  const way = load<f32>(cell + WAY), step = load<f32>(cell + WAY + 4);
  const pulse = load<i32>(cell + CELL_VARIANT) == 1;
  let first = true;
  for (let i = 0; i < VECTORS; i++) {
    if (!heard(cell, i)) continue;
    if (turning) {
      // From one table to the next in a straight line.
      all(pulse, cell, i, sums, frames, first, nowA, nowB, 1 - way, -step, false);
      all(pulse, cell, i, sums, frames, false, thenA, thenB, way, step, true);
    } else all(pulse, cell, i, sums, frames, first, nowA, nowB, 1, 0, true);
    first = false;
  }
  store<f32>(cell + WAY, way + step * <f32>frames);
  const end = sums + (<usize>frames << 5);
  for (let at = sums; at < end; at += 32) {
    const l = v128.load(at), r = v128.load(at, 16);
    const low = v128.shuffle<f32>(l, r, 0, 4, 2, 6), high = v128.shuffle<f32>(l, r, 1, 5, 3, 7);
    v128.store(block, first ? num(0) : add(low, high));
    block += 16;
  }
  for (let input = WIDTH; input <= DEPTH; input++) {
    let x = value(cell, input);
    const s = stepOf(cell, input);
    for (let n = 0; n < frames; n++) x = add(x, s);
    put(cell, input, x);
  }
}

function all(pulse: bool, cell: usize, i: i32, sums: usize, frames: i32, first: bool, mapA: i32, mapB: i32, weight: f32, weightStep: f32, last: bool): void {
  // What is the same in every frame is decided here, so that the loops don't ask.
  const moved = load<u32>(cell + FROM_A) != 0 || load<u32>(cell + FROM_B) != 0;
  if (pulse && moved) parts(true, true, cell, i, sums, frames, first, mapA, mapB, weight, weightStep, last);
  else if (pulse) parts(true, false, cell, i, sums, frames, first, mapA, mapB, weight, weightStep, last);
  else if (moved) parts(false, true, cell, i, sums, frames, first, mapA, mapB, weight, weightStep, last);
  else parts(false, false, cell, i, sums, frames, first, mapA, mapB, weight, weightStep, last);
}
