import { expect, test } from "@jest/globals";
import { newLoop, newZone, settleZone, type Zone } from "../../../core/instrument";
import { unheardParts } from "./unheard-parts";

const zone = (given: Partial<Zone>): Zone => ({ ...newZone({ id: "z", sample: "s", end: 1000 }), ...given });
const ids = (given: Partial<Zone>) => unheardParts(zone(given)).map((p) => p.id);
const loop = newLoop({ start: 200, end: 600 });

test("what is heard as it seems is not spoken of", () => {
  expect(ids({})).toEqual([]);
  expect(ids({ loop })).toEqual([]);
  expect(ids({ loop, releaseLoop: newLoop({ start: 700, end: 900, times: 2 }) })).toEqual([]);
  expect(ids({ loop: { ...loop, times: 3 }, oneShot: true })).toEqual([]);
});

test.each<[string, Partial<Zone>]>([
  ["one-shot", { loop, oneShot: true }],
  ["once", { loop: { ...loop, times: 1 } }],
  ["release-once", { releaseLoop: newLoop({ start: 700, end: 900, times: 1 }) }],
  ["order", { loop, releaseLoop: newLoop({ start: 100, end: 300, times: 2 }) }],
  ["order", { loop: newLoop({ start: 200, end: 1000 }), releaseLoop: newLoop({ start: 100, end: 300, times: 2 }) }],
])("%s: it is said, and its repair mends it", (id, given) => {
  expect(ids(given)).toEqual([id]);
  const [part] = unheardParts(zone(given));
  const mended = settleZone(part?.repair.change(zone(given)) as Zone, 1000);
  const left = unheardParts(mended).map((p) => p.id);
  // A sustain loop that reaches to the very end leaves no room behind it.
  expect(left).toEqual(given.loop?.end === 1000 ? ["order"] : []);
});
