// Bends the wave by a curve: what comes out is the mean of the curve between one frame and the next, which folds far less back below half the rate
// (Parker, Zavalishin and Le Bivic, 2016: antiderivative antialiasing). The differences of the antiderivatives are written without cancellation.
import { CELL_INPUTS, CELL_VARIANT, INPUT_BYTES } from "../../layout";
import { add, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, put, stepOf, value } from "../cell";
import { sine } from "../functions";

/** Gain into the curve, what is added there, gain after it, and how much of it is heard. */
export const INPUTS: i32 = 4;
const GAIN = 0, BIAS = 1, LEVEL = 2, MIX = 3;
// The frame before, as it went into the curve.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const SOFT = 0, HARD = 1;

export function bytes(size: i32): i32 { return <i32>HEAD + 16; }
export function begin(cell: usize, pair: usize, side: i32): void { clearLanes(cell + HEAD, cell + HEAD + 16, side); }

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

// Mean of a curve from b to a.
// @ts-ignore: decorator
@inline function mean(kind: i32, a: v128, b: v128): v128 {
  if (kind == SOFT) {
    // x/√(1 + x²), whose antiderivative is √(1 + x²).
    const ra = f32x4.sqrt(madd(a, a, num(1))), rb = f32x4.sqrt(madd(b, b, num(1)));
    return f32x4.div(add(a, b), add(ra, rb));
  }
  if (kind == HARD) return sub(ramp(add(a, num(1)), add(b, num(1))), ramp(sub(a, num(1)), sub(b, num(1))));
  // sin(πx/2): a difference of cosines is a product of sines.
  const quarter = num(0.7853981633974483);
  const d = mul(sub(a, b), quarter);
  const small = f32x4.lt(f32x4.abs(d), num(1e-3));
  const ratio = v128.bitselect(num(1), f32x4.div(wave(d), v128.bitselect(num(1), d, small)), small);
  return mul(wave(mul(add(a, b), quarter)), ratio);
}

// @ts-ignore: decorator
@inline function bend(kind: i32, cell: usize, block: usize, frames: i32): void {
  let before = v128.load(cell + HEAD);
  let gain = value(cell, GAIN), bias = value(cell, BIAS), level = value(cell, LEVEL), share = value(cell, MIX);
  const gainStep = stepOf(cell, GAIN), biasStep = stepOf(cell, BIAS), levelStep = stepOf(cell, LEVEL), shareStep = stepOf(cell, MIX);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    const u = madd(x, gain, bias);
    // Without a sound nothing comes out, whatever is added.
    const y = mul(level, sub(mean(kind, u, before), mean(kind, bias, bias)));
    before = u;
    v128.store(block, madd(share, sub(y, x), x));
    gain = add(gain, gainStep);
    bias = add(bias, biasStep);
    level = add(level, levelStep);
    share = add(share, shareStep);
  }
  v128.store(cell + HEAD, before);
  put(cell, GAIN, gain);
  put(cell, BIAS, bias);
  put(cell, LEVEL, level);
  put(cell, MIX, share);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const kind = load<i32>(cell + CELL_VARIANT);
  if (kind == SOFT) bend(SOFT, cell, block, frames);
  else if (kind == HARD) bend(HARD, cell, block, frames);
  else bend(2, cell, block, frames);
}
