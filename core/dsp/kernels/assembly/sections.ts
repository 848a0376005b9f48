// Filter sections of a pair of voices: coefficients at the control rate, sound at the audio rate.
import {
  ABSENT, AIMED, CELL_COUNT, CELL_KIND, CELL_STATE, CELLS, COEFFICIENTS, GAIN, GAIN_STEP, IN_DRIVE, IN_K, IN_PITCH, IN_WEIGHT, LADDER, MOVED, MOVING, ONE_POLE,
  SECTION_MEMORY, STEADY, SVF, WEIGHT_STATE,
} from "../layout";
import { add, flush, madd, mul, num, sub, sound } from "./arithmetic";
import { cosine, halfAngle, sine } from "./functions";

// g/(1+g) with g the tangent of half the angle: a trapezoidal one-pole's step.
// @ts-ignore: decorator
@inline function onePole(pitch: v128): v128 {
  const x = halfAngle(pitch);
  const s = sine(x);
  return f32x4.div(s, add(s, cosine(x)));
}

// How coefficients take their targets: they have arrived, move there over the next frames, or (a voice begins) those of its
// lanes stand there at once while the others go on.
const SETTLE = 0, MOVE = 1, BEGIN = 2;

// @ts-ignore: decorator
@inline function aim(at: usize, target: v128, how: i32, inverse: v128, lanes: v128): void {
  if (how == MOVE) {
    v128.store(at, mul(sub(target, v128.load(at)), inverse), 16);
  } else if (how == SETTLE) {
    v128.store(at, target);
    v128.store(at, num(0), 16);
  } else {
    v128.store(at, v128.bitselect(target, v128.load(at), lanes));
    v128.store(at, v128.andnot(v128.load(at, 16), lanes), 16);
  }
}

function take(s: usize, kind: i32, how: i32, inverse: v128, lanes: v128): void {
  if (kind == LADDER) {
    const c = s + COEFFICIENTS;
    aim(c, onePole(v128.load(s + IN_PITCH)), how, inverse, lanes);
    aim(c + 32, v128.load(s + IN_K), how, inverse, lanes);
    aim(c + 64, v128.load(s + IN_DRIVE), how, inverse, lanes);
    for (let i: usize = 0; i < 5; i++) aim(c + 96 + i * 32, v128.load(s + IN_WEIGHT + i * 16), how, inverse, lanes);
    return;
  }
  weigh(s, how, inverse, lanes);
  poles(s, kind, how, inverse, lanes);
}

// The weights of what comes out of one or two poles.
function weigh(s: usize, how: i32, inverse: v128, lanes: v128): void {
  const c = s + COEFFICIENTS, half = num(0.5);
  aim(c + 96, v128.load(s + IN_WEIGHT), how, inverse, lanes);
  aim(c + 128, mul(half, v128.load(s + IN_WEIGHT, 16)), how, inverse, lanes);
  aim(c + 160, mul(half, v128.load(s + IN_WEIGHT, 32)), how, inverse, lanes);
}

// The matrix of one or two poles, by sine and cosine of half the angle. One pole uses the second state only.
function poles(s: usize, kind: i32, how: i32, inverse: v128, lanes: v128): void {
  const pitch = v128.load(s + IN_PITCH);
  const c = s + COEFFICIENTS;
  if (kind == ONE_POLE) {
    aim(c, num(0), how, inverse, lanes);
    aim(c + 32, num(0), how, inverse, lanes);
    const G = onePole(pitch);
    aim(c + 64, add(G, G), how, inverse, lanes);
    return;
  }
  const x = halfAngle(pitch);
  const sin = sine(x);
  twoPoles(s, mul(sin, cosine(x)), mul(sin, sin), how, inverse, lanes);
}

// 2a₁ − 1, 2a₂ and 2a₃ of the state-variable filter, with a₁ = cos²/(1 + k·sin·cos) and so on: that leaves one division.
// @ts-ignore: decorator
@inline function twoPoles(s: usize, both: v128, squared: v128, how: i32, inverse: v128, lanes: v128): void {
  const c = s + COEFFICIENTS;
  const damped = mul(v128.load(s + IN_K), both);
  const scale = f32x4.div(num(1), add(num(1), damped));
  aim(c, mul(sub(sub(num(1), add(squared, squared)), damped), scale), how, inverse, lanes);
  aim(c + 32, mul(add(both, both), scale), how, inverse, lanes);
  aim(c + 64, mul(add(squared, squared), scale), how, inverse, lanes);
}

/** Aims the section at `offset` among the cells, behind `before` others, of each of `count` pairs (addresses at `list`) at one cutoff over the next frames, before their control. */
export function moveSections(list: usize, count: i32, before: i32, offset: i32, cutoff: f32, frames: i32): void {
  const pitch = num(cutoff);
  const x = halfAngle(pitch);
  const sin = sine(x);
  const both = mul(sin, cosine(x)), squared = mul(sin, sin);
  const inverse = num(<f32>1 / <f32>frames);
  for (let i = 0; i < count; i++) {
    const pair = load<u32>(list + (<usize>i << 2)) as usize;
    if (before >= load<i32>(pair + CELL_COUNT)) continue;
    const s = (load<u32>(pair + CELLS) as usize) + <usize>offset;
    const kind = load<i32>(s + CELL_KIND);
    if (kind == ABSENT) continue;
    v128.store(s + IN_PITCH, pitch);
    if (kind != SVF || load<i32>(s + WEIGHT_STATE) != STEADY) {
      store<i32>(s + CELL_STATE, MOVED);
      continue;
    }
    twoPoles(s, both, squared, MOVE, inverse, inverse);
    store<i32>(s + CELL_STATE, AIMED);
  }
}

/** Computes a section's ramps over the next frames, where its inputs have moved: all of them, or the poles alone. */
export function control(s: usize, frames: i32): void {
  const kind = load<i32>(s + CELL_KIND);
  if (kind == ABSENT) return;
  const end = s + SECTION_MEMORY + (kind == LADDER ? 64 : 32);
  for (let at = s + SECTION_MEMORY; at < end; at += 16) v128.store(at, flush(v128.load(at)));
  const state = load<i32>(s + CELL_STATE), weights = load<i32>(s + WEIGHT_STATE);
  if ((state | weights) == STEADY) return;
  if (state == AIMED) {
    store<i32>(s + CELL_STATE, MOVING);
    return;
  }
  const inverse = num(<f32>1 / <f32>frames);
  if (weights == MOVED || kind == LADDER) {
    const moved = state == MOVED || weights == MOVED;
    store<i32>(s + CELL_STATE, moved ? MOVING : STEADY);
    store<i32>(s + WEIGHT_STATE, moved ? MOVING : STEADY);
    take(s, kind, moved ? MOVE : SETTLE, inverse, num(0));
    return;
  }
  if (weights == MOVING) {
    // They have arrived, whether the poles still move or not.
    store<i32>(s + WEIGHT_STATE, STEADY);
    weigh(s, SETTLE, inverse, inverse);
  }
  store<i32>(s + CELL_STATE, state == MOVED ? MOVING : STEADY);
  poles(s, kind, state == MOVED ? MOVE : SETTLE, inverse, num(0));
}

/** A voice begins: its lanes of the section stand at their inputs at once. */
export function begin(s: usize, side: i32): void {
  const kind = load<i32>(s + CELL_KIND);
  if (kind == ABSENT) return;
  take(s, kind, BEGIN, num(0), i64x2.replace_lane(i64x2.splat(side ? 0 : -1), 1, side ? -1 : 0));
}

// State-variable filter and one pole, both integrators trapezoidal (Zavalishin, 2012), as one matrix of which every coefficient
// moves in a straight line: each matrix on the way is a mean of two that lose energy, so it loses energy too. What comes out
// replaces the block, or, where there is a pair, is added to its bus (interleaved stereo) under its gain's ramp.
// @ts-ignore: decorator
@inline function linear(s: usize, block: usize, frames: i32, moving: bool, weighing: bool, pair: usize, bus: usize): void {
  const c = s + COEFFICIENTS;
  let a = v128.load(c), b = v128.load(c, 32), d = v128.load(c, 64);
  let m0 = v128.load(c, 96), m1 = v128.load(c, 128), m2 = v128.load(c, 160);
  let s1 = v128.load(s + SECTION_MEMORY), s2 = v128.load(s + SECTION_MEMORY, 16);
  let gain = pair ? v128.load(pair + GAIN) : num(0);
  const gainStep = pair ? v128.load(pair + GAIN_STEP) : num(0);
  const last = block + (<usize>frames << 4);
  while (block < last) {
    const x = v128.load(block);
    const u = sub(x, s2);
    // In this order the states wait least for one another.
    const n1 = madd(b, u, mul(a, s1));
    const n2 = madd(d, u, madd(b, s1, s2));
    // The outputs are the means of the states before and after: that is what trapezoidal integration says of them.
    const y = madd(m0, x, madd(m1, add(s1, n1), mul(m2, add(s2, n2))));
    s1 = n1;
    s2 = n2;
    if (moving) {
      a = add(a, v128.load(c, 16));
      b = add(b, v128.load(c, 48));
      d = add(d, v128.load(c, 80));
    }
    if (weighing) {
      m0 = add(m0, v128.load(c, 112));
      m1 = add(m1, v128.load(c, 144));
      m2 = add(m2, v128.load(c, 176));
    }
    if (pair) {
      const z = sound(mul(y, gain));
      gain = add(gain, gainStep);
      v128.store64_lane(bus, add(v128.load64_zero(bus), add(z, v128.shuffle<f32>(z, z, 2, 3, 2, 3))), 0);
      bus += 8;
    } else {
      v128.store(block, y);
    }
    block += 16;
  }
  if (pair) v128.store(pair + GAIN, gain);
  if (moving) {
    v128.store(c, a);
    v128.store(c, b, 32);
    v128.store(c, d, 64);
  }
  if (weighing) {
    v128.store(c, m0, 96);
    v128.store(c, m1, 128);
    v128.store(c, m2, 160);
  }
  v128.store(s + SECTION_MEMORY, s1);
  v128.store(s + SECTION_MEMORY, s2, 16);
}

function linearWeighing(s: usize, block: usize, frames: i32): void {
  linear(s, block, frames, true, true, 0, 0);
}
function linearMoving(s: usize, block: usize, frames: i32): void {
  linear(s, block, frames, true, false, 0, 0);
}
function linearSteady(s: usize, block: usize, frames: i32): void {
  linear(s, block, frames, false, false, 0, 0);
}
function mixMoving(s: usize, block: usize, frames: i32, pair: usize, bus: usize): void {
  linear(s, block, frames, true, false, pair, bus);
}
function mixSteady(s: usize, block: usize, frames: i32, pair: usize, bus: usize): void {
  linear(s, block, frames, false, false, pair, bus);
}

// tanh by its continued fraction, flat beyond ±3.
// @ts-ignore: decorator
@inline function saturate(x: v128): v128 {
  const y = f32x4.pmax(num(-3), f32x4.pmin(num(3), x));
  const yy = mul(y, y);
  return f32x4.div(mul(y, add(num(27), yy)), add(num(27), mul(num(9), yy)));
}

// Four one-pole filters in a row with feedback round all of them, solved without delay for the linear case, the sum at the
// input then saturated (Zavalishin, 2012, on the ladder filter with a saturating input). The outputs of all poles are mixed.
function ladder(s: usize, block: usize, frames: i32): void {
  const c = s + COEFFICIENTS, m = s + SECTION_MEMORY;
  let G = v128.load(c), k = v128.load(c, 32), drive = v128.load(c, 64);
  let w0 = v128.load(c, 96), w1 = v128.load(c, 128), w2 = v128.load(c, 160), w3 = v128.load(c, 192), w4 = v128.load(c, 224);
  let s1 = v128.load(m), s2 = v128.load(m, 16), s3 = v128.load(m, 32), s4 = v128.load(m, 48);
  const one = num(1);
  const last = block + (<usize>frames << 4);
  for (; block < last; block += 16) {
    const x = mul(v128.load(block), drive);
    const H = sub(one, G);
    const GG = mul(G, G);
    const held = mul(H, add(mul(GG, add(mul(G, s1), s2)), add(mul(G, s3), s4)));
    const y = f32x4.div(add(mul(mul(GG, GG), x), held), add(one, mul(k, mul(GG, GG))));
    const u = saturate(sub(x, mul(k, y)));
    const v1 = mul(G, sub(u, s1)), y1 = add(s1, v1);
    const v2 = mul(G, sub(y1, s2)), y2 = add(s2, v2);
    const v3 = mul(G, sub(y2, s3)), y3 = add(s3, v3);
    const v4 = mul(G, sub(y3, s4)), y4 = add(s4, v4);
    s1 = add(y1, v1);
    s2 = add(y2, v2);
    s3 = add(y3, v3);
    s4 = add(y4, v4);
    v128.store(block, add(add(mul(w0, u), mul(w1, y1)), add(mul(w2, y2), add(mul(w3, y3), mul(w4, y4)))));
    G = add(G, v128.load(c, 16));
    k = add(k, v128.load(c, 48));
    drive = add(drive, v128.load(c, 80));
    w0 = add(w0, v128.load(c, 112));
    w1 = add(w1, v128.load(c, 144));
    w2 = add(w2, v128.load(c, 176));
    w3 = add(w3, v128.load(c, 208));
    w4 = add(w4, v128.load(c, 240));
  }
  v128.store(c, G);
  v128.store(c, k, 32);
  v128.store(c, drive, 64);
  v128.store(c, w0, 96);
  v128.store(c, w1, 128);
  v128.store(c, w2, 160);
  v128.store(c, w3, 192);
  v128.store(c, w4, 224);
  v128.store(m, s1);
  v128.store(m, s2, 16);
  v128.store(m, s3, 32);
  v128.store(m, s4, 48);
}

/** Whether a section is there at all. */
export function present(s: usize): bool {
  return load<i32>(s + CELL_KIND) != ABSENT;
}

/** Whether a section can mix what it puts out by itself, which saves a way through memory: the most frequent ones can. */
export function canMix(s: usize): bool {
  return load<i32>(s + CELL_KIND) != LADDER && load<i32>(s + WEIGHT_STATE) == STEADY;
}

/** Runs a section that can mix over the block, and adds what comes out to the bus under the pair's gain. */
export function mixSection(s: usize, block: usize, frames: i32, pair: usize, bus: usize): void {
  if (load<i32>(s + CELL_STATE) != STEADY) mixMoving(s, block, frames, pair, bus);
  else mixSteady(s, block, frames, pair, bus);
}

/** Runs one section over the block. */
export function section(s: usize, block: usize, frames: i32): void {
  const kind = load<i32>(s + CELL_KIND);
  if (kind == ABSENT) return;
  if (kind == LADDER) ladder(s, block, frames);
  else if (load<i32>(s + WEIGHT_STATE) != STEADY) linearWeighing(s, block, frames);
  else if (load<i32>(s + CELL_STATE) != STEADY) linearMoving(s, block, frames);
  else linearSteady(s, block, frames);
}
