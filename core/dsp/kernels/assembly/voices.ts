// The voices' hot loops, over pairs of voices. Built by scripts/kernels.mjs; memory as ../layout.ts says.
import {
  BREAKS, BROKEN_LANES, BUS, CORNER_A, CORNER_B, GAIN, GAIN_CORNER, GAIN_STEP, GAIN_TARGET, IDLE, LARGEST_STATE, MOVED, MOVING, PAIR_BYTES, PLAYING, RATE, RATE_STATE,
  RATE_STEP, RATE_TARGET, REST_A, REST_B, SECTION_COUNT, SECTION_MEMORY, SECTION_STRIDE, SECTIONS, STATE, STEADY, VOICE_A, VOICE_B,
} from "../layout";
import { add, mul, num, sound } from "./arithmetic";
export { direct, multiplyAdd } from "./convolve";
export { moveSections } from "./sections";
import { clear, read } from "./read";
import { begin, canMix, control, mixSection, present, section } from "./sections";

// Adds the block to the bus (interleaved stereo) under the pair's gain ramps.
function mixBlock(block: usize, frames: i32, pair: usize, bus: usize): void {
  let gain = v128.load(pair + GAIN);
  const step = v128.load(pair + GAIN_STEP);
  const even = block + (<usize>(frames & ~1) << 4);
  while (block < even) {
    const a = sound(mul(v128.load(block), gain));
    gain = add(gain, step);
    const b = sound(mul(v128.load(block, 16), gain));
    gain = add(gain, step);
    v128.store(bus, add(v128.load(bus), add(v128.shuffle<f32>(a, b, 0, 1, 4, 5), v128.shuffle<f32>(a, b, 2, 3, 6, 7))));
    block += 32;
    bus += 16;
  }
  if (frames & 1) {
    const a = sound(mul(v128.load(block), gain));
    gain = add(gain, step);
    v128.store64_lane(bus, add(v128.load64_zero(bus), add(a, v128.shuffle<f32>(a, a, 2, 3, 2, 3))), 0);
  }
  v128.store(pair + GAIN, gain);
}

// Mixes a stretch in which the gains don't turn; `last`: the section that is still to run and mixes by itself, or 0.
// @ts-ignore: decorator
@inline function mixStretch(last: usize, block: usize, frames: i32, pair: usize, bus: usize): void {
  if (last) mixSection(last, block, frames, pair, bus);
  else mixBlock(block, frames, pair, bus);
}

function mix(last: usize, block: usize, frames: i32, pair: usize, bus: usize): void {
  let cornerA = load<i32>(pair + CORNER_A), cornerB = load<i32>(pair + CORNER_B);
  if ((cornerA | cornerB) == 0) {
    mixStretch(last, block, frames, pair, bus);
    return;
  }
  let done = 0;
  while (done < frames) {
    let n = frames - done;
    if (cornerA > 0 && cornerA < n) n = cornerA;
    if (cornerB > 0 && cornerB < n) n = cornerB;
    mixStretch(last, block + (<usize>done << 4), n, pair, bus + (<usize>done << 3));
    done += n;
    if (cornerA > 0) {
      cornerA -= n;
      if (cornerA == 0) turn(pair, 0, load<i32>(pair + REST_A));
    }
    if (cornerB > 0) {
      cornerB -= n;
      if (cornerB == 0) turn(pair, 8, load<i32>(pair + REST_B));
    }
  }
  store<i32>(pair + CORNER_A, cornerA);
  store<i32>(pair + CORNER_B, cornerB);
}

// Past its corner a voice's gain goes on to its target in `rest` frames.
function turn(pair: usize, lane: usize, rest: i32): void {
  const scale = <f32>1 / <f32>rest;
  for (let side: usize = lane; side < lane + 8; side += 4) {
    store<f32>(pair + GAIN_STEP + side, (load<f32>(pair + GAIN_TARGET + side) - load<f32>(pair + GAIN_CORNER + side)) * scale);
  }
}

// Aims one voice's gain at its corner instead of its target.
function aimCorner(pair: usize, lane: usize, corner: i32): void {
  const scale = <f32>1 / <f32>corner;
  for (let side: usize = lane; side < lane + 8; side += 4) {
    store<f32>(pair + GAIN_STEP + side, (load<f32>(pair + GAIN_CORNER + side) - load<f32>(pair + GAIN + side)) * scale);
  }
}

/** Aims the gains of a pair at their targets over the next frames, by way of their corners. */
export function aimGains(pair: usize, frames: i32): void {
  const gap = f32x4.sub(v128.load(pair + GAIN_TARGET), v128.load(pair + GAIN));
  v128.store(pair + GAIN_STEP, f32x4.mul(gap, f32x4.splat(<f32>1 / <f32>frames)));
  const a = load<i32>(pair + CORNER_A), b = load<i32>(pair + CORNER_B);
  if (a > 0) {
    store<i32>(pair + REST_A, frames - a);
    aimCorner(pair, 0, a);
  }
  if (b > 0) {
    store<i32>(pair + REST_B, frames - b);
    aimCorner(pair, 8, b);
  }
}

// Aims a voice's rate at its target over the next frames.
function aimRate(voice: usize, frames: i32): void {
  const state = load<i32>(voice + RATE_STATE);
  if (state == STEADY) return;
  const target = <i64>(load<f64>(voice + RATE_TARGET) * 4294967296.0);
  if (state == MOVED) {
    store<i64>(voice + RATE_STEP, (target - load<i64>(voice + RATE)) / <i64>frames);
    store<i32>(voice + RATE_STATE, MOVING);
  } else {
    store<i64>(voice + RATE, target);
    store<i64>(voice + RATE_STEP, 0);
    store<i32>(voice + RATE_STATE, STEADY);
  }
}

/** Takes the voices' new targets: ramps over the next `frames` frames. `list`: addresses of pairs. */
export function controlPairs(list: usize, count: i32, frames: i32): void {
  for (let i = 0; i < count; i++) {
    const pair = load<u32>(list + (<usize>i << 2)) as usize;
    aimRate(pair + VOICE_A, frames);
    aimRate(pair + VOICE_B, frames);
    aimGains(pair, frames);
    const sections = load<i32>(pair + SECTION_COUNT);
    const chain = load<u32>(pair + SECTIONS) as usize;
    for (let s = 0; s < sections; s++) control(chain + <usize>s * SECTION_STRIDE, frames);
  }
}

/** A voice begins (side 0 or 1 of its pair): it stands at its targets at once, the other goes on. */
export function beginVoice(pair: usize, side: i32): void {
  const voice = pair + (side ? VOICE_B : VOICE_A);
  store<i32>(voice + RATE_STATE, MOVING);
  aimRate(voice, 1);
  const sections = load<i32>(pair + SECTION_COUNT);
  const chain = load<u32>(pair + SECTIONS) as usize;
  for (let s = 0; s < sections; s++) begin(chain + <usize>s * SECTION_STRIDE, side);
}

// Marks the lanes of a pair whose gain or whose filters' memory have left all bounds.
function look(pair: usize, chain: usize, sections: i32): void {
  const most = num(<f32>LARGEST_STATE);
  let good = f32x4.lt(f32x4.abs(v128.load(pair + GAIN)), most);
  for (let s = 0; s < sections; s++) {
    const at = chain + <usize>s * SECTION_STRIDE + SECTION_MEMORY;
    if (!present(at - SECTION_MEMORY)) continue;
    const largest = f32x4.max(f32x4.abs(v128.load(at)), f32x4.abs(v128.load(at, 16)));
    good = v128.and(good, f32x4.lt(largest, most));
  }
  const lanes = i32x4.bitmask(good);
  if (lanes == 15) return;
  store<i32>(pair + BROKEN_LANES, 15 - lanes);
  store<i32>(BREAKS, load<i32>(BREAKS) + 1);
}

/** Renders pairs for `frames` frames (at most 128) and adds them to their buses, `from` frames into the block. */
export function renderPairs(list: usize, count: i32, scratch: usize, from: i32, frames: i32): void {
  const last = scratch + (<usize>frames << 4);
  for (let i = 0; i < count; i++) {
    const pair = load<u32>(list + (<usize>i << 2)) as usize;
    const a = load<i32>(pair + VOICE_A + STATE), b = load<i32>(pair + VOICE_B + STATE);
    if ((a | b) == IDLE) continue;
    // What has finished still rings in the filters until the engine ends it, at the next control step.
    if (a == PLAYING) read(pair + VOICE_A, scratch, frames); else clear(scratch, last);
    if (b == PLAYING) read(pair + VOICE_B, scratch + 8, frames); else clear(scratch + 8, last + 8);
    const chain = load<u32>(pair + SECTIONS) as usize;
    let sections = load<i32>(pair + SECTION_COUNT);
    while (sections > 0 && !present(chain + <usize>(sections - 1) * SECTION_STRIDE)) sections--;
    let last: usize = 0;
    if (sections > 0 && canMix(chain + <usize>(sections - 1) * SECTION_STRIDE)) {
      sections--;
      last = chain + <usize>sections * SECTION_STRIDE;
    }
    for (let s = 0; s < sections; s++) section(chain + <usize>s * SECTION_STRIDE, scratch, frames);
    mix(last, scratch, frames, pair, (load<u32>(pair + BUS) as usize) + (<usize>from << 3));
    look(pair, chain, load<i32>(pair + SECTION_COUNT));
  }
}
