import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  addFaceItem,
  addFaceItems,
  addFacePage,
  changeFace,
  changeFaceItem,
  changeFacePage,
  type Instrument,
  newFaceItem,
  newInstrument,
  SCREENS,
  together,
} from "../instrument";
import { flowed, withScreen } from "./flow";
import { laidOut, placeOn, screenFor, throughScreen } from "./screens";

const made = (): Instrument =>
  together("", [
    changeFace("", { width: 640, height: 360, phone: { width: 320, height: 640 } }),
    addFaceItems(
      (["start", "middle", "end", "both", "scale"] as const).map((anchor) =>
        newFaceItem({
          id: anchor,
          kind: "dial",
          x: 100,
          y: 40,
          width: 80,
          height: 80,
          anchorX: anchor,
          anchorY: "start",
        }),
      ),
      "",
    ),
  ]).apply(newInstrument("i", "I"));
const item = (doc: Instrument, id: string) =>
  doc.face.items.find((i) => i.id === id) ?? newFaceItem({ id, kind: "dial" });

describe("a face on other screens", () => {
  test("anchors: the distance to an edge, to the middle, to both edges, or all in proportion", () => {
    const doc = made();
    const at = (id: string) => placeOn(item(doc, id), doc.face, "phone");
    expect([at("start").x, at("start").width]).toEqual([100, 80]);
    // 460 px were to the right of it; no more than the page has.
    expect([at("end").x, at("end").width]).toEqual([0, 80]);
    expect([at("middle").x, at("middle").width]).toEqual([0, 80]);
    expect([at("both").x, at("both").width]).toEqual([100, 1]);
    expect([at("scale").x, at("scale").width]).toEqual([50, 40]);
    expect(at("scale").y).toBe(40);
  });

  test("which one a window shows: the nearest that there is", () => {
    const { face } = made();
    expect([360, 600, 601, 1400].map((width) => screenFor(face, width))).toEqual(["phone", "phone", null, null]);
    const both = { ...face, tablet: { width: 800, height: 600 } };
    expect([360, 700, 1001].map((width) => screenFor(both, width))).toEqual(["phone", "tablet", null]);
    expect(screenFor({ ...both, phone: null }, 360)).toBe("tablet");
  });

  test("an edit through a screen: places are that screen’s alone, all else is everybody’s", () => {
    const doc = made();
    const moved = throughScreen(changeFaceItem("scale", "Move", { x: 7, text: "Tone" }), "phone").apply(doc);
    expect(item(moved, "scale")).toMatchObject({ x: 100, width: 80, text: "Tone", phone: { x: 7, width: 40 } });
    expect(item(moved, "end")).toBe(item(doc, "end"));
    const hidden = throughScreen(changeFaceItem("end", "Hide", { hidden: true }), "phone").apply(moved);
    expect(item(hidden, "end")).toMatchObject({ hidden: false, phone: { hidden: true } });
    // As its anchors have it again, there.
    const back = throughScreen(changeFaceItem("scale", "", { phone: null }), "phone").apply(moved);
    expect(item(back, "scale")).toMatchObject({ phone: null, x: 100 });
    const sized = throughScreen(changeFace("", { width: 300, height: 500 }), "phone").apply(doc);
    expect([sized.face.width, sized.face.phone]).toEqual([640, { width: 300, height: 500 }]);
    const added = throughScreen(addFaceItem({ id: "n", kind: "dial", x: 9, y: 9 }), "phone").apply(doc);
    expect(item(added, "n").phone).toMatchObject({ x: 9, y: 9 });
    expect(throughScreen(changeFaceItem("scale", "Move", { x: 7 }), null).apply(doc).face.items[4]).toMatchObject({
      x: 7,
      phone: null,
    });
  });

  test("pages of a size of their own are as large as the screen at the most, and keep their size elsewhere", () => {
    const doc = together("", [
      addFacePage("over", "Over"),
      changeFacePage("over", "", { width: 400, height: 200 }),
    ]).apply(made());
    const view = laidOut(doc.face, "phone");
    expect(view.pages[1]).toMatchObject({ width: 320, height: 200 });
    const named = throughScreen(changeFacePage("over", "", { name: "Above" }), "phone").apply(doc);
    expect(named.face.pages[1]).toMatchObject({ name: "Above", width: 400, height: 200 });
  });

  test("whatever is done, everything stays on its page, and looking changes nothing", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            x: fc.integer({ min: -50, max: 900 }),
            y: fc.integer({ min: -50, max: 900 }),
            width: fc.integer({ min: 1, max: 900 }),
            screen: fc.constantFrom(...SCREENS, null),
            of: fc.constantFrom("start", "middle", "end", "both", "scale"),
          }),
          { maxLength: 12 },
        ),
        (steps) => {
          let doc = made();
          for (const { screen, of, x, y, width } of steps) {
            const untouched = doc.face.items.filter((i) => i.id !== of);
            doc = throughScreen(changeFaceItem(of, "", { x, y, width }), screen).apply(doc);
            for (const before of untouched) expect(item(doc, before.id)).toBe(before);
          }
          for (const screen of [...SCREENS, null]) {
            const view = laidOut(doc.face, screen);
            for (const i of view.items) {
              expect(i.x).toBeGreaterThanOrEqual(0);
              expect(i.x + i.width).toBeLessThanOrEqual(view.width);
              expect(i.y + i.height).toBeLessThanOrEqual(view.height);
            }
            const same = throughScreen({ name: "", apply: (d) => ({ ...d, face: { ...d.face } }) }, screen).apply(doc);
            expect(same.face).toEqual(doc.face);
          }
        },
      ),
      { seed: 5, numRuns: 60 },
    );
  });

  test("a screen of another form: items flow in lines as they are read, nothing over another, all on the page", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            x: fc.integer({ min: 0, max: 560 }),
            y: fc.integer({ min: 0, max: 300 }),
            w: fc.integer({ min: 20, max: 600 }),
            h: fc.integer({ min: 20, max: 200 }),
          }),
          { minLength: 1, maxLength: 30 },
        ),
        (boxes) => {
          const items = boxes.map(({ x, y, w, h }, i) =>
            newFaceItem({ id: `i${i}`, kind: "dial", x, y, width: w, height: h }),
          );
          const doc = addFaceItems(items, "").apply(newInstrument("i", "I"));
          const face = withScreen(doc.face, "phone", { width: 360, height: 640 });
          const placed = laidOut(face, "phone").items;
          for (const a of placed) {
            expect([a.x >= 0, a.y >= 0, a.x + a.width <= 360, a.y + a.height <= 640]).toEqual([true, true, true, true]);
            for (const b of placed) {
              if (a === b) continue;
              const apart =
                a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;
              expect(apart).toBe(true);
            }
          }
        },
      ),
      { seed: 9, numRuns: 80 },
    );
    // A long line is written smaller where it would be cut off.
    const line = newFaceItem({
      id: "t",
      kind: "label",
      text: "A long line about what this is",
      width: 600,
      height: 40,
    });
    const written = flowed(addFaceItems([line], "").apply(newInstrument("i", "I")).face, "front", {
      width: 360,
      height: 640,
    });
    const { width = 0, height = 0 } = written?.get("t") ?? {};
    expect(height).toBeLessThan(40);
    expect(line.text.length * height * 0.7 * 0.54).toBeLessThanOrEqual(width * 1.06);
    expect(flowed(made().face, "front", { width: 800, height: 560 })).toBeNull();
    expect(withScreen(made().face, "tablet", { width: 800, height: 560 }).items.every((i) => i.tablet === null)).toBe(
      true,
    );
  });
});
