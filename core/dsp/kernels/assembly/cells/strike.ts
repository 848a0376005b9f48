// A strike: a tone that falls to its pitch, and noise through a low pass (Zavalishin, 2012), both dying away exponentially.
import { CELL_INPUTS, INPUT_BYTES, SEED_A, SEED_B, VOICE_A, VOICE_B } from "../../layout";
import { add, flush, madd, mul, num, sub } from "../arithmetic";
import { clearLanes, finish, put, stepOf, targetOf, value } from "../cell";
import { even, exp2, lanesOf, shift, sineOf } from "../functions";
import { sow } from "./noise";

/** Cycles per frame at the end; octaves above them at the beginning, what is left of these after a frame; level of tone and noise, what is left of each after a frame; the low pass's matrix;
 *  how far each falls in a straight line (1) or more steeply at first (−1), by how much the line falls in a frame, and frames for which the tone is held before it falls. */
export const INPUTS: i32 = 15;
const CYCLES = 0, DROP = 1, DROP_KEEP = 2, TONE = 3, TONE_KEEP = 4, NOISE = 5, NOISE_KEEP = 6, A = 7, B = 8, D = 9;
const TONE_BEND = 10, NOISE_BEND = 11, TONE_LESS = 12, NOISE_LESS = 13, HOLD = 14;
// Phase; what is left of the drop, the tone, the noise; the noise's numbers; the low pass's states.
const HEAD: usize = CELL_INPUTS + INPUTS * INPUT_BYTES;
const FALL: usize = HEAD + 16, TONE_LEFT: usize = HEAD + 32, NOISE_LEFT: usize = HEAD + 48, NUMBERS: usize = HEAD + 64, LOW: usize = HEAD + 80;
// What is left of the straight lines; frames since the beginning.
const TONE_LINE: usize = HEAD + 112, NOISE_LINE: usize = HEAD + 128, AGE: usize = HEAD + 144, END: usize = HEAD + 160;
// It is over below −120 dB.
const OVER: f32 = 1e-6;

export function bytes(size: i32): i32 { return <i32>END; }

export function begin(cell: usize, pair: usize, side: i32): void {
  clearLanes(cell + HEAD, cell + END, side);
  const lanes = lanesOf(side);
  for (let at = cell + FALL; at < cell + NUMBERS; at += 16) v128.store(at, v128.bitselect(num(1), v128.load(at), lanes));
  for (let at = cell + TONE_LINE; at < cell + AGE; at += 16) v128.store(at, v128.bitselect(num(1), v128.load(at), lanes));
  sow(cell + NUMBERS + (side ? 8 : 0), load<i32>(pair + (side ? SEED_B : SEED_A)));
}

// What is left, between its own square, itself and a straight line.
// @ts-ignore: decorator
@inline function shaped(left: v128, line: v128, bend: v128): v128 {
  const up = f32x4.pmax(num(0), bend), down = f32x4.pmin(num(0), bend);
  return madd(up, sub(line, left), madd(down, sub(left, mul(left, left)), left));
}

export function control(cell: usize, pair: usize, frames: i32): void {
  v128.store(cell + LOW, flush(v128.load(cell + LOW)));
  v128.store(cell + LOW, flush(v128.load(cell + LOW, 16)), 16);
  const left = f32x4.pmax(
    mul(shaped(v128.load(cell + TONE_LEFT), v128.load(cell + TONE_LINE), value(cell, TONE_BEND)), f32x4.abs(value(cell, TONE))),
    mul(shaped(v128.load(cell + NOISE_LEFT), v128.load(cell + NOISE_LINE), value(cell, NOISE_BEND)), f32x4.abs(value(cell, NOISE))),
  );
  const over = i32x4.bitmask(f32x4.lt(left, num(OVER)));
  if (over & 1) finish(pair + VOICE_A);
  if (over & 4) finish(pair + VOICE_B);
}

export function render(cell: usize, pair: usize, block: usize, frames: i32): void {
  let phase = v128.load(cell + HEAD), fall = v128.load(cell + FALL), toneLeft = v128.load(cell + TONE_LEFT), noiseLeft = v128.load(cell + NOISE_LEFT);
  let numbers = v128.load(cell + NUMBERS), s1 = v128.load(cell + LOW), s2 = v128.load(cell + LOW, 16);
  let cycles = value(cell, CYCLES), tone = value(cell, TONE), noise = value(cell, NOISE), a = value(cell, A), b = value(cell, B), d = value(cell, D);
  let toneLine = v128.load(cell + TONE_LINE), noiseLine = v128.load(cell + NOISE_LINE), age = v128.load(cell + AGE);
  const toneBend = value(cell, TONE_BEND), noiseBend = value(cell, NOISE_BEND), toneLess = value(cell, TONE_LESS), noiseLess = value(cell, NOISE_LESS), hold = value(cell, HOLD);
  const drop = value(cell, DROP), dropKeep = value(cell, DROP_KEEP), toneKeep = value(cell, TONE_KEEP), noiseKeep = value(cell, NOISE_KEEP);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    numbers = shift(numbers);
    // The same on both sides: a knock has a place.
    const u = sub(even(v128.shuffle<f32>(numbers, numbers, 0, 0, 2, 2)), s2);
    const n1 = madd(b, u, mul(a, s1));
    const n2 = madd(d, u, madd(b, s1, s2));
    const low = mul(num(0.5), add(s2, n2));
    s1 = n1;
    s2 = n2;
    const sound = mul(mul(tone, shaped(toneLeft, toneLine, toneBend)), sineOf(phase));
    v128.store(block, madd(mul(noise, shaped(noiseLeft, noiseLine, noiseBend)), low, sound));
    const speed = f32x4.pmin(num(0.5), mul(cycles, exp2(mul(drop, fall))));
    phase = v128.add<i32>(phase, i32x4.trunc_sat_f32x4_u(mul(speed, num(4294967296.0))));
    fall = mul(fall, dropKeep);
    const falls = f32x4.ge(age, hold);
    toneLeft = mul(toneLeft, v128.bitselect(toneKeep, num(1), falls));
    toneLine = f32x4.pmax(num(0), sub(toneLine, v128.and(toneLess, falls)));
    noiseLeft = mul(noiseLeft, noiseKeep);
    noiseLine = f32x4.pmax(num(0), sub(noiseLine, noiseLess));
    age = add(age, num(1));
    cycles = add(cycles, stepOf(cell, CYCLES));
    tone = add(tone, stepOf(cell, TONE));
    noise = add(noise, stepOf(cell, NOISE));
    a = add(a, stepOf(cell, A));
    b = add(b, stepOf(cell, B));
    d = add(d, stepOf(cell, D));
  }
  v128.store(cell + HEAD, phase);
  v128.store(cell + FALL, flush(fall));
  v128.store(cell + TONE_LEFT, flush(toneLeft));
  v128.store(cell + NOISE_LEFT, flush(noiseLeft));
  v128.store(cell + TONE_LINE, toneLine);
  v128.store(cell + NOISE_LINE, noiseLine);
  v128.store(cell + AGE, age);
  for (let input = TONE_BEND; input <= HOLD; input++) put(cell, input, targetOf(cell, input));
  v128.store(cell + NUMBERS, numbers);
  v128.store(cell + LOW, s1);
  v128.store(cell + LOW, s2, 16);
  put(cell, CYCLES, cycles);
  put(cell, TONE, tone);
  put(cell, NOISE, noise);
  put(cell, A, a);
  put(cell, B, b);
  put(cell, D, d);
}
