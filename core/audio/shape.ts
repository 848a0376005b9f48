import { type Audio, framesOf } from "./audio";
import { gainOf } from "./measures";

/** How a fade goes from silence (0) to full level (1). */
export type FadeShape = "smooth" | "straight" | "power" | "slow";

/** The level of a fade at a place, 0 to 1. */
export function fadeAt(shape: FadeShape, x: number): number {
  switch (shape) {
    case "smooth":
      return 0.5 - 0.5 * Math.cos(Math.PI * x);
    case "straight":
      return x;
    case "power":
      return Math.sin((Math.PI / 2) * x);
    case "slow":
      return x * x * x;
  }
}

const mapChannels = (audio: Audio, change: (channel: Float32Array) => Float32Array): Audio => ({
  rate: audio.rate,
  channels: audio.channels.map(change),
});

/** A copy with a fade over so many frames at its beginning or end. */
export function fade(audio: Audio, side: "in" | "out", frames: number, shape: FadeShape): Audio {
  const all = framesOf(audio);
  const count = Math.min(Math.round(frames), all);
  const table = Float32Array.from({ length: count }, (_, i) => fadeAt(shape, i / count));
  return mapChannels(audio, (channel) => {
    const out = Float32Array.from(channel);
    for (let i = 0; i < count; i++) {
      const at = side === "in" ? i : all - 1 - i;
      out[at] = (out[at] as number) * (table[i] as number);
    }
    return out;
  });
}

/** A copy louder by so many decibels. */
export function amplify(audio: Audio, level: number): Audio {
  const gain = gainOf(level);
  return mapChannels(audio, (channel) => channel.map((x) => x * gain));
}

/** A copy without its mean. */
export const removeOffset = (audio: Audio): Audio =>
  mapChannels(audio, (channel) => {
    let sum = 0;
    for (const x of channel) sum += x;
    const mean = channel.length > 0 ? sum / channel.length : 0;
    return channel.map((x) => x - mean);
  });

/** A copy from its end to its beginning. */
export const reversed = (audio: Audio): Audio => mapChannels(audio, (channel) => channel.slice().reverse());

/** The frame nearest to `at` (at most `reach` away) where the sound goes through zero; `at` itself where it doesn't. */
export function zeroCrossing(samples: Float32Array, at: number, reach: number): number {
  for (let by = 0; by <= reach; by++) {
    for (const i of by === 0 ? [at] : [at - by, at + by]) {
      if (i < 1 || i >= samples.length) continue;
      const [a, b] = [samples[i - 1] as number, samples[i] as number];
      if (b === 0 || a < 0 !== b < 0) return Math.abs(a) < Math.abs(b) ? i - 1 : i;
    }
  }
  return at;
}
