// Bends the wave by a curve: what comes out is the mean of the curve between one frame and the next, which folds far less back below half the rate
// (Parker, Zavalishin and Le Bivic, 2016: antiderivative antialiasing). The differences of the antiderivatives are written without cancellation.
import { CELL_INPUTS, CELL_VARIANT, INPUT_BYTES } from "../../layout";
import { add, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, put, stepOf, value } from "../cell";
import { sine } from "../functions";

/** Gain into the curve, what is added there, gain after it, and how much of it is heard. */
export const INPUTS: i32 = 4;
const GAIN = 0, BIAS = 1, LEVEL = 2, MIX = 3;
// The frame before, as it went into the curve, and what was added to it.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const SOFT = 0, HARD = 1, FOLD = 2, TRIANGLE = 3, SAW = 4, PULSE = 5;

export function bytes(size: i32): i32 { return <i32>HEAD + 32; }
export function begin(cell: usize, pair: usize, side: i32): void { clearLanes(cell + HEAD, cell + HEAD + 32, side); }

// Mean of |u|/2 from b to a.
// @ts-ignore: decorator
@inline function ramp(a: v128, b: v128): v128 {
  const la = f32x4.abs(a), lb = f32x4.abs(b);
  const sum = f32x4.pmax(add(la, lb), num(1e-20));
  const opposite = f32x4.lt(mul(a, b), num(0));
  const across = f32x4.div(add(mul(a, a), mul(b, b)), sum);
  return mul(num(0.25), v128.bitselect(across, sum, opposite));
}

// sin(x)/x for |x| up to π, and the sine of any number.
// @ts-ignore: decorator
@inline function wave(x: v128): v128 {
  const turns = mul(x, num(0.3183098861837907));
  const whole = f32x4.nearest(turns);
  const rest = mul(sub(turns, whole), num(3.141592653589793));
  // Odd numbers of half turns stand upside down.
  const odd = v128.shl<i32>(i32x4.trunc_sat_f32x4_s(whole), 31);
  return v128.xor(sine(rest), odd);
}

// Two places in a wave that repeats lie so much of their way apart, less the whole cycles (so many, so long) between them: all of it where there are none.
// @ts-ignore: decorator
@inline function shareOf(way: v128, cycles: v128, length: f32): v128 {
  const across = f32x4.ne(cycles, num(0));
  const share = sub(num(1), f32x4.div(mul(num(length), cycles), v128.bitselect(way, num(1), across)));
  return v128.bitselect(share, num(1), across);
}

// @ts-ignore: decorator
@inline function bounded(x: v128): v128 { return f32x4.pmax(num(-1), f32x4.pmin(num(1), x)); }

// Mean from b to a of a triangle that rises through nothing and turns at ±1, every 4. Its antiderivative repeats, too.
// @ts-ignore: decorator
@inline function triangle(a: v128, b: v128): v128 {
  const one = num(1), four = num(4), quarter = num(0.25);
  const na = f32x4.nearest(mul(sub(a, one), quarter)), nb = f32x4.nearest(mul(sub(b, one), quarter));
  const va = sub(sub(a, one), mul(four, na)), vb = sub(sub(b, one), mul(four, nb));
  return bounded(mul(shareOf(sub(a, b), sub(na, nb), 4), sub(one, mul(num(2), ramp(va, vb)))));
}

// Mean from b to a of a saw that rises through nothing and falls from 1 to −1, every 2.
// @ts-ignore: decorator
@inline function saw(a: v128, b: v128): v128 {
  const half = num(0.5), two = num(2);
  const na = f32x4.nearest(mul(a, half)), nb = f32x4.nearest(mul(b, half));
  const sa = sub(a, mul(two, na)), sb = sub(b, mul(two, nb));
  return bounded(mul(shareOf(sub(a, b), sub(na, nb), 2), mul(half, add(sa, sb))));
}

// Mean of a curve from b to a.
// @ts-ignore: decorator
@inline function mean(kind: i32, a: v128, b: v128): v128 {
  if (kind == SOFT) {
    // x/√(1 + x²), whose antiderivative is √(1 + x²).
    const ra = f32x4.sqrt(madd(a, a, num(1))), rb = f32x4.sqrt(madd(b, b, num(1)));
    return f32x4.div(add(a, b), add(ra, rb));
  }
  if (kind == HARD) return sub(ramp(add(a, num(1)), add(b, num(1))), ramp(sub(a, num(1)), sub(b, num(1))));
  if (kind == TRIANGLE) return triangle(a, b);
  if (kind == SAW) return saw(a, b);
  if (kind == PULSE) {
    // Two triangles that stand apart make one whose tops are flat and whose flanks take an eighth of the cycle: soft sounds stay soft.
    const apart = num(0.75);
    return mul(num(2), add(triangle(add(a, apart), add(b, apart)), triangle(sub(a, apart), sub(b, apart))));
  }
  // sin(πx/2): a difference of cosines is a product of sines.
  const quarter = num(0.7853981633974483);
  const d = mul(sub(a, b), quarter);
  const small = f32x4.lt(f32x4.abs(d), num(1e-3));
  const ratio = v128.bitselect(num(1), f32x4.div(wave(d), v128.bitselect(num(1), d, small)), small);
  return mul(wave(mul(add(a, b), quarter)), ratio);
}

// @ts-ignore: decorator
@inline function bend(kind: i32, cell: usize, block: usize, frames: i32): void {
  let before = v128.load(cell + HEAD), added = v128.load(cell + HEAD, 16);
  let gain = value(cell, GAIN), bias = value(cell, BIAS), level = value(cell, LEVEL), share = value(cell, MIX);
  const gainStep = stepOf(cell, GAIN), biasStep = stepOf(cell, BIAS), levelStep = stepOf(cell, LEVEL), shareStep = stepOf(cell, MIX);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    const u = madd(x, gain, bias);
    // Without a sound nothing comes out, whatever is added, and however that moves.
    const y = mul(level, sub(mean(kind, u, before), mean(kind, bias, added)));
    before = u;
    added = bias;
    v128.store(block, madd(share, sub(y, x), x));
    gain = add(gain, gainStep);
    bias = add(bias, biasStep);
    level = add(level, levelStep);
    share = add(share, shareStep);
  }
  v128.store(cell + HEAD, before);
  v128.store(cell + HEAD, added, 16);
  put(cell, GAIN, gain);
  put(cell, BIAS, bias);
  put(cell, LEVEL, level);
  put(cell, MIX, share);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const kind = load<i32>(cell + CELL_VARIANT);
  if (kind == SOFT) bend(SOFT, cell, block, frames);
  else if (kind == HARD) bend(HARD, cell, block, frames);
  else if (kind == FOLD) bend(FOLD, cell, block, frames);
  else if (kind == TRIANGLE) bend(TRIANGLE, cell, block, frames);
  else if (kind == SAW) bend(SAW, cell, block, frames);
  else bend(PULSE, cell, block, frames);
}
