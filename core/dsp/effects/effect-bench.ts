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
