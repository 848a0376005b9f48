import { hertzOf, type Note } from "../core/audio";
import { addPartial } from "./partial";
import { RATE, Room } from "./room";

/** The note of the frame's lowest mode: D3. */
export const TAP_NOTE: Note = 50;

/**
 * Modes of a bicycle's frame tube, tapped with a wooden spoon: those of a steel tube that is free at both ends (Euler and Bernoulli's beam), each with a neighbour a
 * little beside it, for no tube is quite round; the seat lug's two rattle above them. Ratio, level in decibels, decay in seconds.
 */
export const TAP_MODES = [
  [1, 0, 2.6],
  [1.0035, -5, 2.2],
  [2.757, -3, 1.9],
  [2.771, -9, 1.6],
  [5.404, -7, 1.2],
  [5.43, -12, 1],
  [7.12, -19, 0.35],
  [8.933, -12, 0.8],
  [10.6, -24, 0.22],
  [13.344, -18, 0.5],
  [18.638, -24, 0.3],
] as const;

/** One tap of the frame in the repair stand, recorded in the workshop: three seconds at 44.1 kHz. */
export function recordTap(): Float32Array<ArrayBuffer> {
  const room = new Room(3, 23);
  room.wait(0.08);
  const sound = new Float32Array(RATE * 2.9);
  const first = hertzOf(TAP_NOTE);
  TAP_MODES.forEach(([ratio, level, decay], i) => {
    addPartial(sound, {
      frequency: first * ratio,
      level: 0.22 * 10 ** (level / 20),
      phase: i * 2.4,
      decay: (3 * Math.LN10) / decay,
      rise: 0,
    });
  });
  // The spoon itself: two milliseconds of knock.
  for (let i = 0; i < RATE * 0.006; i++)
    sound[i] = (sound[i] ?? 0) + room.between(-0.25, 0.25) * Math.exp(-i / (RATE * 0.0007));
  room.add(sound);
  for (let i = 0; i < room.samples.length; i++) room.samples[i] = (room.samples[i] ?? 0) + room.between(-1, 1) * 1e-4;
  return room.samples;
}
