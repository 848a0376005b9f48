import { fftOf, type Hertz } from "../audio";

/** Two places of a sound that are alike: a loop may go from `end` back to `start`. `alike` is their normalised correlation, −1 to 1. */
export interface Joint {
  readonly start: number;
  readonly end: number;
  readonly alike: number;
}

/** Rate at which joints are looked for: what is above half of it doesn't decide where a waveform repeats. */
const COARSE: Hertz = 8000;

/** The mean of each run of `factor` frames, all channels together. */
export function decimated(channels: readonly Float32Array[], from: number, to: number, factor: number): Float64Array {
  const out = new Float64Array(Math.floor((to - from) / factor));
  for (const channel of channels)
    for (let i = 0; i < out.length; i++) {
      let sum = 0;
      for (let k = 0; k < factor; k++) sum += channel[from + i * factor + k] as number;
      out[i] = (out[i] as number) + sum / factor;
    }
  return out;
}

interface JointSearch {
  /** Frames `[from, to)` in which both places lie. */
  readonly from: number;
  readonly to: number;
  /** Length of a loop, in frames. */
  readonly shortest: number;
  readonly longest: number;
  /** Half of the stretch around each place that is compared, in frames. */
  readonly reach: number;
  /** How many ends are tried, and how many starts are taken for each. */
  readonly ends: number;
  readonly starts: number;
}

/**
 * Pairs of places around which a sound runs alike, by normalised cross-correlation (computed by Fourier transform) of the stretch around each of many ends
 * with everything before it. Coarse: to a few frames.
 */
export function findJoints(channels: readonly Float32Array[], rate: Hertz, search: JointSearch): Joint[] {
  const factor = Math.max(1, Math.round(rate / COARSE));
  const x = decimated(channels, search.from, search.to, factor);
  const reach = Math.max(4, Math.round(search.reach / factor));
  const shortest = Math.max(2, Math.round(search.shortest / factor));
  const longest = Math.round(search.longest / factor);
  const squares = new Float64Array(x.length + 1);
  for (let i = 0; i < x.length; i++) squares[i + 1] = (squares[i] as number) + (x[i] as number) ** 2;
  const energy = (at: number) => (squares[at + reach] as number) - (squares[at - reach] as number);
  const joints: Joint[] = [];
  const first = reach + shortest;
  const last = x.length - reach;
  for (let n = 0; n < search.ends && last >= first; n++) {
    const end = Math.round(last - ((last - first) * n) / Math.max(1, search.ends - 1));
    const low = Math.max(reach, end - longest);
    const high = end - shortest;
    if (high < low) continue;
    const found = correlate(x, end, low, high, reach);
    for (let i = 0; i < found.length; i++)
      found[i] = (found[i] as number) / Math.sqrt(Math.max(1e-18, energy(end) * energy(low + i)));
    for (const at of peaksOf(found, search.starts))
      joints.push({
        start: search.from + (low + at) * factor,
        end: search.from + end * factor,
        alike: found[at] as number,
      });
  }
  return joints;
}

/** Places between two frames around which a sound runs as it does around another, most alike first; coarse. */
export function likeRuns(
  channels: readonly Float32Array[],
  rate: Hertz,
  fixed: number,
  low: number,
  high: number,
  reach: number,
  most: number,
): { readonly at: number; readonly alike: number }[] {
  const factor = Math.max(1, Math.round(rate / COARSE));
  const half = Math.max(4, Math.round(reach / factor));
  const from = Math.max(0, Math.min(low, fixed) - (half + 1) * factor);
  const to = Math.min(channels[0]?.length ?? 0, Math.max(high, fixed) + (half + 1) * factor);
  const x = decimated(channels, from, to, factor);
  const coarse = (frame: number) => Math.max(half, Math.min(x.length - half, Math.round((frame - from) / factor)));
  const [end, first, last] = [coarse(fixed), coarse(low), coarse(high)];
  if (last <= first) return [];
  const energy = (at: number) => {
    let sum = 0;
    for (let i = at - half; i < at + half; i++) sum += (x[i] as number) ** 2;
    return sum;
  };
  const own = energy(end);
  const found = correlate(x, end, first, last, half);
  for (let i = 0; i < found.length; i++)
    found[i] = (found[i] as number) / Math.sqrt(Math.max(1e-18, own * energy(first + i)));
  return peaksOf(found, most).map((i) => ({ at: from + (first + i) * factor, alike: found[i] as number }));
}

/** Products of the stretch around `end` with that around each place from `low` to `high`. */
function correlate(x: Float64Array, end: number, low: number, high: number, reach: number): Float64Array {
  const length = high - low + 1 + 2 * reach;
  const size = 2 ** Math.ceil(Math.log2(length + 2 * reach));
  const fft = fftOf(size);
  // Both are real: they go through one transform, as its real and its imaginary part.
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  re.set(x.subarray(low - reach, low - reach + length));
  im.set(x.subarray(end - reach, end + reach));
  fft.forward(re, im);
  const outRe = new Float64Array(size);
  const outIm = new Float64Array(size);
  for (let k = 0; k < size; k++) {
    const j = (size - k) % size;
    const ar = ((re[k] as number) + (re[j] as number)) / 2;
    const ai = ((im[k] as number) - (im[j] as number)) / 2;
    const br = ((im[k] as number) + (im[j] as number)) / 2;
    const bi = ((re[j] as number) - (re[k] as number)) / 2;
    // A · conj(B), turned so that a forward transform brings it back.
    outRe[k] = ar * br + ai * bi;
    outIm[k] = -(ai * br - ar * bi);
  }
  fft.forward(outRe, outIm);
  const out = new Float64Array(high - low + 1);
  for (let i = 0; i < out.length; i++) out[i] = (outRe[i] as number) / size;
  return out;
}

/** Places of the highest local maxima, highest first; of a flat run its first. */
function peaksOf(values: Float64Array, most: number): number[] {
  const peaks: number[] = [];
  for (let i = 0; i < values.length; i++) {
    const y = values[i] as number;
    if (y > 0 && y > (values[i - 1] ?? Number.NEGATIVE_INFINITY) && y >= (values[i + 1] ?? Number.NEGATIVE_INFINITY))
      peaks.push(i);
  }
  return peaks.sort((a, b) => (values[b] as number) - (values[a] as number)).slice(0, most);
}

/** Normalised correlation of the stretches around two places, all channels together. */
export function alikeAt(channels: readonly Float32Array[], a: number, b: number, reach: number): number {
  let ab = 0;
  let aa = 0;
  let bb = 0;
  for (const x of channels)
    for (let i = -reach; i < reach; i++) {
      const p = x[a + i] ?? 0;
      const q = x[b + i] ?? 0;
      ab += p * q;
      aa += p * p;
      bb += q * q;
    }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

/** Moves a joint's start to where the stretches are most alike, to the frame; it stays within `[low, high]`. */
export function refineJoint(
  channels: readonly Float32Array[],
  joint: Joint,
  by: number,
  reach: number,
  low: number,
  high: number,
): Joint {
  let best = { ...joint, alike: Number.NEGATIVE_INFINITY };
  for (let start = Math.max(low, joint.start - by); start <= Math.min(high, joint.start + by); start++) {
    const alike = alikeAt(channels, start, joint.end, reach);
    if (alike > best.alike) best = { start, end: joint.end, alike };
  }
  return best.alike === Number.NEGATIVE_INFINITY ? joint : best;
}
