import {
  addFaceItem,
  addRoute,
  addUnit,
  changeFace,
  type Edit,
  type FaceTheme,
  moving,
  newUnit,
} from "../core/instrument";

/** A computed instrument's face: its theme, its title, and a line under that. */
export const titled = (theme: FaceTheme, title: string, under: string): Edit[] => [
  changeFace("Set theme", { theme }),
  addFaceItem({ id: "title", kind: "label", x: 40, y: 30, width: 560, height: 44, text: title }),
  addFaceItem({ id: "under", kind: "label", x: 40, y: 76, width: 560, height: 24, text: under, tone: "soft" }),
];

/** A drawing as a picture of a face has it. */
export const drawing = (svg: string): string => `data:image/svg+xml;base64,${btoa(svg)}`;

/** A row of dials, as many as have room beside each other, from `left` on over so many pixels. */
export const dials = (
  y: number,
  width: number,
  of: readonly (readonly [text: string, bind: string])[],
  across = 560,
  left = 40,
): Edit[] =>
  of.map(([text, bind], i) =>
    addFaceItem({
      id: `dial-${y}-${i + 1}`,
      kind: "dial",
      x: Math.round(left + (i * (across - width)) / Math.max(1, of.length - 1)),
      y,
      width,
      height: width + 30,
      text,
      moves: moving(bind),
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
