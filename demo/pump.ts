import { RATE, Room } from "./room";

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
