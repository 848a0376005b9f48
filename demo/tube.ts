import { RATE, Room } from "./room";

/** The notes to which the tube was blown up. */
export const TUBE_NOTES = [41, 46, 51, 56, 61, 66] as const;

/** Seconds of each. */
const SECONDS = 4;

/**
 * A rubber tube that is rubbed: it sticks and slips once in each period (a saw whose edge is round), a little earlier or later each time, in a pitch that wanders
 * and sounds through two resonances of the tube, with the hiss of the wet thumb.
 */
export function rubbedTube(frequency: number, seed: number): Float32Array<ArrayBuffer> {
  const room = new Room(SECONDS, seed);
  const out = new Float32Array(Math.round(SECONDS * RATE));
  const resonances = [frequency * 2.9, frequency * 6.3 + 300].map((f) => ({
    g: 2 * Math.sin((Math.PI * Math.min(f, 7000)) / RATE),
    low: 0,
    band: 0,
  }));
  let phase = 0;
  let wander = 0;
  let jitter = 0;
  let round = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    wander += 0.00002 * (room.random() - 0.5) - 0.00001 * wander;
    const vibrato = 0.0015 * Math.sin(2 * Math.PI * 4.6 * t);
    phase += (frequency * (1 + vibrato + wander + jitter)) / RATE;
    if (phase >= 1) {
      phase -= 1;
      jitter = 0.004 * (room.random() - 0.5);
    }
    const saw = 1 - 2 * phase;
    round += 0.35 * (saw - round);
    const hiss = 0.05 * (room.random() * 2 - 1) * (0.3 + 0.7 * phase);
    let sum = 0.45 * round;
    for (const r of resonances) {
      r.low += r.g * r.band;
      r.band += r.g * (round + hiss - r.low - 0.25 * r.band);
      sum += 0.22 * r.band;
    }
    const rise = Math.min(1, t / 0.18) ** 2;
    const fall = Math.min(1, (SECONDS - t) / 0.25);
    out[i] = 0.32 * rise * fall * (1 + 0.05 * Math.sin(2 * Math.PI * 0.9 * t)) * (sum + 0.4 * hiss);
  }
  let most = 0;
  for (const x of out) most = Math.max(most, Math.abs(x));
  // Every one as loud as the others, a little below full level.
  return out.map((x) => (0.7 * x) / most);
}
