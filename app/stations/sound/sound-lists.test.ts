import { describe, expect, test } from "@jest/globals";
import { addUnit, newInstrument, newLayer, newUnit, setParam } from "../../../core/instrument";
import { lanesOf } from "./sound-lists";

describe("rows of the station", () => {
  test("each layer, the first send without units besides those with some, and the whole", () => {
    const doc = newInstrument("x", "X");
    const lanes = (sends: readonly number[]) =>
      lanesOf({
        ...doc,
        sends: doc.sends.map((s, i) => (sends.includes(i) ? { ...s, units: [newUnit("delay", "d")] } : s)),
      }).map((l) => l.id);
    expect(lanes([])).toEqual(["layers/main", "sends/send1", "effects"]);
    expect(lanes([0, 2])).toEqual(["layers/main", "sends/send1", "sends/send2", "sends/send3", "effects"]);
    expect(lanes([0, 1, 2, 3])).toHaveLength(6);
  });

  test("where a layer goes: the whole, the layers that hear it, what listens to it; or nowhere", () => {
    const doc = newInstrument("x", "X");
    const second = newLayer("b", "Bells");
    const feed = { ...newUnit("feed", "f"), from: "main" };
    const two = { ...doc, layers: [...doc.layers, { ...second, stages: [feed] }] };
    const listener = { ...newUnit("compressor", "c", "Ducker"), from: "main" };
    const all = addUnit("effects", listener).apply(two);
    expect(lanesOf(all)[0]?.goes).toBe("master, Bells, Ducker");
    const quiet = setParam(all, "layers/b/strip/mute", 1).apply(all);
    expect(lanesOf(quiet)[1]?.goes).toMatch(/nowhere/);
  });
});
