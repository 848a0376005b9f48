// Inner loops of convolution. core/dsp/convolver.ts says what they are for.

import { add, madd, mul, sub } from "./arithmetic";

// c − a·b.
// @ts-ignore: decorator
@inline function nmadd(a: v128, b: v128, c: v128): v128 {
  return ASC_FEATURE_RELAXED_SIMD ? f32x4.relaxed_nmadd(a, b, c) : sub(c, mul(a, b));
}

// Adds the product of two spectra of one channel to a sum.
function multiply(s: usize, a: usize, b: usize, stride: usize): void {
  for (let i: usize = 0; i < stride; i += 16) {
    const ar = v128.load(a + i), ai = v128.load(a + stride + i), br = v128.load(b + i), bi = v128.load(b + stride + i);
    v128.store(s + i, nmadd(ai, bi, madd(ar, br, v128.load(s + i))));
    v128.store(s + stride + i, madd(ai, br, madd(ar, bi, v128.load(s + stride + i))));
  }
}

// The same of two products at once: the sum is read and written but once.
function multiplyTwo(s: usize, a: usize, b: usize, c: usize, d: usize, stride: usize): void {
  for (let i: usize = 0; i < stride; i += 16) {
    const ar = v128.load(a + i), ai = v128.load(a + stride + i), br = v128.load(b + i), bi = v128.load(b + stride + i);
    const cr = v128.load(c + i), ci = v128.load(c + stride + i), dr = v128.load(d + i), di = v128.load(d + stride + i);
    v128.store(s + i, nmadd(ci, di, madd(cr, dr, nmadd(ai, bi, madd(ar, br, v128.load(s + i))))));
    v128.store(s + stride + i, madd(ci, dr, madd(cr, di, madd(ai, br, madd(ar, bi, v128.load(s + stride + i))))));
  }
}

/**
 * Adds to a sum the products of `past` spectra, of which the newest is `turn` of `count` in a ring, with those of an impulse, from its part `from` to before `to`.
 * Each is of two channels, of each the real and then the imaginary part of `stride` bytes.
 */
export function multiplyParts(sum: usize, past: usize, impulse: usize, turn: i32, count: i32, from: i32, to: i32, stride: usize): void {
  const whole = stride * 4;
  for (let p = from; p < to; p += 2) {
    let first = turn - p;
    if (first < 0) first += count;
    const a = past + <usize>first * whole, b = impulse + <usize>p * whole;
    if (p + 1 == to) {
      multiply(sum, a, b, stride);
      multiply(sum + 2 * stride, a + 2 * stride, b + 2 * stride, stride);
      return;
    }
    const c = past + <usize>(first == 0 ? count - 1 : first - 1) * whole, d = b + whole;
    multiplyTwo(sum, a, b, c, d, stride);
    multiplyTwo(sum + 2 * stride, a + 2 * stride, b + 2 * stride, c + 2 * stride, d + 2 * stride, stride);
  }
}

/**
 * `frames` values of a filter of 128 taps: out[n] is the sum of taps[k] · input[n + k]. The taps stand in reverse. Four at a time, as far as they go; each is
 * computed alike, however many are asked for at once.
 */
export function direct(out: usize, taps: usize, input: usize, frames: i32): void {
  let n = 0;
  for (; n + 4 <= frames; n += 4) {
    let s = f32x4.splat(0), t = f32x4.splat(0);
    for (let i: usize = 0; i < 512; i += 8) {
      s = madd(v128.load32_splat(taps + i), v128.load(input + i), s);
      t = madd(v128.load32_splat(taps + i, 4), v128.load(input + i, 4), t);
    }
    v128.store(out, add(s, t));
    out += 16;
    input += 16;
  }
  for (; n < frames; n++) {
    let s = f32x4.splat(0), t = f32x4.splat(0);
    for (let i: usize = 0; i < 512; i += 8) {
      s = madd(v128.load32_splat(taps + i), v128.load32_splat(input + i), s);
      t = madd(v128.load32_splat(taps + i, 4), v128.load32_splat(input + i, 4), t);
    }
    store<f32>(out, f32x4.extract_lane(add(s, t), 0));
    out += 4;
    input += 4;
  }
}
