// All-passes of the first order in a row with feedback round them, beside the sound: notches where the phases are opposite (trapezoidal: Zavalishin, 2012).
import { CELL_INPUTS, CELL_SIZE, INPUT_BYTES } from "../../layout";
import { add, madd, mul, sub } from "../arithmetic";
import { clearLanes, flushAll, put, stepOf, value } from "../cell";

/** G/(1+G) of all of them, feedback, and how much of them is heard beside the sound. */
export const INPUTS: i32 = 3;
const STEP = 0, FEEDBACK = 1, MIX = 2;
// What came out last, then the state of each.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;

/** `size`: how many. */
export function bytes(size: i32): i32 { return <i32>HEAD + 16 + size * 16; }
export function begin(cell: usize, pair: usize, side: i32): void { clearLanes(cell + HEAD, cell + bytes(load<i32>(cell + CELL_SIZE)), side); }
export function control(cell: usize, pair: usize, frames: i32): void { flushAll(cell + HEAD, cell + bytes(load<i32>(cell + CELL_SIZE))); }

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  let g = value(cell, STEP), feedback = value(cell, FEEDBACK), share = value(cell, MIX);
  const gStep = stepOf(cell, STEP), feedbackStep = stepOf(cell, FEEDBACK), shareStep = stepOf(cell, MIX);
  const first = cell + HEAD + 16, past = first + (<usize>load<i32>(cell + CELL_SIZE) << 4);
  let last = v128.load(cell + HEAD);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    let y = madd(feedback, last, x);
    for (let at = first; at < past; at += 16) {
      const s = v128.load(at);
      const v = mul(g, sub(y, s));
      const low = add(s, v);
      v128.store(at, add(low, v));
      y = sub(add(low, low), y);
    }
    last = y;
    v128.store(block, madd(share, sub(y, x), x));
    g = add(g, gStep);
    feedback = add(feedback, feedbackStep);
    share = add(share, shareStep);
  }
  v128.store(cell + HEAD, last);
  put(cell, STEP, g);
  put(cell, FEEDBACK, feedback);
  put(cell, MIX, share);
}
