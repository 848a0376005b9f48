import { RATE, Room } from "./room";

/** Breath through the pump's hose for so many seconds, without a beginning: noise through two resonances that wander a little. */
export function breath(seconds: number, frequency: number, seed: number): Float32Array<ArrayBuffer> {
  const room = new Room(seconds, seed);
  const out = new Float32Array(Math.round(seconds * RATE));
  const pipes = [frequency * 2, frequency * 5.03].map((f) => ({ f, low: 0, band: 0, drift: 0 }));
  for (let i = 0; i < out.length; i++) {
    const noise = room.random() * 2 - 1;
    let sum = 0.06 * noise;
    for (const pipe of pipes) {
      pipe.drift += 0.00003 * (room.random() - 0.5) - 0.00002 * pipe.drift;
      const g = 2 * Math.sin((Math.PI * pipe.f * (1 + pipe.drift)) / RATE);
      pipe.low += g * pipe.band;
      pipe.band += g * (noise - pipe.low - 0.035 * pipe.band);
      sum += 0.18 * pipe.band;
    }
    out[i] = 0.2 * sum * Math.min(1, i / (0.3 * RATE));
  }
  let most = 0;
  for (const x of out) most = Math.max(most, Math.abs(x));
  return out.map((x) => (0.6 * x) / most);
}

/** A floor pump: six strokes of breath through a narrow hose, with the knock at the end of each. */
export function recordPump(seed = 73): Float32Array<ArrayBuffer> {
  const room = new Room(30, seed);
  room.wait(0.7);
  for (let stroke = 0; stroke < 6; stroke++) {
    const seconds = room.between(0.9, 1.4);
    const out = new Float32Array(Math.round(seconds * RATE));
    let low = 0;
    let band = 0;
    for (let i = 0; i < out.length; i++) {
      const t = i / out.length;
      const g = 2 * Math.sin((Math.PI * (500 + 1900 * t)) / RATE);
      const shape = Math.sin(Math.PI * Math.min(1, t * 1.15)) ** 0.8;
      low += g * band;
      band += g * ((room.random() * 2 - 1) * 0.5 - low - 0.35 * band);
      out[i] = 0.22 * band * (t < 0.87 ? shape : 0);
    }
    room.add(out);
    room.wait(seconds);
    room.bump();
    room.wait(room.between(0.5, 0.9));
  }
  return room.finish(-64);
}
