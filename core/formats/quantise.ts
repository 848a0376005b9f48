import { type Audio, seededRandom } from "../audio";

/** A value in whole steps of an integer format whose full scale is `scale`, clipped. */
export function quantise(x: number, scale: number): number {
  const q = Math.round(x * scale);
  return q < -scale ? -scale : q > scale - 1 ? scale - 1 : q;
}

/**
 * All channels in whole steps. 16 bits get triangular dither of one step either way (S. P. Lipshitz, R. A. Wannamaker and
 * J. Vanderkooy, 1992), unless every value is a whole step already: then nothing is added.
 */
export function quantiseChannels(audio: Audio, depth: 16 | 24, seed = 1): Int32Array[] {
  const scale = 2 ** (depth - 1);
  const exact = depth === 24 || audio.channels.every((c) => c.every((x) => Number.isInteger(x * scale)));
  const random = seededRandom(seed);
  return audio.channels.map((channel) => {
    const out = new Int32Array(channel.length);
    for (let i = 0; i < channel.length; i++) {
      const x = channel[i] as number;
      out[i] = quantise(exact ? x : x + (random() - random()) / scale, scale);
    }
    return out;
  });
}
