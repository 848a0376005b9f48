import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { addSamples, newInstrument, newSample, newZone, placeZones, type Zone } from "../instrument";
import { readZoneTable, zoneTable } from "./zone-table";

const SHA = "a".repeat(64);
const zones = [
  newZone({ id: "a", sample: SHA, end: 10, root: 60, keyLow: 58, keyHigh: 61, tune: -12.5 }),
  newZone({ id: "b", sample: SHA, end: 10, root: 72, gain: -3, repeat: 2 }),
];
const instrument = placeZones("main", "main", zones, true).apply(
  addSamples([newSample({ sha: SHA, name: "=tube\tlow", frames: 10 })]).apply(newInstrument("i", "Test")),
);
const all = new Set(["a", "b"]);

test("zones are a table that a spreadsheet takes, formulas made harmless", () => {
  const [heads, first, second, ...rest] = zoneTable(instrument, all).split("\n");
  expect(heads?.split("\t").slice(0, 6)).toEqual(["zone", "sample", "group", "root", "from key", "to key"]);
  expect(first?.split("\t").slice(0, 6)).toEqual(["a", "'=tube low", "Main", "C4", "A#3", "C#4"]);
  expect(second).toContain("\t-3\t");
  expect(rest).toEqual([""]);
  expect(zoneTable(instrument, new Set(["b"])).split("\n")).toHaveLength(3);
});

test("written and read again it changes nothing, whatever the zones are", () => {
  const key = fc.integer({ min: 0, max: 127 });
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          root: key,
          keyLow: key,
          tune: fc.double({ min: -1200, max: 1200, noNaN: true }),
          pan: fc.double({ min: -1, max: 1, noNaN: true }),
        }),
        { maxLength: 20 },
      ),
      (list) => {
        const made = list.map((z, i): Zone => newZone({ id: `z${i}`, sample: SHA, end: 10, ...z }));
        const doc = placeZones("main", "main", made, true).apply(instrument);
        const { changes, problems } = readZoneTable(zoneTable(doc, new Set(made.map((z) => z.id))), made);
        // Numbers that need an exponent are shown as they are and can't be typed so; nothing else is told.
        expect(problems.every((p) => /e-/.test(p))).toBe(true);
        expect([...changes.values()].every((c) => Object.values(c).length === 0)).toBe(true);
      },
    ),
    { numRuns: 60, seed: 2 },
  );
});

test("cells are typed as people type, rows found by zone or by their order, mistakes told by row", () => {
  const { changes, problems } = readZoneTable(
    "zone\troot\tlevel (dB)\tnotes\nb\td#4\t−1,5\thello\na\t200\tloud\t\nx\t1\t1\t",
    zones,
  );
  expect(Object.fromEntries(changes)).toEqual({ b: { root: 63, gain: -1.5 } });
  expect(problems).toEqual([
    "row 3: root can’t be “200”",
    "row 3: level (db) can’t be “loud”",
    "row 4: there is no zone for it",
  ]);
  expect(Object.fromEntries(readZoneTable("repeat\r\n3\r\n4\r\n", zones).changes)).toEqual({
    a: { repeat: 3 },
    b: { repeat: 4 },
  });
  expect(readZoneTable("what\n1", zones).problems[0]).toMatch(/names none of the columns/);
});
