// Inner loops of convolution. core/dsp/convolver.ts says what they are for.

/** Adds the product of two spectra to a sum: real and imaginary parts apart, `count` bins, a multiple of 4. */
export function multiplyAdd(
  sumRe: usize, sumIm: usize, aRe: usize, aIm: usize, bRe: usize, bIm: usize, count: i32,
): void {
  const last = <usize>count << 2;
  for (let i: usize = 0; i < last; i += 16) {
    const a = v128.load(aRe + i), b = v128.load(aIm + i), c = v128.load(bRe + i), d = v128.load(bIm + i);
    const re = f32x4.sub(f32x4.mul(a, c), f32x4.mul(b, d));
    const im = f32x4.add(f32x4.mul(a, d), f32x4.mul(b, c));
    v128.store(sumRe + i, f32x4.add(v128.load(sumRe + i), re));
    v128.store(sumIm + i, f32x4.add(v128.load(sumIm + i), im));
  }
}

/** `frames` values of a filter of 128 taps: out[n] is the sum of taps[k] · input[n + k]. The taps stand in reverse. */
export function direct(out: usize, taps: usize, input: usize, frames: i32): void {
  for (let n = 0; n < frames; n++) {
    let s0 = f32x4.splat(0), s1 = f32x4.splat(0), s2 = f32x4.splat(0), s3 = f32x4.splat(0);
    for (let i: usize = 0; i < 512; i += 64) {
      s0 = f32x4.add(s0, f32x4.mul(v128.load(taps + i), v128.load(input + i)));
      s1 = f32x4.add(s1, f32x4.mul(v128.load(taps + i, 16), v128.load(input + i, 16)));
      s2 = f32x4.add(s2, f32x4.mul(v128.load(taps + i, 32), v128.load(input + i, 32)));
      s3 = f32x4.add(s3, f32x4.mul(v128.load(taps + i, 48), v128.load(input + i, 48)));
    }
    const s = f32x4.add(f32x4.add(s0, s1), f32x4.add(s2, s3));
    const t = f32x4.add(s, v128.shuffle<f32>(s, s, 2, 3, 0, 1));
    store<f32>(out, f32x4.extract_lane(t, 0) + f32x4.extract_lane(t, 1));
    out += 4;
    input += 4;
  }
}
