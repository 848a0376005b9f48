// Six values for each frame and back: the filters' loops. core/dsp/effects/oversampler.ts says what they are for.
import { madd, num } from "./arithmetic";

/**
 * Six values for each of `frames` frames: out[6n + p] = Σ taps[k][p] · input[n + LENGTH − k], the taps of each k in eight numbers. `length`: values that a frame is
 * made of besides itself; `input` stands so many before the first frame.
 */
export function oversampleUp(input: usize, out: usize, taps: usize, length: i32, frames: i32): void {
  for (let n = 0; n < frames; n++) {
    let low = num(0), high = num(0);
    let at = input + (<usize>length << 2), tap = taps;
    for (let k = 0; k <= length; k++) {
      const x = v128.load32_splat(at);
      low = madd(v128.load(tap), x, low);
      high = madd(v128.load(tap, 16), x, high);
      at -= 4;
      tap += 32;
    }
    v128.store(out, low);
    v128.store64_lane(out + 16, high, 0);
    input += 4;
    out += 24;
  }
}

/** A frame for every six values: out[n] = Σ taps[t] · input[6n + t], `count` taps, a multiple of 4. */
export function oversampleDown(input: usize, out: usize, taps: usize, count: i32, frames: i32): void {
  const end = <usize>count << 2;
  for (let n = 0; n < frames; n++) {
    let s = num(0), t = num(0);
    let i: usize = 0;
    for (; i + 32 <= end; i += 32) {
      s = madd(v128.load(taps + i), v128.load(input + i), s);
      t = madd(v128.load(taps + i, 16), v128.load(input + i, 16), t);
    }
    if (i < end) s = madd(v128.load(taps + i), v128.load(input + i), s);
    s = f32x4.add(s, t);
    s = f32x4.add(s, v128.shuffle<f32>(s, s, 2, 3, 0, 1));
    store<f32>(out, f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1));
    input += 24;
    out += 4;
  }
}
