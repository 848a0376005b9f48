import { describe, expect, test } from "@jest/globals";
import { newLoop } from "../instrument";
import { findLoops } from "./find-loops";
import { measureSeam } from "./seam";
import { made, RATE } from "./test-sounds";

const sound = (...channels: Float32Array[]) => ({ rate: RATE, channels });
const turn = (hertz: number, t: number) => Math.sin(2 * Math.PI * hertz * t);

describe("seams that are weak, and seams that swing", () => {
  const noisy = (seed: number, level: number) => {
    let state = seed;
    return () => {
      state = (state * 16807) % 2147483647;
      return (level * 2 * state) / 2147483647 - level;
    };
  };

  test("a step far below the tone and above its room's noise is told, and 4 ms of crossfade mend it", () => {
    const noise = noisy(7, 1e-4);
    const tone = made(3, (t) => 0.3 * turn(180, t) + noise());
    // Whole periods but a tenth of a frame: a step of the slope, 70 dB below the tone.
    const [start, end] = [RATE, RATE + Math.round((180 * RATE) / 180) + 1];
    const hard = measureSeam([tone], newLoop({ start, end, fade: 0 }));
    const soft = measureSeam([tone], newLoop({ start, end, fade: Math.round(0.004 * RATE) }));
    expect(hard.click).toBeGreaterThan(6);
    expect(soft.click).toBeLessThan(1);
  });

  test("what is proposed first has no step above the noise, for a tone with vibrato", () => {
    for (const seed of [1, 2, 3]) {
      const noise = noisy(seed, 1e-4);
      const f = 200 + 37 * seed;
      const voice = made(4, (t) => 0.2 * Math.sin(2 * Math.PI * f * t + 4 * turn(5.3, t)) + noise());
      const [first] = findLoops(sound(voice)).candidates;
      expect(first?.parts.click).toBeLessThanOrEqual(1);
    }
  });

  test("a turn whose crossfade cancels the tone swings, one without doesn't", () => {
    const tone = made(3, (t) => 0.3 * Math.cos(2 * Math.PI * 200 * t));
    // It turns where the tone goes through zero: forward and backward are each other's opposite.
    const end = RATE + Math.round((100.25 * RATE) / 200);
    const loop = newLoop({ start: RATE / 2, end, mode: "alternating", law: "gain" });
    expect(measureSeam([tone], { ...loop, fade: RATE / 10 }).swing).toBeGreaterThan(6);
    expect(measureSeam([tone], { ...loop, fade: 0 }).swing).toBeLessThan(1);
  });
});
