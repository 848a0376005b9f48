import { expect, test } from "@jest/globals";
import {
  addSamples,
  changeZones,
  History,
  newInstrument,
  newLoop,
  newSample,
  newZone,
  placeZones,
  together,
} from "../../../core/instrument";
import { crossings } from "./crossings";
import { withEdges } from "./edges";

const loop = newLoop({ start: 100, end: 300, fade: 40 });

test("the crossfade lies where its direction has it, with what lies beyond", () => {
  expect(crossings(loop)).toEqual([{ from: 260, to: 300, beyond: { from: 60, to: 100 } }]);
  expect(crossings({ ...loop, mode: "backward" })).toEqual([{ from: 140, to: 100, beyond: { from: 340, to: 300 } }]);
  expect(crossings({ ...loop, mode: "alternating" })).toHaveLength(2);
  expect(crossings({ ...loop, fade: 0 })).toEqual([]);
});

test("an edge that is moved over a loop stops there: the loop stays whole", () => {
  const zone = newZone({ id: "z", sample: "ab".repeat(32), start: 0, end: 500, loop });
  expect(withEdges(zone, { end: 10 })).toMatchObject({ start: 0, end: 300, loop });
  expect(withEdges(zone, { start: 400 })).toMatchObject({ start: 100, end: 500, loop });
  expect(withEdges({ ...zone, loop: null }, { end: 10 })).toMatchObject({ end: 10 });
});

test("a flag that is dragged there and back leaves everything as it was, the crossfade too", () => {
  const sha = "ab".repeat(32);
  const doc = together("", [
    addSamples([newSample({ sha, name: "s", frames: 500 })]),
    placeZones("main", "main", [newZone({ id: "z", sample: sha, end: 500, loop })], true),
  ]).apply(newInstrument("t", "T"));
  let history = History.of(doc);
  for (const start of [150, 280, 20, 100])
    history = history.commit(
      {
        ...changeZones(new Set(["z"]), "Set loop start", (z) => (z.loop ? { ...z, loop: { ...z.loop, start } } : z)),
        anew: true,
      },
      "drag",
    );
  expect(history.present.layers[0]?.groups[0]?.zones[0]?.loop).toEqual(loop);
  expect(history.undo().present).toEqual(doc);
});
