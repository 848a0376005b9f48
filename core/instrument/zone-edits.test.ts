import { expect, test } from "@jest/globals";
import { together } from "./about-edits";
import { newInstrument, newSample, newZone } from "./defaults";
import { setSource } from "./layer-edits";
import { setUnitSample } from "./param-edits";
import { addSamples, listUnplayed, placeZones } from "./zone-edits";

const sha = (n: number): string => String(n).repeat(64);
const sample = (n: number) => newSample({ sha: sha(n), name: `sound ${n}`, frames: 100 });

test("what no zone and no source plays waits, in the order in which it came; impulses never do", () => {
  const room = newSample({ sha: sha(9), name: "room", frames: 100, use: "impulse" });
  const start = addSamples([sample(1), sample(2), sample(3), room]).apply(newInstrument("i", "I"));
  const names = (doc: typeof start) => listUnplayed(doc).map((s) => s.name);
  expect(names(start)).toEqual(["sound 1", "sound 2", "sound 3"]);
  const zone = newZone({ id: "z", sample: sha(2), end: 100 });
  const mapped = placeZones("main", "main", [zone], true).apply(start);
  expect(names(mapped)).toEqual(["sound 1", "sound 3"]);
  const taken = together("", [setSource("main", "grains"), setUnitSample("layers/main/source", sample(3))]).apply(
    mapped,
  );
  expect(names(taken)).toEqual(["sound 1"]);
});
