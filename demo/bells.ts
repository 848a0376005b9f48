import { addPartial } from "./partial";
import { RATE, Room } from "./room";

/** Ratios of a small brass dome's modes to its strike note, with their levels and decay rates. */
const MODES = [
  [0.5, 0.25, 1.1],
  [1, 1, 1.5],
  [1.19, 0.4, 2.1],
  [1.5, 0.3, 2.6],
  [2.02, 0.6, 2.4],
  [2.67, 0.35, 4],
  [3.98, 0.25, 6],
  [5.4, 0.15, 9],
] as const;

/** Six bicycle bells, struck twice each. */
export function recordBells(seed = 72): Float32Array<ArrayBuffer> {
  const room = new Room(60, seed);
  room.wait(0.8);
  for (const frequency of [587, 698, 784, 932, 1175, 1397]) {
    for (const level of [0.12, 0.34]) {
      const out = new Float32Array(Math.round(2.4 * RATE));
      const size = frequency * (1 + room.between(-0.012, 0.012));
      for (const [ratio, weight, decay] of MODES) {
        addPartial(out, {
          frequency: size * ratio,
          level: level * 0.5 * weight,
          phase: room.between(0, 6.28),
          decay,
          rise: 20,
        });
      }
      for (let i = 0; i < out.length; i++) out[i] = (out[i] ?? 0) * Math.min(1, (out.length - i) / (0.4 * RATE));
      room.add(out);
      room.wait(2.4 + room.between(0.2, 0.6));
    }
  }
  return room.finish(-68);
}
