// Makes what begins louder or softer, and what goes on: two followers of the level, a quick and a slow one, stand apart while something begins
// (differential envelope).
import { CELL_INPUTS, INPUT_BYTES } from "../../layout";
import { add, flush, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, put, stepOf, value } from "../cell";
import { exp2 } from "../functions";

/** Octaves of level that are given to a beginning, and to what goes on; what the quick follower takes of each frame when it rises, and what both take when the level falls; what the slow one takes when it rises. */
export const INPUTS: i32 = 5;
const BEGINS = 0, GOES_ON = 1, QUICK = 2, FALLS = 3, SLOW = 4;
// The followers.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;

export function bytes(size: i32): i32 { return <i32>HEAD + 32; }
export function begin(cell: usize, pair: usize, side: i32): void { clearLanes(cell + HEAD, cell + HEAD + 32, side); }
export function control(cell: usize, pair: usize, frames: i32): void {
  v128.store(cell + HEAD, flush(v128.load(cell + HEAD)));
  v128.store(cell + HEAD, flush(v128.load(cell + HEAD, 16)), 16);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  let quick = v128.load(cell + HEAD), slow = v128.load(cell + HEAD, 16);
  let begins = value(cell, BEGINS), goesOn = value(cell, GOES_ON);
  const beginsStep = stepOf(cell, BEGINS), goesOnStep = stepOf(cell, GOES_ON);
  const rise = value(cell, QUICK), fall = value(cell, FALLS), later = value(cell, SLOW);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    // Both sides together, so that nothing wanders.
    const size = f32x4.abs(x);
    const level = f32x4.pmax(size, v128.shuffle<f32>(size, size, 1, 0, 3, 2));
    const up = f32x4.gt(level, quick);
    quick = madd(v128.bitselect(rise, fall, up), sub(level, quick), quick);
    const upSlow = f32x4.gt(quick, slow);
    slow = madd(v128.bitselect(later, fall, upSlow), sub(quick, slow), slow);
    // 1 at the beginning of a sound, 0 when it goes on.
    const fresh = f32x4.div(f32x4.pmax(num(0), sub(quick, slow)), add(quick, num(1e-6)));
    v128.store(block, mul(x, exp2(madd(begins, fresh, mul(goesOn, sub(num(1), fresh))))));
    begins = add(begins, beginsStep);
    goesOn = add(goesOn, goesOnStep);
  }
  v128.store(cell + HEAD, quick);
  v128.store(cell + HEAD, slow, 16);
  put(cell, BEGINS, begins);
  put(cell, GOES_ON, goesOn);
  for (let input = QUICK; input <= SLOW; input++) {
    let x = value(cell, input);
    const s = stepOf(cell, input);
    for (let n = 0; n < frames; n++) x = add(x, s);
    put(cell, input, x);
  }
}
