import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { layersOfNotes } from "./layers";
import { overallDetune, sortSounds } from "./sort";

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
