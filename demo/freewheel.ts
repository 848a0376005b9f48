import { addPartial } from "./partial";
import { RATE, Room } from "./room";

/** A freewheel spun and let run out: separate clicks first, then pawls that slow down. */
export function recordFreewheel(seed = 74): Float32Array<ArrayBuffer> {
  const room = new Room(30, seed);
  const click = (level: number) => {
    const out = new Float32Array(Math.round(0.09 * RATE));
    const tones = [2350, 3820, 5600, 900].map((f) => f * room.between(0.96, 1.04));
    tones.forEach((f, k) => {
      addPartial(out, { frequency: f, level: level / (1 + k), phase: 0, decay: 70 + 25 * k, rise: 6 });
    });
    room.add(out);
  };
  room.wait(0.6);
  for (let i = 0; i < 10; i++) {
    click(room.between(0.12, 0.4));
    room.wait(room.between(0.4, 0.7));
  }
  for (let gap = 0.03; gap < 0.2; gap *= 1.035) {
    click(0.3);
    room.wait(gap);
  }
  room.wait(0.8);
  return room.finish(-66);
}
