import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { bent, lineAt } from "./bend";
import { EnvelopeBank, SEGMENT, type Segments } from "./envelope";
import { lfoAt } from "./lfo";
import { PathBank } from "./path-envelope";

const times: Segments = {
  delay: 0.1,
  attack: 0.2,
  attackBend: 0,
  hold: 0.05,
  decay: 0.4,
  decayBend: 1,
  sustain: 0.25,
  release: 0.5,
  releaseBend: 1,
};
const level = (at: number, t = times): number => {
  const bank = new EnvelopeBank(1);
  bank.start(0);
  return bank.advance(0, at, t);
};

describe("bent lines", () => {
  test("straight, falling by 60 dB, and mirrored", () => {
    expect(bent(0.3, 0)).toBe(0.3);
    // Half-way, what falls by 60 dB has 1/√1000 left, but for the thousandth at which it ends.
    expect(1 - bent(0.5, 1)).toBeCloseTo((Math.sqrt(0.001) - 0.001) / 0.999, 9);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        (x, bend) => {
          expect(bent(x, bend)).toBeCloseTo(1 - bent(1 - x, -bend), 9);
          expect(bent(x, bend)).toBeGreaterThanOrEqual(0);
          expect(bent(x, bend)).toBeLessThanOrEqual(1);
        },
      ),
    );
  });

  test("a line passes through its points and stays level outside", () => {
    const line = { x: [0, 1, 3], y: [0, 1, -0.5], bend: [0, 0, 0] };
    expect([-1, 0, 0.5, 1, 2, 3, 9].map((x) => lineAt(line, x))).toEqual([0, 0, 0.5, 1, 0.25, -0.5, -0.5]);
  });
});

describe("envelope", () => {
  test.each([
    [0.05, 0],
    [0.1, 0],
    [0.2, 0.5],
    [0.3, 1],
    [0.34, 1],
    [0.35 + 0.4, 0.25],
    [5, 0.25],
  ])("after %f s it stands at %f", (at, expected) => {
    expect(level(at)).toBeCloseTo(expected, 9);
  });

  test("release takes its time from wherever it begins, and ends at nothing", () => {
    const bank = new EnvelopeBank(1);
    bank.start(0);
    expect(bank.advance(0, 0.2, times)).toBeCloseTo(0.5, 9);
    bank.release(0, 0, times);
    expect(bank.advance(0, 0.25, times)).toBeCloseTo(0.5 * (1 - bent(0.5, 1)), 9);
    bank.advance(0, 0.25, times);
    expect(bank.stage[0]).toBe(SEGMENT.done);
    expect(bank.level[0]).toBe(0);
  });

  test("letting go a little before the time it was advanced to is as letting go then", () => {
    const early = new EnvelopeBank(2);
    early.start(0);
    early.start(1);
    early.advance(0, 0.15, times);
    early.release(0, 0, times);
    early.advance(0, 0.1, times);
    early.advance(1, 0.2, times);
    early.release(1, 0.05, times);
    expect(early.advance(1, 0.1, times)).toBeCloseTo(early.level[0] as number, 9);
  });

  test("the corner at the attack's end is told with its time and level", () => {
    const bank = new EnvelopeBank(1);
    bank.start(0);
    bank.advance(0, 0.25, times);
    bank.advance(0, 0.2, times);
    expect(bank.cornerAt[0]).toBeCloseTo(0.05, 9);
    expect(bank.cornerLevel[0]).toBe(1);
  });

  test("how the time is divided changes nothing, with any bends", () => {
    const step = fc.double({ min: 0.0001, max: 0.3, noNaN: true });
    const bend = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 20 }), bend, bend, (steps, attackBend, decayBend) => {
        const t = { ...times, attackBend, decayBend };
        const bank = new EnvelopeBank(1);
        bank.start(0);
        for (const s of steps) bank.advance(0, s, t);
        expect(bank.level[0]).toBeCloseTo(
          level(
            steps.reduce((a, b) => a + b, 0),
            t,
          ),
          6,
        );
      }),
    );
  });
});

describe("point envelope", () => {
  const line = { x: [0, 1, 2, 3], y: [0, 1, 0.5, 0], bend: [0, 0, 0, 0] };
  test("it runs through its points, faster with speed", () => {
    const bank = new PathBank(1);
    bank.start(0);
    expect(bank.advance(0, 0.5, line, 1, 0, 0)).toBeCloseTo(0.5, 9);
    expect(bank.advance(0, 0.5, line, 2, 0, 0)).toBeCloseTo(0.75, 9);
    expect(bank.advance(0, 9, line, 1, 0, 0)).toBe(0);
  });

  test("held, it goes round or stays; let go, it runs on", () => {
    const bank = new PathBank(1);
    bank.start(0);
    // Between the second and the third point, one second long: 1.25, then 2.25 → 1.25.
    bank.advance(0, 1.25, line, 1, 2, 3);
    expect(bank.advance(0, 1, line, 1, 2, 3)).toBeCloseTo(0.875, 9);
    expect(bank.advance(0, 7, line, 1, 2, 3)).toBeCloseTo(0.875, 9);
    bank.release(0);
    expect(bank.advance(0, 1, line, 1, 2, 3)).toBeCloseTo(0.375, 9);
    bank.start(0);
    expect(bank.advance(0, 99, line, 1, 0, 2)).toBe(1);
  });
});

describe("LFO", () => {
  test("at 180° the halves are swapped", () => {
    for (const shape of ["sine", "triangle", "square"] as const) {
      for (let t = 0.01; t < 1; t += 0.07) expect(lfoAt(shape, t + 0.5)).toBeCloseTo(-lfoAt(shape, t), 9);
    }
  });

  test("random shapes hold or join the same values, differ by seed, and have no offset to speak of", () => {
    let sum = 0;
    for (let n = 0; n < 2000; n++) {
      const value = lfoAt("sampleAndHold", n + 0.3, 7);
      expect(lfoAt("sampleAndHold", n + 0.9, 7)).toBe(value);
      expect(lfoAt("smooth", n, 7)).toBe(value);
      sum += value;
    }
    expect(Math.abs(sum / 2000)).toBeLessThan(0.05);
    expect(lfoAt("sampleAndHold", 3, 8)).not.toBe(lfoAt("sampleAndHold", 3, 7));
  });

  test("the drawn one follows its line", () => {
    const line = { x: [0, 0.5, 1], y: [-1, 1, -1], bend: [0, 0, 0] };
    expect([0, 0.25, 0.5, 1.75].map((t) => lfoAt("drawn", t, 0, line))).toEqual([-1, 0, 1, 0]);
  });
});
