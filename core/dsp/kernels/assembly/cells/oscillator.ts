// Two waves and what lies between them, read from tables of one cycle each, a third of an octave apart, each with just the harmonics that stay below half the
// rate; up to sixteen parts of unison, two of each voice in a vector, and a sub-oscillator. Engine's WaveTables lays the tables out.
import {
  CELL_INPUTS, CELL_STATE, CELL_TABLE, CELL_VARIANT, FROM_A, FROM_B, INPUT_BYTES, SEED_A, SEED_B, STEADY, SUMS, TIME,
} from "../../layout";
import { add, madd, mul, num, sub } from "../arithmetic";
import { put, stepOf, targetOf, value } from "../cell";
import { even, exp2, shift, sineOf } from "../functions";
import { heardAt } from "./feed";
import { RING, sync } from "../synced";
import { sow } from "./noise";

/**
 * Of eight vectors of parts [first A, second A, first B, second B]: cycles per frame, gain to the left, gain to the right; then the width of the pulse; how far the
 * sound is on the way to the second wave; where in its cycle it begins (0 to 1; read once), and how (0: there, 1: anywhere, 2: as if it had been running); how many
 * cycles another layer moves its phase at full level; how far its phase is bent within each cycle; how many cycles its own sound moves its phase at full level; by how
 * many octaves each part strays; cycles per frame of the sub-oscillator, and its gain; how many times faster than the key the wave goes that each cycle of the key begins anew.
 */
export const INPUTS: i32 = 35;
const VECTORS = 8, CYCLES = 0, LEFT = 8, RIGHT = 16, WIDTH = 24, BLEND = 25, START = 26, HOW = 27, DEPTH = 28, BEND = 29, FED = 30, DRIFT = 31, SUB_CYCLES = 32, SUB_GAIN = 33, RATIO = 34;
// Bits of the variant: the first wave, the second, and whether the sub-oscillator is a pulse. Waves: sine, triangle, saw, and the pulse as the difference of two saws.
const SINE = 0, PULSE = 3, SAW = 2, SECOND = 2, SUB_PULSE = 16, SYNCED = 32;

// Phases of each vector (2³² is a turn), how far they go in a frame and the step of that, what it put out in the last two frames, how far each part strays and the random numbers that lead it; phases of the sub-oscillators.
const PHASES: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const SPEEDS: usize = PHASES + VECTORS * 16, SPEED_STEPS: usize = SPEEDS + VECTORS * 16;
const LAST: usize = SPEED_STEPS + VECTORS * 16, BEFORE: usize = LAST + VECTORS * 16, STRAY: usize = BEFORE + VECTORS * 16, NUMBERS: usize = STRAY + VECTORS * 16;
const SUB_PHASE: usize = NUMBERS + VECTORS * 16;
// Of each of the three waves, for each voice, the number of its table now and after this step; how far the step has gone, and its step; for how many steps nothing has moved; how fast
// the fastest part of each voice goes.
const MAPS: usize = SUB_PHASE + 16, WAY: usize = MAPS + 4 * 16, RESTED: usize = WAY + 8, FASTEST: usize = WAY + 16;
// From so many steps on all speeds are exactly where they are to be.
const SETTLED = 3;
// Of synced waves where each stands in its cycle, the ring in which their sound is completed, and where that stands.
const SLAVES: usize = FASTEST + 16, RINGS: usize = SLAVES + VECTORS * 16, PLACE: usize = RINGS + RING * 16, END: usize = PLACE + 16;

// Of the set of tables: for each, the most cycles per frame for which it is made (0 after the last), its address, and log2 of its points.
const ROW = 16, MOST = 0, AT = 4, BITS = 8;
// Of what strays, how much is kept from one step to the next, and by what the random numbers are multiplied so that its deviation is a half.
const STRAY_KEEP: f32 = 0.9975, STRAY_TAKE: f32 = 0.0612;

export function bytes(size: i32): i32 { return <i32>END; }

// @ts-ignore: decorator
@inline function setOf(cell: usize, wave: i32): usize {
  return <usize>load<u32>(<usize>load<u32>(cell + CELL_TABLE) + (<usize>(wave == PULSE ? SAW : wave) << 2));
}

// The number of the table whose harmonics all stay below half the rate at so many cycles per frame, from one near it on.
function mapFor(set: usize, cycles: f32, near: i32): i32 {
  let n = near;
  while (n > 0 && cycles > load<f32>(set + <usize>n * ROW + MOST)) n--;
  while (load<f32>(set + <usize>(n + 1) * ROW + MOST) >= cycles) n++;
  return n;
}

// The fastest that any part of a voice goes in this step, its phase bent.
function fastest(cell: usize, side: i32): f32 {
  let most: f32 = 1e-6;
  for (let i = 0; i < VECTORS; i++) {
    const both = f32x4.pmax(value(cell, CYCLES + i), targetOf(cell, CYCLES + i));
    const first = side ? f32x4.extract_lane(both, 2) : f32x4.extract_lane(both, 0);
    const second = side ? f32x4.extract_lane(both, 3) : f32x4.extract_lane(both, 1);
    most = max(most, max(first, second));
  }
  const bends = f32x4.pmax(f32x4.abs(value(cell, BEND)), f32x4.abs(targetOf(cell, BEND)));
  const bend = side ? f32x4.extract_lane(bends, 2) : f32x4.extract_lane(bends, 0);
  return most * (1 + bend);
}

// @ts-ignore: decorator
@inline function slowest(cell: usize, side: i32): f32 {
  const both = f32x4.pmax(value(cell, SUB_CYCLES), targetOf(cell, SUB_CYCLES));
  return max(<f32>1e-6, side ? f32x4.extract_lane(both, 2) : f32x4.extract_lane(both, 0));
}

export function begin(cell: usize, pair: usize, side: i32): void {
  const at: usize = side ? 8 : 0;
  const start = targetOf(cell, START), how = targetOf(cell, HOW);
  const turn = side ? f32x4.extract_lane(start, 2) : f32x4.extract_lane(start, 0);
  const kind = <i32>(side ? f32x4.extract_lane(how, 2) : f32x4.extract_lane(how, 0));
  const seed = load<i32>(pair + (side ? SEED_B : SEED_A));
  const clock = <f64><u32>load<i32>(TIME);
  for (let i = 0; i < VECTORS; i++) {
    const vector = <usize>i * 16 + at;
    sow(cell + NUMBERS + vector, seed + i * 7919);
    store<u64>(cell + LAST + vector, 0);
    store<u64>(cell + BEFORE + vector, 0);
    store<u64>(cell + STRAY + vector, 0);
    const cycles = targetOf(cell, CYCLES + i);
    const speed = speedOf(cycles);
    const low = i64x2.extract_lane(speed, 0), high = i64x2.extract_lane(speed, 1);
    store<i64>(cell + SPEEDS + vector, side ? high : low);
    store<i64>(cell + SPEED_STEPS + vector, 0);
    for (let p = 0; p < 2; p++) {
      const n = <usize>p * 4;
      // Parts begin apart from each other, by the golden section of a turn.
      let phase = <u32>(<i64>(turn * <f32>4294967296.0)) + <u32>(i * 2 + p) * 2654435769;
      if (kind == 1) phase += load<u32>(cell + NUMBERS + vector + n);
      else if (kind == 2) {
        const each = <f64>(side ? (p ? f32x4.extract_lane(cycles, 3) : f32x4.extract_lane(cycles, 2)) : p ? f32x4.extract_lane(cycles, 1) : f32x4.extract_lane(cycles, 0));
        const turns = clock * each;
        phase += <u32>(<i64>((turns - Math.floor(turns)) * 4294967296.0));
      }
      store<u32>(cell + PHASES + vector + n, phase);
    }
  }
  const ratios = targetOf(cell, RATIO);
  const ratio = side ? f32x4.extract_lane(ratios, 2) : f32x4.extract_lane(ratios, 0);
  for (let i: usize = 0; i < <usize>VECTORS; i++)
    for (let p: usize = 0; p < 8; p += 4) {
      const turn = (<f32>load<u32>(cell + PHASES + i * 16 + at + p) / <f32>4294967296.0) * ratio;
      store<f32>(cell + SLAVES + i * 16 + at + p, turn - Mathf.floor(turn));
    }
  for (let n: usize = 0; n < <usize>RING * 16; n += 16) store<u64>(cell + RINGS + n + at, 0);
  store<i32>(cell + PLACE, load<i32>(cell + PLACE) & (RING - 1));
  store<u32>(cell + SUB_PHASE + at, load<u32>(cell + PHASES + at));
  store<u32>(cell + SUB_PHASE + at + 4, load<u32>(cell + PHASES + at));
  keep(cell, pair, side);
}

// @ts-ignore: decorator
@inline function speedOf(cycles: v128): v128 { return i32x4.trunc_sat_f32x4_s(mul(f32x4.pmin(cycles, num(0.4999)), num(4294967296.0))); }

// @ts-ignore: decorator
@inline function mapsAt(which: i32, side: i32): usize { return MAPS + <usize>which * 16 + (side ? 8 : 0); }
// @ts-ignore: decorator
@inline function waveOf(cell: usize, which: i32): i32 {
  const variant = load<i32>(cell + CELL_VARIANT);
  return which == 0 ? variant & 3 : which == 1 ? (variant >> SECOND) & 3 : SAW;
}

/** A voice goes on from where another stood, perhaps by the tables of another wave. */
export function keep(cell: usize, pair: usize, side: i32): void {
  store<i32>(cell + RESTED, 0);
  const fast = fastest(cell, side);
  for (let which = 0; which < 3; which++) {
    const map = mapFor(setOf(cell, waveOf(cell, which)), which < 2 ? fast : slowest(cell, side), 0);
    store<i32>(cell + mapsAt(which, side), map);
    store<i32>(cell + mapsAt(which, side) + 4, map);
  }
}

export function control(cell: usize, pair: usize, frames: i32): void {
  store<f32>(cell + WAY, 0);
  store<f32>(cell + WAY + 4, <f32>1 / <f32>frames);
  const drift = targetOf(cell, DRIFT);
  const drifts = v128.any_true(drift);
  const rested = drifts || load<i32>(cell + CELL_STATE) != STEADY ? 0 : load<i32>(cell + RESTED) + 1;
  store<i32>(cell + RESTED, rested);
  for (let side = 0; side < 2; side++) {
    // Tables may have come that weren't there before.
    const fast = rested > SETTLED ? load<f32>(cell + FASTEST + (<usize>side << 2)) : fastest(cell, side);
    store<f32>(cell + FASTEST + (<usize>side << 2), fast);
    for (let which = 0; which < 3; which++) {
      const at = cell + mapsAt(which, side);
      const now = load<i32>(at + 4);
      store<i32>(at, now);
      store<i32>(at + 4, mapFor(setOf(cell, waveOf(cell, which)), which < 2 ? fast : slowest(cell, side), now));
    }
  }
  if (rested > SETTLED) return;
  const inverse = num(<f32>1 / <f32>frames);
  for (let i = 0; i < VECTORS; i++) {
    const at = cell + <usize>i * 16;
    let cycles = targetOf(cell, CYCLES + i);
    if (drifts) {
      const numbers = shift(v128.load(at + NUMBERS));
      v128.store(at + NUMBERS, numbers);
      const stray = madd(num(STRAY_KEEP), v128.load(at + STRAY), mul(num(STRAY_TAKE), even(numbers)));
      v128.store(at + STRAY, stray);
      cycles = mul(cycles, exp2(mul(stray, drift)));
    }
    // Whole numbers in straight lines: nothing is left to be rounded from frame to frame.
    const now = v128.load(at + SPEEDS);
    const gap = f32x4.convert_i32x4_s(v128.sub<i32>(speedOf(cycles), now));
    v128.store(at + SPEED_STEPS, i32x4.trunc_sat_f32x4_s(mul(gap, inverse)));
    put(cell, CYCLES + i, targetOf(cell, CYCLES + i));
  }
}

// What is left of a phase below its point, of two voices' tables: a mask for it, and by what it is multiplied to be a share.
// @ts-ignore: decorator
@inline function maskOf(shiftA: u32, shiftB: u32): v128 {
  const a = (1 << shiftA) - 1, b = (1 << shiftB) - 1;
  return i32x4(a, a, b, b);
}
// @ts-ignore: decorator
@inline function scaleOf(shiftA: u32, shiftB: u32): v128 {
  const a = <f32>1 / <f32>(1 << shiftA), b = <f32>1 / <f32>(1 << shiftB);
  return f32x4(a, a, b, b);
}
// How far a phase is moved down to be a point of a voice's table, by the table's row.
// @ts-ignore: decorator
@inline function shiftOf(row: usize): u32 { return <u32>(32 - load<i32>(row + BITS)); }
// The row of a voice's table of one wave: that of now, or that of after this step.
// @ts-ignore: decorator
@inline function rowOf(cell: usize, set: usize, which: i32, side: i32, then: i32): usize {
  return set + <usize>load<i32>(cell + mapsAt(which, side) + <usize>(then << 2)) * ROW;
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

// One wave at four phases: a sine is computed; of a pulse, what it is a width later is taken off.
const COMPUTED = 0, READ = 1, DIFFERENCE = 2;
// @ts-ignore: decorator
@inline function waveAt(kind: i32, phase: v128, width: v128, tableA: usize, tableB: usize, shiftA: u32, shiftB: u32, mask: v128, scale: v128): v128 {
  if (kind == COMPUTED) return sineOf(phase);
  const y = lookUp(phase, tableA, tableB, shiftA, shiftB, mask, scale);
  if (kind == READ) return y;
  const later = v128.add<i32>(phase, i32x4.trunc_sat_f32x4_u(mul(width, num(4294967040.0))));
  return sub(y, lookUp(later, tableA, tableB, shiftA, shiftB, mask, scale));
}

// Half a turn of its own phase at full level: what comes back is the mean of two frames, so that it doesn't whistle.
const HALF: f32 = 0.5;

// One vector of parts over the frames. `second`: there is another wave; `shaped`: the phase is moved, bent or fed; `then`: by the tables of after this step.
// @ts-ignore: decorator
@inline function parts(kind: i32, second: bool, shaped: bool, turning: bool, cell: usize, i: i32, sums: usize, frames: i32, first: bool, then: i32, weight: f32, weightStep: f32, last: bool): void {
  const set = setOf(cell, waveOf(cell, 0));
  const rowA = rowOf(cell, set, 0, 0, then), rowB = rowOf(cell, set, 0, 1, then);
  const tableA = <usize>load<u32>(rowA + AT), tableB = <usize>load<u32>(rowB + AT);
  const shiftA = shiftOf(rowA), shiftB = shiftOf(rowB);
  const mask = maskOf(shiftA, shiftB), scale = scaleOf(shiftA, shiftB);
  const otherWave = waveOf(cell, 1), otherPulse = otherWave == PULSE;
  const otherSet = setOf(cell, otherWave);
  const otherA = rowOf(cell, otherSet, 1, 0, then), otherB = rowOf(cell, otherSet, 1, 1, then);
  const tableC = <usize>load<u32>(otherA + AT), tableD = <usize>load<u32>(otherB + AT);
  const shiftC = shiftOf(otherA), shiftD = shiftOf(otherB);
  const otherMask = maskOf(shiftC, shiftD), otherScale = scaleOf(shiftC, shiftD);

  const vector = <usize>i * 16;
  let phase = v128.load(cell + PHASES + vector), speed = v128.load(cell + SPEEDS + vector);
  const speedStep = v128.load(cell + SPEED_STEPS + vector);
  let left = value(cell, LEFT + i), right = value(cell, RIGHT + i);
  let width = value(cell, WIDTH), blend = value(cell, BLEND);
  const leftStep = stepOf(cell, LEFT + i), rightStep = stepOf(cell, RIGHT + i);
  const widthStep = stepOf(cell, WIDTH), blendStep = stepOf(cell, BLEND);
  const fromA = <usize>load<u32>(cell + FROM_A), fromB = <usize>load<u32>(cell + FROM_B);
  let depth = value(cell, DEPTH), bend = value(cell, BEND), fed = value(cell, FED);
  const depthStep = stepOf(cell, DEPTH), bendStep = stepOf(cell, BEND), fedStep = stepOf(cell, FED);
  let past = v128.load(cell + LAST + vector), before = v128.load(cell + BEFORE + vector);
  const end = sums + (<usize>frames << 5);
  for (let at = sums; at < end; at += 32) {
    let now = phase;
    if (shaped) {
      const heard = heardAt(fromA, fromB, (at - sums) >> 1);
      const own = mul(mul(fed, num(HALF * 0.5)), add(past, before));
      const turns = add(madd(depth, v128.shuffle<f32>(heard, heard, 0, 0, 2, 2), own), mul(mul(bend, num(0.15915494)), sineOf(now)));
      now = v128.add<i32>(now, turned(turns));
      depth = add(depth, depthStep);
      bend = add(bend, bendStep);
      fed = add(fed, fedStep);
    }
    let y = waveAt(kind, now, width, tableA, tableB, shiftA, shiftB, mask, scale);
    if (second) {
      const other = otherPulse
        ? waveAt(DIFFERENCE, now, width, tableC, tableD, shiftC, shiftD, otherMask, otherScale)
        : waveAt(READ, now, width, tableC, tableD, shiftC, shiftD, otherMask, otherScale);
      y = madd(blend, sub(other, y), y);
      blend = add(blend, blendStep);
    }
    if (kind == DIFFERENCE || second) width = add(width, widthStep);
    if (shaped) {
      before = past;
      past = y;
    }
    if (turning) {
      y = mul(y, num(weight));
      weight += weightStep;
    }
    const l = mul(y, left), r = mul(y, right);
    v128.store(at, first ? l : add(v128.load(at), l));
    v128.store(at, first ? r : add(v128.load(at, 16), r), 16);
    phase = v128.add<i32>(phase, speed);
    speed = v128.add<i32>(speed, speedStep);
    left = add(left, leftStep);
    right = add(right, rightStep);
  }
  if (!last) return;
  v128.store(cell + PHASES + vector, phase);
  v128.store(cell + LAST + vector, past);
  v128.store(cell + BEFORE + vector, before);
  v128.store(cell + SPEEDS + vector, speed);
  put(cell, LEFT + i, left);
  put(cell, RIGHT + i, right);
}

// Whether any part of a vector is heard.
function heard(cell: usize, i: i32): bool {
  const any = v128.or(v128.or(value(cell, LEFT + i), stepOf(cell, LEFT + i)), v128.or(value(cell, RIGHT + i), stepOf(cell, RIGHT + i)));
  return v128.any_true(any);
}

// @ts-ignore: decorator
@inline function moves(cell: usize, input: i32): bool { return v128.any_true(v128.or(value(cell, input), stepOf(cell, input))); }

// What is the same in every frame is decided here, so that the loops don't ask.
// @ts-ignore: decorator
@inline function shapedOrNot(kind: i32, second: bool, shaped: bool, turning: bool, cell: usize, i: i32, sums: usize, frames: i32, first: bool, then: i32, weight: f32, weightStep: f32, last: bool): void {
  if (shaped) {
    if (turning) parts(kind, second, true, true, cell, i, sums, frames, first, then, weight, weightStep, last);
    else parts(kind, second, true, false, cell, i, sums, frames, first, then, weight, weightStep, last);
  } else if (turning) parts(kind, second, false, true, cell, i, sums, frames, first, then, weight, weightStep, last);
  else parts(kind, second, false, false, cell, i, sums, frames, first, then, weight, weightStep, last);
}

function all(turning: bool, cell: usize, i: i32, sums: usize, frames: i32, first: bool, then: i32, weight: f32, weightStep: f32, last: bool): void {
  const wave = waveOf(cell, 0);
  const shaped = isShaped(cell);
  if (blends(cell)) {
    if (wave == PULSE) shapedOrNot(DIFFERENCE, true, shaped, turning, cell, i, sums, frames, first, then, weight, weightStep, last);
    else shapedOrNot(READ, true, shaped, turning, cell, i, sums, frames, first, then, weight, weightStep, last);
  } else if (wave == PULSE) shapedOrNot(DIFFERENCE, false, shaped, turning, cell, i, sums, frames, first, then, weight, weightStep, last);
  else if (wave == SINE) {
    // It has no tables to go over between.
    if (shaped) parts(COMPUTED, false, true, false, cell, i, sums, frames, first, then, weight, weightStep, last);
    else parts(COMPUTED, false, false, false, cell, i, sums, frames, first, then, weight, weightStep, last);
  } else shapedOrNot(READ, false, shaped, turning, cell, i, sums, frames, first, then, weight, weightStep, last);
}

// @ts-ignore: decorator
@inline function blends(cell: usize): bool { return waveOf(cell, 1) != waveOf(cell, 0) && moves(cell, BLEND); }
// @ts-ignore: decorator
@inline function isShaped(cell: usize): bool {
  return load<u32>(cell + FROM_A) != 0 || load<u32>(cell + FROM_B) != 0 || moves(cell, BEND) || moves(cell, FED);
}

// @ts-ignore: decorator
@inline function onward(x: v128, step: v128): v128 { return add(add(x, step), step); }
// A number at one frame and at the next: [A, A then, B, B then].
// @ts-ignore: decorator
@inline function pairOf(x: v128, step: v128): v128 { return v128.shuffle<f32>(x, add(x, step), 0, 4, 2, 6); }
// @ts-ignore: decorator
@inline function pairOfWhole(x: v128, step: v128): v128 { return v128.shuffle<i32>(x, v128.add<i32>(x, step), 0, 4, 2, 6); }
// @ts-ignore: decorator
@inline function firsts(x: v128): v128 { return v128.shuffle<f32>(x, x, 0, 0, 2, 2); }

// A single part of each voice over an even number of frames, two of them in a vector: the same numbers as `parts` comes to, in half the time. Not fed.
// @ts-ignore: decorator
@inline function single(kind: i32, moved: bool, bent: bool, turning: bool, cell: usize, block: usize, frames: i32, then: i32, weight: f32, weightStep: f32, first: bool, last: bool): void {
  const set = setOf(cell, waveOf(cell, 0));
  const rowA = rowOf(cell, set, 0, 0, then), rowB = rowOf(cell, set, 0, 1, then);
  const tableA = <usize>load<u32>(rowA + AT), tableB = <usize>load<u32>(rowB + AT);
  const shiftA = shiftOf(rowA), shiftB = shiftOf(rowB);
  const mask = maskOf(shiftA, shiftB), scale = scaleOf(shiftA, shiftB);
  const begun = v128.load(cell + PHASES), began = v128.load(cell + SPEEDS), speedStep = v128.load(cell + SPEED_STEPS);
  const eachStep = v128.shuffle<i32>(speedStep, speedStep, 0, 0, 2, 2);
  let phase = pairOfWhole(begun, began);
  let speed = pairOfWhole(began, speedStep);
  const leftStep = firsts(stepOf(cell, LEFT)), rightStep = firsts(stepOf(cell, RIGHT));
  let left = pairOf(value(cell, LEFT), stepOf(cell, LEFT)), right = pairOf(value(cell, RIGHT), stepOf(cell, RIGHT));
  const widthStep = stepOf(cell, WIDTH), depthStep = stepOf(cell, DEPTH), bendStep = stepOf(cell, BEND);
  let width = pairOf(value(cell, WIDTH), widthStep), depth = pairOf(value(cell, DEPTH), depthStep), bend = pairOf(value(cell, BEND), bendStep);
  let share = f32x4(weight, weight + weightStep, weight, weight + weightStep);
  const shareStep = num(weightStep);
  const fromA = <usize>load<u32>(cell + FROM_A), fromB = <usize>load<u32>(cell + FROM_B);
  let y = num(0);
  const end = block + (<usize>frames << 4);
  for (let at = block; at < end; at += 32) {
    let now = phase;
    if (moved) {
      const heard = heardAt(fromA, fromB, at - block), heardThen = heardAt(fromA, fromB, at - block + 16);
      // Nothing is fed back: as `parts` adds it.
      let turns = madd(depth, v128.shuffle<f32>(heard, heardThen, 0, 4, 2, 6), num(0));
      if (bent) {
        turns = add(turns, mul(mul(bend, num(0.15915494)), sineOf(now)));
        bend = onward(bend, bendStep);
      }
      now = v128.add<i32>(now, turned(turns));
      depth = onward(depth, depthStep);
    }
    y = waveAt(kind, now, width, tableA, tableB, shiftA, shiftB, mask, scale);
    if (kind == DIFFERENCE) width = onward(width, widthStep);
    let z = y;
    if (turning) {
      z = mul(y, share);
      share = onward(share, shareStep);
    }
    const l = mul(z, left), r = mul(z, right);
    const a = v128.shuffle<f32>(l, r, 0, 4, 2, 6), b = v128.shuffle<f32>(l, r, 1, 5, 3, 7);
    v128.store(at, first ? a : add(v128.load(at), a));
    v128.store(at, first ? b : add(v128.load(at, 16), b), 16);
    phase = v128.add<i32>(phase, v128.add<i32>(speed, v128.add<i32>(speed, eachStep)));
    speed = v128.add<i32>(v128.add<i32>(speed, eachStep), eachStep);
    left = onward(left, leftStep);
    right = onward(right, rightStep);
  }
  if (!last) return;
  // The parts that aren't heard go on, too: n speeds, of which each is a step more than the one before.
  const n = i32x4.splat(frames), steps = i32x4.splat((frames * (frames - 1)) / 2);
  v128.store(cell + PHASES, v128.add<i32>(begun, v128.add<i32>(v128.mul<i32>(began, n), v128.mul<i32>(speedStep, steps))));
  v128.store(cell + SPEEDS, v128.add<i32>(began, v128.mul<i32>(speedStep, n)));
  if (moved) {
    v128.store(cell + LAST, v128.shuffle<f32>(y, y, 1, 1, 3, 3));
    v128.store(cell + BEFORE, v128.shuffle<f32>(y, y, 0, 0, 2, 2));
  }
  put(cell, LEFT, v128.and(left, i32x4(-1, 0, -1, 0)));
  put(cell, RIGHT, v128.and(right, i32x4(-1, 0, -1, 0)));
}

function allSingle(turning: bool, cell: usize, block: usize, frames: i32, then: i32, weight: f32, weightStep: f32, first: bool, last: bool): void {
  const wave = waveOf(cell, 0);
  if (isShaped(cell)) {
    if (wave == SINE && moves(cell, BEND)) single(COMPUTED, true, true, false, cell, block, frames, then, weight, weightStep, first, last);
    else if (wave == SINE) single(COMPUTED, true, false, false, cell, block, frames, then, weight, weightStep, first, last);
    else if (wave == PULSE) single(DIFFERENCE, true, true, true, cell, block, frames, then, weight, weightStep, first, last);
    else single(READ, true, true, true, cell, block, frames, then, weight, weightStep, first, last);
  } else if (wave == SINE) single(COMPUTED, false, false, false, cell, block, frames, then, weight, weightStep, first, last);
  else if (wave == PULSE) single(DIFFERENCE, false, false, true, cell, block, frames, then, weight, weightStep, first, last);
  else if (turning) single(READ, false, false, true, cell, block, frames, then, weight, weightStep, first, last);
  else single(READ, false, false, false, cell, block, frames, then, weight, weightStep, first, last);
}

// Whether each voice has but one part, and nothing that needs the frame before.
function isSingle(cell: usize, frames: i32): bool {
  if (frames & 1 || blends(cell) || moves(cell, FED)) return false;
  const seconds = v128.or(v128.or(value(cell, LEFT), stepOf(cell, LEFT)), v128.or(value(cell, RIGHT), stepOf(cell, RIGHT)));
  if (v128.any_true(v128.and(seconds, i32x4(0, -1, 0, -1)))) return false;
  for (let i = 1; i < VECTORS; i++) if (heard(cell, i)) return false;
  return true;
}

// The sub-oscillator, the same on both sides: a sine, or a pulse that is up for half of its cycle.
function addSub(cell: usize, block: usize, frames: i32): void {
  let phase = v128.load(cell + SUB_PHASE);
  let cycles = value(cell, SUB_CYCLES), gain = value(cell, SUB_GAIN);
  const cyclesStep = stepOf(cell, SUB_CYCLES), gainStep = stepOf(cell, SUB_GAIN);
  const pulse = (load<i32>(cell + CELL_VARIANT) & SUB_PULSE) != 0;
  const set = setOf(cell, SAW);
  const rowA = set + <usize>load<i32>(cell + mapsAt(2, 0)) * ROW, rowB = set + <usize>load<i32>(cell + mapsAt(2, 1)) * ROW;
  const tableA = <usize>load<u32>(rowA + AT), tableB = <usize>load<u32>(rowB + AT);
  const shiftA = shiftOf(rowA), shiftB = shiftOf(rowB);
  const mask = maskOf(shiftA, shiftB), scale = scaleOf(shiftA, shiftB);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const y = pulse ? waveAt(DIFFERENCE, phase, num(0.5), tableA, tableB, shiftA, shiftB, mask, scale) : sineOf(phase);
    v128.store(block, madd(gain, y, v128.load(block)));
    phase = v128.add<i32>(phase, i32x4.trunc_sat_f32x4_u(mul(cycles, num(4294967296.0))));
    cycles = add(cycles, cyclesStep);
    gain = add(gain, gainStep);
  }
  v128.store(cell + SUB_PHASE, phase);
  put(cell, SUB_CYCLES, cycles);
  put(cell, SUB_GAIN, gain);
}

// @ts-ignore: decorator
@inline function laneOf(cell: usize, input: i32, lane: usize): f32 { return load<f32>(cell + CELL_INPUTS + <usize>input * INPUT_BYTES + 16 + lane); }

// One frame of parts that are begun anew by the key's cycle. Frame by frame, so that what is added to the ring is added in one order however the frames are split.
function syncedFrame(cell: usize, block: usize, firstWave: i32, secondWave: i32, heardParts: i32): void {
  const table = <usize>load<u32>(<usize>load<u32>(cell + CELL_TABLE) + 12);
  const ring = cell + RINGS;
  const place = load<i32>(cell + PLACE);
  for (let i = 0; i < VECTORS; i++) {
    if (!(heardParts & (1 << i))) continue;
    for (let lane: usize = 0; lane < 16; lane += 4) {
      const at = cell + <usize>i * 16 + lane;
      const slave = sync(
        table, ring, place, lane & 8, firstWave, secondWave, laneOf(cell, BLEND, lane), laneOf(cell, WIDTH, lane), at + PHASES, load<u32>(at + SPEEDS), laneOf(cell, RATIO, lane),
        laneOf(cell, LEFT + i, lane), laneOf(cell, RIGHT + i, lane), load<f32>(at + SLAVES),
      );
      store<f32>(at + SLAVES, slave);
    }
    v128.store(cell + SPEEDS + <usize>i * 16, v128.add<i32>(v128.load(cell + SPEEDS + <usize>i * 16), v128.load(cell + SPEED_STEPS + <usize>i * 16)));
    move(cell, LEFT + i);
    move(cell, RIGHT + i);
  }
  move(cell, BLEND);
  move(cell, WIDTH);
  move(cell, RATIO);
  const from = ring + (<usize>place << 4);
  v128.store(block, v128.load(from));
  v128.store(from, num(0));
  store<i32>(cell + PLACE, (place + 1) & (RING - 1));
}

// @ts-ignore: decorator
@inline function move(cell: usize, input: i32): void { put(cell, input, add(value(cell, input), stepOf(cell, input))); }

function renderSynced(cell: usize, block: usize, frames: i32): void {
  const first = waveOf(cell, 0), second = moves(cell, BLEND) ? waveOf(cell, 1) : first;
  let parts = 0;
  for (let i = 0; i < VECTORS; i++) if (heard(cell, i)) parts |= 1 << i;
  for (let n = 0; n < frames; n++) syncedFrame(cell, block + (<usize>n << 4), first, second, parts);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  if (load<i32>(cell + CELL_VARIANT) & SYNCED) {
    renderSynced(cell, block, frames);
    rest(cell, block, frames, true);
    return;
  }
  const sums = block + SUMS;
  const turning =
    load<u64>(cell + mapsAt(0, 0)) >> 32 != (load<u64>(cell + mapsAt(0, 0)) & 0xffffffff) || load<u64>(cell + mapsAt(0, 1)) >> 32 != (load<u64>(cell + mapsAt(0, 1)) & 0xffffffff) ||
    load<u64>(cell + mapsAt(1, 0)) >> 32 != (load<u64>(cell + mapsAt(1, 0)) & 0xffffffff) || load<u64>(cell + mapsAt(1, 1)) >> 32 != (load<u64>(cell + mapsAt(1, 1)) & 0xffffffff);
  const way = load<f32>(cell + WAY), step = load<f32>(cell + WAY + 4);
  if (isSingle(cell, frames)) {
    const goesOver = turning && waveOf(cell, 0) != SINE;
    allSingle(goesOver, cell, block, frames, 0, goesOver ? 1 - way : 1, goesOver ? -step : 0, true, !goesOver);
    if (goesOver) allSingle(true, cell, block, frames, 1, way, step, false, true);
    store<f32>(cell + WAY, way + step * <f32>frames);
    rest(cell, block, frames, false);
    return;
  }
  // A sine alone is computed.
  const over = turning && (waveOf(cell, 0) != SINE || blends(cell));
  let first = true;
  for (let i = 0; i < VECTORS; i++) {
    if (!heard(cell, i)) continue;
    if (over) {
      // From one table to the next in a straight line.
      all(true, cell, i, sums, frames, first, 0, 1 - way, -step, false);
      all(true, cell, i, sums, frames, false, 1, way, step, true);
    } else all(false, cell, i, sums, frames, first, 0, 1, 0, true);
    first = false;
  }
  store<f32>(cell + WAY, way + step * <f32>frames);
  const end = sums + (<usize>frames << 5);
  let to = block;
  for (let at = sums; at < end; at += 32) {
    const l = v128.load(at), r = v128.load(at, 16);
    const low = v128.shuffle<f32>(l, r, 0, 4, 2, 6), high = v128.shuffle<f32>(l, r, 1, 5, 3, 7);
    v128.store(to, first ? num(0) : add(low, high));
    to += 16;
  }
  rest(cell, block, frames, false);
}

// What is left to be done in any case: the sub-oscillator, and inputs that move on.
function rest(cell: usize, block: usize, frames: i32, synced: bool): void {
  if (moves(cell, SUB_GAIN)) addSub(cell, block, frames);
  // Its inputs have stood still since before the last control step.
  if (load<i32>(cell + RESTED) > 0) return;
  for (let input = WIDTH; input <= RATIO; input++) {
    if (input == SUB_CYCLES || input == SUB_GAIN || (synced && (input == WIDTH || input == BLEND || input == RATIO))) continue;
    let x = value(cell, input);
    const s = stepOf(cell, input);
    if (!v128.any_true(s)) continue;
    for (let n = 0; n < frames; n++) x = add(x, s);
    put(cell, input, x);
  }
}
