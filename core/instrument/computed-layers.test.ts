import { describe, expect, test } from "@jest/globals";
import { together } from "./about-edits";
import { checkInstrument } from "./check";
import { newInstrument } from "./defaults";
import { duplicateLayer, setSource } from "./layer-edits";
import { migrate } from "./migrate";
import { addRoute, removeRows, setParam } from "./param-edits";
import { addressInTable } from "./row-params";
import { listZones } from "./zone-edits";

describe("layers whose sound is computed", () => {
  const plain = newInstrument("i", "I");
  test("a copy of a layer has zones, ids and routes of its own, and the document is sound", () => {
    const made = together("", [
      setSource("main", "oscillator"),
      addRoute({ id: "r", source: "velocity", target: "layers/main/source/width", amount: 0.2, on: true }),
    ]).apply(plain);
    const copied = duplicateLayer("main", "twin", "Twin").apply(made);
    const checked = checkInstrument(JSON.parse(JSON.stringify(copied)));
    expect(checked).toEqual({ ok: true, instrument: copied });
    expect(copied.layers.map((l) => l.id)).toEqual(["main", "twin"]);
    expect(copied.routes.map((r) => r.target)).toEqual(["layers/main/source/width", "layers/twin/source/width"]);
    expect(new Set(listZones(copied).map((z) => z.id)).size).toBe(2);
  });

  test("another source takes along what both have; routes to what is gone go, with the dials unbound", () => {
    const made = together("", [
      setSource("main", "oscillator"),
      addRoute({ id: "r", source: "velocity", target: "layers/main/source/width", amount: 0.2, on: true }),
      addRoute({ id: "s", source: "velocity", target: "layers/main/source/fine", amount: 5, on: true }),
    ]).apply(plain);
    const tuned = setParam(made, "layers/main/source/fine", 12).apply(made);
    const noisy = setSource("main", "partials").apply(tuned);
    expect(noisy.layers[0]?.source.params.fine).toBe(12);
    expect(noisy.routes.map((r) => r.id)).toEqual(["s"]);
    expect(setSource("main", "partials").apply(noisy)).toBe(noisy);
  });

  test("a table of odd rows is settled: limits, missing columns, too many, no rows at all", () => {
    const made = setSource("main", "partials").apply(plain);
    const odd = (table: unknown) => {
      const raw = JSON.parse(JSON.stringify(made));
      raw.layers[0].source.table = table;
      return migrate(raw).instrument?.layers[0]?.source.table;
    };
    const rest = { pan: 0, detune: 0, decay: 0, attack: 0, locked: 0 };
    expect(odd([{ ratio: 1e9, level: -500 }, { ratio: 2 }, { level: "loud" }])).toEqual([
      { ratio: 256, level: -96, ...rest },
      { ratio: 2, level: 0, ...rest },
      { ratio: 1, level: 0, ...rest },
    ]);
    expect(odd(Array.from({ length: 500 }, (_, i) => ({ ratio: i + 1, level: 0 })))).toHaveLength(256);
    expect(odd([])).toEqual([]);
    expect(odd("many")).toEqual([]);
    expect(odd(null)).toBeUndefined();
  });

  test("what an oscillator hears is an id or nothing", () => {
    const made = setSource("main", "oscillator").apply(plain);
    const raw = JSON.parse(JSON.stringify(made));
    raw.layers[0].source.from = { not: "an id" };
    expect(migrate(raw).instrument?.layers[0]?.source.from).toBeUndefined();
    raw.layers[0].source.from = "gone";
    expect(migrate(raw).instrument?.layers[0]?.source.from ?? "nothing").toBe("nothing");
  });

  test("a cell of a table that is as it was at first is set, or a row taken out: the rows are whole, and the document is right", () => {
    const doc = setSource("main", "partials").apply(newInstrument("i", "I"));
    const address = "layers/main/source";
    for (const edit of [setParam(doc, addressInTable(address, 2, "level"), -20), removeRows(address, [1], "")]) {
      const next = edit.apply(doc);
      expect(checkInstrument(JSON.parse(JSON.stringify(next)))).toMatchObject({ ok: true });
      expect(next.layers[0]?.source.table?.[0]).toMatchObject({ ratio: 1, pan: 0, attack: 0 });
    }
  });
});
