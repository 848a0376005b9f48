import { type Audio, type Decibels, framesOf, type Hertz } from "../audio";

interface Biquad {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

/** The two filters of K-weighting (ITU-R BS.1770-5), designed for any rate from their analogue prototypes. */
function kWeighting(rate: Hertz): [Biquad, Biquad] {
  const shelf = (): Biquad => {
    const k = Math.tan((Math.PI * 1681.974450955533) / rate);
    const q = 0.7071752369554196;
    const vh = 10 ** (3.999843853973347 / 20);
    const vb = vh ** 0.4996667741545416;
    const a0 = 1 + k / q + k * k;
    return {
      b0: (vh + (vb * k) / q + k * k) / a0,
      b1: (2 * (k * k - vh)) / a0,
      b2: (vh - (vb * k) / q + k * k) / a0,
      a1: (2 * (k * k - 1)) / a0,
      a2: (1 - k / q + k * k) / a0,
    };
  };
  const k = Math.tan((Math.PI * 38.13547087602444) / rate);
  const q = 0.5003270373238773;
  const a0 = 1 + k / q + k * k;
  return [shelf(), { b0: 1, b1: -2, b2: 1, a1: (2 * (k * k - 1)) / a0, a2: (1 - k / q + k * k) / a0 }];
}

/** Mean K-weighted power of each `hop` frames of `[from, to)`, summed over the channels. */
function blockPowers(audio: Audio, from: number, to: number, hop: number): Float64Array {
  const length = to - from;
  const [{ b0, b1, b2, a1, a2 }, { a1: c1, a2: c2 }] = kWeighting(audio.rate);
  const blocks = new Float64Array(Math.ceil(length / hop));
  for (const channel of audio.channels) {
    let [p1, p2, r1, r2] = [0, 0, 0, 0];
    for (let block = 0; block < blocks.length; block++) {
      const end = Math.min(to, channel.length, from + (block + 1) * hop);
      let sum = 0;
      for (let i = from + block * hop; i < end; i++) {
        const x = channel[i] as number;
        const y = b0 * x + p1;
        p1 = b1 * x - a1 * y + p2;
        p2 = b2 * x - a2 * y;
        // The second filter's own weights are 1, −2 and 1.
        const z = y + r1;
        r1 = r2 - 2 * y - c1 * z;
        r2 = y - c2 * z;
        sum += z * z;
      }
      blocks[block] = (blocks[block] as number) + sum;
    }
  }
  return blocks;
}

const lufs = (power: number): Decibels => (power > 1e-12 ? -0.691 + 10 * Math.log10(power) : -120);

/** Powers of overlapping windows of four blocks; a sound shorter than that fills one window of its own length. */
function windowPowers(blocks: Float64Array, hop: number, length: number): number[] {
  const width = Math.min(4, blocks.length);
  const powers: number[] = [];
  for (let b = 0; b + width <= blocks.length; b++) {
    let sum = 0;
    for (let k = 0; k < width; k++) sum += blocks[b + k] as number;
    powers.push(sum / (Math.min(length, (b + width) * hop) - b * hop));
  }
  return powers;
}

const hopOf = (audio: Audio, length: number): number => Math.max(1, Math.min(length, Math.round(audio.rate * 0.1)));

/**
 * Loudness of the frames `[from, to)`: the loudest 400 ms by K-weighted power (the momentary maximum of ITU-R BS.1770
 * and EBU Tech 3341) in LUFS; a shorter sound counts as if it filled its own length. −120 for silence.
 */
export function loudnessOf(audio: Audio, from = 0, to = framesOf(audio)): Decibels {
  const length = to - from;
  if (length <= 0) return -120;
  const hop = hopOf(audio, length);
  let most = 0;
  for (const power of windowPowers(blockPowers(audio, from, to, hop), hop, length)) most = Math.max(most, power);
  return lufs(most);
}

/**
 * Loudness of a whole programme in LUFS with the two gates of ITU-R BS.1770-5: windows of 400 ms below −70 LUFS, and then those
 * 10 LU below the mean of the rest, don't count. −120 for silence.
 */
export function integratedLoudness(audio: Audio, from = 0, to = framesOf(audio)): Decibels {
  const length = to - from;
  if (length <= 0) return -120;
  const hop = hopOf(audio, length);
  const mean = (powers: readonly number[]) => powers.reduce((sum, p) => sum + p, 0) / Math.max(1, powers.length);
  const loud = windowPowers(blockPowers(audio, from, to, hop), hop, length).filter((p) => lufs(p) > -70);
  const gate = lufs(mean(loud)) - 10;
  return lufs(mean(loud.filter((p) => lufs(p) > gate)));
}
