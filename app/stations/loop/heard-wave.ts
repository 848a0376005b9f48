import { LoopGain, type LoopTap, likenessOf, loopTap, tapped } from "../../../core/dsp";
import type { Loop } from "../../../core/instrument";
import { crossings } from "./crossings";

/** The sound of a stretch of the sample as it is heard in the loop: lowest and highest value in each column. */
export interface HeardWave {
  /** Frames of the stretch, `[from, to)`. */
  readonly from: number;
  readonly to: number;
  readonly low: Float32Array;
  readonly high: Float32Array;
}

/** Frames of a column that are looked at, at the most: of more only some. */
const MOST = 64;

/** When a frame of a loop is heard as it is crossfaded, in the time of the playback that goes round. */
function timeOf({ start, end, fade, mode }: Loop, frame: number): number {
  if (mode === "forward") return frame;
  const last = end - 1;
  // The second pass: the first begins by a mirror.
  if (mode === "backward") return last + (last - frame) + (frame < start + fade ? end - start : 0);
  if (frame >= end - fade) return 2 * last - frame;
  return frame < start + fade ? 2 * last - start + (frame - start) : frame;
}

/** Stretches that are heard otherwise than they lie in the sample: where it is crossfaded, or all of a loop that is kept even. */
function stretches(loop: Loop, gain: LoopGain | null): readonly { readonly from: number; readonly to: number }[] {
  if (gain) return [{ from: loop.start, to: loop.end }];
  return crossings(loop).map(({ from, to }) => ({ from: Math.min(from, to), to: Math.max(from, to) }));
}

/** What is heard of a loop otherwise than it lies in the sample, each stretch in as many columns as `columns` says for its length in frames. */
export function heardWave(x: Float32Array, loop: Loop, columns: (frames: number) => number): readonly HeardWave[] {
  const alike = likenessOf(x, loop);
  const gain = LoopGain.of(loop);
  const tap: LoopTap = { frame: 0, weight: 1, other: 0, otherWeight: 0 };
  const read = (frame: number): number => x[frame] ?? 0;
  return stretches(loop, gain).flatMap(({ from, to }) => {
    const count = columns(to - from);
    if (count < 1) return [];
    const low = new Float32Array(count).fill(Number.POSITIVE_INFINITY);
    const high = new Float32Array(count).fill(Number.NEGATIVE_INFINITY);
    const step = Math.max(1, Math.floor((to - from) / count / MOST));
    for (let frame = from; frame < to; frame += step) {
      loopTap(loop, alike, timeOf(loop, frame), tap);
      const value = tapped(read, tap, gain);
      const c = Math.min(count - 1, Math.floor(((frame - from) / (to - from)) * count));
      low[c] = Math.min(low[c] as number, value);
      high[c] = Math.max(high[c] as number, value);
    }
    return [{ from, to, low, high }];
  });
}
