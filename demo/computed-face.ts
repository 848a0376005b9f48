import { addFaceItem, addRoute, addUnit, type Edit, newUnit } from "../core/instrument";

/** The title of a computed instrument's face, and a line under it. */
export const titled = (title: string, under: string): Edit[] => [
  addFaceItem({ id: "title", kind: "label", x: 40, y: 30, width: 560, height: 44, text: title, bind: null }),
  addFaceItem({ id: "under", kind: "label", x: 40, y: 76, width: 560, height: 24, text: under, bind: null }),
];

/** A row of dials, as many as have room beside each other. */
export const dials = (y: number, width: number, of: readonly (readonly [text: string, bind: string])[]): Edit[] =>
  of.map(([text, bind], i) =>
    addFaceItem({
      id: `dial-${y}-${i + 1}`,
      kind: "dial",
      x: Math.round(40 + (i * (560 - width)) / Math.max(1, of.length - 1)),
      y,
      width,
      height: width + 30,
      text,
      bind,
    }),
  );

/** A macro that moves some parameters, each by so much at full turn. */
export const macro = (
  id: string,
  name: string,
  moves: readonly (readonly [target: string, amount: number])[],
): Edit[] => [
  addUnit("macros", newUnit("macro", id, name)),
  ...moves.map(([target, amount], i) => addRoute({ id: `${id}-${i + 1}`, source: `macros/${id}`, target, amount })),
];
