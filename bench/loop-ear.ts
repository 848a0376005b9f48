import type { Audio } from "../core/audio";
import { fftOf } from "../core/audio";
import { bench, RATE } from "../core/engine/test-bench";
import type { Loop } from "../core/instrument";
import { HELD } from "./heard-sounds";

/**
 * A judge of loops that shares nothing with the search: it hears the engine play one for half a minute, and holds that against the same note without a
 * loop, where that is held.
 */
const HEARD_SECONDS = 30;
const SIZE = 1024;
const HOP = 256;
const BANDS = 28;
/** What is softer isn't heard, in decibels of full scale for a band. */
const SILENCE = -84;
/** A change of the bands' levels below that is no seam whatever else there is, in decibels. */
const LEAST = 0.6;
/** How much of its own change a sound may change by at a seam, and how much its movement may shrink or grow, in decibels. */
const TIMES = 1.5;
const MOVED = 3;
/** By how much what is above 8 kHz may rise at a seam beyond what it ever does by itself, in decibels. */
const CLICK = 3;

export interface Verdict {
  /** The largest change of spectrum while the loop goes round, against the sound's own 95th percentile and against its own largest. */
  readonly flux: number;
  /** Decibels by which what is above 8 kHz rises beyond what it ever does by itself. */
  readonly click: number;
  /** Decibels by which the level's swing has shrunk (below 0: grown); the same of the difference of left and right. */
  readonly lost: number;
  readonly image: number;
  /** What is heard of it, in words; none where nothing is. */
  readonly faults: readonly string[];
}

/** The loop of a sound, heard. `null`: the sound without one. */
function hear(audio: Audio, loop: Loop | null, seconds: number): readonly Float32Array[] {
  const b = bench([audio], [{ root: 60, loop }]);
  b.engine.midi(0x90, 60, 100);
  const { left, right } = b.play(Math.round(seconds * RATE), 512);
  return [left, right];
}

/** At least three bins in each: a band of one would swing by itself in any noise. */
const EDGES = Array.from({ length: BANDS + 1 }, (_, b) =>
  Math.max(1 + 3 * b, Math.round((40 * (20000 / 40) ** (b / BANDS) * SIZE) / RATE)),
);

/** Levels in bands of a third of an octave and less, in decibels, one row every 256 frames. */
function rowsOf(x: Float32Array): Float64Array[] {
  const fft = fftOf(SIZE);
  const re = new Float64Array(SIZE);
  const im = new Float64Array(SIZE);
  const rows: Float64Array[] = [];
  for (let at = 0; at + SIZE <= x.length; at += HOP) {
    for (let i = 0; i < SIZE; i++) re[i] = (x[at + i] as number) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / SIZE));
    im.fill(0);
    fft.forward(re, im);
    rows.push(
      Float64Array.from({ length: BANDS }, (_, b) => {
        let sum = 0;
        const to = Math.max((EDGES[b] as number) + 1, EDGES[b + 1] as number);
        for (let k = EDGES[b] as number; k < to; k++) sum += (re[k] as number) ** 2 + (im[k] as number) ** 2;
        // A sine of full scale is 0 dB.
        return Math.max(SILENCE, 10 * Math.log10((16 * sum) / (1.5 * SIZE * SIZE) + 1e-20));
      }),
    );
  }
  return rows;
}

/** Mean change of the bands' levels over two hops, in decibels. */
function changes(rows: readonly Float64Array[]): number[] {
  return rows.slice(2).map((row, n) => {
    const before = rows[n] as Float64Array;
    let sum = 0;
    for (let b = 0; b < BANDS; b++) sum += Math.abs((row[b] as number) - (before[b] as number));
    return sum / BANDS;
  });
}

/** Levels above 8 kHz of windows of 5 ms, in decibels: where a tone is only its room's noise, the faintest click stands out. */
function hiss(x: Float32Array): number[] {
  const size = 256;
  const fft = fftOf(size);
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  const first = Math.round((8000 * size) / RATE);
  const last = Math.round((20000 * size) / RATE);
  const found: number[] = [];
  for (let at = 0; at + size <= x.length; at += size / 4) {
    for (let i = 0; i < size; i++) {
      // Four terms (Nuttall, 1981): what lies below 8 kHz must not leak into it.
      const a = (2 * Math.PI * i) / size;
      re[i] =
        (x[at + i] as number) *
        (0.355768 - 0.487396 * Math.cos(a) + 0.144232 * Math.cos(2 * a) - 0.012604 * Math.cos(3 * a));
    }
    im.fill(0);
    fft.forward(re, im);
    let sum = 1e-12;
    for (let k = first; k < last; k++) sum += (re[k] as number) ** 2 + (im[k] as number) ** 2;
    found.push(10 * Math.log10(sum / size));
  }
  return found;
}

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) * share)] ?? 0;

/** Levels of runs of 20 ms, in decibels. */
function levels(x: Float32Array): number[] {
  const step = Math.round(0.02 * RATE);
  return Array.from({ length: Math.floor(x.length / step) }, (_, n) => {
    let sum = 1e-12;
    for (let i = n * step; i < (n + 1) * step; i++) sum += (x[i] as number) ** 2;
    return 10 * Math.log10(sum / step);
  });
}

/** How far some levels swing about their straight line. */
function swing(of: readonly number[]): number {
  const mean = of.reduce((s, v) => s + v, 0) / of.length;
  const middle = (of.length - 1) / 2;
  let [xy, xx] = [0, 0];
  of.forEach((v, i) => {
    xy += (i - middle) * (v - mean);
    xx += (i - middle) ** 2;
  });
  const rest = of.map((v, i) => v - mean - (xx > 0 ? xy / xx : 0) * (i - middle));
  return quantile(rest, 0.95) - quantile(rest, 0.05);
}

const balance = ([left, right]: readonly Float32Array[]): number[] => {
  const [l, r] = [levels(left as Float32Array), levels(right as Float32Array)];
  return l.map((v, i) => v - (r[i] as number));
};

/** The stretches of playback, in seconds, in which the seams of a loop are. */
function seamsOf({ start, end, fade }: Loop, rate: number): (readonly [number, number])[] {
  const beside = (2 * SIZE) / RATE;
  const seams: (readonly [number, number])[] = [];
  for (let at = end / rate; at + 1 < HEARD_SECONDS; at += (end - start) / rate)
    seams.push([Math.max(0, at - fade / rate - beside), at + fade / rate + beside]);
  // Of many they are all alike, but for the part of a frame by which they are apart.
  return seams.slice(0, 12);
}

/** Hears a loop. */
export function judgeByEar(audio: Audio, loop: Loop): Verdict {
  const part = (x: Float32Array, from: number, to: number) =>
    x.subarray(Math.round(from * RATE), Math.round(to * RATE));
  const own = hear(audio, null, HELD.to).map((x) => part(x, HELD.from, HELD.to));
  const whole = hear(audio, loop, HEARD_SECONDS);
  const round = whole.map((x) => part(x, Math.max(HELD.from, loop.start / audio.rate), HEARD_SECONDS));
  const seams = seamsOf(loop, audio.rate);
  let flux = 0;
  let usual = 0;
  let click = Number.NEGATIVE_INFINITY;
  for (let c = 0; c < 2; c++) {
    const ours = changes(rowsOf(own[c] as Float32Array));
    const most = Math.max(...seams.map((at) => Math.max(...changes(rowsOf(part(whole[c] as Float32Array, ...at))))));
    const held = Math.max(LEAST / TIMES, quantile(ours, 0.95), Math.max(...ours) / TIMES);
    const loudest = Math.max(...seams.map((at) => Math.max(...hiss(part(whole[c] as Float32Array, ...at)))));
    click = Math.max(click, loudest - Math.max(...hiss(own[c] as Float32Array)));
    if (most / held > flux) [flux, usual] = [most / held, held];
  }
  const lost = swing(levels(own[0] as Float32Array)) - swing(levels(round[0] as Float32Array));
  const image = swing(balance(own)) - swing(balance(round));
  const faults = [
    ...(flux > TIMES ? [`a seam of ${(flux * usual).toFixed(1)} dB, ${flux.toFixed(1)} × its own`] : []),
    ...(click > CLICK ? [`a click of ${click.toFixed(1)} dB above 8 kHz`] : []),
    ...(lost > MOVED ? [`${lost.toFixed(1)} dB of movement lost`] : []),
    ...(lost < -MOVED ? [`swings by ${(-lost).toFixed(1)} dB more`] : []),
    ...(image > MOVED ? [`the image moves ${image.toFixed(1)} dB less`] : []),
    ...(image < -MOVED ? [`the image moves ${(-image).toFixed(1)} dB more`] : []),
  ];
  return { flux, click, lost, image, faults };
}
