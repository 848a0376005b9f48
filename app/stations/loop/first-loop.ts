import { pitchFinderOf } from "../../../core/analysis";
import { hertzOf } from "../../../core/audio";
import { type Loop, newLoop, type Zone } from "../../../core/instrument";

/**
 * A loop to start from: late in the sound but before it is gone, of whole periods where there is a pitch, both ends at rising
 * zero crossings, with a crossfade of a quarter of its length.
 */
export function firstLoop(samples: Float32Array, zone: Zone, rate: number): Loop {
  const length = zone.end - zone.start;
  const from = zone.start + Math.round(length * 0.35);
  const reach = Math.round(length * 0.3);
  const { note, confidence } = pitchFinderOf(rate).find(samples, zone.start, zone.end);
  const period = note !== null && confidence > 0.5 ? rate / hertzOf(note) : null;
  const start = risingZero(samples, from, Math.round(period ?? 2000));
  const whole = period === null ? reach : Math.max(1, Math.round(reach / period)) * period;
  const end = period === null ? risingZero(samples, start + reach, 2000) : start + Math.round(whole);
  const settled = Math.min(zone.end, Math.max(start + 2, end));
  return newLoop({ start, end: settled, fade: Math.min(start - zone.start, Math.round((settled - start) / 4)) });
}

/** The first frame at or after `from` where the sound rises through zero; `from` when there is none within `most` frames. */
function risingZero(samples: Float32Array, from: number, most: number): number {
  for (let i = from; i < from + most && i < samples.length; i++) {
    if ((samples[i - 1] ?? 0) < 0 && (samples[i] ?? 0) >= 0) return i;
  }
  return from;
}
