import { describe, expect, test } from "@jest/globals";
import { moving, newCondition, newFaceItem, newInstrument, newLayer, newUnit, setParam } from "../../core/instrument";
import { type Bound, boundOf, boundTo, over, standingOf } from "./face-world";

const PAN = "layers/main/strip/pan";
const doc = newInstrument("i", "I");
const way = (from: number, to: number) => ({ from, to, bend: 0 });
const bound = (of = doc): Bound => boundTo(of, PAN) as Bound;

describe("what an item moves", () => {
  test("over a part of its travel: both ways round, at the nearer end beside it, and never beyond", () => {
    const half = over(bound(), way(0.5, 1));
    expect(half.travel).toBe(0);
    expect([half.atTravel(0), half.atTravel(0.5), half.atTravel(9)]).toEqual([0, 0.5, 1]);
    const turned = over(bound(setParam(doc, PAN, 0.5).apply(doc)), way(1, 0));
    expect(turned.travel).toBeCloseTo(0.25, 9);
    expect(turned.atTravel(0)).toBe(1);
    const left = over(bound(setParam(doc, PAN, -1).apply(doc)), way(0.5, 1));
    expect(left.travel).toBe(0);
    const still = over(bound(), way(0.3, 0.3));
    expect([still.travel, still.atTravel(1)]).toEqual([0, still.atTravel(0)]);
    // Bent: most of the way is done soon, and the place is found again.
    const soon = over(bound(), { from: 0, to: 1, bend: 0.7 });
    expect(Number(soon.atTravel(0.25))).toBeGreaterThan(0.3);
    const there = over(bound(setParam(doc, PAN, soon.atTravel(0.25)).apply(doc)), { from: 0, to: 1, bend: 0.7 });
    expect(there.travel).toBeCloseTo(0.25, 6);
  });

  test("which layer of a set is chosen has as many places as the set has layers, each of which can be reached", () => {
    const layers = ["a", "b", "c"].map((id) => ({ ...newLayer(id, id), set: "s" }));
    const of = { ...doc, sets: [newUnit("set", "s")], layers: [...layers, newLayer("d", "d")] };
    const chosen = boundTo(of, "sets/s/selected") as Bound;
    expect(chosen.steps).toBe(3);
    expect([0, 0.5, 1].map(chosen.atTravel)).toEqual([1, 2, 3]);
    for (const n of [1, 2, 3]) {
      const set = boundTo(setParam(of, "sets/s/selected", n).apply(of), "sets/s/selected") as Bound;
      expect(set.travel).toBe((n - 1) / 2);
    }
  });

  test("in order, without what is gone; a choice goes by its places", () => {
    const item = newFaceItem({
      id: "c",
      kind: "columns",
      moves: moving("gone", PAN, "layers/main/stages/filter/type"),
    });
    const list = boundOf(doc, item);
    expect(list.map((b) => b.address)).toEqual([PAN, "layers/main/stages/filter/type"]);
    const mode = list[1] as Bound;
    expect([mode.atTravel(0), mode.atTravel(1)]).toEqual(["low", "highShelf"]);
    expect(mode.steps).toBe(8);
  });

  test("conditions: all that show it must hold, a tone and a picture count while theirs do; of what is gone they hold", () => {
    const when = { ...newCondition(PAN), does: "shows" as const };
    const standing = (...list: readonly (typeof when | ReturnType<typeof newCondition>)[]) =>
      standingOf(doc, { when: list });
    expect(standing()).toEqual({ shown: true, usable: true, tone: null, picture: null });
    expect(standing(when).shown).toBe(true);
    expect(standing(when, { ...when, is: "below" }).shown).toBe(false);
    expect(standing({ ...when, address: "gone", is: "below" }).shown).toBe(true);
    expect(standing({ ...when, does: "enables", is: "below" })).toMatchObject({ shown: true, usable: false });
    expect(standing({ ...when, does: "colours", tone: "soft" }).tone).toBe("soft");
    expect(
      standing({ ...when, does: "pictures", picture: "p" }, { ...when, does: "pictures", is: "below" }).picture,
    ).toBe("p");
  });
});
