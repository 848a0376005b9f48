import { describe, expect, test } from "@jest/globals";
import { newFaceItem, newInstrument, setParam } from "../../core/instrument";
import { type Bound, boundOf, boundTo, holds, over } from "./face-world";

const PAN = "layers/main/strip/pan";
const doc = newInstrument("i", "I");
const bound = (of = doc): Bound => boundTo(of, PAN) as Bound;

describe("what an item moves", () => {
  test("over a part of its travel: both ways round, at the nearer end beside it, and never beyond", () => {
    const half = over(bound(), 0.5, 1);
    expect(half.travel).toBe(0);
    expect([half.atTravel(0), half.atTravel(0.5), half.atTravel(9)]).toEqual([0, 0.5, 1]);
    const turned = over(bound(setParam(doc, PAN, 0.5).apply(doc)), 1, 0);
    expect(turned.travel).toBeCloseTo(0.25, 9);
    expect(turned.atTravel(0)).toBe(1);
    const left = over(bound(setParam(doc, PAN, -1).apply(doc)), 0.5, 1);
    expect(left.travel).toBe(0);
    const still = over(bound(), 0.3, 0.3);
    expect([still.travel, still.atTravel(1)]).toEqual([0, still.atTravel(0)]);
  });

  test("in order, without what is gone; a choice goes by its places", () => {
    const item = newFaceItem({ id: "c", kind: "columns", bind: "gone", also: [PAN, "layers/main/stages/filter/mode"] });
    const list = boundOf(doc, item);
    expect(list.map((b) => b.address)).toEqual([PAN, "layers/main/stages/filter/mode"]);
    const mode = list[1] as Bound;
    expect([mode.atTravel(0), mode.atTravel(1)]).toEqual(["low", "highShelf"]);
    expect(mode.steps).toBe(8);
  });

  test("a condition holds at its place and above, or below it; of what is gone it holds", () => {
    const when = { address: PAN, is: "above", share: 0.5, does: "shows" } as const;
    expect(holds(doc, { when })).toBe(true);
    expect(holds(doc, { when: { ...when, is: "below" } })).toBe(false);
    expect(holds(setParam(doc, PAN, -0.1).apply(doc), { when })).toBe(false);
    expect(holds(doc, { when: { ...when, address: "gone" } })).toBe(true);
    expect(holds(doc, { when: null })).toBe(true);
  });
});
