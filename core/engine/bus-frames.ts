import { BLOCK } from "./shared-parts";

/** What stays below this (−140 dB) is silence: what still rings beneath it is let go. */
const SILENT = 1e-7;

/** What a unit may listen to instead of its own sound: two channels, whose first frame is that at which `process` begins. */
export interface Overheard {
  readonly left: Float32Array;
  readonly right: Float32Array;
}

/** Copies the frames `[from, to)` of two channels to places so many further in two others, of a block's length. */
export function copyBlock(
  left: Float32Array,
  right: Float32Array,
  into: Overheard,
  from: number,
  to: number,
  shift: number,
): void {
  for (let i = from; i < to; i++) {
    into.left[(i + shift) % BLOCK] = left[i] as number;
    into.right[(i + shift) % BLOCK] = right[i] as number;
  }
}

/** Adds the first frames of two channels to the frames `[from, to)` of two others. */
export function addBlock(left: Float32Array, right: Float32Array, what: Overheard, from: number, to: number): void {
  for (let i = from; i < to; i++) {
    left[i] = (left[i] as number) + (what.left[i - from] as number);
    right[i] = (right[i] as number) + (what.right[i - from] as number);
  }
}

/** A value a step nearer to a target. */
export const move = (value: number, target: number, most: number): number =>
  value < target ? Math.min(target, value + most) : Math.max(target, value - most);

/** The first frame at which there is anything at all; `to` where there is none. */
export function firstSound(left: Float32Array, right: Float32Array, from: number, to: number): number {
  for (let i = from; i < to; i++) if (left[i] !== 0 || right[i] !== 0) return i;
  return to;
}

/** The largest value of two channels. */
export function peakOf(left: Float32Array, right: Float32Array, from: number, to: number): number {
  let most = 0;
  for (let i = from; i < to; i++) {
    const l = Math.abs(left[i] as number);
    const r = Math.abs(right[i] as number);
    if (l > most) most = l;
    if (r > most) most = r;
  }
  return most;
}

/** Whether anything is louder than what is let go. */
export function isLoud(x: Float32Array, from: number, to: number): boolean {
  for (let i = from; i < to; i++) {
    const v = x[i] as number;
    if (v > SILENT || v < -SILENT) return true;
  }
  return false;
}
