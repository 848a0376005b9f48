import { Fft, type Hertz } from "../audio";
import type { Levels, Progress } from "./levels";

/** How much new sound there is at each moment: the spectral flux, in steps of `hop` frames. */
export interface Flux {
  readonly hop: number;
  readonly values: Float32Array;
}

const SIZE = 1024;
const HOP = 441;
/** Bands of the spectrum, evenly on the scale of pitch above 100 Hz. */
const BANDS = 40;
/** Fewest bins in a band: of fewer, noise has no steady level. */
const FEWEST = 3;

/** For each band its first bin. */
function bandEdges(rate: Hertz): Int32Array {
  const edges = new Int32Array(BANDS + 1);
  const top = Math.min(16000, rate * 0.45);
  for (let b = 0; b <= BANDS; b++) {
    const f = 80 * (top / 80) ** (b / BANDS);
    edges[b] = Math.max((edges[b - 1] ?? 0) + FEWEST, Math.min(SIZE / 2, Math.round((f / rate) * SIZE)));
  }
  return edges;
}

/**
 * The spectral flux of one channel, after S. Böck and G. Widmer ("Maximum filter vibrato suppression for onset detection",
 * 2013): the rise of each band's log level over the largest of its neighbours two steps before. Two real frames go through
 * each complex transform.
 */
export function measureFlux(samples: Float32Array, rate: Hertz, floor: number, progress?: Progress): Flux {
  const hop = Math.max(1, Math.round((HOP * rate) / 44100));
  const steps = Math.max(1, Math.ceil(samples.length / hop));
  const values = new Float32Array(steps);
  const fft = new Fft(SIZE);
  const re = new Float64Array(SIZE);
  const im = new Float64Array(SIZE);
  const window = Float64Array.from({ length: SIZE }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / SIZE));
  const edges = bandEdges(rate);
  const past = [0, 1, 2].map(() => new Float64Array(BANDS));
  // Noise must not look like attacks: what lies under the room counts as one level.
  const least = 10 ** (floor / 10) / 40;
  let turn = 0;
  const step = (s: number, sign: 1 | -1) => {
    const now = past[turn % 3] as Float64Array;
    const before = past[(turn + 1) % 3] as Float64Array;
    turn++;
    for (let b = 0; b < BANDS; b++) {
      let sum = 0;
      const to = edges[b + 1] as number;
      for (let k = edges[b] as number; k < to; k++) {
        const [a, c] = [re[k] as number, im[k] as number];
        const [d, e] = [re[SIZE - k] as number, im[SIZE - k] as number];
        const x = sign > 0 ? a + d : c + e;
        const y = sign > 0 ? c - e : d - a;
        sum += x * x + y * y;
      }
      now[b] = Math.log10(sum / (SIZE * SIZE) + least);
    }
    let rise = 0;
    for (let b = 0; b < BANDS; b++) {
      const near = Math.max(before[b - 1] ?? -99, before[b] as number, before[b + 1] ?? -99);
      const by = (now[b] as number) - near;
      if (by > 0) rise += by;
    }
    values[s] = s < 2 ? 0 : rise / BANDS;
  };
  for (let s = 0; s < steps; s += 2) {
    const a = s * hop - SIZE / 2;
    const b = a + hop;
    for (let i = 0; i < SIZE; i++) {
      const w = window[i] as number;
      re[i] = (samples[a + i] ?? 0) * w;
      im[i] = (samples[b + i] ?? 0) * w;
    }
    fft.forward(re, im);
    step(s, 1);
    if (s + 1 < steps) step(s + 1, -1);
    if (progress && s % 4096 === 0) progress(s / steps);
  }
  progress?.(1);
  return { hop, values };
}

/**
 * The attacks of a take in frames: peaks of the flux above its local median, placed to the millisecond where the level rises
 * most. `sensitivity` is 0 to 1, `gap` the least time between two in seconds.
 */
export function findAttacks(flux: Flux, levels: Levels, sensitivity: number, gap: number): number[] {
  const { values, hop } = flux;
  const { peak, step, floor, rate } = levels;
  const least = 0.5 * 10 ** (-1.4 * Math.min(1, Math.max(0, sensitivity)));
  const reach = Math.round((0.15 * rate) / hop);
  const attacks: number[] = [];
  for (let i = 0; i < values.length; i++) {
    const now = values[i] as number;
    if (now < least) continue;
    let top = true;
    for (let k = -3; k <= 3; k++) if ((values[i + k] ?? 0) > now) top = false;
    if (!top) continue;
    // The median isn't moved by other attacks nearby, as a mean would be.
    const around = values.slice(Math.max(0, i - reach), i + reach + 1).sort();
    if (now < (around[around.length >> 1] as number) * 2 + least / 2) continue;
    const at = steepest(levels, i * hop);
    const s = Math.floor(at / step);
    if (Math.max(...peak.subarray(s, s + 30)) < floor + 9) continue;
    const last = attacks.at(-1);
    if (last === undefined || at - last >= gap * rate) attacks.push(at);
  }
  return attacks;
}

/** The place near a frame where something new begins most clearly: where the level, or the bend of the wave, rises most. */
function steepest({ peak, edge, step }: Levels, near: number): number {
  const centre = Math.round(near / step);
  let best = centre;
  let most = Number.NEGATIVE_INFINITY;
  const last = Math.min(peak.length - 3, centre + 20);
  for (let s = Math.max(8, centre - 26); s <= last; s++) {
    let [high, bend] = [-120, 0];
    for (let k = 1; k <= 5; k++) high = Math.max(high, peak[s - k] as number);
    for (let k = 1; k <= 8; k++) bend += edge[s - k] as number;
    const rise = Math.max(peak[s] as number, (peak[s + 1] as number) - 1.5) - high;
    const bent = ((edge[s] as number) + (edge[s + 1] as number) + (edge[s + 2] as number)) / 3 - bend / 8;
    const clear = Math.max(rise, bent * 0.8);
    if (clear > most) {
      most = clear;
      best = s;
    }
  }
  return best * step;
}
