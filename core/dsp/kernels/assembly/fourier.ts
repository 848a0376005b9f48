// Fourier transforms of two channels at once, one in the real and one in the imaginary part: radix 4, self-sorting (Stockham), in single precision.
import { add, mul, num, sub } from "./arithmetic";

// Four numbers of each of four vectors, columns for rows.
// @ts-ignore: decorator
@inline function storeTransposed(at: usize, a: v128, b: v128, c: v128, d: v128): void {
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5), cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const ef = v128.shuffle<f32>(a, b, 2, 6, 3, 7), gh = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  v128.store(at, v128.shuffle<f32>(ab, cd, 0, 1, 4, 5));
  v128.store(at, v128.shuffle<f32>(ab, cd, 2, 3, 6, 7), 16);
  v128.store(at, v128.shuffle<f32>(ef, gh, 0, 1, 4, 5), 32);
  v128.store(at, v128.shuffle<f32>(ef, gh, 2, 3, 6, 7), 48);
}

/**
 * X[k] = Σ x[n]·e^(−2πikn/size), in place; `size` is an even power of 4 (16, 256, 4096). `work`: two more arrays of that size. `turns`: for each of the first
 * quarter of the circle cos and sin of once, twice and three times the angle, six arrays one after another.
 */
export function fourier(re: usize, im: usize, workRe: usize, workIm: usize, turns: usize, size: i32): void {
  const quarter = <usize>size; // bytes of a quarter of the numbers
  const c1 = turns, s1 = c1 + quarter, c2 = s1 + quarter, s2 = c2 + quarter, c3 = s2 + quarter, s3 = c3 + quarter;
  let xr = re, xi = im, yr = workRe, yi = workIm;
  // The first step: four angles at a time.
  for (let j: usize = 0; j < quarter; j += 16) {
    const ar = v128.load(xr + j), ai = v128.load(xi + j);
    const br = v128.load(xr + j + quarter), bi = v128.load(xi + j + quarter);
    const cr = v128.load(xr + j + 2 * quarter), ci = v128.load(xi + j + 2 * quarter);
    const dr = v128.load(xr + j + 3 * quarter), di = v128.load(xi + j + 3 * quarter);
    const pr = add(ar, cr), pi = add(ai, ci), mr = sub(ar, cr), mi = sub(ai, ci);
    const qr = add(br, dr), qi = add(bi, di), nr = sub(br, dr), ni = sub(bi, di);
    const e1r = add(mr, ni), e1i = sub(mi, nr), e2r = sub(pr, qr), e2i = sub(pi, qi), e3r = sub(mr, ni), e3i = add(mi, nr);
    const u1 = v128.load(c1 + j), v1 = v128.load(s1 + j), u2 = v128.load(c2 + j), v2 = v128.load(s2 + j), u3 = v128.load(c3 + j), v3 = v128.load(s3 + j);
    storeTransposed(yr + (j << 2), add(pr, qr), add(mul(e1r, u1), mul(e1i, v1)), add(mul(e2r, u2), mul(e2i, v2)), add(mul(e3r, u3), mul(e3i, v3)));
    storeTransposed(yi + (j << 2), add(pi, qi), sub(mul(e1i, u1), mul(e1r, v1)), sub(mul(e2i, u2), mul(e2r, v2)), sub(mul(e3i, u3), mul(e3r, v3)));
  }
  let t = xr; xr = yr; yr = t;
  t = xi; xi = yi; yi = t;
  for (let stride: usize = 16; stride <= quarter; stride <<= 2) {
    for (let j: usize = 0; j < quarter; j += stride) {
      const u1 = v128.load32_splat(c1 + j), v1 = v128.load32_splat(s1 + j);
      const u2 = v128.load32_splat(c2 + j), v2 = v128.load32_splat(s2 + j);
      const u3 = v128.load32_splat(c3 + j), v3 = v128.load32_splat(s3 + j);
      const end = j + stride;
      let to = j << 2;
      for (let k = j; k < end; k += 16) {
        const ar = v128.load(xr + k), ai = v128.load(xi + k);
        const br = v128.load(xr + k + quarter), bi = v128.load(xi + k + quarter);
        const cr = v128.load(xr + k + 2 * quarter), ci = v128.load(xi + k + 2 * quarter);
        const dr = v128.load(xr + k + 3 * quarter), di = v128.load(xi + k + 3 * quarter);
        const pr = add(ar, cr), pi = add(ai, ci), mr = sub(ar, cr), mi = sub(ai, ci);
        const qr = add(br, dr), qi = add(bi, di), nr = sub(br, dr), ni = sub(bi, di);
        v128.store(yr + to, add(pr, qr));
        v128.store(yi + to, add(pi, qi));
        const e1r = add(mr, ni), e1i = sub(mi, nr), e2r = sub(pr, qr), e2i = sub(pi, qi), e3r = sub(mr, ni), e3i = add(mi, nr);
        v128.store(yr + to + stride, add(mul(e1r, u1), mul(e1i, v1)));
        v128.store(yi + to + stride, sub(mul(e1i, u1), mul(e1r, v1)));
        v128.store(yr + to + 2 * stride, add(mul(e2r, u2), mul(e2i, v2)));
        v128.store(yi + to + 2 * stride, sub(mul(e2i, u2), mul(e2r, v2)));
        v128.store(yr + to + 3 * stride, add(mul(e3r, u3), mul(e3i, v3)));
        v128.store(yi + to + 3 * stride, sub(mul(e3i, u3), mul(e3r, v3)));
        to += 16;
      }
    }
    t = xr; xr = yr; yr = t;
    t = xi; xi = yi; yi = t;
  }
}

// @ts-ignore: decorator
@inline function reversed(x: v128): v128 { return v128.shuffle<f32>(x, x, 3, 2, 1, 0); }

/**
 * The spectra of two real channels out of the transform of both: of each the real and the imaginary part of half of it (size / 2 + 4 numbers, the last three
 * of them 0), left then right. The arrays have room for four more numbers.
 */
export function spread(re: usize, im: usize, spectra: usize, size: i32): void {
  const bytes = <usize>size << 2, half = bytes >> 1, stride = half + 16;
  const lr = spectra, li = lr + stride, rr = li + stride, ri = rr + stride;
  store<f32>(re + bytes, load<f32>(re));
  store<f32>(im + bytes, load<f32>(im));
  const h = num(0.5);
  for (let k: usize = 0; k < half; k += 16) {
    const ar = v128.load(re + k), ai = v128.load(im + k);
    const br = reversed(v128.load(re + bytes - k - 12)), bi = reversed(v128.load(im + bytes - k - 12));
    v128.store(lr + k, mul(h, add(ar, br)));
    v128.store(li + k, mul(h, sub(ai, bi)));
    v128.store(rr + k, mul(h, add(ai, bi)));
    v128.store(ri + k, mul(h, sub(br, ar)));
  }
  v128.store(lr + half, v128.shuffle<f32>(v128.load32_zero(re + half), num(0), 0, 4, 4, 4));
  v128.store(li + half, num(0));
  v128.store(rr + half, v128.shuffle<f32>(v128.load32_zero(im + half), num(0), 0, 4, 4, 4));
  v128.store(ri + half, num(0));
}

/** The transform of both channels out of their spectra, which are empty afterwards; parts exchanged it leads back to the sound, `size` times as loud. */
export function gather(re: usize, im: usize, spectra: usize, size: i32): void {
  const bytes = <usize>size << 2, half = bytes >> 1, stride = half + 16;
  const lr = spectra, li = lr + stride, rr = li + stride, ri = rr + stride;
  for (let k: usize = 0; k < half; k += 16) {
    const a = v128.load(lr + k), b = v128.load(li + k), c = v128.load(rr + k), d = v128.load(ri + k);
    v128.store(re + bytes - k - 12, reversed(add(a, d)));
    v128.store(im + bytes - k - 12, reversed(sub(c, b)));
    v128.store(re + k, sub(a, d));
    v128.store(im + k, add(c, b));
  }
  store<f32>(re + half, load<f32>(lr + half) - load<f32>(ri + half));
  store<f32>(im + half, load<f32>(rr + half) + load<f32>(li + half));
  memory.fill(spectra, 0, stride * 4);
}
