import type { Audio, Decibels, Hertz } from "../audio";
import { LoopGain } from "../dsp";
import { type Flattening, MOST_FLAT } from "../instrument";

/** Seconds around each point of a level curve, and periods at least; and the least from one point to the next. */
const WINDOW = 0.12;
const PERIODS = 3;
const STEP = 0.02;
/** Points at the most: fewer than a document may hold, for a reversed sound takes one more on its way. */
const MOST_POINTS = MOST_FLAT - 16;
/** Levels count down to so far below the loudest: what is fainter isn't made as loud as that. */
const DEPTH: Decibels = 40;

/** The level curve of frames `[from, to)`, all channels together: root mean square around each point. `period` in frames, where one is known. */
export function levelCurveOf(
  channels: readonly Float32Array[],
  rate: Hertz,
  from: number,
  to: number,
  period: number | null,
): Flattening {
  const step = Math.max(1, Math.round(STEP * rate), Math.ceil((to - from) / MOST_POINTS));
  const half = Math.round(Math.max(WINDOW * rate, PERIODS * (period ?? 0), 2 * step) / 2);
  const low = Math.max(0, from - half);
  const sums = powerSums(channels, low, Math.min(channels[0]?.length ?? 0, to + half));
  const count = Math.max(1, Math.floor((to - from) / step) + 1);
  const levels: number[] = [];
  for (let n = 0; n < count; n++) {
    const at = from + n * step - low;
    const a = Math.max(0, at - half);
    const b = Math.min(sums.length - 1, at + half);
    const mean = ((sums[b] as number) - (sums[a] as number)) / Math.max(1, (b - a) * channels.length);
    levels.push(10 * Math.log10(mean + 1e-14));
  }
  const loudest = Math.max(...levels);
  return { amount: 1, from, step, levels: levels.map((l) => round(Math.max(l, loudest - DEPTH))) };
}

const round = (level: number): number => Math.round(level * 1000) / 1000;

/** Sums of the squares of all frames before each. */
function powerSums(channels: readonly Float32Array[], from: number, to: number): Float64Array {
  const sums = new Float64Array(Math.max(1, to - from + 1));
  for (let i = 0; i + 1 < sums.length; i++) {
    let power = 0;
    for (const x of channels) power += (x[from + i] as number) ** 2;
    sums[i + 1] = (sums[i] as number) + power;
  }
  return sums;
}

/** A sound with its level evened out by a curve, as loud everywhere as it is at `anchor`. */
export function evened({ rate, channels }: Audio, curve: Flattening, anchor: number): Audio {
  const gain = new LoopGain(curve, { start: anchor, end: anchor });
  return { rate, channels: channels.map((x) => x.map((v, i) => v * gain.crossing(i))) };
}
