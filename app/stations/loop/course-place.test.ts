import { expect, test } from "@jest/globals";
import { type Loop, newLoop, newZone } from "../../../core/instrument";
import { coursePicture } from "./course";
import { CourseFollower } from "./course-place";

const follower = (loop: Loop | null) =>
  new CourseFollower(coursePicture({ ...newZone({ id: "z", sample: "s", end: 1000 }), loop }));

test("once through: it stands where it is", () => {
  const f = follower(null);
  expect([0, 250, 900].map((frame) => f.at(frame, true))).toEqual([0, 250, 900]);
  expect(f.at(1500, true)).toBeNull();
});

test("round and round: each time one line further down, then on the last; after it is let go on the line of that", () => {
  const f = follower(newLoop({ start: 200, end: 600 }));
  expect([100, 500, 300, 550, 250, 400, 210].map((frame) => f.at(frame, true))).toEqual([
    100, 500, 700, 950, 1050, 1200, 1410,
  ]);
  // Four rounds are drawn; a fifth and a sixth stay on the last.
  expect(f.at(590, true)).toBe(1790);
  expect(f.at(220, true)).toBe(1420);
  expect(f.at(230, true)).toBe(1430);
  expect(f.at(590, false)).toBe(1790);
  expect(f.at(210, false)).toBe(1810);
});

test("there and back it turns", () => {
  const f = follower(newLoop({ start: 200, end: 600, mode: "alternating" }));
  const seen = [500, 590, 550, 300, 250, 300, 500].map((frame) => f.at(frame, true) as number);
  for (let i = 1; i < seen.length; i++) expect(seen[i]).toBeGreaterThan(seen[i - 1] as number);
});
