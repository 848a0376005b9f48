// Band-limited reading of samples: one voice into two lanes of the block. core/dsp/sinc.ts says the same in plain TypeScript.
import {
  BANK, BANK_ROWS, BANK_TAPS, ENDED, FINISHED, FLOAT32, INT16, INT24, PHASE_BITS, POSITION, RATE, RATE_STEP, SPAN, SPAN_FORMAT,
  SPAN_GAIN, SPAN_JUMP, SPAN_LEFT, SPAN_LEFT_LOW, SPAN_LIMIT, SPAN_MASK, SPAN_MIRROR, SPAN_NEXT, SPAN_RIGHT, SPAN_RIGHT_LOW, SPAN_SLOPE, STATE,
} from "../layout";
import { add, madd, mul } from "./arithmetic";

const REMAINDER_BITS: u32 = 32 - PHASE_BITS;
const REMAINDER_MASK: u32 = (1 << REMAINDER_BITS) - 1;
const REMAINDER_SCALE: f32 = 1.0 / <f32>(1 << REMAINDER_BITS);

// @ts-ignore: decorator
@inline function remainderOf(fraction: u32): v128 {
  return f32x4.splat(<f32>(<i32>(fraction & REMAINDER_MASK)) * REMAINDER_SCALE);
}

// Sums the lanes of two channels into the lower two lanes.
// @ts-ignore: decorator
@inline function fold(l: v128, r: v128): v128 {
  const folded = add(v128.shuffle<f32>(l, r, 0, 4, 1, 5), v128.shuffle<f32>(l, r, 2, 6, 3, 7));
  return add(folded, v128.shuffle<f32>(folded, folded, 2, 3, 2, 3));
}

// @ts-ignore: decorator
@inline function rowOf(rows: usize, position: u64): usize {
  return rows + (<usize>(<u32>position >> REMAINDER_BITS) << 7);
}

// One frame by 16 taps. Written out with the offsets as immediates: this is where the time goes.
// @ts-ignore: decorator
@inline function frame16(position: u64, remainder: v128, rows: usize, left: usize, right: usize): v128 {
  const row = rowOf(rows, position);
  const at = <usize>(position >> 32) << 2;
  const l = left + at, r = right + at;
  let c = madd(remainder, v128.load(row, 64), v128.load(row));
  let sumL = mul(c, v128.load(l)), sumR = mul(c, v128.load(r));
  c = madd(remainder, v128.load(row, 80), v128.load(row, 16));
  sumL = madd(c, v128.load(l, 16), sumL);
  sumR = madd(c, v128.load(r, 16), sumR);
  c = madd(remainder, v128.load(row, 96), v128.load(row, 32));
  sumL = madd(c, v128.load(l, 32), sumL);
  sumR = madd(c, v128.load(r, 32), sumR);
  c = madd(remainder, v128.load(row, 112), v128.load(row, 48));
  sumL = madd(c, v128.load(l, 48), sumL);
  sumR = madd(c, v128.load(r, 48), sumR);
  return fold(sumL, sumR);
}

// Frames by 16 taps; `moving`: the rate changes by `step` with every frame. The fractions of four frames are turned into remainders
// at once, apart from the positions: from one four to the next they move by four rates and six steps, and that by sixteen steps.
// @ts-ignore: decorator
@inline function frames16(
  moving: bool, out: usize, n: i32, position: u64, rate: u64, step: u64, rows: usize, left: usize, right: usize,
): void {
  const last = out + (<usize>n << 4);
  const fours = out + (<usize>(n & ~3) << 4);
  const mask = i32x4.splat(<i32>REMAINDER_MASK);
  const scale = f32x4.splat(REMAINDER_SCALE);
  let fraction = i32x4.add(i32x4.splat(<i32>position), i32x4.mul(i32x4.splat(<i32>rate), i32x4(0, 1, 2, 3)));
  let stride = i32x4.splat(<i32>rate << 2);
  if (moving) {
    fraction = i32x4.add(fraction, i32x4.mul(i32x4.splat(<i32>step), i32x4(0, 0, 1, 3)));
    stride = i32x4.add(stride, i32x4.mul(i32x4.splat(<i32>step), i32x4(6, 10, 14, 18)));
  }
  while (out < fours) {
    const remainder = mul(f32x4.convert_i32x4_s(v128.and(fraction, mask)), scale);
    fraction = i32x4.add(fraction, stride);
    if (moving) stride = i32x4.add(stride, i32x4.splat(<i32>step << 4));
    v128.store64_lane(out, frame16(position, v128.shuffle<f32>(remainder, remainder, 0, 0, 0, 0), rows, left, right), 0);
    position += rate;
    if (moving) rate += step;
    v128.store64_lane(out, frame16(position, v128.shuffle<f32>(remainder, remainder, 1, 1, 1, 1), rows, left, right), 0, 16);
    position += rate;
    if (moving) rate += step;
    v128.store64_lane(out, frame16(position, v128.shuffle<f32>(remainder, remainder, 2, 2, 2, 2), rows, left, right), 0, 32);
    position += rate;
    if (moving) rate += step;
    v128.store64_lane(out, frame16(position, v128.shuffle<f32>(remainder, remainder, 3, 3, 3, 3), rows, left, right), 0, 48);
    position += rate;
    if (moving) rate += step;
    out += 64;
  }
  while (out < last) {
    v128.store64_lane(out, frame16(position, remainderOf(<u32>position), rows, left, right), 0);
    position += rate;
    if (moving) rate += step;
    out += 16;
  }
}

function moving16(out: usize, n: i32, position: u64, rate: u64, step: u64, rows: usize, left: usize, right: usize): void {
  frames16(true, out, n, position, rate, step, rows, left, right);
}

function steady16(out: usize, n: i32, position: u64, rate: u64, rows: usize, left: usize, right: usize): void {
  frames16(false, out, n, position, rate, 0, rows, left, right);
}

// Four samples as floats; integers are not yet divided by their full scale.
// @ts-ignore: decorator
@inline export function four(format: i32, high: usize, low: usize): v128 {
  if (format == FLOAT32) return v128.load(high);
  if (format == INT16) return f32x4.convert_i32x4_s(v128.load_ext<i16>(high));
  const bytes = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(low)));
  return f32x4.convert_i32x4_s(v128.add<i32>(v128.shl<i32>(v128.load_ext<i16>(high), 8), bytes));
}

// Any number of taps, any format (a constant at each place where this is inlined). `left` and `right`: frame 0 at the first tap.
// @ts-ignore: decorator
@inline function any(
  format: i32, out: usize, n: i32, position: u64, rate: u64, step: u64, rows: usize, taps: usize,
  left: usize, right: usize, leftLow: usize, rightLow: usize,
): void {
  const last = out + (<usize>n << 4);
  const scale = f32x4.splat(format == FLOAT32 ? 1 : format == INT16 ? 1.0 / 32768.0 : 1.0 / 8388608.0);
  const size: usize = format == FLOAT32 ? 2 : 1;
  while (out < last) {
    const fraction = <u32>position;
    const remainder = remainderOf(fraction);
    const row = rows + <usize>(fraction >> REMAINDER_BITS) * (taps << 3);
    const slopes = row + (taps << 2);
    const index = <usize>(position >> 32);
    let sumL = f32x4.splat(0), sumR = f32x4.splat(0);
    for (let t: usize = 0; t < taps; t += 4) {
      const c = madd(remainder, v128.load(slopes + (t << 2)), v128.load(row + (t << 2)));
      const at = index + t;
      sumL = madd(c, four(format, left + (at << size), leftLow + at), sumL);
      sumR = madd(c, four(format, right + (at << size), rightLow + at), sumR);
    }
    v128.store64_lane(out, mul(fold(sumL, sumR), scale), 0);
    position += rate;
    rate += step;
    out += 16;
  }
}

export function clear(out: usize, last: usize): void {
  for (; out < last; out += 16) store<u64>(out, 0);
}

// How many frames (at least 1, at most `most`) can be read before the span's limit could be reached at the faster rate.
// @ts-ignore: decorator
@inline function safe(position: u64, limit: u32, mask: u32, rate: u64, step: u64, most: i32): i32 {
  const end = <u64>limit << 32;
  const room = mask ? ~position : position;
  const fastest = <i64>step > 0 ? rate + step * <u64>most : rate;
  const left = end - room;
  // The division is dear and seldom needed.
  return fastest * <u64>most <= left ? most : <i32>((left - 1) / fastest + 1);
}

// Multiplies frames by a gain that is a number for each place, however the frames are parted into blocks: `left` (32.32) is what is still before the limit.
function level(out: usize, n: i32, left: i64, rate: i64, step: i64, gain: f64, slope: f64): void {
  const last = out + (<usize>n << 4);
  for (; out < last; out += 16) {
    v128.store64_lane(out, mul(v128.load64_zero(out), f32x4.splat(<f32>(gain + slope * <f64>left))), 0);
    left -= rate;
    rate += step;
  }
}

// So many spans in a row may be passed without reading a frame of them.
const MOST_TURNS = 320;

// Reads one voice through its bank into two lanes of the block.
export function read(voice: usize, out: usize, frames: i32): void {
  const bank = load<u32>(voice + BANK) as usize;
  const taps = <usize>load<i32>(bank + BANK_TAPS);
  const rows = bank + BANK_ROWS;
  let span = load<u32>(voice + SPAN) as usize;
  let position = load<u64>(voice + POSITION);
  let rate = load<u64>(voice + RATE);
  const step = load<u64>(voice + RATE_STEP);
  let turns = 0;
  while (frames > 0) {
    const mask = load<u32>(span + SPAN_MASK), limit = load<u32>(span + SPAN_LIMIT);
    if ((<u32>(position >> 32) ^ mask) >= limit) {
      const next = load<u32>(span + SPAN_NEXT) as usize;
      // A ring of spans in none of which there is anything to read has no end.
      if (next == 0 || ++turns > MOST_TURNS) {
        store<i32>(voice + STATE, FINISHED);
        store<i32>(ENDED, load<i32>(ENDED) + 1);
        clear(out, out + (<usize>frames << 4));
        break;
      }
      const jump = <u64>(<i64>load<i32>(span + SPAN_JUMP) << 32);
      position = load<i32>(span + SPAN_MIRROR) ? jump - position : position + jump;
      span = next;
      continue;
    }
    turns = 0;
    const n = safe(position, limit, mask, rate, step, frames);
    const signed = mask ? 0 - rate : rate, signedStep = mask ? 0 - step : step;
    const format = load<i32>(span + SPAN_FORMAT);
    const back: usize = (taps >> 1) - 1;
    const left = load<u32>(span + SPAN_LEFT) as usize, right = load<u32>(span + SPAN_RIGHT) as usize;
    if (format == FLOAT32) {
      const l = left - (back << 2), r = right - (back << 2);
      if (taps == 16 && step == 0) steady16(out, n, position, signed, rows, l, r);
      else if (taps == 16) moving16(out, n, position, signed, signedStep, rows, l, r);
      else any(FLOAT32, out, n, position, signed, signedStep, rows, taps, l, r, 0, 0);
    } else {
      const l = left - (back << 1), r = right - (back << 1);
      const ll = (load<u32>(span + SPAN_LEFT_LOW) as usize) - back, rl = (load<u32>(span + SPAN_RIGHT_LOW) as usize) - back;
      if (format == INT16) any(INT16, out, n, position, signed, signedStep, rows, taps, l, r, 0, 0);
      else any(INT24, out, n, position, signed, signedStep, rows, taps, l, r, ll, rl);
    }
    const gain = load<f32>(span + SPAN_GAIN), slope = load<f32>(span + SPAN_SLOPE);
    if (gain != 1 || slope != 0) {
      const left = (<u64>limit << 32) - (mask ? ~position : position);
      level(out, n, <i64>left, <i64>rate, <i64>step, <f64>gain, <f64>slope * (1.0 / 4294967296.0));
    }
    const count = <u64>n;
    position += signed * count + signedStep * ((count * (count - 1)) >> 1);
    rate += step * count;
    frames -= n;
    out += <usize>n << 4;
  }
  store<u64>(voice + POSITION, position);
  store<u64>(voice + RATE, rate);
  store<u32>(voice + SPAN, span as u32);
}
