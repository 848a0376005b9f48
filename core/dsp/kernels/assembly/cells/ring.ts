// Multiplies what comes in by a sine: each partial becomes two, as far above as below.
import { CELL_INPUTS, INPUT_BYTES } from "../../layout";
import { add, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, put, stepOf, value } from "../cell";
import { sineOf } from "../functions";

/** Cycles per frame of the sine, and how much of it is heard. */
export const INPUTS: i32 = 2;
const CYCLES = 0, MIX = 1;
// Phase: 2³² is a turn.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;

export function bytes(size: i32): i32 { return <i32>HEAD + 16; }
export function begin(cell: usize, pair: usize, side: i32): void { clearLanes(cell + HEAD, cell + HEAD + 16, side); }

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  let phase = v128.load(cell + HEAD), cycles = value(cell, CYCLES), share = value(cell, MIX);
  const cyclesStep = stepOf(cell, CYCLES), shareStep = stepOf(cell, MIX);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = v128.load(block);
    // A cosine: at a frequency of nothing the sound is as it was.
    const y = mul(x, sineOf(v128.add<i32>(phase, i32x4.splat(0x40000000))));
    v128.store(block, madd(share, sub(y, x), x));
    phase = v128.add<i32>(phase, i32x4.trunc_sat_f32x4_u(mul(cycles, num(4294967296.0))));
    cycles = add(cycles, cyclesStep);
    share = add(share, shareStep);
  }
  v128.store(cell + HEAD, phase);
  put(cell, CYCLES, cycles);
  put(cell, MIX, share);
}
