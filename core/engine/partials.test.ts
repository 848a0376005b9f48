import { describe, expect, test } from "@jest/globals";
import { hertzOf } from "../audio";
import type { TableRow } from "../units";
import { amplitude, begun, computed, decibels, FACTOR } from "./computed-bench";
import { benchOf, peak, RATE, rms } from "./test-bench";

describe("partials", () => {
  const rows = [
    { ratio: 1, level: 0 },
    { ratio: 2.5, level: -6 },
    { ratio: 7.1, level: -20 },
  ];
  test("stand at their ratios with their levels", () => {
    const b = begun(computed("partials", {}, rows), 57);
    b.play(4800);
    const { left } = b.play(RATE);
    const first = amplitude(left, 220);
    expect(decibels(first / FACTOR / 0.25)).toBeCloseTo(0, 1);
    for (const { ratio, level } of rows) expect(decibels(amplitude(left, 220 * ratio) / first)).toBeCloseTo(level, 1);
  });

  test("tilt takes off so much with each octave; stretch moves them apart", () => {
    const b = begun(
      computed("partials", { tilt: -6, stretch: 0.1 }, [rows[0] as TableRow, { ratio: 4, level: 0 }]),
      57,
    );
    b.play(4800);
    const { left } = b.play(RATE);
    expect(decibels(amplitude(left, 220 * 4 ** 1.1) / amplitude(left, 220))).toBeCloseTo(-12, 1);
  });

  test("those above half the rate are left out, and their number may be odd or none", () => {
    const many = Array.from({ length: 63 }, (_, i) => ({ ratio: i + 1, level: 0 }));
    const b = begun(computed("partials", {}, many), 100);
    b.play(4800);
    const { left } = b.play(9600);
    expect(peak(left)).toBeLessThan(64 * 0.25 * FACTOR);
    expect(decibels(amplitude(left, 48000 - 12 * hertzOf(100)) / amplitude(left, hertzOf(100)))).toBeLessThan(-80);
    expect(peak(begun(computed("partials", {}, []), 60).play(4800).left)).toBe(0);
  });

  test("a level that is changed under a held note moves without a step", () => {
    const b = begun(computed("partials", {}, rows), 57);
    b.play(4855);
    const before = b.play(2400).left;
    const louder = rows.map((r) => ({ ...r, level: r.level - 12 }));
    b.change(computed("partials", {}, louder));
    const after = b.play(2400).left;
    const steep = (x: Float32Array) => {
      let most = 0;
      for (let i = 1; i < x.length; i++) most = Math.max(most, Math.abs((x[i] as number) - (x[i - 1] as number)));
      return most;
    };
    expect(Math.abs((after[0] as number) - (before[2399] as number))).toBeLessThan(1.1 * steep(before));
    expect(steep(after)).toBeLessThan(1.1 * steep(before));
    expect(decibels(rms(b.play(2400).left) / rms(before))).toBeCloseTo(-12, 0);
  });

  /** Amplitude and phase (in turns, at its beginning) of the sine of a frequency that is nearest to a sound, and the peak of what it leaves. */
  function fitted(x: Float32Array, hertz: number): { level: number; phase: number; rest: number } {
    const turn = (i: number) => 2 * Math.PI * ((hertz / RATE) * i);
    let [ss, sc, cc, xs, xc] = [0, 0, 0, 0, 0];
    x.forEach((value, i) => {
      const [s, c] = [Math.sin(turn(i)), Math.cos(turn(i))];
      ss += s * s;
      sc += s * c;
      cc += c * c;
      xs += value * s;
      xc += value * c;
    });
    const det = ss * cc - sc * sc;
    const [a, b] = [(xs * cc - xc * sc) / det, (xc * ss - xs * sc) / det];
    let rest = 0;
    x.forEach((value, i) => {
      rest = Math.max(rest, Math.abs(value - a * Math.sin(turn(i)) - b * Math.cos(turn(i))));
    });
    return { level: Math.hypot(a, b), phase: Math.atan2(b, a) / (2 * Math.PI), rest };
  }

  test.each([
    [21, 1],
    [57, 1],
    [57, 45],
    [57, 90],
  ])("key %d, ratio %d: after 20 s a sine as ever, in its phase as far as its frequency is exact", (key, ratio) => {
    const b = begun(computed("partials", {}, [{ ratio, level: 0 }]), key);
    const hertz = hertzOf(key) * ratio;
    const from = RATE * 20 + 13;
    b.play(from);
    const { level, phase, rest } = fitted(b.play(600).left, hertz);
    expect(decibels(level / FACTOR / 0.25)).toBeCloseTo(0, 2);
    // Where it begins anew from its phase nothing jumps.
    expect(decibels(rest / level)).toBeLessThan(-95);
    const turns = (hertz / RATE) * from;
    const off = phase - (turns - Math.floor(turns));
    expect(Math.abs(off - Math.round(off))).toBeLessThan(20 * hertz * 4e-7 + 1e-5);
  });

  test("falling and rising together follow their curves to the end, wherever they stand", () => {
    const falls: TableRow[] = [
      { ratio: 1, level: 0, decay: 2, pan: -0.5 },
      { ratio: 3.3, level: -3, decay: 0.5, attack: 0.2, pan: 0.25 },
    ];
    const b = begun(computed("partials", {}, falls), 57);
    const { left, right } = b.play(RATE * 2);
    const span = 2400;
    for (const { ratio = 1, level = 0, decay = 1, attack: rise = 0, pan: place = 0 } of falls)
      for (const at of [0.1, 0.3, 0.6]) {
        const from = Math.round(at * RATE);
        const t = at + span / 2 / RATE;
        const wanted = level - (60 * t) / decay + 20 * Math.log10(rise > 0 ? Math.min(1, t / rise) : 1);
        const angle = ((place + 1) * Math.PI) / 4;
        for (const [channel, side] of [
          [left, Math.SQRT2 * Math.cos(angle)],
          [right, Math.SQRT2 * Math.sin(angle)],
        ] as const) {
          const heard = decibels(amplitude(channel.subarray(from, from + span), 220 * ratio) / FACTOR / 0.25 / side);
          expect(Math.abs(heard - wanted)).toBeLessThan(0.35);
        }
      }
    b.play(RATE * 2);
    expect(b.engine.status().voices).toBe(0);
  });

  test("whatever is moved, bent or struck again, any split of blocks gives the same bits", () => {
    const many = Array.from({ length: 37 }, (_, i) => ({
      ratio: 1 + 0.7 * i,
      level: -i / 2,
      decay: i % 3 === 0 ? 0 : 1 + i / 9,
      attack: i % 4 === 0 ? 0.05 : 0,
      pan: i % 5 === 0 ? 0.3 : 0,
    }));
    const heard = [128, 61, 7].map((block) => {
      const b = benchOf(computed("partials", { phases: 1 }, many));
      for (const [n, frame] of [0, 333, 1000, 2717].entries()) b.engine.midi(0x90, 40 + 7 * n, 90, frame);
      b.engine.midi(0xe0, 0, 90, 2000);
      b.engine.midi(0xe0, 0, 64, 4111);
      b.engine.midi(0x80, 40, 0, 5001);
      b.engine.midi(0x90, 40, 100, 5600);
      return b.play(9000, block);
    });
    expect(heard[1]).toEqual(heard[0]);
    expect(heard[2]).toEqual(heard[0]);
  });
});
