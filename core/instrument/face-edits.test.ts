import { describe, expect, test } from "@jest/globals";
import { checkFace } from "../face/face-check";
import {
  addFaceFont,
  addFaceItem,
  addFaceItems,
  addFacePage,
  addFacePictures,
  changeFace,
  changeFaceFont,
  changeFaceItem,
  changeFaceItems,
  changeFacePage,
  type Instrument,
  migrate,
  moving,
  newCondition,
  newFace,
  newFaceItem,
  newInstrument,
  orderFaceItems,
  PLAIN_LOOK,
  placeFaceItem,
  removeFaceItems,
  removeFacePage,
  removeFacePictures,
  together,
} from ".";
import { made } from "./test-choir";

describe("editing a face", () => {
  const face = (): Instrument =>
    addFaceItems(
      ["a", "b", "c", "d"].map((id, i) => newFaceItem({ id, kind: "dial", x: i * 50 })),
      "",
    ).apply(newInstrument("i", "I"));
  const order = (doc: Instrument) => doc.face.items.map((i) => i.id).join("");
  test("order: to the front, to the back, past the next", () => {
    const doc = face();
    expect(order(orderFaceItems(new Set(["a", "c"]), "front").apply(doc))).toBe("bdac");
    expect(order(orderFaceItems(new Set(["d", "b"]), "back").apply(doc))).toBe("bdac");
    expect(order(orderFaceItems(new Set(["a"]), "forward").apply(doc))).toBe("bacd");
    expect(order(orderFaceItems(new Set(["d"]), "forward").apply(doc))).toBe("abcd");
    expect(order(orderFaceItems(new Set(["c"]), "backward").apply(doc))).toBe("acbd");
    expect(orderFaceItems(new Set(["x"]), "front").apply(doc)).toBe(doc);
  });
  test("items stay on the page whatever is asked of them, also when it becomes smaller; the last page stays", () => {
    const doc = changeFaceItems(new Set(["a", "b"]), "", (i) => ({ x: i.x + 9999, y: -50, width: 1e5 })).apply(face());
    for (const { x, y, width } of doc.face.items.slice(0, 2)) expect([x, y, width]).toEqual([0, 0, 640]);
    const small = changeFace("", { width: 100, height: 100 }).apply(face());
    for (const { x, width } of small.face.items) expect(x + width).toBeLessThanOrEqual(100);
    expect(removeFacePage("front").apply(doc)).toBe(doc);
    const two = together("", [
      addFacePage("back", "Back"),
      addFaceItem({ id: "e", kind: "label", page: "back" }),
    ]).apply(face());
    expect(
      removeFacePage("back")
        .apply(two)
        .face.items.map((i) => i.id),
    ).toEqual(["a", "b", "c", "d"]);
    expect(order(removeFaceItems(new Set(["a", "d"])).apply(doc))).toBe("bc");
  });
  test("an older document's dials and labels stand on its only page", () => {
    const { theme: _t, pages: _p, ...older } = face().face;
    const raw = {
      ...face(),
      version: 10,
      face: {
        ...older,
        items: older.items.map(({ id, kind, x, y, width, height, text }) => ({
          ...{ id, kind, x, y, width, height, text },
          bind: null,
        })),
      },
    };
    const { instrument } = migrate(JSON.parse(JSON.stringify(raw)) as unknown) as unknown as { instrument: Instrument };
    const now = instrument ?? (migrate(JSON.parse(JSON.stringify(raw)) as unknown) as unknown as Instrument);
    expect(now.face).toEqual(face().face);
  });
  test("of version 11 what moved several, over a part of its travel, under a condition, still does", () => {
    const doc = made();
    const before = {
      ...{ id: "x", kind: "xy", name: "", page: "front", x: 8, y: 8, width: 90, height: 90, text: "" },
      ...{ bind: "macros/one/value", also: ["macros/two/value"], from: 0.75, to: 0.25, form: "", tone: "ink" },
      ...{ group: null, locked: false, hidden: false },
      when: { address: "macros/two/value", is: "below", share: 0.25, does: "shows" },
    };
    const face = { width: 640, height: 360, theme: "kraft", pages: [{ id: "front", name: "Front" }], items: [before] };
    const { instrument, faults } = migrate(JSON.parse(JSON.stringify({ ...doc, version: 11, face })) as unknown);
    expect(faults).toEqual([]);
    expect(instrument?.face).toEqual({
      ...doc.face,
      theme: "kraft",
      items: [
        newFaceItem({
          ...{ id: "x", kind: "xy", x: 8, y: 8, width: 90, height: 90 },
          moves: moving("macros/one/value", "macros/two/value").map((m) => ({ ...m, from: 0.75, to: 0.25 })),
          when: [{ ...newCondition("macros/two/value"), is: "below", share: 0.25, does: "shows" }],
        }),
      ],
    });
  });
  test("colours, pictures and fonts are what they say and nothing that a page would fetch", () => {
    const odd = (change: Partial<Instrument["face"]>) =>
      migrate(JSON.parse(JSON.stringify({ ...made(), face: { ...made().face, ...change } })) as unknown);
    const ground = { ...newFace().ground, kind: "colour" as const, colour: "url(http://elsewhere/x.png)" };
    expect(odd({ ground }).instrument?.face.ground.colour).toBe("#ffffff");
    const picture = { id: "p", name: "P", width: 8, height: 8, data: "data:text/html;base64,PHA+" };
    const outside = { ...picture, id: "q", data: "http://elsewhere/x.png" };
    const right = { ...picture, id: "r", data: "data:image/png;base64,iVBORw0KGgo=" };
    const settled = odd({ pictures: [picture, outside, right] });
    expect(settled.instrument?.face.pictures).toEqual([right]);
    expect(settled.faults.map((f) => f.path)).toEqual(["face.pictures[0].data", "face.pictures[1].data"]);
    const large = { ...right, data: `data:image/png;base64,${"A".repeat(11e6)}` };
    expect(odd({ pictures: [large] }).instrument?.face.pictures).toHaveLength(1);
    const look = { ...PLAIN_LOOK, ink: "red;background:url(x)", letters: 1e9 };
    const item = odd({ items: [newFaceItem({ id: "a", kind: "dial", look })] }).instrument?.face.items[0];
    expect(item?.look).toEqual({ ...PLAIN_LOOK, letters: 400 });
  });
  test("pages have sizes of their own, within which items stay; a picture that goes is drawn nowhere any more", () => {
    const doc = together("", [
      addFacePage("small", "Small"),
      changeFacePage("small", "", { width: 10, height: 10 }),
      addFaceItems([newFaceItem({ id: "e", kind: "dial", page: "small", x: 300, y: 300 })], ""),
      addFacePictures([{ id: "p", name: "P", width: 8, height: 80, data: "data:image/png;base64,AAAA" }]),
      changeFaceItem("a", "", {
        pictures: [{ picture: "p", does: "frames", frames: 10, rate: 12 }],
        when: [{ ...newCondition("macros/one/value"), does: "pictures", picture: "p" }],
      }),
    ]).apply({ ...face(), macros: made().macros });
    expect(doc.face.items.at(-1)).toMatchObject({ x: 0, y: 0, width: 10, height: 10 });
    expect(checkFace(doc, () => "n").some((d) => d.id.startsWith("unused"))).toBe(false);
    const font = { id: "f", name: "F", licence: "", data: "data:font/woff2;base64,AAAA" };
    const lettered = together("", [
      addFaceFont(font),
      changeFaceItem("b", "", { look: { ...PLAIN_LOOK, font: "f" } }),
    ]).apply(doc);
    const said = (of: Instrument) => checkFace(of, () => "n").filter((d) => d.id.startsWith("licence"));
    expect(said(lettered)).toHaveLength(1);
    expect(said(changeFaceFont("f", { licence: "OFL-1.1" }).apply(lettered))).toEqual([]);
    const plain = said(lettered)[0]?.repair?.edit.apply(lettered);
    expect([plain?.face.fonts, plain?.face.items[1]?.look.font]).toEqual([[], null]);
    const without = removeFacePictures(new Set(["p"])).apply(doc);
    expect(without.face.pictures).toEqual([]);
    expect(without.face.items[0]).toMatchObject({ pictures: [], when: [] });
    expect(order(placeFaceItem("d", null).apply(doc))).toBe("dabce");
    expect(order(placeFaceItem("a", "c").apply(doc))).toBe("bcade");
    expect(placeFaceItem("x", "c").apply(doc)).toBe(doc);
  });
});
