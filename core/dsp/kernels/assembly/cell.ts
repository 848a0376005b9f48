// What all kernels' cells have in common: inputs that move in straight lines, and coming in and going out within a few milliseconds.
import {
  CELL_ALONE, CELL_INPUTS, CELL_KIND, CELL_SPLICE, CELL_STATE, DRY, ENDED, FINISHED, IDLE, INPUT_BYTES, KEPT, MOVED, MOVING, PLAYING, STATE, STEADY, VOICE_A, VOICE_B, WET, WET_STEP, WET_TARGET,
} from "../layout";
import { add, flush, mul, num, sub } from "./arithmetic";
import { lanesOf } from "./functions";
import { beginKernel, controlKernel, inputsOf, keepKernel, renderKernel } from "./dispatch";

// Inputs move, or a voice begins whose lanes stand where they are to be.
function ramps(cell: usize, inverse: v128): void {
  const state = load<i32>(cell + CELL_STATE);
  if (state == STEADY) return;
  const moved = state == MOVED;
  store<i32>(cell + CELL_STATE, moved ? MOVING : STEADY);
  const end = cell + CELL_INPUTS + <usize>inputsOf(load<i32>(cell + CELL_KIND)) * INPUT_BYTES;
  for (let at = cell + CELL_INPUTS; at < end; at += INPUT_BYTES) {
    const target = v128.load(at);
    if (moved) v128.store(at, mul(sub(target, v128.load(at, 16)), inverse), 32);
    else {
      v128.store(at, target, 16);
      v128.store(at, num(0), 32);
    }
  }
}

/** Takes a cell's new targets: ramps over the next `frames` frames. */
export function controlCell(cell: usize, pair: usize, frames: i32): void {
  const kind = load<i32>(cell + CELL_KIND);
  const wet = load<f32>(cell + WET), target = load<f32>(cell + WET_TARGET);
  if (wet == target) {
    store<f32>(cell + WET_STEP, 0);
    if (wet == 0) return;
  } else {
    if (wet == 0) {
      // It has stood aside, and knows nothing of what it heard before.
      beginKernel(kind, cell, pair, 0);
      beginKernel(kind, cell, pair, 1);
    }
    const most = <f32>frames / load<f32>(cell + CELL_SPLICE);
    const gap = target - wet;
    store<f32>(cell + WET_STEP, (gap > most ? most : gap < -most ? -most : gap) / <f32>frames);
  }
  ramps(cell, num(<f32>1 / <f32>frames));
  controlKernel(kind, cell, pair, frames);
}

/** The ramp between the sound past a cell and through it is over: what is all but there is there. */
function settle(cell: usize, wet: f32): void {
  const target = load<f32>(cell + WET_TARGET);
  const over = Mathf.abs(wet - target) < 1e-4;
  store<f32>(cell + WET, over ? target : wet);
  if (over || target == 0) store<i32>(cell + CELL_ALONE, 0);
}

/** A voice begins (side 0 or 1): its lanes stand at their targets, and it has heard nothing, unless what it goes on with was put there. */
export function beginCell(cell: usize, pair: usize, side: i32): void {
  const kind = load<i32>(cell + CELL_KIND);
  const lanes = lanesOf(side);
  const end = cell + CELL_INPUTS + <usize>inputsOf(kind) * INPUT_BYTES;
  for (let at = cell + CELL_INPUTS; at < end; at += INPUT_BYTES) {
    v128.store(at, v128.bitselect(v128.load(at), v128.load(at, 16), lanes), 16);
    v128.store(at, v128.andnot(v128.load(at, 32), lanes), 32);
  }
  // Lanes that nobody uses are computed, too: there must be something that can be.
  if (load<i32>(pair + (side ? VOICE_A : VOICE_B) + STATE) == IDLE) beginKernel(kind, cell, pair, 1 - side);
  if (load<i32>(cell + CELL_STATE) != KEPT) beginKernel(kind, cell, pair, side);
  else {
    store<i32>(cell + CELL_STATE, MOVED);
    keepKernel(kind, cell, pair, side);
  }
}

/** A source says that a voice (by its address) is over. */
export function finish(voice: usize): void {
  if (load<i32>(voice + STATE) != PLAYING) return;
  store<i32>(voice + STATE, FINISHED);
  store<i32>(ENDED, load<i32>(ENDED) + 1);
}

/** Whether any sound goes through a cell. */
export function wetCell(cell: usize): bool {
  return load<f32>(cell + WET) != 0 || load<f32>(cell + WET_STEP) != 0;
}

/** Runs one cell over the block. */
export function runCell(cell: usize, pair: usize, block: usize, frames: i32): void {
  const kind = load<i32>(cell + CELL_KIND);
  let wet = load<f32>(cell + WET);
  const step = load<f32>(cell + WET_STEP);
  if (step == 0 && wet == 1) {
    renderKernel(kind, cell, pair, block, frames);
    return;
  }
  const size = <usize>frames << 4;
  memory.copy(block + DRY, block, size);
  if (step > 0) {
    // What comes in hears the sound come in, too, without a corner: else it would answer to a beginning that nobody has heard.
    let share = wet;
    for (let at = block; at < block + size; at += 16) {
      v128.store(at, mul(num(share * share * (3 - 2 * share)), v128.load(at)));
      share += step;
    }
  }
  renderKernel(kind, cell, pair, block, frames);
  if (load<i32>(cell + CELL_ALONE)) {
    settle(cell, wet + step * <f32>frames);
    return;
  }
  for (let at = block; at < block + size; at += 16) {
    const dry = v128.load(at, DRY);
    v128.store(at, add(dry, mul(num(wet), sub(v128.load(at), dry))));
    wet += step;
  }
  settle(cell, wet);
}

/** Where an input is now, and its step per frame; what a kernel has moved it to stands there afterwards. */
// @ts-ignore: decorator
@inline export function value(cell: usize, input: i32): v128 { return v128.load(cell + CELL_INPUTS + <usize>input * INPUT_BYTES, 16); }
// @ts-ignore: decorator
@inline export function stepOf(cell: usize, input: i32): v128 { return v128.load(cell + CELL_INPUTS + <usize>input * INPUT_BYTES, 32); }
// @ts-ignore: decorator
@inline export function targetOf(cell: usize, input: i32): v128 { return v128.load(cell + CELL_INPUTS + <usize>input * INPUT_BYTES); }
// @ts-ignore: decorator
@inline export function put(cell: usize, input: i32, x: v128): void { v128.store(cell + CELL_INPUTS + <usize>input * INPUT_BYTES, x, 16); }

/** Writes zeros into one voice's half of the vectors `[from, to)`. */
// @ts-ignore: decorator
@inline export function clearLanes(from: usize, to: usize, side: i32): void {
  for (let at = from + (side ? 8 : 0); at < to; at += 16) store<u64>(at, 0);
}

/** Makes what is too small to matter, or no number at all, 0 in the vectors `[from, to)`. */
// @ts-ignore: decorator
@inline export function flushAll(from: usize, to: usize): void {
  for (let at = from; at < to; at += 16) v128.store(at, flush(v128.load(at)));
}
