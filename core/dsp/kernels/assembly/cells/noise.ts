// Noise as strong in all its colours: white, pink (Kellet, 1999: six one-poles, within 0.1 dB of −3 dB an octave above 10 Hz) brown (−6 dB an octave above 15 Hz), blue (+3 dB:
// pink noise from each frame to the next), and dust: single clicks of any strength at random moments.
import { CELL_INPUTS, CELL_VARIANT, INPUT_BYTES, SEED_A, SEED_B } from "../../layout";
import { add, flush, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, flushAll, put, stepOf, value } from "../cell";
import { even, shift } from "../functions";

/** Level, of the right channel how much is the left one's noise and how much its own (the left lanes hold 1 and 0), and how likely a click of dust is in a frame;
 *  how far it comes in bursts, their cycles per frame, what is left of one after a frame, how likely each is, and how loud the softest. */
export const INPUTS: i32 = 9;
const LEVEL = 0, SAME = 1, OWN = 2, LIKELY = 3, BURSTS = 4, CYCLES = 5, KEEP = 6, CHANCE = 7, LEAST = 8;
// The numbers, then what the poles hold.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const POLES: usize = HEAD + 16, LAST: usize = POLES + 7 * 16;
// Where each voice is on its way to the next burst (2³² is a turn), how much is left of the last one, and the numbers that decide on them.
const WAY: usize = LAST + 16, LEFT: usize = WAY + 16, DICE: usize = LEFT + 16, END: usize = DICE + 16;
const WHITE = 0, PINK = 1, BROWN = 2, BLUE = 3;

export function bytes(size: i32): i32 { return <i32>END; }

/** A seed becomes numbers that look nothing like those of its neighbours, and are never 0. */
export function sow(at: usize, seed: i32): void {
  let x: u32 = <u32>seed * 2654435761 + 0x9e3779b9;
  for (let lane: usize = 0; lane < 8; lane += 4) {
    x ^= x >> 16;
    x = x * 0x85ebca6b + 0x6d2b79f5;
    x ^= x >> 13;
    store<u32>(at + lane, x | 1);
  }
}

export function begin(cell: usize, pair: usize, side: i32): void {
  clearLanes(cell + POLES, cell + END, side);
  const at: usize = side ? 8 : 0;
  const seed = load<i32>(pair + (side ? SEED_B : SEED_A));
  sow(cell + HEAD + at, seed);
  sow(cell + DICE + at, seed + 5167);
  // Left and right burst together; the first burst is the note itself.
  store<u32>(cell + DICE + at + 4, load<u32>(cell + DICE + at));
  store<f32>(cell + LEFT + at, 1);
  store<f32>(cell + LEFT + at + 4, 1);
}
export function control(cell: usize, pair: usize, frames: i32): void { flushAll(cell + POLES, cell + WAY); }

// Lets the block through in bursts: each begins at once and dies away, some of them don't come.
function burst(cell: usize, block: usize, frames: i32): void {
  let way = v128.load(cell + WAY), left = v128.load(cell + LEFT), dice = v128.load(cell + DICE), bursts = value(cell, BURSTS);
  const burstsStep = stepOf(cell, BURSTS), keep = value(cell, KEEP), chance = value(cell, CHANCE), least = value(cell, LEAST);
  const turn = i32x4.trunc_sat_f32x4_u(mul(value(cell, CYCLES), num(4294967296.0)));
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    v128.store(block, mul(x, madd(bursts, sub(left, num(1)), num(1))));
    const next = v128.add<i32>(way, turn);
    const over = i32x4.lt_u(next, way);
    left = mul(left, keep);
    if (v128.any_true(over)) {
      // One number says whether it comes, the next how loud it is.
      const first = shift(dice), second = shift(first);
      const comes = f32x4.lt(f32x4.abs(even(first)), chance);
      const loud = madd(sub(num(1), least), f32x4.abs(even(second)), least);
      left = v128.bitselect(loud, left, v128.and(over, comes));
      dice = v128.bitselect(second, dice, over);
    }
    way = next;
    bursts = add(bursts, burstsStep);
  }
  v128.store(cell + WAY, way);
  v128.store(cell + LEFT, flush(left));
  v128.store(cell + DICE, dice);
}

// @ts-ignore: decorator
@inline function pole(cell: usize, n: usize, keep: f32, take: f32, x: v128): v128 {
  const y = madd(num(keep), v128.load(cell + POLES + n * 16), mul(num(take), x));
  v128.store(cell + POLES + n * 16, y);
  return y;
}

// Pink noise of a mean square of 1.
// @ts-ignore: decorator
@inline function pink(cell: usize, x: v128): v128 {
  const held = v128.load(cell + POLES + 96);
  let y = add(pole(cell, 0, 0.99886, 0.0555179, x), pole(cell, 1, 0.99332, 0.0750759, x));
  y = add(y, add(pole(cell, 2, 0.969, 0.153852, x), pole(cell, 3, 0.8665, 0.3104856, x)));
  y = add(y, add(pole(cell, 4, 0.55, 0.5329522, x), pole(cell, 5, -0.7616, -0.016898, x)));
  v128.store(cell + POLES + 96, mul(num(0.115926), x));
  return mul(num(PINK_LEVEL), add(add(y, held), mul(num(0.5362), x)));
}

// Numbers that are smaller than is likely become clicks, spread over all strengths; the others are silence.
// @ts-ignore: decorator
@inline function dust(numbers: v128, likely: v128): v128 {
  const clicks = f32x4.lt(f32x4.abs(numbers), likely);
  return v128.and(clicks, mul(num(DUST_LEVEL), f32x4.div(numbers, f32x4.pmax(num(1e-9), likely))));
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const colour = load<i32>(cell + CELL_VARIANT);
  let numbers = v128.load(cell + HEAD);
  let level = value(cell, LEVEL), same = value(cell, SAME), own = value(cell, OWN);
  let likely = value(cell, LIKELY);
  const first = block;
  const levelStep = stepOf(cell, LEVEL), sameStep = stepOf(cell, SAME), ownStep = stepOf(cell, OWN), likelyStep = stepOf(cell, LIKELY);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    numbers = shift(numbers);
    let each = even(numbers);
    if (colour > BLUE) each = dust(each, likely);
    const x = madd(same, v128.shuffle<f32>(each, each, 0, 0, 2, 2), mul(own, each));
    let y: v128;
    if (colour == WHITE) y = mul(num(1.7320508), x);
    else if (colour == PINK) y = pink(cell, x);
    else if (colour == BROWN) y = mul(num(BROWN_LEVEL), pole(cell, 0, 0.998, 1, x));
    else if (colour == BLUE) {
      const now = pink(cell, x);
      y = mul(num(BLUE_LEVEL), sub(now, v128.load(cell + LAST)));
      v128.store(cell + LAST, now);
    } else y = x;
    v128.store(block, mul(level, y));
    level = add(level, levelStep);
    same = add(same, sameStep);
    own = add(own, ownStep);
    likely = add(likely, likelyStep);
  }
  v128.store(cell + HEAD, numbers);
  if (v128.any_true(v128.or(value(cell, BURSTS), stepOf(cell, BURSTS)))) burst(cell, first, frames);
  for (let input = BURSTS; input <= LEAST; input++) {
    const s = stepOf(cell, input);
    if (!v128.any_true(s)) continue;
    let x = value(cell, input);
    for (let n = 0; n < frames; n++) x = add(x, s);
    put(cell, input, x);
  }
  put(cell, LEVEL, level);
  put(cell, SAME, same);
  put(cell, OWN, own);
  put(cell, LIKELY, likely);
}

// By these all colours but dust have a mean square of 1: √(3·(1 − 0.998²)) and what the pink poles' impulse response sums up to.
const BROWN_LEVEL: f32 = 0.10949;
const PINK_LEVEL: f32 = 0.567415;
const BLUE_LEVEL: f32 = 1.68272;
// The strongest click, times the level: half of full level.
const DUST_LEVEL: f32 = 2.8;
