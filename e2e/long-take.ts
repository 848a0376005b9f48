import { writeFileSync } from "node:fs";
import { seededRandom } from "../core/audio";
import { writeWav } from "../core/formats";

const RATE = 44100;

/** A struck thing: a decaying tone of three partials, made by turning vectors so that a long take is made in a moment. */
function hit(hertz: number, level: number, seconds: number): Float32Array {
  const out = new Float32Array(Math.round(seconds * RATE));
  for (const k of [1, 2, 3]) {
    const step = (2 * Math.PI * hertz * k) / RATE;
    const loss = Math.exp(-(5 + 2 * k) / RATE);
    const [c, s] = [loss * Math.cos(step), loss * Math.sin(step)];
    let [re, im] = [0, level / k / 2];
    for (let i = 0; i < out.length; i++) {
      out[i] = (out[i] as number) + re;
      [re, im] = [re * c + im * s, im * c - re * s];
    }
  }
  for (let i = 0; i < 2000; i++) out[out.length - 1 - i] = ((out[out.length - 1 - i] as number) * i) / 2000;
  return out;
}

/** A take of hits, so many seconds apart, over a little noise; all in 16 bits. */
export function writeTake(path: string, count: number, apart: number): void {
  const random = seededRandom(count);
  const frames = Math.round((1 + count * apart) * RATE);
  const x = new Float32Array(frames);
  for (let i = 0; i < frames; i++) x[i] = (random() - 0.5) * 0.0008;
  const sounds = Array.from({ length: 8 }, (_, i) => hit(150 * 2 ** (i / 6), 0.5, Math.min(0.8, apart * 0.7)));
  for (let n = 0; n < count; n++) {
    const sound = sounds[n % 8] as Float32Array;
    const at = Math.round((0.7 + n * apart) * RATE);
    const gain = n % 2 ? 0.4 : 1;
    for (let i = 0; i < sound.length && at + i < frames; i++)
      x[at + i] = (x[at + i] as number) + gain * (sound[i] as number);
  }
  writeFileSync(path, writeWav({ rate: RATE, channels: [x] }, 16));
}
