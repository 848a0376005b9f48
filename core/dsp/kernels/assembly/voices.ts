// The voices' hot loops, over pairs of voices. Built by scripts/kernels.mjs; memory as ../layout.ts says.
import {
  BREAKS, BROKEN_LANES, BUS, CELL_BYTES, CELL_COUNT, CELL_KIND, CELLS, CLOCK, COMPUTED, CORNER_A, CORNER_B, FINISHED, FIRST_CELL, GAIN, GAIN_CORNER,
  GAIN_STEP, GAIN_TARGET, HEARD_A, HEARD_B, IDLE, LARGEST_STATE, METER, MOVED, MOVING, PEAK, PLAYING, RATE, RATE_STATE, RATE_STEP, RATE_TARGET, REST_A, REST_B,
  SECTION_MEMORY, STATE, STEADY, TAP, VOICE_A, VOICE_B,
} from "../layout";
import { add, mul, num, sound } from "./arithmetic";
import { beginCell, controlCell, runCell, wetCell } from "./cell";
export { bytesOf, inputsOf } from "./dispatch";
export { direct, multiplyParts } from "./convolve";
export { oversampleDown, oversampleUp } from "./oversample";
export { fourier, gather, spread } from "./fourier";
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

// The same, and leaves it for other layers.
function mixTapped(block: usize, frames: i32, pair: usize, bus: usize, tap: usize): void {
  let gain = v128.load(pair + GAIN);
  const step = v128.load(pair + GAIN_STEP);
  const end = block + (<usize>frames << 4);
  for (; block < end; block += 16) {
    const x = sound(mul(v128.load(block), gain));
    gain = add(gain, step);
    v128.store(tap, x);
    v128.store64_lane(bus, add(v128.load64_zero(bus), add(x, v128.shuffle<f32>(x, x, 2, 3, 2, 3))), 0);
    tap += 16;
    bus += 8;
  }
  v128.store(pair + GAIN, gain);
}

// Mixes a stretch in which the gains don't turn; `last`: the section that is still to run and mixes by itself, or 0.
// @ts-ignore: decorator
@inline function mixStretch(last: usize, block: usize, frames: i32, pair: usize, bus: usize, tap: usize): void {
  if (tap) mixTapped(block, frames, pair, bus, tap);
  else if (last) mixSection(last, block, frames, pair, bus);
  else mixBlock(block, frames, pair, bus);
}

function mix(last: usize, block: usize, frames: i32, pair: usize, bus: usize, tap: usize): void {
  let cornerA = load<i32>(pair + CORNER_A), cornerB = load<i32>(pair + CORNER_B);
  if ((cornerA | cornerB) == 0) {
    mixStretch(last, block, frames, pair, bus, tap);
    return;
  }
  let done = 0;
  while (done < frames) {
    let n = frames - done;
    if (cornerA > 0 && cornerA < n) n = cornerA;
    if (cornerB > 0 && cornerB < n) n = cornerB;
    mixStretch(last, block + (<usize>done << 4), n, pair, bus + (<usize>done << 3), tap ? tap + (<usize>done << 4) : 0);
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
    v128.store(pair + PEAK, num(0));
    let cell = load<u32>(pair + CELLS) as usize;
    for (let c = load<i32>(pair + CELL_COUNT); c > 0; c--) {
      if (load<i32>(cell + CELL_KIND) < FIRST_CELL) control(cell, frames);
      else controlCell(cell, pair, frames);
      cell += load<i32>(cell + CELL_BYTES);
    }
  }
}

/** A voice begins (side 0 or 1 of its pair): it stands at its targets at once, the other goes on. */
export function beginVoice(pair: usize, side: i32): void {
  const voice = pair + (side ? VOICE_B : VOICE_A);
  store<i32>(voice + RATE_STATE, MOVING);
  aimRate(voice, 1);
  let cell = load<u32>(pair + CELLS) as usize;
  for (let c = load<i32>(pair + CELL_COUNT); c > 0; c--) {
    if (load<i32>(cell + CELL_KIND) < FIRST_CELL) begin(cell, side);
    else beginCell(cell, pair, side);
    cell += load<i32>(cell + CELL_BYTES);
  }
}

// Whether a cell is there at all, and takes part.
// @ts-ignore: decorator
@inline function takesPart(cell: usize): bool {
  return load<i32>(cell + CELL_KIND) < FIRST_CELL ? present(cell) : wetCell(cell);
}

function run(cell: usize, pair: usize, block: usize, frames: i32): void {
  if (load<i32>(cell + CELL_KIND) < FIRST_CELL) section(cell, block, frames);
  else runCell(cell, pair, block, frames);
}

/** Runs the cells of a pair over a block that somebody else fills and reads. */
export function runCells(pair: usize, block: usize, frames: i32): void {
  let cell = load<u32>(pair + CELLS) as usize;
  for (let c = load<i32>(pair + CELL_COUNT); c > 0; c--) {
    if (takesPart(cell)) run(cell, pair, block, frames);
    cell += load<i32>(cell + CELL_BYTES);
  }
}

// Marks the lanes of a pair whose gain, whose filters' memory or whose last frame have left all bounds.
function look(pair: usize, last: usize): void {
  const most = num(<f32>LARGEST_STATE);
  let good = v128.and(f32x4.lt(f32x4.abs(v128.load(pair + GAIN)), most), f32x4.lt(f32x4.abs(v128.load(last)), most));
  let cell = load<u32>(pair + CELLS) as usize;
  for (let c = load<i32>(pair + CELL_COUNT); c > 0; c--) {
    if (load<i32>(cell + CELL_KIND) < FIRST_CELL && present(cell)) {
      const largest = f32x4.max(f32x4.abs(v128.load(cell + SECTION_MEMORY)), f32x4.abs(v128.load(cell + SECTION_MEMORY, 16)));
      good = v128.and(good, f32x4.lt(largest, most));
    }
    cell += load<i32>(cell + CELL_BYTES);
  }
  const lanes = i32x4.bitmask(good);
  if (lanes == 15) return;
  store<i32>(pair + BROKEN_LANES, 15 - lanes);
  store<i32>(BREAKS, load<i32>(BREAKS) + 1);
}

// How loud the chain still is, of a voice that has finished.
function measure(pair: usize, block: usize, end: usize): void {
  let peak = v128.load(pair + PEAK);
  for (let at = block; at < end; at += 16) peak = f32x4.pmax(peak, f32x4.abs(v128.load(at)));
  v128.store(pair + PEAK, peak);
}

// What is added to every meter (−300 dB): one that has nothing was not reached, for the cells behind the last that takes part aren't run.
const METERED: f32 = 1e-30;

// The square of how loud each voice of a pair is, under its gain, the louder channel of each: kept for each voice, and summed.
function loudness(pair: usize, block: usize, end: usize): f32 {
  let peak = num(0);
  for (let at = block; at < end; at += 16) peak = f32x4.pmax(peak, f32x4.abs(v128.load(at)));
  peak = mul(peak, f32x4.abs(v128.load(pair + GAIN)));
  const a = Mathf.max(f32x4.extract_lane(peak, 0), f32x4.extract_lane(peak, 1));
  const b = Mathf.max(f32x4.extract_lane(peak, 2), f32x4.extract_lane(peak, 3));
  store<f32>(pair + HEARD_A, a * a);
  store<f32>(pair + HEARD_B, b * b);
  return a * a + b * b + METERED;
}

// Runs all cells of a pair, and tells how loud it is behind each.
function runMetered(pair: usize, block: usize, end: usize, frames: i32, meter: usize): void {
  let level: f32 = load<i32>(pair + COMPUTED) == 0 ? loudness(pair, block, end) : METERED;
  store<f32>(meter, load<f32>(meter) + level);
  let cell = load<u32>(pair + CELLS) as usize;
  for (let c = load<i32>(pair + CELL_COUNT); c > 0; c--) {
    meter += 4;
    if (takesPart(cell)) {
      run(cell, pair, block, frames);
      level = loudness(pair, block, end);
    }
    store<f32>(meter, load<f32>(meter) + level);
    cell += load<i32>(cell + CELL_BYTES);
  }
}

/** Renders pairs for `frames` frames (at most 128) and adds them to their buses, `from` frames into the block. */
export function renderPairs(list: usize, count: i32, scratch: usize, from: i32, frames: i32): void {
  const end = scratch + (<usize>frames << 4);
  for (let i = 0; i < count; i++) {
    const pair = load<u32>(list + (<usize>i << 2)) as usize;
    const a = load<i32>(pair + VOICE_A + STATE), b = load<i32>(pair + VOICE_B + STATE);
    if ((a | b) == IDLE) continue;
    if (load<i32>(pair + COMPUTED) == 0) {
      // What has finished still rings in the chain until the engine ends it, at a control step.
      if (a == PLAYING) read(pair + VOICE_A, scratch, frames); else clear(scratch, end);
      if (b == PLAYING) read(pair + VOICE_B, scratch + 8, frames); else clear(scratch + 8, end + 8);
    }
    let cell = load<u32>(pair + CELLS) as usize;
    let last: usize = 0;
    const meter = <usize>load<u32>(pair + METER);
    if (meter) runMetered(pair, scratch, end, frames, meter);
    else for (let c = load<i32>(pair + CELL_COUNT); c > 0; c--) {
      if (takesPart(cell)) {
        if (last) run(last, pair, scratch, frames);
        last = cell;
      }
      cell += load<i32>(cell + CELL_BYTES);
    }
    // A source may just have come to its end.
    const finished = ((load<i32>(pair + VOICE_A + STATE) | load<i32>(pair + VOICE_B + STATE)) & FINISHED) != 0;
    const tap = <usize>load<u32>(pair + TAP);
    if (last && (finished || tap || load<i32>(last + CELL_KIND) >= FIRST_CELL || !canMix(last))) {
      run(last, pair, scratch, frames);
      last = 0;
    }
    if (finished) measure(pair, scratch, end);
    mix(last, scratch, frames, pair, (load<u32>(pair + BUS) as usize) + (<usize>from << 3), tap);
    look(pair, end - 16);
  }
  store<i32>(CLOCK, load<i32>(CLOCK) + frames);
}
