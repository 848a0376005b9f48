import { type Audio, framesOf, monoOf } from "./audio";

/** Length of a grain in seconds, and how far it may be moved to fit the one before. */
const GRAIN = 0.05;
const SEEK = 0.012;

/**
 * A copy `ratio` times as long at the same pitch: overlapping grains, each taken where it continues the one before best
 * (waveform similarity: W. Verhelst and M. Roelands, WSOLA, 1993). All channels move together. `ratio` is 0.25 to 4.
 */
export function stretch(audio: Audio, ratio: number): Audio {
  if (!(ratio >= 0.25 && ratio <= 4)) throw new RangeError(`a length of ${ratio} times is out of reach (0.25 to 4)`);
  const frames = framesOf(audio);
  const hop = Math.round((GRAIN / 2) * audio.rate);
  const size = hop * 2;
  if (ratio === 1 || frames < size * 2) return audio;
  const length = Math.round(frames * ratio);
  const seek = Math.round(SEEK * audio.rate);
  const mono = monoOf(audio);
  const channels = audio.channels.map(() => new Float32Array(length));
  const ramp = Float32Array.from({ length: hop }, (_, i) => 0.5 - 0.5 * Math.cos((Math.PI * (i + 0.5)) / hop));
  let from = 0;
  for (let to = 0; to < length; to += hop) {
    if (to > 0) from = bestMatch(mono, from + hop, Math.round(to / ratio), seek, hop);
    channels.forEach((out, c) => {
      const source = audio.channels[c] as Float32Array;
      for (let i = 0; i < size && to + i < length; i++) {
        const w = i < hop ? (to === 0 ? 1 : (ramp[i] as number)) : 1 - (ramp[i - hop] as number);
        out[to + i] = (out[to + i] as number) + w * (source[from + i] ?? 0);
      }
    });
  }
  return { rate: audio.rate, channels };
}

/** The place within `seek` of `near` whose sound is most like that at `wanted`, the natural continuation. */
function bestMatch(samples: Float32Array, wanted: number, near: number, seek: number, hop: number): number {
  const likeness = (at: number, stride: number) => {
    let sum = 0;
    let power = 1e-9;
    for (let i = 0; i < hop; i += stride) {
      const x = samples[at + i] ?? 0;
      sum += x * (samples[wanted + i] ?? 0);
      power += x * x;
    }
    return sum / Math.sqrt(power);
  };
  const search = (from: number, to: number, step: number, stride: number) => {
    let best = from;
    let most = Number.NEGATIVE_INFINITY;
    for (let at = from; at <= to; at += step) {
      const value = likeness(at, stride);
      if (value > most) {
        most = value;
        best = at;
      }
    }
    return best;
  };
  const coarse = search(Math.max(0, near - seek), near + seek, 4, 4);
  return search(Math.max(0, coarse - 4), coarse + 4, 1, 1);
}
