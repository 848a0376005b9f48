import { describe, expect, test } from "@jest/globals";
import {
  addRoute,
  changeZones,
  type Edit,
  type Instrument,
  listParams,
  newInstrument,
  newLayer,
  newUnit,
  renameUnit,
  setParam,
} from "../instrument";
import { baseValues, compile } from "./compile";
import { routeProblem } from "./route-problem";
import { sameStructure } from "./same-structure";
import { benchInstrument, sine } from "./test-bench";

const doc = newInstrument("t", "T");
const CUTOFF = "layers/main/stages/filter/cutoff";
const route = { id: "r", source: "wheel", target: CUTOFF, amount: 2, on: true };

describe("compile", () => {
  test("every parameter has a slot at its place, with its range and value", () => {
    const params = listParams(doc);
    const plan = compile(doc);
    expect(plan.slots.map((s) => s.address)).toEqual(params.map((p) => p.address));
    expect(plan.base).toEqual(baseValues(doc));
    params.forEach((p, i) => {
      if (p.spec.type === "number")
        expect(plan.slots[i]).toMatchObject(
          p.spec.mod === "octaves"
            ? { min: Math.log2(p.spec.min), max: Math.log2(p.spec.max), octaves: true }
            : { min: p.spec.min, max: p.spec.max, octaves: false },
        );
      else expect(plan.base[i]).toBe(p.spec.choices.findIndex((c) => c.id === p.value));
    });
  });

  test("the plan is plain data that can be posted", () => {
    const plan = compile(addRoute(route).apply(benchInstrument([sine(10, 1)], [{}])));
    expect(structuredClone(plan)).toEqual(plan);
    expect(JSON.parse(JSON.stringify(plan))).toEqual(plan);
  });

  test("a route to a layer's parameter from a source of each note is computed for that layer's voices only", () => {
    const two: Instrument = { ...doc, layers: [...doc.layers, newLayer("second", "Second")] };
    const plan = compile(addRoute({ ...route, source: "velocity", target: "layers/second/strip/pan" }).apply(two));
    const [first, second] = plan.layers;
    expect(first?.program.map((s) => s.kind)).toEqual(["amp"]);
    expect(second?.program.map((s) => s.kind)).toEqual(["target", "amp"]);
    expect(second?.pan).toBeLessThan(0);
    expect(first?.pan).toBeGreaterThanOrEqual(0);
  });

  test("what doesn't differ from note to note is computed once for all", () => {
    const plan = compile(addRoute(route).apply(doc));
    expect(plan.program).toHaveLength(1);
    expect(plan.layers[0]?.program.map((s) => s.kind)).toEqual(["amp"]);
  });

  test("rules that are off or empty are not in the plan", () => {
    expect(compile(doc).rules).toBeNull();
    expect(compile({ ...doc, rules: { on: true, script: "  ", seed: 1 } }).rules).toBeNull();
    expect(compile({ ...doc, rules: { on: true, script: "x", seed: 9 } }).rules).toEqual({ script: "x", seed: 9 });
  });
});

describe("what needs a new plan", () => {
  const base = benchInstrument([sine(10, 1)], [{}]);
  test.each<[string, Edit, boolean]>([
    ["a value", setParam(base, CUTOFF, 500), true],
    ["a name", renameUnit("lfos/lfo1", "Slow"), true],
    ["a zone", changeZones(new Set(["z0"]), "Set root", (z) => ({ ...z, root: 40 })), false],
    ["a route", addRoute(route), false],
    ["a macro", { name: "", apply: (d) => ({ ...d, macros: [...d.macros, newUnit("macro", "m2")] }) }, false],
    ["a layer", { name: "", apply: (d) => ({ ...d, layers: [...d.layers, newLayer("l2", "L2")] }) }, false],
  ])("%s", (_, edit, same) => {
    const next = edit.apply(base);
    expect(sameStructure(base, next)).toBe(same);
    if (same) expect(compile(next).slots).toEqual(compile(base).slots);
  });
});

test("a setting that gives a route its effect, or takes it away, needs a new plan; one that doesn't needs none", () => {
  const routed = addRoute(route).apply(doc);
  const off = setParam(routed, "layers/main/stages/filter/type", "off").apply(routed);
  expect(sameStructure(routed, off)).toBe(false);
  expect(sameStructure(off, routed)).toBe(false);
  expect(sameStructure(routed, setParam(routed, "layers/main/stages/filter/type", "high").apply(routed))).toBe(true);
  expect(compile(off).program).toHaveLength(0);
  expect(compile(routed).program.length).toBeGreaterThan(0);
  const switched = setParam(routed, "layers/main/stages/filter/on", 0).apply(routed);
  expect(sameStructure(routed, switched)).toBe(false);
  expect(routeProblem(switched, route)).toBe("Filter is switched off");
  // What may be switched on by a route has an effect all the same.
  const both = addRoute({ ...route, id: "s", target: "layers/main/stages/filter/on", source: "macros/macro1" });
  expect(routeProblem(both.apply(switched), route)).toBeNull();
});

test("what follows the tempo, a band that is off: such parameters say why they are idle", () => {
  const units = { ...doc, effects: [newUnit("delay", "d"), newUnit("equaliser", "e")] };
  const tied = setParam(units, "effects/d/sync", "1/8").apply(units);
  const reason = (d: Instrument, target: string) => routeProblem(d, { ...route, source: "wheel", target });
  expect(reason(units, "effects/d/time")).toBeNull();
  expect(reason(tied, "effects/d/time")).toBe("its time follows the tempo");
  expect(reason(units, "effects/e/gain8")).toBe("band 8 is off");
  const cut = setParam(units, "effects/e/kind3", "lowCut").apply(units);
  expect(reason(cut, "effects/e/gain3")).toBe("a cut has no gain");
  expect(reason(cut, "effects/e/frequency3")).toBeNull();
});

describe("a route that can have no effect says why", () => {
  test.each([
    [{ on: false }, "switched off"],
    [{ amount: 0 }, "depth is zero"],
    [{ source: "macros/gone" }, "source is gone"],
    [{ target: "layers/main/stages/gone/cutoff" }, "target is gone"],
    [{ target: "layers/main/stages/filter/type" }, "can't be modulated"],
    [{ source: "velocity", target: "effects/reverb/mix" }, "belongs to each note"],
  ])("%j", (change, words) => {
    expect(routeProblem(doc, { ...route, ...change })).toContain(words);
    expect(compile(addRoute({ ...route, ...change }).apply(doc)).program).toEqual([]);
  });

  test("a filter that is off, and one that works", () => {
    expect(routeProblem(setParam(doc, "layers/main/stages/filter/type", "off").apply(doc), route)).toBe(
      "the filter is off",
    );
    expect(routeProblem(doc, route)).toBeNull();
    expect(routeProblem(doc, { ...route, target: "effects/reverb/mix" })).toBeNull();
  });
});
