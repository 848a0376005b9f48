import { describe, expect, test } from "@jest/globals";
import { addFaceItems, checkInstrument, FACE_KINDS, newInstrument, newUnit } from "../instrument";
import { counted, made } from "../instrument/test-choir";
import { checkFace } from "./face-check";
import { faceKinds, formOf } from "./kinds";
import { FACE_PLANS, makeFace } from "./make-face";

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
