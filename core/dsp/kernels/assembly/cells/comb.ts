// Comb with a low pass in its loop (Karplus and Strong, 1983; Jaffe and Smith, 1983, on its tuning): y = x + feedback·lowpass(y, `delay` ago).
import { CELL_INPUTS, CELL_SIZE, CLOCK, INPUT_BYTES } from "../../layout";
import { add, flush, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, put, stepOf, value } from "../cell";

/** Frames of delay, feedback, how much of what comes round is new (1: no low pass), and how much of the comb is heard. */
export const INPUTS: i32 = 4;
const DELAY = 0, FEEDBACK = 1, NEW = 2, MIX = 3;
// Each voice's low pass and age in frames, then `size` frames of delay. Where the next frame goes the clock tells, so that lines can be copied.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const AGE: usize = HEAD + 16, LINE: usize = HEAD + 32;

/** `size`: frames of its delay, a power of two. */
export function bytes(size: i32): i32 { return <i32>LINE + size * 16; }

export function begin(cell: usize, pair: usize, side: i32): void {
  // What stands in the line isn't cleared: what is older than the voice is silent.
  clearLanes(cell + HEAD, cell + HEAD + 32, side);
}

export function control(cell: usize, pair: usize, frames: i32): void {
  v128.store(cell + HEAD, flush(v128.load(cell + HEAD)));
}

// The frame `back` frames ago of both voices, which stand apart by another number of frames each.
// @ts-ignore: decorator
@inline function tap(line: usize, mask: i32, at: i32, backA: i32, backB: i32, k: i32): v128 {
  const a = v128.load64_zero(line + (<usize>((at - backA - k) & mask) << 4));
  return v128.load64_lane(line + (<usize>((at - backB - k) & mask) << 4) + 8, a, 1);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const size = load<i32>(cell + CELL_SIZE);
  const mask = size - 1;
  const line = cell + LINE;
  let at = load<i32>(CLOCK);
  let held = v128.load(cell + HEAD), age = v128.load(cell + AGE);
  let delay = value(cell, DELAY), feedback = value(cell, FEEDBACK), fresh = value(cell, NEW), share = value(cell, MIX);
  const delayStep = stepOf(cell, DELAY), feedbackStep = stepOf(cell, FEEDBACK), freshStep = stepOf(cell, NEW), shareStep = stepOf(cell, MIX);
  const most = num(<f32>(size - 8));
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    // Between four frames by the polynomial through them (Lagrange); t: from the second towards the third.
    const d = f32x4.pmin(most, f32x4.pmax(num(2), delay));
    const whole = f32x4.floor(d);
    const t = sub(d, whole);
    const backA = <i32>f32x4.extract_lane(whole, 0), backB = <i32>f32x4.extract_lane(whole, 2);
    const y0 = tap(line, mask, at, backA, backB, -1), y1 = tap(line, mask, at, backA, backB, 0);
    const y2 = tap(line, mask, at, backA, backB, 1), y3 = tap(line, mask, at, backA, backB, 2);
    const tm = sub(t, num(1)), tp = add(t, num(1)), t2 = sub(t, num(2));
    const sixth = num(1.0 / 6.0), half = num(0.5);
    let y = mul(mul(mul(t, tm), mul(t2, sixth)), y0);
    y = sub(mul(mul(mul(tp, tm), mul(t2, half)), y1), y);
    y = sub(y, mul(mul(mul(tp, t), mul(t2, half)), y2));
    y = madd(mul(mul(tp, t), mul(tm, sixth)), y3, y);
    y = v128.and(y, f32x4.gt(age, add(d, num(2))));
    held = madd(fresh, sub(y, held), held);
    const out = madd(feedback, held, x);
    v128.store(line + (<usize>(at & mask) << 4), out);
    at++;
    age = f32x4.pmin(num(1e6), add(age, num(1)));
    v128.store(block, madd(share, sub(out, x), x));
    delay = add(delay, delayStep);
    feedback = add(feedback, feedbackStep);
    fresh = add(fresh, freshStep);
    share = add(share, shareStep);
  }
  v128.store(cell + HEAD, held);
  v128.store(cell + AGE, age);
  put(cell, DELAY, delay);
  put(cell, FEEDBACK, feedback);
  put(cell, NEW, fresh);
  put(cell, MIX, share);
}
