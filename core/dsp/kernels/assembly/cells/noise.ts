// Noise as strong in all its colours: white, pink (Kellet, 1999: six one-poles, within 0.1 dB of −3 dB an octave above 10 Hz) and brown (−6 dB an octave above 15 Hz).
import { CELL_INPUTS, CELL_VARIANT, INPUT_BYTES, SEED_A, SEED_B } from "../../layout";
import { add, madd, mul, num } from "../arithmetic";
import { clearLanes, flushAll, put, stepOf, value } from "../cell";
import { even, shift } from "../functions";

/** Level, and of the right channel how much is the left one's noise and how much its own (the left lanes hold 1 and 0). */
export const INPUTS: i32 = 3;
const LEVEL = 0, SAME = 1, OWN = 2;
// The numbers, then what the poles hold.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const POLES: usize = HEAD + 16, END: usize = POLES + 7 * 16;
const WHITE = 0, PINK = 1;

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
  sow(cell + HEAD + (side ? 8 : 0), load<i32>(pair + (side ? SEED_B : SEED_A)));
}
export function control(cell: usize, pair: usize, frames: i32): void { flushAll(cell + POLES, cell + END); }

// @ts-ignore: decorator
@inline function pole(cell: usize, n: usize, keep: f32, take: f32, x: v128): v128 {
  const y = madd(num(keep), v128.load(cell + POLES + n * 16), mul(num(take), x));
  v128.store(cell + POLES + n * 16, y);
  return y;
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const colour = load<i32>(cell + CELL_VARIANT);
  let numbers = v128.load(cell + HEAD);
  let level = value(cell, LEVEL), same = value(cell, SAME), own = value(cell, OWN);
  const levelStep = stepOf(cell, LEVEL), sameStep = stepOf(cell, SAME), ownStep = stepOf(cell, OWN);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    numbers = shift(numbers);
    const each = even(numbers);
    const x = madd(same, v128.shuffle<f32>(each, each, 0, 0, 2, 2), mul(own, each));
    let y: v128;
    if (colour == WHITE) y = mul(num(1.7320508), x);
    else if (colour == PINK) {
      const held = v128.load(cell + POLES + 96);
      y = add(pole(cell, 0, 0.99886, 0.0555179, x), pole(cell, 1, 0.99332, 0.0750759, x));
      y = add(y, add(pole(cell, 2, 0.969, 0.153852, x), pole(cell, 3, 0.8665, 0.3104856, x)));
      y = add(y, add(pole(cell, 4, 0.55, 0.5329522, x), pole(cell, 5, -0.7616, -0.016898, x)));
      y = mul(num(PINK_LEVEL), add(add(y, held), mul(num(0.5362), x)));
      v128.store(cell + POLES + 96, mul(num(0.115926), x));
    } else y = mul(num(BROWN_LEVEL), pole(cell, 0, 0.998, 1, x));
    v128.store(block, mul(level, y));
    level = add(level, levelStep);
    same = add(same, sameStep);
    own = add(own, ownStep);
  }
  v128.store(cell + HEAD, numbers);
  put(cell, LEVEL, level);
  put(cell, SAME, same);
  put(cell, OWN, own);
}

// By these all colours have a mean square of 1: √(3·(1 − 0.998²)) and what the pink poles' impulse response sums up to.
const BROWN_LEVEL: f32 = 0.10949;
const PINK_LEVEL: f32 = 0.567415;
