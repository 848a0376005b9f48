import { fadeWeights } from "./crossfade";
import type { LoopGain } from "./loop-gain";

/** A loop as it is played: frames `[start, end)`, a crossfade, and which way round. */
export interface StreamLoop {
  readonly start: number;
  readonly end: number;
  readonly fade: number;
  readonly mode: "forward" | "backward" | "alternating";
}

/** Which frames are read at one moment, and with which weights; `other` has weight 0 away from crossfades. */
export interface LoopTap {
  frame: number;
  weight: number;
  other: number;
  otherWeight: number;
}

/** Time (frames) after which the loop's course repeats. */
export const periodOf = (loop: StreamLoop): number =>
  loop.mode === "alternating" ? 2 * (loop.end - 1 - loop.start) : loop.end - loop.start;

/** From when on the course repeats: the end of the first pass. */
export const firstEnd = (loop: StreamLoop): number => (loop.mode === "forward" ? loop.end : loop.end - 1);

/**
 * Where a playback stands `t` frames after frame 0, when it goes round the loop for ever. Forward: after the end comes the start,
 * crossfaded with what stands before the start. Alternating: mirrored at the last frame and at the first, crossfaded with what lies
 * beyond each. Backward: mirrored at the end once, then from start to end again and again, crossfaded with what follows the end.
 */
export function loopTap(loop: StreamLoop, alike: number, t: number, out: LoopTap): void {
  const { start, end, fade, mode } = loop;
  out.weight = 1;
  out.otherWeight = 0;
  out.other = 0;
  const blend = (frame: number, other: number, place: number): void => {
    const [away, towards] = fadeWeights(place, alike);
    out.frame = frame;
    out.other = other;
    out.weight = towards;
    out.otherWeight = away;
  };
  if (mode === "forward") {
    const u = t < end ? t : start + ((t - start) % (end - start));
    out.frame = u;
    if (u >= end - fade) blend(u - (end - start), u, (u - (end - fade)) / fade);
    return;
  }
  const last = end - 1;
  if (t <= last) {
    out.frame = t;
    return;
  }
  if (mode === "alternating") {
    const half = last - start;
    const phase = (t - last) % (2 * half);
    if (phase <= half) {
      out.frame = last - phase;
      if (phase < fade) blend(last - phase, last + phase, phase / fade);
    } else {
      const up = phase - half;
      out.frame = start + up;
      if (up < fade) blend(start + up, start - up, up / fade);
    }
    return;
  }
  const since = t - last;
  const phase = since % (end - start);
  const frame = last - phase;
  out.frame = frame;
  // The very first pass begins by a mirror, all others by the seam.
  if (since < fade) blend(frame, last + since, since / fade);
  else if (frame < start + fade) blend(frame + (end - start), frame, (start + fade - frame) / fade);
}

/** The sound at a tap of a loop that `gain` keeps even (null: nothing does). */
export function tapped(x: (frame: number) => number, tap: LoopTap, gain: LoopGain | null): number {
  const { frame, weight, other, otherWeight } = tap;
  if (!gain) return weight * x(frame) + (otherWeight === 0 ? 0 : otherWeight * x(other));
  if (otherWeight === 0) return weight * gain.alone(frame) * x(frame);
  return weight * gain.crossing(frame) * x(frame) + otherWeight * gain.crossing(other) * x(other);
}

/** The sound `t` whole frames after frame 0 of a playback that goes round the loop for ever. */
export function loopedSample(
  x: Float32Array,
  loop: StreamLoop,
  alike: number,
  t: number,
  gain: LoopGain | null = null,
): number {
  const tap: LoopTap = { frame: 0, weight: 1, other: 0, otherWeight: 0 };
  loopTap(loop, alike, t, tap);
  return tapped((frame) => x[frame] ?? 0, tap, gain);
}
