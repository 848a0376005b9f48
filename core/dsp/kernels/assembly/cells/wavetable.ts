// One of many cycles, or two of them blended: sets of tables an octave apart, each with just the harmonics that stay below half the rate.
// ../../../wave-cycles.ts makes them.
import { CELL_INPUTS, CELL_TABLE, CELL_VARIANT, INPUT_BYTES } from "../../layout";
import { clearLanes, put, stepOf, targetOf, value } from "../cell";

/** Cycles per frame, place among the cycles (0 to 1), level, and where in its cycle it begins (0 to 1; read once). */
export const INPUTS: i32 = 4;
const CYCLES = 0, PLACE = 1, LEVEL = 2, START = 3;
// Of each voice 8 bytes: its phase and the numbers of its set now and after this step (16 bits each); then how far the step has gone, and its step.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const WAY: usize = HEAD + 16, END: usize = HEAD + 32;
// The table: how many cycles and sets there are, then of each set the most cycles per frame for which it is made, the address of its first cycle, log2 of its points and
// the bytes from one cycle to the next; the richest comes last.
const COUNT: usize = 0, SETS: usize = 4, FIRST: usize = 16, ROW: usize = 16;

export function bytes(size: i32): i32 { return <i32>END; }

// The richest set whose harmonics all stay below half the rate.
function setFor(table: usize, cycles: f32): i32 {
  let n = load<i32>(table + SETS) - 1;
  while (n > 0 && cycles > load<f32>(table + FIRST + <usize>n * ROW)) n--;
  return n;
}

// @ts-ignore: decorator
@inline function ofSide(x: v128, side: i32): f32 { return side ? f32x4.extract_lane(x, 2) : f32x4.extract_lane(x, 0); }

function fastest(cell: usize, side: i32): f32 { return max(ofSide(value(cell, CYCLES), side), ofSide(targetOf(cell, CYCLES), side)); }

export function begin(cell: usize, pair: usize, side: i32): void {
  clearLanes(cell + HEAD, cell + HEAD + 16, side);
  store<u32>(cell + HEAD + (side ? 8 : 0), <u32>(<i64>(ofSide(targetOf(cell, START), side) * <f32>4294967296.0)));
  keep(cell, pair, side);
}

/** A voice goes on from where another stood, perhaps by other tables. */
export function keep(cell: usize, pair: usize, side: i32): void {
  const set = setFor(<usize>load<u32>(cell + CELL_TABLE), fastest(cell, side));
  store<u32>(cell + HEAD + (side ? 12 : 4), <u32>set | (<u32>set << 16));
}

export function control(cell: usize, pair: usize, frames: i32): void {
  const table = <usize>load<u32>(cell + CELL_TABLE);
  for (let side = 0; side < 2; side++) {
    const at = cell + HEAD + (side ? 12 : 4);
    store<u32>(at, (load<u32>(at) >> 16) | (<u32>setFor(table, fastest(cell, side)) << 16));
  }
  store<f32>(cell + WAY, 0);
  store<f32>(cell + WAY + 4, <f32>1 / <f32>frames);
}

// A value of one cycle, between four points (Catmull and Rom, 1974).
// @ts-ignore: decorator
@inline function read(row: usize, cycle: i32, phase: u32): f32 {
  const shift = <u32>(32 - load<i32>(row + 8));
  const at = <usize>load<u32>(row + 4) + <usize>cycle * <usize>load<i32>(row + 12) + (<usize>(phase >> shift) << 2);
  const t = <f32>(phase & ((1 << shift) - 1)) / <f32>(1 << shift);
  const a = load<f32>(at), b = load<f32>(at, 4), c = load<f32>(at, 8), d = load<f32>(at, 12);
  return b + <f32>0.5 * t * (c - a + t * (<f32>2 * a - <f32>5 * b + <f32>4 * c - d + t * (<f32>3 * (b - c) + d - a)));
}

// @ts-ignore: decorator
@inline function blended(row: usize, cycle: i32, next: i32, t: f32, phase: u32): f32 {
  const x = read(row, cycle, phase);
  return t == 0 ? x : x + t * (read(row, next, phase) - x);
}

function voice(cell: usize, side: i32, block: usize, frames: i32): void {
  const table = <usize>load<u32>(cell + CELL_TABLE);
  const count = load<i32>(table + COUNT);
  const half: usize = side ? 8 : 0;
  const end = block + half + (<usize>frames << 4);
  if (count == 0) {
    for (let at = block + half; at < end; at += 16) store<u64>(at, 0);
    return;
  }
  const stepped = load<i32>(cell + CELL_VARIANT) == 1;
  const last = <f32>(count - 1);
  const most = load<i32>(table + SETS) - 1;
  let phase = load<u32>(cell + HEAD + half);
  const sets = load<u32>(cell + HEAD + half + 4);
  // Another table may have fewer.
  const now = min(<i32>(sets & 0xffff), most), then = min(<i32>(sets >> 16), most);
  const row = table + FIRST + <usize>now * ROW, following = table + FIRST + <usize>then * ROW;
  let way = load<f32>(cell + WAY);
  const wayStep = load<f32>(cell + WAY + 4);
  let cycles = ofSide(value(cell, CYCLES), side), place = ofSide(value(cell, PLACE), side), level = ofSide(value(cell, LEVEL), side);
  const cyclesStep = ofSide(stepOf(cell, CYCLES), side), placeStep = ofSide(stepOf(cell, PLACE), side), levelStep = ofSide(stepOf(cell, LEVEL), side);
  for (let at = block + half; at < end; at += 16) {
    const where: f32 = max(<f32>0, min(last, place * last));
    const cycle = stepped ? <i32>(where + <f32>0.5) : <i32>where;
    const t: f32 = stepped ? 0 : where - <f32>cycle;
    const next = min(cycle + 1, count - 1);
    let y = blended(row, cycle, next, t, phase);
    if (now != then) {
      y += way * (blended(following, cycle, next, t, phase) - y);
      way += wayStep;
    }
    y *= level;
    store<f32>(at, y);
    store<f32>(at, y, 4);
    phase += <u32>(cycles * <f32>4294967296.0);
    cycles += cyclesStep;
    place += placeStep;
    level += levelStep;
  }
  store<u32>(cell + HEAD + half, phase);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  voice(cell, 0, block, frames);
  voice(cell, 1, block, frames);
  const way = load<f32>(cell + WAY);
  store<f32>(cell + WAY, way + load<f32>(cell + WAY + 4) * <f32>frames);
  for (let input = CYCLES; input <= LEVEL; input++) {
    let x = value(cell, input);
    const s = stepOf(cell, input);
    for (let n = 0; n < frames; n++) x = f32x4.add(x, s);
    put(cell, input, x);
  }
}
