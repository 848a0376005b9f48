import { expect, test } from "@jest/globals";
import { Fingers } from "./use-fingers";

test("each finger holds one note; a key that two hold sounds until the last is lifted", () => {
  const told: string[] = [];
  const fingers = new Fingers({
    noteOn: (key, velocity) => void told.push(`+${key} ${velocity}`),
    noteOff: (key) => void told.push(`-${key}`),
  });
  fingers.press(1, 60, 90);
  fingers.press(1, 60, 90);
  fingers.press(2, 62, 80);
  fingers.press(1, 62, 70);
  expect([fingers.keyOf(1), fingers.keyOf(2), fingers.keyOf(3)]).toEqual([62, 62, undefined]);
  fingers.lift(2);
  fingers.lift(9);
  expect(told).toEqual(["+60 90", "+62 80", "-60", "+62 70"]);
  fingers.liftAll();
  expect(told.at(-1)).toBe("-62");
});
