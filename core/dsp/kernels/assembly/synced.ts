// Waves that are begun anew whenever a slower one begins its cycle (hard sync). They are drawn as they are, without a limit to their harmonics; whatever steps, bends,
// bows or twists in them within a frame is rounded by a table of band-limited steps (Brandt, 2001), for which the sound comes 16 frames later.

const HALF = 16, TAPS = 32, PLACES: f32 = 64, ORDERS = 4;
/** Frames of the ring in which the sound lies until it is complete: of each four floats [left A, right A, left B, right B]. */
export const RING = 64;

const SINE = 0, TRIANGLE = 1, SAW = 2;
const TURN: f32 = 6.283185307179586;

// A wave at a place of its cycle (0 to 1), its slope and what follows from it, per cycle.
function valueOf(wave: i32, s: f32, width: f32): f32 {
  if (wave == SINE) return Mathf.sin(TURN * s);
  if (wave == TRIANGLE) return s < 0.25 ? 4 * s : s < 0.75 ? 2 - 4 * s : 4 * s - 4;
  const saw: f32 = 1 - 2 * s;
  if (wave == SAW) return saw;
  const later = s + width;
  return saw - (1 - 2 * (later >= 1 ? later - 1 : later));
}
function slopeOf(wave: i32, s: f32): f32 {
  if (wave == SINE) return TURN * Mathf.cos(TURN * s);
  if (wave == TRIANGLE) return s < 0.25 || s >= 0.75 ? 4 : -4;
  return wave == SAW ? -2 : 0;
}
function bowOf(wave: i32, s: f32): f32 { return wave == SINE ? -TURN * TURN * Mathf.sin(TURN * s) : 0; }
function twistOf(wave: i32, s: f32): f32 { return wave == SINE ? -TURN * TURN * TURN * Mathf.cos(TURN * s) : 0; }

// Adds what a step, a bend, a bow and a twist, `before` frames ago, lack, from the ring's place `at` on.
function round(table: usize, ring: usize, at: i32, lane: usize, before: f32, left: f32, right: f32, step: f32, bend: f32, bow: f32, twist: f32): void {
  const place = before * PLACES;
  const whole = <i32>place;
  const rest = place - <f32>whole;
  let row = table + <usize>(whole * TAPS * ORDERS) * 4;
  const next = <usize>(TAPS * ORDERS) * 4;
  for (let tap = 0; tap < TAPS; tap++) {
    const a = load<f32>(row), b = load<f32>(row, 4), c = load<f32>(row, 8), d = load<f32>(row, 12);
    const y = step * (a + rest * (load<f32>(row + next) - a)) + bend * (b + rest * (load<f32>(row + next, 4) - b)) + bow * (c + rest * (load<f32>(row + next, 8) - c)) + twist * (d + rest * (load<f32>(row + next, 12) - d));
    const to = ring + (<usize>((at + tap) & (RING - 1)) << 4) + lane;
    store<f32>(to, load<f32>(to) + left * y);
    store<f32>(to + 4, load<f32>(to, 4) + right * y);
    row += <usize>ORDERS * 4;
  }
}

// The steps and bends of a wave that its own phase passes between `from` and `to` (which may be above 1: a new cycle), at so many cycles per frame; `late`: frames from
// there to the next one.
function passed(table: usize, ring: usize, at: i32, lane: usize, wave: i32, width: f32, from: f32, to: f32, late: f32, cycles: f32, left: f32, right: f32): void {
  if (wave == SINE || cycles <= 0) return;
  if (wave == TRIANGLE) {
    edge(table, ring, at, lane, 0.25, from, to, late, cycles, left, right, 0, -8 * cycles);
    edge(table, ring, at, lane, 0.75, from, to, late, cycles, left, right, 0, 8 * cycles);
    return;
  }
  edge(table, ring, at, lane, 1, from, to, late, cycles, left, right, 2, 0);
  // Of a pulse the other saw, a width earlier.
  if (wave > SAW) edge(table, ring, at, lane, 1 - width, from, to, late, cycles, left, right, -2, 0);
}

function edge(table: usize, ring: usize, at: i32, lane: usize, place: f32, from: f32, to: f32, late: f32, cycles: f32, left: f32, right: f32, step: f32, bend: f32): void {
  let p = place;
  if (p <= from) p += 1;
  if (p > to) return;
  round(table, ring, at, lane, Mathf.min(0.999999, late + (to - p) / cycles), left, right, step, bend, 0, 0);
}

/**
 * One frame of one part of one voice, into the ring from place `at` on. Returns where the slave stands in its cycle then. `phase`: address of the master's phase
 * (2³² is a turn); `speed`: its step in this frame; `ratio`: how many times faster the slave is.
 */
export function sync(
  table: usize, ring: usize, at: i32, lane: usize, first: i32, second: i32, blend: f32, width: f32, phase: usize, speed: u32, ratio: f32, left: f32, right: f32, slave: f32,
): f32 {
  const master = load<u32>(phase);
  const two = first != second;
  const y = valueOf(first, slave, width) * (two ? 1 - blend : 1) + (two ? blend * valueOf(second, slave, width) : 0);
  const to = ring + (<usize>((at + HALF) & (RING - 1)) << 4) + lane;
  store<f32>(to, load<f32>(to) + left * y);
  store<f32>(to + 4, load<f32>(to, 4) + right * y);
  const cycles = Mathf.min(0.45, (<f32>speed / <f32>4294967296.0) * ratio);
  const next = master + speed;
  store<u32>(phase, next);
  let end = slave + cycles;
  const many = two ? 2 : 1;
  const again = next < master && speed > 0;
  // The master begins anew: so does the slave, wherever it is.
  const since = again ? Mathf.min(0.999999, <f32>next / <f32>speed) : 0;
  const reached = again ? slave + cycles * (1 - since) : end;
  const place = reached - Mathf.floor(reached);
  if (again) end = cycles * since;
  for (let which = 0; which < many; which++) {
    const wave = which == 0 ? first : second;
    const share: f32 = which == 0 ? (two ? <f32>1 - blend : 1) : blend;
    passed(table, ring, at + 1, lane, wave, width, slave, reached, since, cycles, left * share, right * share);
    if (!again) continue;
    round(
      table, ring, at + 1, lane, since, left * share, right * share, valueOf(wave, 0, width) - valueOf(wave, place, width),
      (slopeOf(wave, 0) - slopeOf(wave, place)) * cycles, (bowOf(wave, 0) - bowOf(wave, place)) * cycles * cycles,
      (twistOf(wave, 0) - twistOf(wave, place)) * cycles * cycles * cycles,
    );
    passed(table, ring, at + 1, lane, wave, width, 0, end, 0, cycles, left * share, right * share);
  }
  return end - Mathf.floor(end);
}
