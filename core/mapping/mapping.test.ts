import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { seededRandom } from "../audio";
import { newSample, newSlice, type Sample, type Slice } from "../instrument";
import { layersOfNotes } from "./layers";
import { placeSamples } from "./place";
import { overallDetune, sortSounds } from "./sort";
import { spreadRoots } from "./spread";
import { mergeSlices, sliceId } from "./take";

describe("spread", () => {
  const roots = fc.uniqueArray(fc.integer({ min: 0, max: 127 }), { minLength: 1, maxLength: 40 });

  test.each(["nearest", "down", "up"] as const)(
    "%s: no key twice, none left out between the roots, each root on its own",
    (mode) => {
      fc.assert(
        fc.property(roots, fc.nat(60), fc.integer({ min: 61, max: 127 }), (all, low, high) => {
          const ranges = spreadRoots(all, { mode, low, high });
          const covered = new Map<number, number>();
          for (const [root, range] of ranges) {
            expect(range.low).toBeLessThanOrEqual(root);
            expect(range.high).toBeGreaterThanOrEqual(root);
            for (let key = range.low; key <= range.high; key++) {
              expect(covered.has(key)).toBe(false);
              covered.set(key, root);
            }
          }
          if (ranges.size > 0) expect(covered.size).toBe(high - low + 1);
          for (const key of covered.keys()) expect(key >= low && key <= high).toBe(true);
        }),
      );
    },
  );

  test("kept to some semitones and without reaching outward: never further, never twice, each root on its own", () => {
    fc.assert(
      fc.property(
        roots,
        fc.constantFrom("nearest" as const, "down" as const, "up" as const),
        fc.nat(24),
        fc.boolean(),
        (all, mode, most, outer) => {
          const ranges = spreadRoots(all, { mode, low: 10, high: 110, most, outer });
          const covered = new Set<number>();
          for (const [root, range] of ranges) {
            expect(range.low <= root && root <= range.high).toBe(true);
            expect(root - range.low <= most && range.high - root <= most).toBe(true);
            for (let key = range.low; key <= range.high; key++) {
              expect(covered.has(key)).toBe(false);
              covered.add(key);
            }
          }
          // Between neighbours no further apart than both may reach nothing is left out.
          const inside = [...ranges.keys()].sort((a, b) => a - b);
          for (let i = 1; i < inside.length; i++) {
            const [from, to] = [inside[i - 1] as number, inside[i] as number];
            if (to - from > most) continue;
            for (let key = from; key <= to; key++) expect(covered.has(key)).toBe(true);
          }
        },
      ),
    );
    const kept = spreadRoots([50, 54, 60], { mode: "nearest", low: 0, high: 127, outer: false });
    expect([...kept.values()].map((r) => [r.low, r.high])).toEqual([
      [49, 52],
      [53, 57],
      [58, 63],
    ]);
    expect([...spreadRoots([50], { mode: "nearest", low: 0, high: 127, outer: false }).values()]).toEqual([
      { low: 50, high: 50 },
    ]);
  });

  test("nearest gives each key to the closest root", () => {
    const ranges = spreadRoots([50, 53, 60], { mode: "nearest", low: 48, high: 62 });
    expect([...ranges.values()]).toEqual([
      { low: 48, high: 51 },
      { low: 52, high: 56 },
      { low: 57, high: 62 },
    ]);
    expect([...spreadRoots([50, 60], { mode: "none", low: 0, high: 127 }).values()]).toEqual([
      { low: 50, high: 50 },
      { low: 60, high: 60 },
    ]);
  });
});

describe("sorting", () => {
  test("the common detuning is found, also across the half step, and scattered pitches have none", () => {
    expect(overallDetune([60.2, 62.25, 64.15])).toBeCloseTo(20, 0);
    expect(Math.abs(overallDetune([60.48, 62.52, 64.5]))).toBeCloseTo(50, 0);
    expect(overallDetune([60, 61.25, 62.5, 63.75])).toBe(0);
  });

  test("levels part where they leave a gap", () => {
    expect(layersOfNotes([[-30, -12, -29, -11.5, -30.5, -12.4], [-20, -20.8, -19.5], []])).toEqual([
      [
        [0, 2, 4],
        [1, 3, 5],
      ],
      [[0, 1, 2]],
      [],
    ]);
    expect(layersOfNotes([])).toEqual([]);
    // As many as are wanted, where there are as many sounds.
    expect(layersOfNotes([[-30, -12, -29, -11.5], [-20, -20.8], [], [-5]], 3).map((n) => n.length)).toEqual([
      3, 2, 0, 1,
    ]);
    expect(layersOfNotes([[-30, -12, -29, -11.5]], 2)).toEqual([
      [
        [0, 2],
        [1, 3],
      ],
    ]);
    const many = Array.from({ length: 1000 }, (_, i) => -i / 10);
    expect(layersOfNotes([many], 4)[0]?.map((l) => l.length)).toEqual([250, 250, 250, 250]);
  });

  test("strengths are found although the soft ones of one note are louder than the hard ones of another, and one is missing", () => {
    const random = seededRandom(3);
    const notes = Array.from({ length: 12 }, (_, n) =>
      [0, 1, 2].flatMap((layer) => [0, 1].map(() => -40 + (n % 5) * 6 + layer * 6 + (random() - 0.5) * 2.5)),
    );
    notes[4]?.splice(5, 1);
    const found = layersOfNotes(notes);
    found.forEach((layers, n) => {
      expect(layers).toEqual(
        n === 4
          ? [[0, 1], [2, 3], [4]]
          : [
              [0, 1],
              [2, 3],
              [4, 5],
            ],
      );
    });
  });

  test("thousands of sounds on one note are parted in time", () => {
    const random = seededRandom(4);
    const levels = Array.from({ length: 5000 }, (_, i) => (i % 2) * 12 + random());
    expect(layersOfNotes([levels])[0]?.map((l) => l.length)).toEqual([2500, 2500]);
  });

  test("8 notes × 2 strengths × 3 repeats come out as such, whatever the order and a detuning", () => {
    const random = seededRandom(5);
    const notes = [50, 53, 55, 58, 62, 65, 69, 72];
    for (const off of [0, 0.37, -0.45]) {
      const sounds = notes.flatMap((note) =>
        [-32, -20].flatMap((level) =>
          [1, 2, 3].map((r) => ({
            id: `${note}/${level}/${r}`,
            pitch: note + off + (random() - 0.5) * 0.25,
            loudness: level + (random() - 0.5) * 2,
          })),
        ),
      );
      const { sorted, layersOf, bounds, detune } = sortSounds(sounds);
      expect(Math.abs(detune - off * 100)).toBeLessThan(8);
      expect([...layersOf]).toEqual(notes.map((n) => [n, 2]));
      for (const s of sorted) expect(s.id).toBe(`${s.note}/${s.layer === 0 ? -32 : -20}/${s.repeat}`);
      expect(bounds.get(2)?.[1]).toBe(127);
    }
  });
});

describe("placing", () => {
  const sample = (n: number, pitch: number | null, loudness: number, confidence = 0.9): Sample =>
    newSample({ sha: n.toString(16).padStart(64, "0"), name: `s${n}`, frames: 100, pitch, confidence, loudness });

  test("velocity ranges of a note touch and fill 1 to 127; each zone is tuned to its note", () => {
    const { zones, leftOut } = placeSamples(
      [sample(1, 60.2, -30), sample(2, 60.3, -20), sample(3, 60.1, -10), sample(4, null, -10), sample(5, 61, -10, 0.2)],
      { mode: "nearest", low: 0, high: 127 },
      (i) => `z${i}`,
    );
    expect(leftOut.map((l) => [l.sample.name, l.reason])).toEqual([
      ["s4", "no clear pitch"],
      ["s5", "no clear pitch"],
    ]);
    expect(zones[0]?.velLow).toBe(1);
    expect(zones.at(-1)?.velHigh).toBe(127);
    zones.slice(1).forEach((zone, i) => {
      expect(zone.velLow).toBe((zones[i]?.velHigh ?? 0) + 1);
    });
    expect(zones.map((z) => z.tune)).toEqual([-20, -30, -10]);
  });

  test("sounds without any pitch become a kit: one key each from C2", () => {
    const { zones, kit } = placeSamples(
      [sample(1, null, -10), sample(2, 99, -12, 0.1)],
      { mode: "nearest", low: 0, high: 127 },
      (i) => `z${i}`,
    );
    expect(kit).toBe(true);
    expect(zones.map((z) => [z.keyLow, z.keyHigh, z.root])).toEqual([
      [36, 36, 36],
      [37, 37, 37],
    ]);
  });
});

describe("a new search", () => {
  const slice = (onset: number, change: Partial<Slice> = {}): Slice =>
    newSlice({
      id: sliceId(onset),
      start: onset - 100,
      end: onset + 9000,
      onset,
      pitch: 60,
      confidence: 0.9,
      ...change,
    });

  test("keeps what its owner did: moved edges, typed notes", () => {
    const before = [slice(1000, { edited: true, start: 500 }), slice(20000, { note: 47, keep: false }), slice(40000)];
    const after = mergeSlices(before, [slice(1010), slice(20100), slice(60000)], 44100);
    expect(after.map((s) => [s.id, s.start, s.note, s.keep])).toEqual([
      ["s1000", 500, null, true],
      ["s20000", 20000, 47, false],
      ["s60000", 59900, null, true],
    ]);
  });
});
