// Holds what comes in for some frames, and rounds it to steps: few values at few moments.
import { CELL_INPUTS, INPUT_BYTES } from "../../layout";
import { add, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, put, stepOf, value } from "../cell";

/** How many moments there are in a frame (at the most 1), half the number of steps in full level, and how much of it is heard. */
export const INPUTS: i32 = 3;
const MOMENTS = 0, STEPS = 1, MIX = 2;
// How far it is on the way to the next moment, and what is held.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;

export function bytes(size: i32): i32 { return <i32>HEAD + 32; }
export function begin(cell: usize, pair: usize, side: i32): void {
  clearLanes(cell + HEAD, cell + HEAD + 32, side);
  // The first frame is a moment.
  const at = cell + HEAD + (side ? 8 : 0);
  store<f32>(at, 1);
  store<f32>(at + 4, 1);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  let way = v128.load(cell + HEAD), held = v128.load(cell + HEAD, 16);
  let moments = value(cell, MOMENTS), steps = value(cell, STEPS), share = value(cell, MIX);
  const momentsStep = stepOf(cell, MOMENTS), stepsStep = stepOf(cell, STEPS), shareStep = stepOf(cell, MIX);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    const now = f32x4.ge(way, num(1));
    held = v128.bitselect(f32x4.div(f32x4.nearest(mul(x, steps)), f32x4.pmax(num(0.5), steps)), held, now);
    way = add(sub(way, v128.and(num(1), now)), moments);
    v128.store(block, madd(share, sub(held, x), x));
    moments = add(moments, momentsStep);
    steps = add(steps, stepsStep);
    share = add(share, shareStep);
  }
  v128.store(cell + HEAD, way);
  v128.store(cell + HEAD, held, 16);
  put(cell, MOMENTS, moments);
  put(cell, STEPS, steps);
  put(cell, MIX, share);
}
