import { CONTROL } from "../kernels/layout";

// What the tests of effects share.

export const RATE = 48000;

interface Effect {
  readonly control?: () => void;
  process(left: Float32Array, right: Float32Array, from: number, to: number): void;
}

/** Sends two channels through an effect, step by step. */
export function through(effect: Effect, left: Float32Array, right = left.slice()): [Float32Array, Float32Array] {
  for (let at = 0; at < left.length; at += CONTROL) {
    effect.control?.();
    effect.process(left, right, at, Math.min(left.length, at + CONTROL));
  }
  return [left, right];
}

/** A click at the first frame. */
export const click = (frames: number): Float32Array => {
  const x = new Float32Array(frames);
  x[0] = 1;
  return x;
};

export const sine = (frames: number, hertz: number, level = 0.5): Float32Array =>
  Float32Array.from({ length: frames }, (_, i) => level * Math.sin((2 * Math.PI * hertz * i) / RATE));

/** A sine whose level is given for each of its seconds' tenths. */
export const steps = (levels: readonly number[], hertz = 200): Float32Array =>
  Float32Array.from(
    { length: levels.length * 4800 },
    (_, i) => (levels[Math.floor(i / 4800)] as number) * Math.sin((2 * Math.PI * hertz * i) / RATE),
  );

/** So many seconds of a sine. */
export const toneOf = (seconds: number, hertz: number): Float32Array => steps(new Array(seconds * 10).fill(0.5), hertz);

/** The highest value between two tenths of seconds. */
export const peakOf = (x: Float32Array, from: number, to: number): number =>
  x.subarray(from * 4800, to * 4800).reduce((most, v) => Math.max(most, Math.abs(v)), 0);

/** Amplitude of one frequency in the last `frames` of a sound. */
export function amplitude(x: Float32Array, hertz: number, frames = 9600): number {
  let [re, im] = [0, 0];
  for (let i = x.length - frames; i < x.length; i++) {
    re += (x[i] as number) * Math.cos((2 * Math.PI * hertz * i) / RATE);
    im += (x[i] as number) * Math.sin((2 * Math.PI * hertz * i) / RATE);
  }
  return (2 * Math.hypot(re, im)) / frames;
}

export const decibels = (x: number): number => 20 * Math.log10(x);
