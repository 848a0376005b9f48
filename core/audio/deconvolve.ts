import { type Audio, framesOf } from "./audio";
import { Fft } from "./fft";
import type { Hertz, Seconds } from "./measures";
import { seededRandom } from "./random";

/** An exponential sine sweep: its lowest and highest frequency and its length. */
export interface Sweep {
  readonly from: Hertz;
  readonly to: Hertz;
  readonly seconds: Seconds;
}

export const SWEEP: Sweep = { from: 30, to: 19000, seconds: 6 };

/** The sweep as sound, faded at both ends, at half of full scale (A. Farina, "Simultaneous measurement of impulse response and distortion with a swept-sine technique", 2000). */
export function makeSweep({ from, to, seconds }: Sweep, rate: Hertz): Float32Array<ArrayBuffer> {
  if (!(from > 0 && to > from && to < rate / 2))
    throw new RangeError(`a sweep from ${from} to ${to} Hz can't be at ${rate} Hz`);
  const frames = Math.round(seconds * rate);
  const growth = Math.log(to / from);
  const scale = (2 * Math.PI * from * seconds) / growth;
  const ends = [Math.round(rate * 0.03), Math.round(rate * 0.005)] as const;
  return Float32Array.from({ length: frames }, (_, i) => {
    const head = Math.min(1, i / ends[0]);
    const tail = Math.min(1, (frames - 1 - i) / ends[1]);
    return 0.5 * head * tail * Math.sin(scale * (Math.exp((i / frames) * growth) - 1));
  });
}

/** The shortest response that says anything of a room. */
const LEAST: Seconds = 0.05;
/** The longest recording that is taken for a sweep's; its spectrum is held whole. */
const MOST: Seconds = 180;
const secondsText = (frames: number, rate: Hertz): string => `${(frames / rate).toFixed(2)} s`;

function transformed(fft: Fft, samples: ArrayLike<number>): { re: Float64Array; im: Float64Array } {
  const re = new Float64Array(fft.size);
  const im = new Float64Array(fft.size);
  for (let i = 0; i < samples.length; i++) re[i] = samples[i] as number;
  fft.forward(re, im);
  return { re, im };
}

/**
 * The impulse response of a room from what was heard of a known sweep: division of the spectra, bounded where the sweep has no
 * energy (Farina, 2000; O. Kirkeby and P. Nelson, 1999, for the bound). The direct sound lies at `lead` frames; harmonic
 * distortion lies before it and is cut away. `lead` 0 keeps the peak as the first frame. The response ends where the recording
 * no longer holds all of the sweep's frequencies; a `RangeError` says so where that leaves less than 50 ms.
 */
export function deconvolve(recorded: Audio, sweep: Float32Array, lead = 0): Audio {
  const frames = framesOf(recorded);
  if (frames < sweep.length)
    throw new RangeError(
      `the recording lasts ${secondsText(frames, recorded.rate)}, the sweep ${secondsText(sweep.length, recorded.rate)}`,
    );
  if (frames > recorded.rate * MOST)
    throw new RangeError(
      `the recording lasts ${secondsText(frames, recorded.rate)}; a sweep's may last ${MOST} s at the most`,
    );
  const size = 2 ** Math.ceil(Math.log2(frames + sweep.length));
  const fft = new Fft(size);
  const s = transformed(fft, sweep);
  let most = 0;
  for (let k = 0; k < size; k++) most = Math.max(most, (s.re[k] as number) ** 2 + (s.im[k] as number) ** 2);
  const bound = most * 1e-5;
  const responses = recorded.channels.map((channel) => {
    const r = transformed(fft, channel);
    for (let k = 0; k < size; k++) {
      const [a, b] = [r.re[k] as number, r.im[k] as number];
      const [c, d] = [s.re[k] as number, s.im[k] as number];
      const power = c * c + d * d + bound;
      r.re[k] = (a * c + b * d) / power;
      // Conjugated, so that another forward transform is the inverse.
      r.im[k] = -(b * c - a * d) / power;
    }
    fft.forward(r.re, r.im);
    return r.re.map((x) => x / size);
  });
  let peak = 0;
  let at = 0;
  for (const response of responses) {
    for (let i = 0; i < frames; i++) {
      const x = Math.abs(response[i] as number);
      if (x <= peak) continue;
      peak = x;
      at = i;
    }
  }
  // Frames later than that after the direct sound would lack the high frequencies, which the sweep reaches last: what is heard of
  // them there, of the room as of its noise, would be too little.
  const length = frames - sweep.length - at;
  if (length < recorded.rate * LEAST)
    throw new RangeError(
      `the recording ends ${secondsText(Math.max(0, length), recorded.rate)} after the sweep; let it go on for a few seconds`,
    );
  return {
    rate: recorded.rate,
    channels: responses.map((response) =>
      Float32Array.from({ length: length + lead }, (_, i) => response[(at - lead + i + size) % size] as number),
    ),
  };
}

/** An impulse response cut where it has sunk into its noise or by 70 dB, with a fade, and brought to a peak of −1 dB. */
export function trimResponse(response: Audio): Audio {
  const frames = framesOf(response);
  const step = Math.max(1, Math.round(response.rate * 0.01));
  const powers: number[] = [];
  for (let at = 0; at < frames; at += step) {
    let sum = 0;
    for (const channel of response.channels)
      for (let i = at; i < Math.min(frames, at + step); i++) sum += (channel[i] as number) ** 2;
    powers.push(sum / step);
  }
  const rest = powers.slice(Math.floor(powers.length * 0.8)).sort((a, b) => a - b);
  const noise = rest[Math.floor(rest.length / 2)] ?? 0;
  const limit = Math.max(noise * 2, Math.max(...powers, 0) * 1e-7);
  // Over a tenth of a second, so that neither a spike keeps it nor a gap ends it.
  const around = (p: number) => {
    const near = powers.slice(p, p + 10);
    return near.reduce((sum, x) => sum + x, 0) / Math.max(1, near.length);
  };
  let last = 1;
  while (last < powers.length && around(last) > limit) last++;
  const length = Math.max(Math.min(frames, step * 4), Math.min(frames, (last + 1) * step));
  const tail = Math.min(length, Math.round(response.rate * 0.05));
  let peak = 1e-12;
  for (const channel of response.channels)
    for (let i = 0; i < length; i++) peak = Math.max(peak, Math.abs(channel[i] as number));
  const scale = 0.891 / peak;
  return {
    rate: response.rate,
    channels: response.channels.map((channel) =>
      Float32Array.from({ length }, (_, i) => {
        const left = length - 1 - i;
        const end = left < tail ? 0.5 - 0.5 * Math.cos((Math.PI * left) / tail) : 1;
        return (channel[i] as number) * scale * end;
      }),
    ),
  };
}

/** A clap or burst as an impulse response: from its attack on. */
export function responseOfClap(recorded: Audio): Audio {
  const frames = framesOf(recorded);
  let peak = 0;
  for (const channel of recorded.channels) for (const x of channel) peak = Math.max(peak, Math.abs(x));
  let from = 0;
  while (from < frames && recorded.channels.every((c) => Math.abs(c[from] as number) < peak * 0.1)) from++;
  from = Math.max(0, from - Math.round(recorded.rate * 0.001));
  return { rate: recorded.rate, channels: recorded.channels.map((c) => c.slice(from)) };
}

/** A made-up room's response: noise that dies away by 60 dB in `decay` seconds after the direct sound; for stand-ins and tests. */
export function makeRoom(rate: Hertz, decay: Seconds, seed: number): Float32Array<ArrayBuffer> {
  const random = seededRandom(seed);
  const fall = Math.log(1000) / (decay * rate);
  return Float32Array.from({ length: Math.round(decay * 1.2 * rate) }, (_, i) => {
    if (i === 0) return 1;
    return i < rate * 0.004 ? 0 : (random() * 2 - 1) * 0.12 * Math.exp(-fall * i);
  });
}
