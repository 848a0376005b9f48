// Hot loops of the voices. Built by scripts/kernels.mjs; reference.ts says the same in plain TypeScript.
import {
  BANK, BANK_ROWS, BANK_TAPS, BUS, FINISHED, GAIN, PAIR_BYTES, PHASE_BITS, PLAYING, POSITION, RATE, RATE_STEP, SPAN,
  SPAN_END, SPAN_JUMP, SPAN_LEFT, SPAN_NEXT, SPAN_RIGHT, STAGE_0, STAGE_BYTES, STAGE_COUNT, STAGE_G, STAGE_K, STAGE_M0,
  STAGE_M1, STAGE_M2, STAGE_S1, STAGE_S2, STATE, VOICE_A, VOICE_B,
} from "../layout";

const REMAINDER_BITS: u32 = 32 - PHASE_BITS;
const REMAINDER_MASK: u32 = (1 << REMAINDER_BITS) - 1;
const REMAINDER_SCALE: f32 = 1.0 / <f32>(1 << REMAINDER_BITS);

// @ts-ignore: decorator
@inline function tap(row: usize, deltas: usize, remainder: v128, at: usize): v128 {
  return f32x4.add(v128.load(row + at), f32x4.mul(remainder, v128.load(deltas + at)));
}

// Reads one voice through its windowed-sinc bank into two lanes of the scratch block.
function read(voice: usize, out: usize, frames: i32): void {
  let position = load<u64>(voice + POSITION);
  let rate = load<u64>(voice + RATE);
  const rateStep = load<u64>(voice + RATE_STEP);
  let span = load<u32>(voice + SPAN) as usize;
  const bank = load<u32>(voice + BANK) as usize;
  const taps = load<i32>(bank + BANK_TAPS);
  const rows = bank + BANK_ROWS;
  const rowBytes: usize = <usize>taps << 3;
  const half: usize = ((<usize>taps >> 1) - 1) << 2;
  let left = load<u32>(span + SPAN_LEFT) as usize;
  let right = load<u32>(span + SPAN_RIGHT) as usize;
  let end = load<u32>(span + SPAN_END);
  const last = out + (<usize>frames << 4);
  while (out < last) {
    while (<u32>(position >> 32) >= end) {
      const next = load<u32>(span + SPAN_NEXT) as usize;
      if (next == 0) {
        store<i32>(voice + STATE, FINISHED);
        for (; out < last; out += 16) store<u64>(out, 0);
        store<u64>(voice + POSITION, position);
        store<u64>(voice + RATE, rate);
        store<u32>(voice + SPAN, span as u32);
        return;
      }
      position += <u64>(<i64>load<i32>(span + SPAN_JUMP) << 32);
      span = next;
      left = load<u32>(span + SPAN_LEFT) as usize;
      right = load<u32>(span + SPAN_RIGHT) as usize;
      end = load<u32>(span + SPAN_END);
    }
    const fraction = <u32>position;
    const remainder = f32x4.splat(<f32>(<i32>(fraction & REMAINDER_MASK)) * REMAINDER_SCALE);
    const row = rows + <usize>(fraction >> REMAINDER_BITS) * rowBytes;
    const deltas = row + (rowBytes >> 1);
    const at = (<usize>(position >> 32) << 2) - half;
    const l = left + at;
    const r = right + at;
    let c = tap(row, deltas, remainder, 0);
    let sumL = f32x4.mul(c, v128.load(l));
    let sumR = f32x4.mul(c, v128.load(r));
    c = tap(row, deltas, remainder, 16);
    sumL = f32x4.add(sumL, f32x4.mul(c, v128.load(l, 16)));
    sumR = f32x4.add(sumR, f32x4.mul(c, v128.load(r, 16)));
    c = tap(row, deltas, remainder, 32);
    sumL = f32x4.add(sumL, f32x4.mul(c, v128.load(l, 32)));
    sumR = f32x4.add(sumR, f32x4.mul(c, v128.load(r, 32)));
    c = tap(row, deltas, remainder, 48);
    sumL = f32x4.add(sumL, f32x4.mul(c, v128.load(l, 48)));
    sumR = f32x4.add(sumR, f32x4.mul(c, v128.load(r, 48)));
    const rest = <usize>taps << 2;
    for (let t: usize = 64; t < rest; t += 16) {
      c = tap(row, deltas, remainder, t);
      sumL = f32x4.add(sumL, f32x4.mul(c, v128.load(l + t)));
      sumR = f32x4.add(sumR, f32x4.mul(c, v128.load(r + t)));
    }
    const folded = f32x4.add(
      v128.shuffle<f32>(sumL, sumR, 0, 4, 1, 5),
      v128.shuffle<f32>(sumL, sumR, 2, 6, 3, 7),
    );
    const sum = f32x4.add(folded, v128.shuffle<f32>(folded, folded, 2, 3, 2, 3));
    v128.store64_lane(out, sum, 0);
    position += rate;
    rate += rateStep;
    out += 16;
  }
  store<u64>(voice + POSITION, position);
  store<u64>(voice + RATE, rate);
  store<u32>(voice + SPAN, span as u32);
}

// State-variable filter after Zavalishin (2012) with both integrators trapezoidal; g and k move every frame. The two states are
// advanced as one matrix, so that each frame waits for the last by three operations only; the outputs are the means of the
// states before and after, which is what trapezoidal integration says of them.
function stage(s: usize, block: usize, frames: i32): void {
  let g = v128.load(s + STAGE_G), k = v128.load(s + STAGE_K);
  let m0 = v128.load(s + STAGE_M0), m1 = v128.load(s + STAGE_M1), m2 = v128.load(s + STAGE_M2);
  const gStep = v128.load(s + STAGE_G, 16), kStep = v128.load(s + STAGE_K, 16);
  const m0Step = v128.load(s + STAGE_M0, 16), m1Step = v128.load(s + STAGE_M1, 16), m2Step = v128.load(s + STAGE_M2, 16);
  let s1 = v128.load(s + STAGE_S1), s2 = v128.load(s + STAGE_S2);
  const one = f32x4.splat(1), two = f32x4.splat(2), half = f32x4.splat(0.5);
  const last = block + (<usize>frames << 4);
  for (; block < last; block += 16) {
    const v0 = v128.load(block);
    const a1 = f32x4.div(two, f32x4.add(one, f32x4.mul(g, f32x4.add(g, k))));
    const a2 = f32x4.mul(g, a1);
    const a3 = f32x4.mul(g, a2);
    const in1 = f32x4.mul(a2, v0);
    const in2 = f32x4.mul(a3, v0);
    const next1 = f32x4.add(f32x4.mul(f32x4.sub(a1, one), s1), f32x4.sub(in1, f32x4.mul(a2, s2)));
    const next2 = f32x4.add(f32x4.mul(a2, s1), f32x4.add(f32x4.mul(f32x4.sub(one, a3), s2), in2));
    const v1 = f32x4.mul(half, f32x4.add(s1, next1));
    const v2 = f32x4.mul(half, f32x4.add(s2, next2));
    s1 = next1;
    s2 = next2;
    v128.store(block, f32x4.add(f32x4.mul(m0, v0), f32x4.add(f32x4.mul(m1, v1), f32x4.mul(m2, v2))));
    g = f32x4.add(g, gStep);
    k = f32x4.add(k, kStep);
    m0 = f32x4.add(m0, m0Step);
    m1 = f32x4.add(m1, m1Step);
    m2 = f32x4.add(m2, m2Step);
  }
  v128.store(s + STAGE_G, g);
  v128.store(s + STAGE_K, k);
  v128.store(s + STAGE_M0, m0);
  v128.store(s + STAGE_M1, m1);
  v128.store(s + STAGE_M2, m2);
  v128.store(s + STAGE_S1, s1);
  v128.store(s + STAGE_S2, s2);
}

// Applies the gain ramp and adds both voices to their buses (interleaved stereo).
function mix(pair: usize, block: usize, offset: usize, frames: i32): void {
  let gain = v128.load(pair + GAIN);
  const gainStep = v128.load(pair + GAIN, 16);
  const busA = (load<u32>(pair + VOICE_A + BUS) as usize) + offset;
  const busB = (load<u32>(pair + VOICE_B + BUS) as usize) + offset;
  const count = <usize>frames;
  if (busA == busB) {
    for (let i: usize = 0; i < count; i++) {
      const x = f32x4.mul(v128.load(block + (i << 4)), gain);
      const sum = f32x4.add(x, v128.shuffle<f32>(x, x, 2, 3, 2, 3));
      const bus = busA + (i << 3);
      v128.store64_lane(bus, f32x4.add(v128.load64_zero(bus), sum), 0);
      gain = f32x4.add(gain, gainStep);
    }
  } else {
    for (let i: usize = 0; i < count; i++) {
      const x = f32x4.mul(v128.load(block + (i << 4)), gain);
      const a = busA + (i << 3), b = busB + (i << 3);
      v128.store64_lane(a, f32x4.add(v128.load64_zero(a), x), 0);
      v128.store64_lane(b, f32x4.add(v128.load64_zero(b), v128.shuffle<f32>(x, x, 2, 3, 2, 3)), 0);
      gain = f32x4.add(gain, gainStep);
    }
  }
  v128.store(pair + GAIN, gain);
}

function clear(out: usize, frames: i32): void {
  const last = out + (<usize>frames << 4);
  for (; out < last; out += 16) store<u64>(out, 0);
}

// Renders `count` pairs for `frames` frames (at most 128) and adds them to their buses, `from` frames into the block.
export function renderPairs(pairs: usize, count: i32, scratch: usize, from: i32, frames: i32): void {
  for (let i = 0; i < count; i++) {
    const pair = pairs + <usize>i * PAIR_BYTES;
    const a = load<i32>(pair + VOICE_A + STATE) == PLAYING;
    const b = load<i32>(pair + VOICE_B + STATE) == PLAYING;
    if (!a && !b) continue;
    if (a) read(pair + VOICE_A, scratch, frames); else clear(scratch, frames);
    if (b) read(pair + VOICE_B, scratch + 8, frames); else clear(scratch + 8, frames);
    const stages = load<i32>(pair + STAGE_COUNT);
    for (let s = 0; s < stages; s++) stage(pair + STAGE_0 + <usize>s * STAGE_BYTES, scratch, frames);
    mix(pair, scratch, <usize>from << 3, frames);
  }
}
