import { type Random, seededRandom } from "../core/audio";

export const RATE = 44100;

/** A take under construction: sounds are added where they fall; the room is there all the time. */
export class Room {
  readonly samples: Float32Array<ArrayBuffer>;
  readonly random: Random;
  at = 0;

  constructor(seconds: number, seed: number) {
    this.samples = new Float32Array(Math.round(seconds * RATE));
    this.random = seededRandom(seed);
  }

  /** A number between two bounds. */
  between(low: number, high: number): number {
    return low + (high - low) * this.random();
  }

  wait(seconds: number): void {
    this.at += Math.round(seconds * RATE);
  }

  /** Adds a sound at the present place, without moving on. */
  add(sound: Float32Array, gain = 1): void {
    for (let i = 0; i < sound.length && this.at + i < this.samples.length; i++) {
      this.samples[this.at + i] = (this.samples[this.at + i] ?? 0) + (sound[i] ?? 0) * gain;
    }
  }

  /** A handling bump: a dull knock through the stand. */
  bump(): void {
    const f = this.between(55, 90);
    const out = new Float32Array(Math.round(0.12 * RATE));
    for (let i = 0; i < out.length; i++) {
      const t = i / RATE;
      out[i] = 0.05 * Math.sin(2 * Math.PI * f * t * (1 - t)) * Math.exp(-t * 45) * Math.min(1, t * 400);
    }
    this.add(out);
  }

  /** What was recorded: the sounds up to the present place over room noise of a level in dBFS. */
  finish(noise = -66): Float32Array<ArrayBuffer> {
    const out = this.samples.slice(0, Math.min(this.samples.length, this.at));
    const gain = 10 ** (noise / 20) * 1.9;
    let low = 0;
    for (let i = 0; i < out.length; i++) {
      const white = this.random() * 2 - 1;
      low += 0.04 * (white - low);
      out[i] = (out[i] ?? 0) + gain * (0.55 * white + 2.2 * low);
    }
    return out;
  }
}
