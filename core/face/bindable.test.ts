import { describe, expect, test } from "@jest/globals";
import {
  addFaceItem,
  addFacePage,
  addressInTable,
  bindsOf,
  changeFacePage,
  type Instrument,
  migrate,
  moving,
  newCondition,
  removeRows,
  removeUnit,
  together,
} from "../instrument";
import { made } from "../instrument/test-choir";
import { bindables } from "./bindable";
import { nextBinding } from "./next-binding";

const PARTIALS = "layers/main/source";
const cell = (row: number) => addressInTable(PARTIALS, row, "level");

describe("binding", () => {
  test("macros come first, a table's column is there as a whole and row by row, choices only for what takes them", () => {
    const list = bindables(made(), "number", true);
    expect(list[0]).toMatchObject({ label: "Macro 1", group: "Macros" });
    const bank = list.find((b) => b.id === `${PARTIALS}/rows/*/level`);
    expect(bank?.addresses).toHaveLength(16);
    expect(list.some((b) => b.id === cell(3))).toBe(true);
    expect(list.some((b) => b.id.endsWith("locked"))).toBe(false);
    const choices = bindables(made(), "choice", false);
    expect(choices.length).toBeGreaterThan(0);
    expect(choices.some((c) => c.id.includes("macros/"))).toBe(false);
  });

  test("the next: of a row the next row, of a macro the next macro, of a layer the next layer; at the end none", () => {
    const doc = made();
    expect(nextBinding(doc, cell(3))).toBe(cell(4));
    expect(nextBinding(doc, cell(15))).toBeNull();
    expect(nextBinding(doc, "macros/one/value")).toBe("macros/two/value");
    expect(nextBinding(doc, "macros/two/value")).toBeNull();
    expect(nextBinding(doc, "layers/main/strip/level")).toBe("layers/low/strip/level");
    expect(nextBinding(doc, "layers/low/strip/level")).toBeNull();
    expect(nextBinding(doc, "nothing/here")).toBeNull();
  });

  test("what is removed is bound no longer, and what comes after it moves up: columns, conditions", () => {
    const doc = together("", [
      addFaceItem({
        id: "c",
        kind: "columns",
        moves: moving(cell(0), cell(1), cell(2)),
      }),
      addFaceItem({
        id: "d",
        kind: "dial",
        moves: moving("macros/one/value"),
        when: [newCondition("macros/two/value")],
      }),
    ]).apply(made());
    const fewer = removeRows(PARTIALS, [0], "").apply(doc);
    expect(bindsOf(fewer.face.items[0] as Instrument["face"]["items"][number])).toEqual([cell(0), cell(1)]);
    const without = removeUnit("macros", "two").apply(doc);
    expect(without.face.items[1]).toMatchObject({ moves: moving("macros/one/value"), when: [] });
  });
});

test("a page that a cell of a table shows keeps its condition, and loses it with the row", () => {
  const when = { address: cell(2), is: "above" as const, share: 0.5, upTo: 1 };
  const doc = together("", [addFacePage("loud", "Loud"), changeFacePage("loud", "", { when })]).apply(made());
  // Any removal looks for what is dead.
  const kept = removeUnit("macros", "two").apply(doc);
  expect(kept.face.pages[1]?.when).toEqual(when);
  expect(migrate(JSON.parse(JSON.stringify(kept)) as unknown).instrument?.face.pages[1]?.when).toEqual(when);
  expect(removeRows(PARTIALS, [2], "").apply(doc).face.pages[1]?.when).toBeNull();
  expect(removeRows(PARTIALS, [0], "").apply(doc).face.pages[1]?.when?.address).toBe(cell(1));
});
