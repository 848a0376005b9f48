import { expect, test } from "@jest/globals";
import { newLoop, newZone } from "../../../core/instrument";
import { slid, withEdges } from "./edges";
import { releaseNeeded } from "./release-needed";

const zone = newZone({ id: "z", sample: "s", start: 100, end: 1000 });
const loop = newLoop({ start: 300, end: 500, fade: 20 });

test("a loop slides with its length kept, and stops at both ends of what is played", () => {
  const places = [400, -50, 5000].map((to) => slid(zone, loop, to));
  expect(places.map((l) => [l.start, l.end])).toEqual([
    [400, 600],
    [100, 300],
    [800, 1000],
  ]);
});

test("edges stop at the loops", () => {
  expect(withEdges({ ...zone, loop }, { start: 400 }).start).toBe(300);
  expect(withEdges({ ...zone, loop }, { end: 200 }).end).toBe(500);
});

test("the release that a release loop needs, from the end of the sustain loop on", () => {
  expect(releaseNeeded(zone, 1000)).toBeNull();
  expect(releaseNeeded({ ...zone, loop, releaseLoop: newLoop({ start: 600, end: 800 }) }, 1000)).toBe(0.3);
  expect(releaseNeeded({ ...zone, releaseLoop: newLoop({ start: 600, end: 800 }) }, 1000)).toBe(0.7);
});
