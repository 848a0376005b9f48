import { expect, test } from "@jest/globals";
import { addSamples, newInstrument, newSample, newZone, placeZones, together } from "../../../../core/instrument";
import { chartPoints } from "./charts-data";

const sample = (n: number, pitch: number | null, loudness: number) =>
  newSample({
    sha: String(n).padStart(64, "0"),
    name: `s${n}`,
    frames: 10,
    pitch,
    confidence: pitch === null ? 0 : 0.9,
    loudness,
  });

test("a mark for each root and strength: the worst tuning, the mean level with the zone's gain", () => {
  const samples = [sample(1, 60.1, -20), sample(2, 59.7, -30), sample(3, null, -10), sample(4, 72, -12)];
  const at = (n: number, more: object) => newZone({ id: `z${n}`, sample: samples[n - 1]?.sha ?? "", end: 10, ...more });
  const doc = together("", [
    addSamples(samples),
    placeZones(
      "main",
      "main",
      [
        at(1, { root: 60, velHigh: 64, repeat: 1 }),
        at(2, { root: 60, velHigh: 64, repeat: 2, gain: 4 }),
        at(3, { root: 60, velLow: 65 }),
        at(4, { root: 60, velLow: 1, velHigh: 10 }),
        newZone({ id: "gone", sample: "f".repeat(64), end: 10 }),
      ],
      true,
    ),
  ]).apply(newInstrument("i", "Tubes"));
  const points = chartPoints(doc.layers, doc.samples);
  expect(points.map((p) => [p.root, p.velocity, p.level])).toEqual([
    [60, 33, -23],
    [60, 96, -10],
    [60, 6, -12],
  ]);
  expect(points[0]?.cents).toBeCloseTo(-30, 3);
  expect(points[1]?.cents).toBeNull();
  // A root that is an octave off is at the chart's edge.
  expect(points[2]?.cents).toBe(100);
});
