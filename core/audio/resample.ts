import { type Audio, framesOf } from "./audio";
import type { Hertz } from "./measures";

const HALF = 24;
const PHASES = 512;

/**
 * A copy at another rate by a windowed sinc of 48 taps (Smith and Gossett, 1984; Blackman–Harris window), its cutoff lowered
 * where the rate falls. Equal rates give the sound itself.
 */
export function resample(audio: Audio, rate: Hertz): Audio {
  if (!(rate >= 1000 && rate <= 768000)) throw new RangeError(`a rate of ${rate} Hz is out of reach (1000 to 768000)`);
  if (rate === audio.rate) return audio;
  const ratio = audio.rate / rate;
  const cutoff = 0.96 * Math.min(1, 1 / ratio);
  const reach = Math.ceil(HALF / Math.min(1, 1 / ratio));
  const table = new Float64Array(reach * PHASES + 2);
  const { PI, sin, cos } = Math;
  for (let i = 0; i < table.length; i++) {
    const x = i / PHASES;
    const w = Math.min(1, x / reach);
    const window = 0.35875 + 0.48829 * cos(PI * w) + 0.14128 * cos(2 * PI * w) + 0.01168 * cos(3 * PI * w);
    table[i] = (x === 0 ? cutoff : sin(PI * cutoff * x) / (PI * x)) * window;
  }
  const frames = Math.max(1, Math.round(framesOf(audio) / ratio));
  return {
    rate,
    channels: audio.channels.map((channel) => {
      const out = new Float32Array(frames);
      for (let i = 0; i < frames; i++) {
        const at = i * ratio;
        const first = Math.max(0, Math.ceil(at - reach));
        const last = Math.min(channel.length - 1, Math.floor(at + reach));
        let sum = 0;
        for (let k = first; k <= last; k++) {
          const place = (k < at ? at - k : k - at) * PHASES;
          const t = place | 0;
          const a = table[t] as number;
          sum += (channel[k] as number) * (a + (place - t) * ((table[t + 1] as number) - a));
        }
        out[i] = sum;
      }
      return out;
    }),
  };
}
