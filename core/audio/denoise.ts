import { type Audio, framesOf } from "./audio";
import { Fft } from "./fft";

const SIZE = 2048;
const HOP = SIZE / 4;

/** What a room sounds like by itself: mean power of each frequency bin, for each channel. */
export interface NoiseProfile {
  readonly channels: readonly Float64Array[];
}

const hann = Float64Array.from({ length: SIZE }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / SIZE));

/** Learns the noise of the frames `[from, to)`, at least 2048 of them. */
export function learnNoise(audio: Audio, from: number, to: number): NoiseProfile {
  if (to - from < SIZE) throw new RangeError(`${to - from} frames are too few to learn noise from (${SIZE} at least)`);
  const fft = new Fft(SIZE);
  const [re, im] = [new Float64Array(SIZE), new Float64Array(SIZE)];
  return {
    channels: audio.channels.map((channel) => {
      const power = new Float64Array(SIZE / 2 + 1);
      let count = 0;
      for (let at = from; at + SIZE <= to; at += HOP, count++) {
        for (let i = 0; i < SIZE; i++) re[i] = (channel[at + i] ?? 0) * (hann[i] as number);
        im.fill(0);
        fft.forward(re, im);
        for (let k = 0; k <= SIZE / 2; k++)
          power[k] = (power[k] as number) + (re[k] as number) ** 2 + (im[k] as number) ** 2;
      }
      // Evened out over neighbours, for a few frames say little about each bin.
      return power.map((_, k) => {
        let sum = 0;
        let n = 0;
        for (let j = Math.max(0, k - 3); j <= Math.min(SIZE / 2, k + 3); j++, n++) sum += power[j] as number;
        return sum / n / count;
      });
    }),
  };
}

/** The quietest stretch of so many frames of a channel, by its power: where noise is learnt when nobody says. */
export function quietestStretch(samples: Float32Array, frames: number): number {
  const step = Math.max(1, Math.floor(frames / 8));
  const powers: number[] = [];
  for (let at = 0; at + step <= samples.length; at += step) {
    let sum = 0;
    for (let i = at; i < at + step; i++) sum += (samples[i] as number) ** 2;
    // Digital silence is no room.
    powers.push(sum > 0 ? sum : Number.POSITIVE_INFINITY);
  }
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  for (let p = 0; p + 8 <= powers.length; p++) {
    let sum = 0;
    for (let k = 0; k < 8; k++) sum += powers[p + k] as number;
    if (sum < least) {
      least = sum;
      best = p;
    }
  }
  return best * step;
}

/**
 * A copy in which what doesn't stand `above` dB over the learnt noise is lowered by up to `amount` dB: spectral gating after
 * S. F. Boll (1979) and the gain smoothing of Y. Ephraim and D. Malah's decision-directed rule (1984), so that no tones are
 * left behind. As long as the original; an amount of 0 leaves it as it is.
 */
export function reduceNoise(audio: Audio, profile: NoiseProfile, amount: number, above = 6): Audio {
  if (amount <= 0) return audio;
  const least = 10 ** (-amount / 20);
  const bias = 10 ** (above / 10);
  const frames = framesOf(audio);
  const fft = new Fft(SIZE);
  const [re, im] = [new Float64Array(SIZE), new Float64Array(SIZE)];
  const gains = new Float64Array(SIZE / 2 + 1);
  const smooth = new Float64Array(SIZE / 2 + 1);
  const channels = audio.channels.map((channel, c) => {
    const noise = profile.channels[c] ?? profile.channels[0] ?? new Float64Array(SIZE / 2 + 1);
    const out = new Float32Array(frames);
    const past = new Float64Array(SIZE / 2 + 1).fill(1);
    for (let at = HOP - SIZE; at < frames; at += HOP) {
      for (let i = 0; i < SIZE; i++) re[i] = (channel[at + i] ?? 0) * (hann[i] as number);
      im.fill(0);
      fft.forward(re, im);
      for (let k = 0; k <= SIZE / 2; k++) {
        const floor = (noise[k] as number) + 1e-20;
        const now = Math.max(0, ((re[k] as number) ** 2 + (im[k] as number) ** 2) / (floor * bias) - 1);
        const prior = 0.92 * (past[k] as number) + 0.08 * now;
        past[k] = now > prior ? now : prior;
        const gain = Math.max(now > prior ? now : prior, 0);
        gains[k] = Math.max(least, gain / (1 + gain));
      }
      for (let k = 0; k <= SIZE / 2; k++) {
        const a = gains[Math.max(0, k - 1)] as number;
        const b = gains[Math.min(SIZE / 2, k + 1)] as number;
        smooth[k] = 0.25 * a + 0.5 * (gains[k] as number) + 0.25 * b;
      }
      for (let k = 0; k <= SIZE / 2; k++) {
        const g = smooth[k] as number;
        re[k] = (re[k] as number) * g;
        // The inverse by a forward transform: conjugate before, scale after.
        im[k] = -(im[k] as number) * g;
        if (k > 0 && k < SIZE / 2) {
          re[SIZE - k] = re[k] as number;
          im[SIZE - k] = -(im[k] as number);
        }
      }
      fft.forward(re, im);
      // Hann twice at a quarter hop adds up to 1.5.
      for (let i = Math.max(0, -at); i < SIZE && at + i < frames; i++)
        out[at + i] = (out[at + i] as number) + ((re[i] as number) * (hann[i] as number)) / (SIZE * 1.5);
    }
    return out;
  });
  return { rate: audio.rate, channels };
}
