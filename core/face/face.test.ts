import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import {
  addFaceFont,
  addFaceItem,
  addFaceItems,
  addFacePage,
  addFacePictures,
  addLayer,
  addRoute,
  addressInTable,
  addUnit,
  bindsOf,
  changeFace,
  changeFaceFont,
  changeFaceItem,
  changeFaceItems,
  changeFacePage,
  checkInstrument,
  FACE_KINDS,
  FACE_THEMES,
  type Instrument,
  migrate,
  moving,
  newCondition,
  newFace,
  newFaceItem,
  newInstrument,
  newLayer,
  newRoute,
  newUnit,
  orderFaceItems,
  PLAIN_LOOK,
  placeFaceItem,
  removeFaceItems,
  removeFacePage,
  removeFacePictures,
  removeRows,
  removeUnit,
  setSource,
  together,
} from "../instrument";
import { type Arrangement, around, arranged, type Box } from "./arrange";
import { bindables } from "./bindable";
import { checkFace, repairAll } from "./face-check";
import { keyUnder, stripKeys } from "./key-strip";
import { faceKinds, formOf } from "./kinds";
import { FACE_PLANS, makeFace } from "./make-face";
import { nextBinding } from "./next-binding";
import { snapped } from "./snap";
import { contrast, faceTheme } from "./themes";

const PARTIALS = "layers/main/source";
const cell = (row: number) => addressInTable(PARTIALS, row, "level");
const counted = () => {
  let n = 0;
  return () => `f${++n}`;
};
/** Partials, two macros, a second layer. */
const made = (): Instrument =>
  together("", [
    setSource("main", "partials"),
    addUnit("macros", newUnit("macro", "one", "Breath")),
    addUnit("macros", newUnit("macro", "two", "Mouth")),
    addLayer(newLayer("low", "Low")),
    ...["one", "two"].map((id) => addRoute({ id, source: `macros/${id}`, target: "layers/main/strip/pan", amount: 1 })),
  ]).apply(newInstrument("i", "Choir"));
const boxes: Box[] = [
  { x: 10, y: 20, width: 40, height: 40 },
  { x: 200, y: 28, width: 60, height: 20 },
  { x: 90, y: 14, width: 20, height: 60 },
  { x: 15, y: 200, width: 50, height: 50 },
];

describe("arranging", () => {
  test("aligned edges and centres are equal, and the whole stays where it was", () => {
    for (const [how, of] of [
      ["left", (b: Box) => b.x],
      ["right", (b: Box) => b.x + b.width],
      ["top", (b: Box) => b.y],
      ["bottom", (b: Box) => b.y + b.height],
      ["centre", (b: Box) => b.x + b.width / 2],
      ["middle", (b: Box) => b.y + b.height / 2],
    ] as const) {
      const out = arranged(boxes, how);
      for (const box of out) expect(Math.abs(of(box) - of(out[0] as Box))).toBeLessThanOrEqual(1);
      out.forEach((box, i) => {
        expect([box.width, box.height]).toEqual([boxes[i]?.width, boxes[i]?.height]);
      });
    }
  });

  test("gaps are the same between the first and the last, rows, grids and circles overlap nowhere, fewer than two stay", () => {
    const out = [...arranged(boxes, "across")].sort((a, b) => a.x - b.x);
    const gaps = out.slice(1).map((b, i) => b.x - ((out[i] as Box).x + (out[i] as Box).width));
    for (const gap of gaps) expect(Math.abs(gap - (gaps[0] as number))).toBeLessThanOrEqual(1);
    expect(around(out).x).toBe(around(boxes).x);
    expect(around(out).width).toBe(around(boxes).width);
    const random = seededRandom(5);
    const many = Array.from({ length: 23 }, () => ({
      x: random() * 600,
      y: random() * 300,
      width: 20 + random() * 60,
      height: 20 + random() * 60,
    }));
    for (const how of ["row", "grid", "circle"] as const) {
      const laid = arranged(many, how);
      laid.forEach((a, i) => {
        for (const b of laid.slice(i + 1))
          expect(a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height).toBe(
            false,
          );
      });
    }
    expect(arranged(boxes, "size").every((b) => b.width === 40 && b.height === 40)).toBe(true);
    for (const how of ["left", "down", "grid"] as Arrangement[])
      expect(arranged(boxes.slice(0, 1), how)).toEqual(boxes.slice(0, 1));
  });
});

describe("settling", () => {
  const page = { width: 640, height: 360 };
  const other = { x: 100, y: 100, width: 50, height: 50 };
  test("on edges and centres of others and of the page, each way by itself, with a line where it did", () => {
    const at = snapped({ x: 153, y: 37, width: 40, height: 20 }, [other], page, 6, 4);
    expect(at.x).toBe(150);
    expect(at.guides).toEqual([{ way: "x", at: 150, from: 37, to: 150 }]);
    expect(at.y).toBe(36);
    expect(snapped({ x: 302, y: 171, width: 40, height: 20 }, [], page, 6, 4)).toMatchObject({ x: 300, y: 170 });
  });
  test("at the gap that two others have between them", () => {
    const row = [other, { ...other, x: 180 }];
    expect(snapped({ x: 262, y: 100, width: 50, height: 50 }, row, page, 6, 4).x).toBe(260);
    expect(snapped({ x: 18, y: 100, width: 50, height: 50 }, row, page, 6, 4).x).toBe(20);
  });
  test("what is far from everything stands on the grid", () => {
    expect(snapped({ x: 333.3, y: 277.7, width: 33, height: 17 }, [other], page, 4, 4)).toEqual({
      x: 332,
      y: 276,
      guides: [],
    });
  });
});

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

describe("a strip of keys", () => {
  test("white keys lie side by side over the whole width, black ones where they meet; lower is harder", () => {
    const keys = stripKeys(48, 60);
    const whites = keys.filter((k) => !k.black);
    expect(whites).toHaveLength(8);
    expect([whites[0]?.from, whites.at(-1)?.to]).toEqual([0, 1]);
    for (const black of keys.filter((k) => k.black))
      expect(whites.some((w) => Math.abs(w.from - (black.from + black.to) / 2) < 1e-9)).toBe(true);
    expect(keyUnder(keys, 0.125, 0.3)).toEqual({ key: 49, strength: expect.closeTo(0.48, 2) });
    expect(keyUnder(keys, 0.125, 0.9)).toEqual({ key: 50, strength: 0.9 });
    expect(keyUnder(keys, 0.02, 2)).toEqual({ key: 48, strength: 1 });
    expect(keyUnder(keys, 1.2, 0.5)).toBeNull();
    expect(stripKeys(49, 49)).toEqual([]);
  });
});

describe("the check", () => {
  const doc = (): Instrument =>
    together("", [
      addFacePage("back", "Back"),
      addFaceItem({ id: "loose", kind: "dial" }),
      addFaceItem({ id: "one", kind: "dial", moves: moving("macros/one/value") }),
      addFaceItem({ id: "again", kind: "slider", moves: moving("macros/one/value"), hidden: true }),
      addFaceItem({ id: "tiny", kind: "dial", moves: moving("layers/low/strip/level"), width: 20, height: 20 }),
      addFaceItem({
        id: "long",
        kind: "label",
        text: "A title that is far too long for its box",
        width: 60,
        height: 30,
      }),
    ]).apply(made());
  test("each fault is named, and all are put right in one edit", () => {
    const found = checkFace(doc(), counted());
    expect(found.map((d) => d.id)).toEqual([
      "unbound:loose",
      "double:again",
      "hidden:again",
      "small:tiny",
      "cut:long",

      "macro-two:",
      "pages:",
    ]);
    const edit = repairAll(found);
    const repaired = edit?.apply(doc()) as Instrument;
    expect(checkFace(repaired, counted())).toEqual([]);
    expect(checkInstrument(JSON.parse(JSON.stringify(repaired)))).toMatchObject({ ok: true });
    expect(checkFace(newInstrument("i", "I"), counted())).toEqual([]);
    expect(repairAll([])).toBeNull();
  });
  test("a control that moves a macro which moves nothing is told", () => {
    const idle = addFaceItem({ id: "d", kind: "dial", moves: moving("macros/m/value") }).apply({
      ...newInstrument("i", "I"),
      macros: [newUnit("macro", "m", "Glow")],
    });
    const said = (of: Instrument) => checkFace(of, counted()).filter((d) => d.id === "idle:d");
    expect(said(idle).map((d) => d.text)).toEqual([expect.stringMatching(/moves the macro Glow, which moves nothing/)]);
    const route = newRoute({ id: "r", source: "macros/m", target: "layers/main/strip/level", amount: 6 });
    expect(said({ ...idle, routes: [route] })).toEqual([]);
    expect(said({ ...idle, routes: [{ ...route, on: false }] })).toHaveLength(1);
  });
  test("what stands on no page is found, and put on the first", () => {
    const lost = addFaceItem({ id: "l", kind: "label", text: "Hub", page: "gone" }).apply(made());
    const found = checkFace(lost, counted()).filter((d) => d.id === "lost:l");
    expect(found).toHaveLength(1);
    expect(found[0]?.repair?.edit.apply(lost).face.items[0]?.page).toBe("front");
  });
  test("every theme can be read in ink and softly, on its ground and on its spot", () => {
    for (const theme of FACE_THEMES) {
      const look = faceTheme(theme);
      expect(contrast(look.ink, look.ground)).toBeGreaterThan(7);
      expect(contrast(look.soft, look.ground)).toBeGreaterThan(4.5);
      expect(contrast(look.ink, look.fill)).toBeGreaterThan(4.5);
      expect(contrast(look.onSpot, look.spot)).toBeGreaterThan(4.5);
      expect(contrast(look.spot, look.ground)).toBeGreaterThan(3);
    }
    expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
  });
});

describe("a face by one action", () => {
  test.each(FACE_PLANS.map((p) => p.id))("%s: on the page, nothing on anything else, nothing doubted", (plan) => {
    for (const doc of [
      made(),
      newInstrument("i", ""),
      { ...made(), macros: Array.from({ length: 12 }, (_, n) => newUnit("macro", `m${n}`, `Macro ${n}`)) },
    ]) {
      const items = makeFace(doc, plan, counted());
      const face = addFaceItems(items, "").apply(doc);
      expect(face.face.items).toEqual(items);
      items.forEach((a, i) => {
        for (const b of items.slice(i + 1))
          expect(a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height).toBe(
            false,
          );
      });
      const doubts = checkFace(face, counted()).filter((d) => !d.id.startsWith("macro-"));
      expect(doubts).toEqual([]);
      expect(checkInstrument(JSON.parse(JSON.stringify(face)))).toMatchObject({ ok: true });
    }
  });
  test("every kind has a label, a size of its own and a form", () => {
    expect(faceKinds().map((k) => k.kind)).toEqual([...FACE_KINDS]);
    for (const { kind, size, forms, touched = 0 } of faceKinds()) {
      expect(Math.min(...size)).toBeGreaterThanOrEqual(Math.min(touched, 40) * 0.9);
      expect(formOf({ kind, form: "nonsense" })).toBe(forms?.[0]?.id ?? "");
    }
  });
});
