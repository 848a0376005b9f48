import { describe, expect, test } from "@jest/globals";
import { baseValues } from "./compile";
import { amplitude, begun, computed, decibels, FACTOR, type Settings } from "./computed-bench";
import { benchOf, peak, RATE } from "./test-bench";

/** Moments at which something louder than before begins, in frames, at the least `apart` from each other. */
function onsets(x: Float32Array, apart: number, least: number): number[] {
  const found: number[] = [];
  for (let i = 0; i < x.length; i++)
    if (Math.abs(x[i] as number) > least && i - (found.at(-1) ?? -apart) >= apart) found.push(i);
  return found;
}

describe("impulses", () => {
  test.each([-12, -6, 1])("tilted by %d dB an octave, the lowest partial as loud as before", (tilt) => {
    const level = (params: Settings, hertz: number) => {
      const b = begun(computed("impulses", params), 45);
      b.play(9600);
      return decibels(amplitude(b.play(RATE).left, hertz));
    };
    expect(level({ tilt }, 110)).toBeCloseTo(level({}, 110), 1);
    // Poles and zeros at equal distances ripple about the line, the less the more there are.
    for (const octave of [1, 2, 3, 4])
      expect(Math.abs(level({ tilt }, 110 * 2 ** octave) - level({}, 110 * 2 ** octave) - tilt * octave)).toBeLessThan(
        0.65,
      );
  });

  test("jitter: times from one to the next are spread evenly by what is said, their mean is the pitch, the same notes have the same", () => {
    const sound = () => begun(computed("impulses", { jitter: 0.3 }), 33).play(RATE * 5).left;
    const x = sound();
    const times = onsets(x, 400, 0.6 * peak(x));
    const gaps = times.slice(1).map((t, i) => (t - (times[i] as number)) * (55 / RATE));
    const mean = gaps.reduce((s, g) => s + g, 0) / gaps.length;
    expect(gaps.length).toBeGreaterThan(230);
    expect(mean).toBeGreaterThan(0.97);
    expect(mean).toBeLessThan(1.08);
    expect(Math.min(...gaps)).toBeLessThan(0.85);
    expect(Math.max(...gaps)).toBeGreaterThan(1.2);
    expect(sound()).toEqual(x);
    const even = begun(computed("impulses"), 33).play(RATE * 2).left;
    const steady = onsets(even, 400, 0.6 * peak(even));
    expect(Math.abs((steady.at(-1) ?? 0) - (steady[0] ?? 0) - ((steady.length - 1) * RATE) / 55)).toBeLessThan(3);
  });
});

describe("noise in bursts", () => {
  const bursts = { colour: "white", bursts: 1, rate: 8, burstLength: 0.05 };
  test("so many a second, each dying away in its time; by the tempo where it follows it", () => {
    const { left } = begun(computed("noise", bursts), 60).play(RATE * 2);
    const times = onsets(left, 4000, 0.08 * FACTOR);
    expect(times).toHaveLength(16);
    times.forEach((t, i) => {
      expect(Math.abs(t - (i * RATE) / 8)).toBeLessThan(40);
    });
    // 60 dB in 50 ms: silent at the end of each eighth of a second.
    expect(peak(left.subarray(5400, 5990))).toBeLessThan(1e-5);
    const b = benchOf(computed("noise", { ...bursts, sync: "1/8" }));
    b.engine.setTempo(150);
    b.engine.midi(0x90, 60, 100);
    expect(onsets(b.play(RATE * 2).left, 4000, 0.08 * FACTOR)).toHaveLength(10);
    // Under the held note the tempo changes: twice as many from there on.
    b.engine.setTempo(300);
    b.play(RATE / 2);
    const faster = onsets(b.play(RATE * 2).left, 3000, 0.08 * FACTOR).length;
    expect(Math.abs(faster - 20)).toBeLessThanOrEqual(1);
  });

  test("by chance some stay away, and some are softer; the first is always there", () => {
    const { left } = begun(computed("noise", { ...bursts, probability: 0.4, rate: 16, burstLength: 0.03 }), 60).play(
      RATE * 10,
    );
    const times = onsets(left, 2000, 0.05 * FACTOR);
    expect(times[0]).toBeLessThan(40);
    expect(times.length).toBeGreaterThan(45);
    expect(times.length).toBeLessThan(85);
    const uneven = begun(computed("noise", { ...bursts, levelJitter: 1 }), 60).play(RATE * 10).left;
    const levels = Array.from({ length: 80 }, (_, i) => peak(uneven.subarray((i * RATE) / 8, (i * RATE) / 8 + 600)));
    expect(Math.min(...levels)).toBeLessThan(0.3 * Math.max(...levels));
  });

  test("turned to none under a held note it is steady again", () => {
    const b = begun(computed("noise", bursts), 60);
    b.play(RATE);
    b.engine.setBase(baseValues(computed("noise", { ...bursts, bursts: 0 })));
    b.play(4800);
    const { left } = b.play(RATE);
    for (let at = 0; at < RATE; at += 4800) expect(peak(left.subarray(at, at + 4800))).toBeGreaterThan(0.2 * FACTOR);
  });
});

describe("a strike’s curves", () => {
  const tone = { noise: -60, pitchDrop: 0, tone: 0, toneLength: 0.4 };
  /** Level of the tone over a few milliseconds around a moment. */
  const levelAt = (params: Settings, seconds: number) => {
    const { left } = begun(computed("strike", { ...tone, ...params }), 81).play(RATE);
    const at = Math.round(seconds * RATE);
    return peak(left.subarray(at, at + 120)) / FACTOR;
  };
  test("as what rings, in a straight line, steeper at first", () => {
    const full = levelAt({}, 0);
    expect(decibels(levelAt({}, 0.2) / full)).toBeCloseTo(-30, 0);
    expect(levelAt({ toneCurve: 1 }, 0.2) / full).toBeCloseTo(0.5, 1);
    expect(levelAt({ toneCurve: 1 }, 0.41)).toBe(0);
    expect(decibels(levelAt({ toneCurve: -1 }, 0.1) / full)).toBeCloseTo(-30, 0);
  });

  test("held for the punch, then it falls as before; noise has its own curve", () => {
    expect(levelAt({ hold: 0.1 }, 0.09)).toBeCloseTo(levelAt({}, 0), 1);
    expect(decibels(levelAt({ hold: 0.1 }, 0.3) / levelAt({}, 0.2))).toBeCloseTo(0, 0);
    const noise = (noiseCurve: number) => {
      const { left } = begun(computed("strike", { tone: -60, noise: 0, noiseLength: 0.4, noiseCurve }), 60).play(RATE);
      return peak(left.subarray(0.2 * RATE, 0.25 * RATE));
    };
    expect(noise(1)).toBeGreaterThan(8 * noise(0));
  });
});
