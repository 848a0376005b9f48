// What the voices of another layer put out, added to the sound: frame by frame from where they have left it in this segment.
import { CELL_INPUTS, FROM_A, FROM_B, INPUT_BYTES } from "../../layout";
import { add, madd } from "../arithmetic";
import { put, stepOf, value } from "../cell";

/** Gain. */
export const INPUTS: i32 = 1;
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;

export function bytes(size: i32): i32 { return <i32>HEAD; }

// Both voices' frame of what they hear; where one hears nobody, silence.
// @ts-ignore: decorator
@inline export function heardAt(a: usize, b: usize, frame: usize): v128 {
  let x = i64x2.splat(0);
  if (a) x = v128.load64_lane(a + frame, x, 0);
  if (b) x = v128.load64_lane(b + frame, x, 1);
  return x;
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const a = load<u32>(cell + FROM_A) as usize, b = load<u32>(cell + FROM_B) as usize;
  let gain = value(cell, 0);
  const step = stepOf(cell, 0);
  const size = <usize>frames << 4;
  for (let at: usize = 0; at < size; at += 16) {
    v128.store(block + at, madd(gain, heardAt(a, b, at), v128.load(block + at)));
    gain = add(gain, step);
  }
  put(cell, 0, gain);
}
