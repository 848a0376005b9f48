import { type Decibels, decibelsOf, type Hertz } from "./measures";

/** Uncompressed sound: one Float32Array for each channel, all of one length, full scale ±1. */
export interface Audio {
  readonly rate: Hertz;
  readonly channels: readonly Float32Array[];
}

/** Number of frames, 0 when there is no channel. */
export const framesOf = (audio: Audio): number => audio.channels[0]?.length ?? 0;

/** The frames `[from, to)` as a copy, bounds clipped to what is there. */
export function sliceAudio(audio: Audio, from: number, to: number): Audio {
  return { rate: audio.rate, channels: audio.channels.map((c) => c.slice(Math.max(0, from), Math.max(0, to))) };
}

/** The mean of all channels; the channel itself when there is but one. */
export function monoOf(audio: Audio): Float32Array {
  const [first, ...rest] = audio.channels;
  if (!first) return new Float32Array(0);
  if (rest.length === 0) return first;
  const mono = Float32Array.from(first);
  for (const channel of rest) for (let i = 0; i < mono.length; i++) mono[i] = (mono[i] ?? 0) + (channel[i] ?? 0);
  const scale = 1 / audio.channels.length;
  for (let i = 0; i < mono.length; i++) mono[i] = (mono[i] ?? 0) * scale;
  return mono;
}

/** Largest sample magnitude over all channels within `[from, to)`, as a level; −Infinity for silence. */
export function peakOf(audio: Audio, from = 0, to = framesOf(audio)): Decibels {
  let peak = 0;
  for (const channel of audio.channels) {
    for (let i = from; i < to; i++) {
      const x = Math.abs(channel[i] ?? 0);
      if (x > peak) peak = x;
    }
  }
  return decibelsOf(peak);
}
