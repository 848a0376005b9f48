// Functions of vectors of four floats, by their Taylor polynomials.
import { add, madd, mul, num, sub } from "./arithmetic";

// 2^x by a Taylor polynomial over half an octave either way; relative error below 2e-7.
// @ts-ignore: decorator
@inline export function exp2(x: v128): v128 {
  const whole = f32x4.nearest(x);
  const f = mul(sub(x, whole), num(0.6931471805599453));
  let p = madd(f, num(1.0 / 720.0), num(1.0 / 120.0));
  p = madd(f, p, num(1.0 / 24.0));
  p = madd(f, p, num(1.0 / 6.0));
  p = madd(f, p, num(0.5));
  p = madd(f, p, num(1));
  p = madd(f, p, num(1));
  const power = v128.shl<i32>(v128.add<i32>(i32x4.trunc_sat_f32x4_s(whole), i32x4.splat(127)), 23);
  return mul(p, power);
}

// Half the angle that a cutoff goes round in one frame, π·2^pitch, for cutoffs up to 0.49 of the rate.
// @ts-ignore: decorator
@inline export function halfAngle(pitch: v128): v128 {
  return mul(exp2(f32x4.pmin(num(-1.0291463456595165), f32x4.pmax(num(-16), pitch))), num(3.141592653589793));
}

// Sine and cosine of 0 to π/2 by their Taylor polynomials; errors below 1e-7.
// @ts-ignore: decorator
@inline export function sine(x: v128): v128 {
  const xx = mul(x, x);
  let p = madd(xx, num(-1.0 / 39916800.0), num(1.0 / 362880.0));
  p = madd(xx, p, num(-1.0 / 5040.0));
  p = madd(xx, p, num(1.0 / 120.0));
  p = madd(xx, p, num(-1.0 / 6.0));
  return madd(mul(x, xx), p, x);
}
// @ts-ignore: decorator
@inline export function cosine(x: v128): v128 {
  const xx = mul(x, x);
  let p = madd(xx, num(1.0 / 479001600.0), num(-1.0 / 3628800.0));
  p = madd(xx, p, num(1.0 / 40320.0));
  p = madd(xx, p, num(-1.0 / 720.0));
  p = madd(xx, p, num(1.0 / 24.0));
  p = madd(xx, p, num(-0.5));
  return madd(xx, p, num(1));
}

// Sine of 2π times a phase, of which one turn is 2³² (so that it is negative in its second half); errors below 1e-6.
// @ts-ignore: decorator
@inline export function sineOf(phase: v128): v128 {
  // From the first and last quarter on it is mirrored: sin(π − x) = sin x.
  const flipped = i32x4.sub(i32x4.splat(i32.MIN_VALUE), phase);
  const outer = i32x4.gt_u(i32x4.abs(phase), i32x4.splat(0x40000000));
  const folded = v128.bitselect(flipped, phase, outer);
  return sine(mul(f32x4.convert_i32x4_s(folded), num(1.4629180792671596e-9)));
}

// The next of four rows of numbers (Marsaglia, 2003: xorshift); what comes out is evenly spread over all 32 bits.
// @ts-ignore: decorator
@inline export function shift(x: v128): v128 {
  x = v128.xor(x, v128.shl<i32>(x, 13));
  x = v128.xor(x, v128.shr<u32>(x, 17));
  return v128.xor(x, v128.shl<i32>(x, 5));
}

// Such numbers as floats from −1 to 1.
// @ts-ignore: decorator
@inline export function even(x: v128): v128 { return mul(f32x4.convert_i32x4_s(x), num(4.656612873077393e-10)); }

// Both lanes of voice A or of voice B, as a mask.
// @ts-ignore: decorator
@inline export function lanesOf(side: i32): v128 { return i64x2.replace_lane(i64x2.splat(side ? 0 : -1), 1, side ? -1 : 0); }
