import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { hertzOf, noteOf, seededRandom } from "../audio";
import { newLoop } from "../instrument";
import { findLoops } from "./find-loops";
import { regionOf } from "./region";
import { fluxOf, measureSeam, unrolled } from "./seam";
import { made, RATE, testSounds } from "./test-sounds";

const sound = (...channels: readonly Float32Array[]) => ({ rate: RATE, channels: [...channels] });
const tone = (hertz: number, seconds = 2) =>
  made(seconds, (t) => 0.3 * Math.sin(2 * Math.PI * hertz * t) + 0.1 * Math.sin(6 * Math.PI * hertz * t + 1));

describe("loops that are found", () => {
  test.each([110, 196, 233.081, 440, 987.77])(
    "a steady tone of %d Hz: whole periods to a sample, a seam below −80 dB",
    (hertz) => {
      const x = tone(hertz);
      const { candidates, note } = findLoops(sound(x));
      expect(note).toBeCloseTo(noteOf(hertz), 1);
      const [best] = candidates;
      if (!best) throw new Error("nothing was found");
      const period = RATE / hertz;
      const length = best.end - best.start;
      expect(Math.abs(length / period - Math.round(length / period)) * period).toBeLessThanOrEqual(1);
      // What is played behind the end is what would have come there anyway.
      const loop = newLoop({ start: best.start, end: best.end, fade: best.crossfade, law: best.law });
      const over = unrolled(x, loop, 1, best.end - 200, 400);
      let error = 0;
      let power = 0;
      for (let i = 0; i < 400; i++) {
        const t = (best.end - 200 + i) / RATE;
        const meant = 0.3 * Math.sin(2 * Math.PI * hertz * t) + 0.1 * Math.sin(6 * Math.PI * hertz * t + 1);
        error += ((over[i] as number) - meant) ** 2;
        power += meant ** 2;
      }
      // To a whole sample at best: the rest is how far a period is from whole samples.
      const off = Math.abs(length / period - Math.round(length / period)) * period;
      expect(10 * Math.log10(error / power)).toBeLessThan(
        Math.max(-80, 20 * Math.log10((2 * Math.PI * 3 * off) / period + 1e-9)),
      );
    },
  );

  test("of every kind of sound: sorted, distinct, inside the region, never in the attack, the same each time", () => {
    for (const [name, channels] of Object.entries(testSounds(5))) {
      const answer = findLoops(sound(...channels));
      const region = regionOf(channels, RATE, 0, channels[0]?.length ?? 0);
      expect([name, answer.none]).toEqual([name, null]);
      if (name === "tremolo" || name === "stereo") expect(findLoops(sound(...channels))).toEqual(answer);
      answer.candidates.forEach((c, i) => {
        expect(c.start).toBeGreaterThanOrEqual(region?.from ?? 0);
        expect(c.start - c.crossfade).toBeGreaterThanOrEqual(region?.from ?? 0);
        expect(c.end).toBeLessThanOrEqual(region?.to ?? 0);
        expect(c.start).toBeGreaterThanOrEqual(0.05 * RATE);
        expect(c.score).toBeLessThanOrEqual(answer.candidates[i - 1]?.score ?? 100);
        for (const other of answer.candidates.slice(0, i))
          expect(Math.abs(c.start - other.start) + Math.abs(c.end - other.end)).toBeGreaterThan(0.012 * RATE);
        expect(c.parts.change).toBeLessThanOrEqual(3);
        expect(c.reason).toMatch(/alike/);
      });
    }
  });

  test("stereo is judged in both channels: what fits one only isn't taken", () => {
    const left = tone(220, 3);
    // The right one changes its note in the middle.
    const right = made(3, (t) => 0.3 * Math.sin(2 * Math.PI * (t < 1.5 ? 220 : 247) * t));
    for (const c of findLoops(sound(left, right)).candidates.slice(0, 3))
      expect(c.end <= 1.55 * RATE || c.start >= 1.45 * RATE).toBe(true);
  });

  test("a decaying pluck has loops with little pulse; where a pulse is too much the answer is none", () => {
    const pluck = made(3, (t) => 0.5 * Math.exp(-2 * t) * Math.sin(2 * Math.PI * 220 * t), 0.002);
    const [best] = findLoops(sound(pluck)).candidates;
    expect(best?.parts.pulse).toBeLessThan(3);
    const gone = made(0.4, (t) => Math.exp(-60 * t) * Math.sin(2 * Math.PI * 220 * t), 0.001);
    const answer = findLoops(sound(gone), { mostPulse: 0.5, shortest: 0.05 });
    expect(answer.candidates).toEqual([]);
    expect(answer.none).toMatch(/pulse|behind its attack|over as soon/);
  });

  test("lengths, region and number are as wished; a known pitch is believed", () => {
    const x = tone(220, 4);
    const { candidates, note } = findLoops(sound(x), {
      ...{ start: RATE, end: 3 * RATE, shortest: 0.2, longest: 0.5, count: 3, note: noteOf(110) },
    });
    expect(note).toBe(noteOf(110));
    expect(candidates.length).toBeGreaterThan(0);
    expect(candidates.length).toBeLessThanOrEqual(3);
    for (const { start, end, parts } of candidates) {
      expect(start).toBeGreaterThanOrEqual(RATE);
      expect(end).toBeLessThanOrEqual(3 * RATE);
      expect((end - start) / RATE).toBeGreaterThanOrEqual(0.199);
      expect((end - start) / RATE).toBeLessThanOrEqual(0.502);
      expect(parts.periods).toBeCloseTo(((end - start) / RATE) * hertzOf(noteOf(110)), 6);
    }
  });
});

describe("odd sounds", () => {
  test.each([0, 1, 2, 10, 63, 64, 100, 500, 2000])("%d frames: an answer or a reason", (frames) => {
    const random = seededRandom(frames);
    const answer = findLoops(sound(Float32Array.from({ length: frames }, () => random() - 0.5)));
    expect(answer.candidates.length > 0 || answer.none !== null).toBe(true);
    if (frames < 64) expect(answer.none).toMatch(/too short/);
  });

  test("silence has none; DC and full-scale noise get an answer", () => {
    expect(findLoops(sound(new Float32Array(RATE))).none).toMatch(/silent/);
    expect(findLoops(sound(new Float32Array(RATE).fill(0.5))).none).toBeNull();
    const random = seededRandom(2);
    expect(findLoops(sound(Float32Array.from({ length: RATE }, () => (random() < 0.5 ? -1 : 1)))).none).toBeNull();
  });

  test("of hours only the first minutes are searched, in their time", () => {
    const long = {
      rate: 1000,
      channels: [Float32Array.from({ length: 7200 * 1000 }, (_, i) => 0.3 * Math.sin(i * 0.2))],
    };
    const { candidates } = findLoops(long);
    expect(candidates.length).toBeGreaterThan(0);
    for (const c of candidates) expect(c.end).toBeLessThanOrEqual(180 * 1000);
  });

  test("whatever the sound and the wish: what is proposed can be played", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 12000 }),
        fc.integer(),
        fc.record({
          start: fc.integer({ min: -5, max: 12000 }),
          end: fc.integer({ min: 0, max: 13000 }),
          shortest: fc.double({ min: 0, max: 0.3, noNaN: true }),
          longest: fc.double({ min: 0, max: 1, noNaN: true }),
        }),
        (frames, seed, wish) => {
          const random = seededRandom(seed);
          const f = 0.01 + 0.2 * random();
          const x = Float32Array.from({ length: frames }, (_, i) => 0.4 * Math.sin(f * i) + 0.1 * (random() - 0.5));
          for (const c of findLoops(sound(x), wish).candidates) {
            expect(c.start - c.crossfade).toBeGreaterThanOrEqual(Math.max(0, wish.start));
            expect(c.end).toBeLessThanOrEqual(Math.min(frames, wish.end));
            expect(c.end - c.start).toBeGreaterThanOrEqual(2);
            expect(c.crossfade).toBeLessThanOrEqual(c.end - c.start);
            expect(c.score).toBeGreaterThanOrEqual(0);
          }
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe("the seam", () => {
  test("of a whole period is as the sound is, of half a period it is heard", () => {
    const x = tone(220.5);
    const period = RATE / 220.5;
    const at = (periods: number) => newLoop({ start: 20000, end: 20000 + Math.round(periods * period) });
    expect(measureSeam([x], at(100)).change).toBeLessThan(1.3);
    expect(measureSeam([x], at(100.5)).change).toBeGreaterThan(3);
  });

  test("a step of the level is measured in decibels", () => {
    const x = made(2, (t) => (t < 1 ? 0.1 : 0.2) * Math.sin(2 * Math.PI * 441 * t));
    expect(measureSeam([x], newLoop({ start: 20000, end: 66100 })).level).toBeCloseTo(6.02, 1);
  });

  test("spectral flux of silence is 0, and of a sound begun it is not", () => {
    expect(Math.max(...fluxOf(new Float32Array(8192)))).toBe(0);
    const begun = new Float32Array(8192).map((_, i) => (i < 4096 ? 0 : Math.sin(i * 0.1)));
    const flux = fluxOf(begun);
    expect(flux.indexOf(Math.max(...flux)) * 256 + 512).toBeGreaterThan(3000);
  });
});
