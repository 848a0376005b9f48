import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { newGroup, newInstrument, newLayer, newLoop, newSample, newUnit, newZone } from "./defaults";
import { followLoss, followLossText, followZone, replaceSamples } from "./follow-sample";
import type { Instrument, Sample, SampleCut, Zone } from "./instrument";
import { listZones } from "./zone-edits";

const TAKE = 200_000;
const shaOf = (n: number) => n.toString(16).padStart(64, "0");

/** A sample of a take whose every frame says where in the take it lies. */
const cutSample = (n: number, cut: SampleCut, given: Partial<Sample> = {}): Sample =>
  newSample({
    sha: shaOf(n),
    name: `cut ${n}`,
    frames: Math.round((cut.end - cut.start) * cut.ratio),
    from: { take: "t", slice: "s", cut },
    ...given,
  });
/** Which frame of the take sounds at a frame of a sample. */
const takeFrame = ({ from }: Sample, frame: number): number => {
  const cut = from?.cut as SampleCut;
  return cut.reversed ? cut.end - frame / cut.ratio : cut.start + frame / cut.ratio;
};

const cuts = fc.record({
  start: fc.integer({ min: 0, max: 40_000 }),
  end: fc.integer({ min: 120_000, max: TAKE }),
  ratio: fc.constantFrom(0.5, 1, 1, 1.25, 2),
  reversed: fc.boolean(),
});

describe("what was built on a sample follows it", () => {
  test("cut again, stretched or reversed: starts, ends, loops, variants and level curves stand on the same sound", () => {
    fc.assert(
      fc.property(
        cuts,
        cuts,
        fc.integer({ min: 45_000, max: 70_000 }),
        fc.integer({ min: 80_000, max: 115_000 }),
        (a, b, s, e) => {
          const [from, to] = [cutSample(1, a), cutSample(2, b)];
          const at = (t: number) => Math.round(a.reversed ? (a.end - t) * a.ratio : (t - a.start) * a.ratio);
          const [start, end] = [at(s), at(e)].sort((x, y) => x - y) as [number, number];
          const flat = { amount: 1, from: start, step: 512, levels: Array.from({ length: 20 }, (_, i) => 0 - i) };
          const loop = newLoop({ start, end, fade: 200, flat });
          const zone = newZone({
            id: "z",
            sample: from.sha,
            end: end + 2000,
            start: Math.max(0, start - 2000),
            loop,
            releaseLoop: loop,
            variants: [loop, loop],
            variant: 1,
          });
          const next = followZone(zone, from, to);
          const slack = 2 + 2 * Math.max(a.ratio, b.ratio, 1 / a.ratio, 1 / b.ratio);
          for (const each of [next.loop, next.releaseLoop, ...next.variants]) {
            const places = [each?.start ?? Number.NaN, each?.end ?? Number.NaN]
              .map((f) => takeFrame(to, f))
              .sort((x, y) => x - y);
            expect(Math.abs((places[0] as number) - s)).toBeLessThan(slack);
            expect(Math.abs((places[1] as number) - e)).toBeLessThan(slack);
          }
          // The level that stood first in time of the take stands there still.
          const was = takeFrame(from, flat.from);
          const curve = next.loop?.flat;
          const flipped = a.reversed !== b.reversed;
          const first = curve
            ? flipped
              ? curve.from + (curve.levels.length - 1) * curve.step
              : curve.from
            : Number.NaN;
          expect(Math.abs(takeFrame(to, first) - was)).toBeLessThan(600 * slack);
          expect(curve?.levels[flipped ? curve.levels.length - 1 : 0]).toBe(0);
          expect(next.variants).toHaveLength(2);
          expect(next.variant).toBe(1);
        },
      ),
      { numRuns: 200, seed: 4 },
    );
  });

  test("there and back again is where it was", () => {
    fc.assert(
      fc.property(cuts, cuts, (a, b) => {
        fc.pre(a.ratio === 1 && b.ratio === 1);
        const [from, to] = [cutSample(1, a), cutSample(2, b)];
        const at = (t: number) => (a.reversed ? a.end - t : t - a.start);
        const [start = 0, end = 0] = [at(60_000), at(100_000)].sort((x, y) => x - y);
        const zone = newZone({ id: "z", sample: from.sha, end: from.frames, loop: newLoop({ start, end }) });
        expect(followZone(followZone(zone, from, to), to, from)).toEqual(zone);
      }),
      { seed: 5 },
    );
  });

  test("the pitch that was corrected reaches root and tuning, where these were the sound's own", () => {
    const cut = { start: 0, end: 1000, ratio: 1, reversed: false };
    const [from, to] = [cutSample(1, cut, { pitch: 60.1 }), cutSample(2, cut, { pitch: 72.2 })];
    const zone = (given: Partial<Zone>) =>
      newZone({ id: "z", sample: from.sha, end: 1000, root: 60, tune: -10, ...given });
    const pitched = (given: Partial<Zone>) => {
      const { root, tune } = followZone(zone(given), from, to);
      return [root, tune];
    };
    expect(pitched({})).toEqual([72, -20]);
    expect(pitched({ tune: 35 })).toEqual([60, 35]);
    expect(pitched({ root: 48, tune: -10 })).toEqual([48, -20]);
  });

  /** An instrument in which everything that can name a sample names it. */
  const everywhere = (sample: Sample): Instrument => {
    const layer = newLayer("l", "L");
    const zone = newZone({ id: "z", sample: sample.sha, end: sample.frames, loop: newLoop({ start: 900, end: 990 }) });
    return {
      ...newInstrument("i", "I"),
      samples: [{ ...sample, beat: { tempo: 120, downbeat: 50, bar: 4 }, use: "impulse" }],
      layers: [
        { ...layer, groups: [{ ...newGroup("g", "G"), zones: [zone] }] },
        { ...newLayer("n", "N"), source: { ...newUnit("grains", "s"), sample: sample.sha } },
      ],
      effects: [{ ...newUnit("convolution", "c"), sample: sample.sha }],
    };
  };

  test("sources, grains and rooms name the new one, which keeps its beat and its use; nothing names the old one", () => {
    const from = cutSample(1, { start: 1000, end: 3000, ratio: 1, reversed: false });
    const to = cutSample(2, { start: 900, end: 3000, ratio: 1, reversed: false });
    const doc = everywhere(from);
    const next = replaceSamples(new Map([[from.sha, to]])).apply(doc);
    expect(JSON.stringify(next)).not.toContain(from.sha);
    expect(next.samples).toEqual([{ ...to, use: "impulse", beat: { tempo: 120, downbeat: 150, bar: 4 } }]);
    expect([next.layers[1]?.source.sample, next.effects[0]?.sample]).toEqual([to.sha, to.sha]);
    expect(listZones(next)[0]?.loop).toMatchObject({ start: 1000, end: 1090 });
    expect(followLoss(doc, new Map([[from.sha, to]]))).toEqual({ loops: 0, unsure: 0 });
  });

  test("what lies outside the new sound is gone, and counted; another sound is told as one", () => {
    const from = cutSample(1, { start: 1000, end: 3000, ratio: 1, reversed: false });
    const short = cutSample(2, { start: 1000, end: 1950, ratio: 1, reversed: false });
    const doc = everywhere(from);
    const pairs = new Map([[from.sha, short]]);
    expect(listZones(replaceSamples(pairs).apply(doc))[0]?.loop).toBeNull();
    expect(followLossText(followLoss(doc, pairs))).toBe("1 loop lies outside the new sound and is gone.");
    const other = newSample({ sha: shaOf(9), name: "other", frames: 5000 });
    expect(followLossText(followLoss(doc, new Map([[from.sha, other]])))).toMatch(/^The loops of 1 zone stand where/);
    // The same sound at another rate is the same sound.
    const finer = newSample({ sha: shaOf(8), name: "finer", frames: 4000, rate: 88200 });
    const again = replaceSamples(new Map([[from.sha, finer]])).apply(doc);
    expect(listZones(again)[0]?.loop).toMatchObject({ start: 1800, end: 1980 });
    expect(followLoss(doc, new Map([[from.sha, finer]]))).toEqual({ loops: 0, unsure: 0 });
  });
});
