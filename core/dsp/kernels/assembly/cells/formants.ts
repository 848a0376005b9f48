// Four band passes side by side, as the resonances of a mouth (Klatt, 1980, on parallel formants; each after Zavalishin, 2012).
import { CELL_INPUTS, INPUT_BYTES } from "../../layout";
import { add, madd, mul, sub } from "../arithmetic";
import { clearLanes, flushAll, put, stepOf, value } from "../cell";

/** Of each band its matrix (2a₁ − 1, 2a₂, 2a₃) and its gain; then how much of it is heard. */
export const INPUTS: i32 = 17;
const BANDS = 4, MIX = 16;
// Two states of each band.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const END: usize = HEAD + BANDS * 32;

export function bytes(size: i32): i32 { return <i32>END; }
export function begin(cell: usize, pair: usize, side: i32): void { clearLanes(cell + HEAD, cell + END, side); }
export function control(cell: usize, pair: usize, frames: i32): void { flushAll(cell + HEAD, cell + END); }

// One band's share of what comes out is added to the sum.
// @ts-ignore: decorator
@inline function band(cell: usize, n: i32, x: v128, sum: v128): v128 {
  const i = n * 4;
  const memory = cell + HEAD + <usize>n * 32;
  const a = value(cell, i), b = value(cell, i + 1), d = value(cell, i + 2), gain = value(cell, i + 3);
  const s1 = v128.load(memory), s2 = v128.load(memory, 16);
  const u = sub(x, s2);
  const n1 = madd(b, u, mul(a, s1));
  v128.store(memory, n1);
  v128.store(memory, madd(d, u, madd(b, s1, s2)), 16);
  put(cell, i, add(a, stepOf(cell, i)));
  put(cell, i + 1, add(b, stepOf(cell, i + 1)));
  put(cell, i + 2, add(d, stepOf(cell, i + 2)));
  put(cell, i + 3, add(gain, stepOf(cell, i + 3)));
  return madd(gain, add(s1, n1), sum);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  let share = value(cell, MIX);
  const shareStep = stepOf(cell, MIX);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    let sum = f32x4.splat(0);
    for (let n = 0; n < BANDS; n++) sum = band(cell, n, x, sum);
    v128.store(block, madd(share, sub(sum, x), x));
    share = add(share, shareStep);
  }
  put(cell, MIX, share);
}
