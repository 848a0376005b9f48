import { describe, expect, test } from "@jest/globals";
import {
  addUnit,
  newInstrument,
  newSample,
  newUnit,
  setParam,
  setSource,
  setUnitSample,
  setUp,
  together,
} from "../instrument";
import { kindsAt, presetsOf, unitSpec } from "../units";
import { BENCH_SHA, bench, benchInstrument, benchOf, peak, RATE, sine } from "./test-bench";

const KINDS = [...kindsAt("source"), ...kindsAt("stage"), ...kindsAt("main")].filter(
  (kind) => presetsOf(kind).length > 0,
);
const TONE = sine(RATE * 2, 220, 0.3);

test("all that can stand on the way of the sound have some, but what has one setting alone", () => {
  const without = [...kindsAt("source"), ...kindsAt("stage"), ...kindsAt("main")].filter(
    (k) => presetsOf(k).length === 0,
  );
  expect(without).toEqual(["samples", "level", "feed", "place"]);
});

describe.each(KINDS)("presets of %s", (kind) => {
  const spec = unitSpec(kind);
  test("there are six at the least, with names of their own, parameters and rows that exist and lie in their ranges", () => {
    const ready = presetsOf(kind);
    expect(ready.length).toBeGreaterThanOrEqual(6);
    expect(new Set(ready.map((r) => r.name)).size).toBe(ready.length);
    for (const { params, table } of ready) {
      for (const [id, value] of Object.entries(params)) {
        const param = spec.params.find((p) => p.id === id);
        if (param?.type === "choice") expect(param.choices.map((c) => c.id)).toContain(value);
        else {
          expect(value).toBeGreaterThanOrEqual(param?.min ?? Number.NaN);
          expect(value).toBeLessThanOrEqual(param?.max ?? Number.NaN);
        }
      }
      for (const row of table ?? [])
        for (const column of spec.table?.columns ?? []) {
          const value = row[column.id] ?? column.default;
          expect(value).toBeGreaterThanOrEqual(column.min);
          expect(value).toBeLessThanOrEqual(column.max);
        }
      expect(table?.length ?? 0).toBeLessThanOrEqual(spec.table?.most ?? 0);
    }
  });

  // What stands on buses is measured by the tests over its kinds.
  if (!unitSpec(kind).cell && kind !== "filter") return;
  test("each sounds, none too loud, and none like another", () => {
    const levels = presetsOf(kind).map((ready) => {
      const source = spec.role === "source";
      const plain = source
        ? setSource("main", kind).apply(newInstrument("bench", "Bench"))
        : benchInstrument([TONE], [{ root: 60 }]);
      const sampled = spec.cell?.sampled
        ? setUnitSample(
            "layers/main/source",
            newSample({ sha: BENCH_SHA(0), name: "tone", frames: 2 * RATE, rate: RATE, channels: 1 }),
          ).apply(plain)
        : plain;
      const made = source ? sampled : addUnit("layers/main/stages", newUnit(kind, "s")).apply(sampled);
      const at = source ? "layers/main/source" : "layers/main/stages/s";
      const doc = together("", [setUp(at, ready), setParam(made, "play/level", -18)]).apply({ ...made, effects: [] });
      const b = source && !spec.cell?.sampled ? benchOf(doc) : bench([TONE], [], () => doc);
      b.engine.midi(0x90, 60, 110);
      const { left } = b.play(RATE / 2);
      const loud = peak(left);
      if (!(loud > 0.0005)) throw new Error(`${ready.name} is silent`);
      expect(loud).toBeLessThan(0.9);
      return left.reduce((s, x, i) => s + Math.abs(x) * (1 + (i % 7)), 0);
    });
    if (kind !== "wavetable") expect(new Set(levels.map((l) => l.toPrecision(5))).size).toBe(levels.length);
  });
});
