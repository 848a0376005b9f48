import type { Hertz } from "../audio";
import { decimated } from "./joints";

/** A place around which a sound is its own mirror image, so that it can turn there; `alike` is −1 to 1. */
export interface Turn {
  readonly at: number;
  readonly alike: number;
}

/** Rate at which turns are looked for, and seconds of the sound in which they are. */
const COARSE: Hertz = 8000;
const LONGEST_LOOK = 20;

/**
 * Places at which a sound may turn and go back, one in each of so many parts of frames `[from, to)`, as they follow: where what follows runs most as what comes
 * before it does, read backward (normalised correlation).
 */
export function findTurns(
  channels: readonly Float32Array[],
  rate: Hertz,
  from: number,
  to: number,
  reach: number,
  most: number,
): Turn[] {
  const factor = Math.max(1, Math.round(rate / COARSE));
  const x = decimated(channels, from, Math.min(to, from + LONGEST_LOOK * rate), factor);
  const half = Math.max(4, Math.round(reach / factor));
  const count = x.length - 2 * half;
  if (count < most) return [];
  const best: Turn[] = Array.from({ length: most }, () => ({ at: 0, alike: Number.NEGATIVE_INFINITY }));
  for (let i = 0; i < count; i++) {
    const at = half + i;
    const alike = mirrored((n) => x[n] as number, at, half);
    const part = Math.floor((i * most) / count);
    if (alike > (best[part] as Turn).alike) best[part] = { at, alike };
  }
  return best.map((turn) => finer(channels, from + turn.at * factor + (factor >> 1), factor, reach));
}

/** Likeness of what follows a frame with what comes before it, read backward. */
function mirrored(read: (i: number) => number, at: number, half: number): number {
  let ab = 0;
  let aa = 0;
  let bb = 0;
  for (let k = 1; k <= half; k++) {
    const [a, b] = [read(at + k), read(at - k)];
    ab += a * b;
    aa += a * a;
    bb += b * b;
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

/** The frame near a place at which all channels are most alike; the one that is least so counts. */
function finer(channels: readonly Float32Array[], near: number, by: number, reach: number): Turn {
  let best: Turn = { at: near, alike: Number.NEGATIVE_INFINITY };
  for (let at = near - by; at <= near + by; at++) {
    const alike = Math.min(...channels.map((x) => mirrored((i) => x[i] ?? 0, at, reach)));
    if (alike > best.alike) best = { at, alike };
  }
  return best;
}
