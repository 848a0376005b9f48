// Left and right, each with a gain of its own.
import { add, mul } from "../arithmetic";
import { CELL_INPUTS, INPUT_BYTES } from "../../layout";
import { put, stepOf, value } from "../cell";

/** The gains. */
export const INPUTS: i32 = 1;

export function bytes(size: i32): i32 { return CELL_INPUTS + INPUTS * INPUT_BYTES; }

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  let gain = value(cell, 0);
  const step = stepOf(cell, 0);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    v128.store(block, mul(v128.load(block), gain));
    gain = add(gain, step);
  }
  put(cell, 0, gain);
}
