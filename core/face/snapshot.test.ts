import { describe, expect, test } from "@jest/globals";
import {
  addFaceItem,
  addressInTable,
  checkInstrument,
  findParam,
  type Instrument,
  moving,
  newInstrument,
  setParam,
  setSource,
  together,
} from "../instrument";
import { MOST_SNAPSHOTS, readSnapshots, snapshotOf, withSnapshot } from "./snapshot";

const CELL = addressInTable("layers/main/source", 2, "level");
const doc: Instrument = together("", [
  setSource("main", "partials"),
  addFaceItem({ id: "a", kind: "dial", moves: moving("layers/main/strip/level") }),
  addFaceItem({ id: "b", kind: "choice", moves: moving("layers/main/stages/filter/type") }),
  addFaceItem({ id: "c", kind: "columns", moves: moving(CELL) }),
]).apply(newInstrument("i", "I"));
const value = (of: Instrument, address: string) => findParam(of, address)?.value;

describe("snapshots of a face", () => {
  test("what the face moves comes back as it was, cells and choices too; everything else stays", () => {
    const before = snapshotOf(doc);
    expect(Object.keys(before)).toHaveLength(3);
    const turned = together("", [
      setParam(doc, "layers/main/strip/level", -20),
      setParam(doc, "layers/main/stages/filter/type", "notch"),
      setParam(doc, "layers/main/strip/pan", 0.5),
      setParam(doc, CELL, -30),
    ]).apply(doc);
    const after = snapshotOf(turned);
    const back = withSnapshot(turned, before);
    expect(snapshotOf(back)).toEqual(before);
    expect(value(back, "layers/main/strip/pan")).toBe(0.5);
    expect(snapshotOf(withSnapshot(doc, after))).toEqual(after);
    expect(withSnapshot(doc, before)).toBe(doc);
  });

  test("what isn't on the face, isn't there, or can't be so changes nothing; numbers are kept in range", () => {
    const odd = {
      "layers/main/strip/pan": 1,
      "nowhere/at/all": 3,
      "layers/main/stages/filter/type": "sideways",
      "layers/main/strip/level": 1e9,
      [CELL]: "loud",
    };
    const next = withSnapshot(doc, odd);
    expect(value(next, "layers/main/strip/pan")).toBe(0);
    expect(value(next, "layers/main/stages/filter/type")).toBe(value(doc, "layers/main/stages/filter/type"));
    expect(checkInstrument(JSON.parse(JSON.stringify(next)))).toMatchObject({ ok: true });
    expect(withSnapshot(doc, { "layers/main/strip/level": Number.NaN })).toBe(doc);
  });

  test("presets that were kept before version 14 are what they were", () => {
    const with14 = addFaceItem({ id: "m", kind: "switch", moves: moving("layers/main/strip/mute") }).apply(doc);
    const next = withSnapshot(with14, { "layers/main/strip/heard": 0, "layers/main/stages/filter/mode": "notch" });
    expect(value(next, "layers/main/strip/mute")).toBe(1);
    expect(value(next, "layers/main/stages/filter/type")).toBe("notch");
    // What it says by the ids of now counts more.
    const both = withSnapshot(with14, { "layers/main/strip/heard": 0, "layers/main/strip/mute": 0 });
    expect(value(both, "layers/main/strip/mute")).toBe(0);
  });

  test("text of anybody's: what is none is left out, names and numbers of them have their limits", () => {
    for (const text of ["", "{", "3", "null", '{"name":"x"}', '[1,null,"x",{"name":""},{"name":"a","values":3}]'])
      expect(readSnapshots(text)).toEqual([]);
    expect(readSnapshots('[{"name":" Soft ","values":{"a":1,"b":"low","c":null,"d":{"e":1}}}]')).toEqual([
      { name: "Soft", values: { a: 1, b: "low" } },
    ]);
    const many = Array.from({ length: 999 }, (_, n) => ({ name: "n".repeat(n + 1), values: {} }));
    const read = readSnapshots(JSON.stringify(many));
    expect(read).toHaveLength(MOST_SNAPSHOTS);
    expect(read.every((s) => s.name.length <= 80)).toBe(true);
  });
});
