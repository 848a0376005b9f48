import { describe, expect, test } from "@jest/globals";
import {
  addFaceItem,
  addFacePage,
  checkInstrument,
  FACE_THEMES,
  type Instrument,
  moving,
  newInstrument,
  newRoute,
  newUnit,
  together,
} from "../instrument";
import { counted, made } from "../instrument/test-choir";
import { checkFace, repairAll } from "./face-check";
import { contrast, faceTheme } from "./themes";

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
