// Short pieces of a sample under a window, many at once, each on its exact frame (Roads, "Microsound", 2001). Up to 32 of each voice.
import {
  CELL_INPUTS, CELL_TABLE, FLOAT32, IDLE, INPUT_BYTES, INT16, INT24, SEED_A, SEED_B, STATE, VOICE_A, VOICE_B,
} from "../../layout";
import { add, madd, mul, num } from "../arithmetic";
import { clearLanes, put, stepOf, targetOf, value } from "../cell";
import { exp2 } from "../functions";
import { four } from "../read";
import { sow } from "./noise";

/**
 * Level; log2 of the frames of the sample for each of ours; place in the sample (0 to 1), how far around it they begin; their length in frames; frames from one to
 * the next, and how irregular (0 to 1); how many octaves around their pitch, and how far to the sides they stand.
 */
export const INPUTS: i32 = 9;
const LEVEL = 0, SPEED = 1, PLACE = 2, AROUND = 3, LENGTH = 4, EVERY = 5, IRREGULAR = 6, DETUNE = 7, WIDTH = 8;
const GRAINS: usize = 32;
// Of each voice its numbers and the frames until its next grain; then the grains: position, speed, [age, length], [gain left, gain right], each 8 bytes for A and for B.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const FIRST: usize = HEAD + 32, GRAIN: usize = 64, END: usize = FIRST + GRAINS * GRAIN;
const AT = 0, STEP = 16, AGE = 32, GAINS = 48;
// Of the table: the sample's format, frames, addresses of its left and right side, and those of their low bytes.
const FORMAT = 0, FRAMES = 4, LEFT = 8, RIGHT = 12, LEFT_LOW = 16, RIGHT_LOW = 20;

export function bytes(size: i32): i32 { return <i32>END; }

export function begin(cell: usize, pair: usize, side: i32): void {
  clearLanes(cell + HEAD, cell + END, side);
  sow(cell + HEAD + (side ? 8 : 0), load<i32>(pair + (side ? SEED_B : SEED_A)));
}

// The next number of a voice, −1 to 1.
// @ts-ignore: decorator
@inline function random(at: usize): f32 {
  let x = load<u32>(at);
  x ^= x << 13;
  x ^= x >> 17;
  x ^= x << 5;
  store<u32>(at, x);
  return <f32>(<i32>x) * <f32>4.656612873077393e-10;
}

// What an input of a voice is to be at the end of this control step.
// @ts-ignore: decorator
@inline function wanted(cell: usize, input: i32, side: i32): f32 {
  const x = targetOf(cell, input);
  return side ? f32x4.extract_lane(x, 2) : f32x4.extract_lane(x, 0);
}

// A grain begins where one has ended; where none has, it doesn't.
function spawn(cell: usize, half: usize, side: i32): void {
  const frames = load<i32>(<usize>load<u32>(cell + CELL_TABLE) + FRAMES);
  const place = wanted(cell, PLACE, side) + random(cell + HEAD + half) * wanted(cell, AROUND, side) * <f32>0.5;
  const speed = f32x4.extract_lane(exp2(num(wanted(cell, SPEED, side) + random(cell + HEAD + half) * wanted(cell, DETUNE, side))), 0);
  const pan = random(cell + HEAD + half) * wanted(cell, WIDTH, side);
  if (frames < 2) return;
  for (let g: usize = 0; g < GRAINS; g++) {
    const grain = cell + FIRST + g * GRAIN + half;
    if (load<i32>(grain + AGE) < load<i32>(grain + AGE + 4)) continue;
    const clipped: f32 = place < 0 ? 0 : place > 1 ? 1 : place;
    store<u64>(grain + AT, <u64>(<f64>clipped * <f64>(frames - 1) * 4294967296.0));
    store<u64>(grain + STEP, <u64>(<f64>speed * 4294967296.0));
    store<i32>(grain + AGE, 0);
    store<i32>(grain + AGE + 4, max(16, <i32>wanted(cell, LENGTH, side)));
    store<f32>(grain + GAINS, Mathf.sqrt(1 - pan));
    store<f32>(grain + GAINS + 4, Mathf.sqrt(1 + pan));
    return;
  }
}

// Adds some frames of a grain to a voice's half of the block.
// @ts-ignore: decorator
@inline function addGrain(format: i32, grain: usize, table: usize, out: usize, frames: i32): void {
  const last = <u32>load<i32>(table + FRAMES);
  const left = <usize>load<u32>(table + LEFT), right = <usize>load<u32>(table + RIGHT);
  const leftLow = <usize>load<u32>(table + LEFT_LOW), rightLow = <usize>load<u32>(table + RIGHT_LOW);
  const scale: f32 = format == FLOAT32 ? 1 : format == INT16 ? 1.0 / 32768.0 : 1.0 / 8388608.0;
  const size: usize = format == FLOAT32 ? 2 : 1;
  let at = load<u64>(grain + AT);
  const step = load<u64>(grain + STEP);
  let age = load<i32>(grain + AGE);
  const length = load<i32>(grain + AGE + 4);
  const gainLeft = load<f32>(grain + GAINS) * scale, gainRight = load<f32>(grain + GAINS + 4) * scale;
  const inverse = <f32>2 / <f32>length;
  const end = min(frames, length - age);
  for (let n = 0; n < end; n++) {
    const index = <u32>(at >> 32);
    if (index >= last) {
      // It has run out of the sample: the rest is silence.
      age = length;
      break;
    }
    const t = num(<f32>(<u32>at >> 8) * <f32>5.960464477539063e-8);
    // Through the two middle ones, with the slopes of their neighbours (Catmull and Rom, 1974).
    let w = madd(t, f32x4(-0.5, 1.5, -1.5, 0.5), f32x4(1, -2.5, 2, -0.5));
    w = madd(t, w, f32x4(-0.5, 0, 0.5, 0));
    w = madd(t, w, f32x4(0, 1, 0, 0));
    const i = <usize>index - 1;
    const l = mul(w, four(format, left + (i << size), leftLow + i)), r = mul(w, four(format, right + (i << size), rightLow + i));
    const folded = add(v128.shuffle<f32>(l, r, 0, 4, 1, 5), v128.shuffle<f32>(l, r, 2, 6, 3, 7));
    const both = add(folded, v128.shuffle<f32>(folded, folded, 2, 3, 2, 3));
    const u: f32 = (<f32>age + <f32>0.5) * inverse - <f32>1;
    const rest: f32 = <f32>1 - u * u;
    const window: f32 = rest * rest;
    store<f32>(out, load<f32>(out) + f32x4.extract_lane(both, 0) * gainLeft * window);
    store<f32>(out + 4, load<f32>(out + 4) + f32x4.extract_lane(both, 1) * gainRight * window);
    out += 16;
    at += step;
    age++;
  }
  store<u64>(grain + AT, at);
  store<i32>(grain + AGE, age);
}

function addFloats(grain: usize, table: usize, out: usize, frames: i32): void { addGrain(FLOAT32, grain, table, out, frames); }
function addShorts(grain: usize, table: usize, out: usize, frames: i32): void { addGrain(INT16, grain, table, out, frames); }
function addSplit(grain: usize, table: usize, out: usize, frames: i32): void { addGrain(INT24, grain, table, out, frames); }

function voice(cell: usize, side: i32, block: usize, frames: i32): void {
  const half: usize = side ? 8 : 0;
  const table = <usize>load<u32>(cell + CELL_TABLE);
  const format = load<i32>(table + FORMAT);
  const every = max(8, wanted(cell, EVERY, side));
  let next = load<f32>(cell + HEAD + 16 + half);
  let n = 0;
  while (n < frames) {
    while (next < 1) {
      spawn(cell, half, side);
      next += every * (1 + wanted(cell, IRREGULAR, side) * random(cell + HEAD + half) * <f32>0.95);
    }
    const count = min(frames - n, <i32>next);
    for (let g: usize = 0; g < GRAINS; g++) {
      const grain = cell + FIRST + g * GRAIN + half;
      if (load<i32>(grain + AGE) >= load<i32>(grain + AGE + 4)) continue;
      const out = block + half + (<usize>n << 4);
      if (format == FLOAT32) addFloats(grain, table, out, count);
      else if (format == INT16) addShorts(grain, table, out, count);
      else addSplit(grain, table, out, count);
    }
    next -= <f32>count;
    n += count;
  }
  store<f32>(cell + HEAD + 16 + half, next);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  const size = <usize>frames << 4;
  memory.fill(block, 0, size);
  if (load<i32>(pair + VOICE_A + STATE) != IDLE) voice(cell, 0, block, frames);
  if (load<i32>(pair + VOICE_B + STATE) != IDLE) voice(cell, 1, block, frames);
  let level = value(cell, LEVEL);
  const step = stepOf(cell, LEVEL);
  for (let at: usize = 0; at < size; at += 16) {
    v128.store(block + at, mul(v128.load(block + at), level));
    level = add(level, step);
  }
  put(cell, LEVEL, level);
}
