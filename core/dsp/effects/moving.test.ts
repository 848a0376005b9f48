import { describe, expect, test } from "@jest/globals";
import { CONTROL } from "../kernels/layout";
import { Delay } from "./delay";
import { RATE, through } from "./effect-bench";
import { Gate } from "./gate";
import { Rotary } from "./rotary";

/** A sine whose level is given for each of its seconds' tenths. */
const steps = (levels: readonly number[], hertz = 200): Float32Array =>
  Float32Array.from(
    { length: levels.length * 4800 },
    (_, i) => (levels[Math.floor(i / 4800)] as number) * Math.sin((2 * Math.PI * hertz * i) / RATE),
  );
const sine = (seconds: number, hertz: number): Float32Array => steps(new Array(seconds * 10).fill(0.5), hertz);
const peak = (x: Float32Array, from: number, to: number): number =>
  x.subarray(from * 4800, to * 4800).reduce((most, v) => Math.max(most, Math.abs(v)), 0);
const decibels = (x: number): number => 20 * Math.log10(x);

describe("gate", () => {
  const gate = (range = -40, hold = 0.05) => {
    const made = new Gate(RATE);
    made.tune(-30, 10, range, 0.001, hold, 0.01, range <= -80);
    return made;
  };

  test("what is above the threshold passes untouched, what is below is taken down by what it says", () => {
    const [left] = through(gate(), steps([0.01, 0.01, 0.5, 0.5, 0.5, 0.01, 0.01, 0.01]));
    expect(decibels(peak(left, 1, 2) / 0.01)).toBeCloseTo(-40, 1);
    expect(peak(left, 3, 5)).toBeCloseTo(0.5, 4);
    expect(decibels(peak(left, 7, 8) / 0.01)).toBeCloseTo(-40, 1);
    const [silent] = through(gate(-80), steps([0.5, 0.01, 0.01, 0.01]));
    expect(peak(silent, 3, 4)).toBe(0);
  });

  test("between the level at which it closes and that at which it opens it stays as it is, and a low tone doesn't let it flutter", () => {
    // −36 dB: above where it closes, below where it opens.
    const [left] = through(gate(), steps([0.0158, 0.0158, 0.5, 0.0158, 0.0158], 40));
    expect(decibels(peak(left, 1, 2) / 0.0158)).toBeCloseTo(-40, 1);
    expect(peak(left, 4, 5)).toBeCloseTo(0.0158, 5);
  });

  test("it stays open for as long as it says", () => {
    const [left] = through(gate(-40, 0.25), steps([0.5, 0.005, 0.005, 0.005, 0.005, 0.005]));
    expect(peak(left, 2, 3)).toBeCloseTo(0.005, 5);
    expect(decibels(peak(left, 5, 6) / 0.005)).toBeCloseTo(-40, 1);
  });

  test("it goes by another sound where it is given one", () => {
    const made = gate();
    const sound = steps([0.5, 0.5, 0.5, 0.5]);
    const key = steps([0, 0, 0.5, 0.5]);
    for (let at = 0; at < sound.length; at += CONTROL) {
      made.listen(key, key, at);
      made.process(sound, sound.slice(), at, at + CONTROL);
    }
    expect(decibels(peak(sound, 1, 2) / 0.5)).toBeCloseTo(-40, 1);
    expect(peak(sound, 3, 4)).toBeCloseTo(0.5, 4);
  });
});

describe("delay that ducks", () => {
  test("a loud sound takes the echoes down by what it says; afterwards they are back", () => {
    const echoes = (duck: number) => {
      const delay = new Delay(RATE);
      delay.dry = 0;
      delay.tune(1, 0.1, 0.9, 10, 22000, 0, false, duck, 0.1);
      return through(delay, steps([0.5, 0.5, 0.5, 0, 0, 0, 0]))[0];
    };
    const [plain, ducked] = [echoes(0), echoes(18)];
    expect(decibels(peak(ducked, 2, 3) / peak(plain, 2, 3))).toBeCloseTo(-18, 0);
    expect(decibels(peak(ducked, 5, 6) / peak(plain, 5, 6))).toBeCloseTo(0, 1);
    expect(peak(plain, 5, 6)).toBeGreaterThan(0.2);
  });
});

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
    const [left] = through(cabinet(5), sine(3, 4000));
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
    const [left, right] = through(cabinet(5, 0.5), sine(3, 4000));
    const levels = (x: Float32Array) =>
      Array.from({ length: 100 }, (_, n) => peak(x.subarray(RATE + n * 960, RATE + n * 960 + 960), 0, 1));
    const [a, b] = [levels(left), levels(right)];
    const turns = a.filter((v, n) => n > 0 && n < 99 && v > (a[n - 1] as number) && v >= (a[n + 1] as number)).length;
    expect(turns).toBeGreaterThanOrEqual(9);
    expect(turns).toBeLessThanOrEqual(11);
    expect(Math.max(...a) / Math.min(...a)).toBeGreaterThan(3);
    for (let n = 0; n < 100; n++) if ((a[n] as number) > 0.45) expect(b[n]).toBeLessThan(0.32);
  });

  test("still it only divides the sound and brings it together again; runs up by and by; without amount nothing happens", () => {
    const [still] = through(cabinet(0), sine(2, 1000));
    const heard = frequencies(still.subarray(RATE));
    expect(Math.max(...heard) - Math.min(...heard)).toBeLessThan(0.05);
    const slow = cabinet(0);
    slow.tune(1, 6, 1, 300, 0.8, 0);
    const [rising] = through(slow, sine(4, 4000));
    const swing = (from: number) => {
      const f = frequencies(rising.subarray(from * RATE, (from + 1) * RATE));
      return Math.max(...f) - Math.min(...f);
    };
    expect(swing(0)).toBeLessThan(swing(3) * 0.75);
    const sound = sine(1, 300);
    expect(through(cabinet(6, 0.3, 0), sound.slice())[0]).toEqual(sound);
  });
});
