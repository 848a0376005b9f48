import { describe, expect, test } from "@jest/globals";
import { peakOf, RATE, through, toneOf } from "./effect-bench";
import { Rotary } from "./rotary";

describe("rotary", () => {
  /** Cycles of a tone in each 10 ms, from where it goes up through nothing; hertz. */
  function frequencies(x: Float32Array): number[] {
    const ups: number[] = [];
    for (let i = 1; i < x.length; i++) {
      const [a, b] = [x[i - 1] as number, x[i] as number];
      if (a < 0 && b >= 0) ups.push(i - b / (b - a));
    }
    return ups.slice(8).map((up, n) => (8 * RATE) / (up - (ups[n] as number)));
  }
  const cabinet = (speed: number, spread = 0, mix = 1) => {
    const made = new Rotary(RATE);
    // All of it goes into the horn.
    made.tune(mix, speed, 0, 10, 0.8, spread);
    return made;
  };

  test("a tone rises and falls with the mouth's speed along the way, as Doppler says", () => {
    const [left] = through(cabinet(5), toneOf(3, 4000));
    const heard = frequencies(left.subarray(RATE));
    // How fast the way to the microphone changes at the most: found step by step, not by what the unit computes with.
    const way = (t: number) => Math.hypot(0.8 - 0.19 * Math.cos(10 * Math.PI * t), 0.19 * Math.sin(10 * Math.PI * t));
    let fastest = 0;
    for (let t = 0; t < 0.2; t += 1e-4) fastest = Math.max(fastest, (way(t + 1e-5) - way(t)) / 1e-5);
    const wanted = (4000 * fastest) / 343;
    expect(Math.max(...heard) - 4000).toBeGreaterThan(wanted * 0.93);
    expect(Math.max(...heard) - 4000).toBeLessThan(wanted * 1.07);
    expect(4000 - Math.min(...heard)).toBeGreaterThan(wanted * 0.93);
  });

  test("its level comes and goes once a turn; turned apart by half a turn the sides take turns", () => {
    const [left, right] = through(cabinet(5, 0.5), toneOf(3, 4000));
    const levels = (x: Float32Array) =>
      Array.from({ length: 100 }, (_, n) => peakOf(x.subarray(RATE + n * 960, RATE + n * 960 + 960), 0, 1));
    const [a, b] = [levels(left), levels(right)];
    const turns = a.filter((v, n) => n > 0 && n < 99 && v > (a[n - 1] as number) && v >= (a[n + 1] as number)).length;
    expect(turns).toBeGreaterThanOrEqual(9);
    expect(turns).toBeLessThanOrEqual(11);
    expect(Math.max(...a) / Math.min(...a)).toBeGreaterThan(3);
    for (let n = 0; n < 100; n++) if ((a[n] as number) > 0.45) expect(b[n]).toBeLessThan(0.32);
  });

  test("still it only divides the sound and brings it together again; runs up by and by; without amount nothing happens", () => {
    const [still] = through(cabinet(0), toneOf(2, 1000));
    const heard = frequencies(still.subarray(RATE));
    expect(Math.max(...heard) - Math.min(...heard)).toBeLessThan(0.05);
    const slow = cabinet(0);
    slow.tune(1, 6, 1, 300, 0.8, 0);
    const [rising] = through(slow, toneOf(4, 4000));
    const swing = (from: number) => {
      const f = frequencies(rising.subarray(from * RATE, (from + 1) * RATE));
      return Math.max(...f) - Math.min(...f);
    };
    expect(swing(0)).toBeLessThan(swing(3) * 0.75);
    const sound = toneOf(1, 300);
    expect(through(cabinet(6, 0.3, 0), sound.slice())[0]).toEqual(sound);
  });
});
