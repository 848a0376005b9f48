import { expect, test } from "@jest/globals";
import {
  addSamples,
  type Instrument,
  newInstrument,
  newSample,
  newZone,
  placeZones,
  setParam,
  together,
  type Zone,
} from "../instrument";
import { keyAnswers, mappedKeys } from "./coverage";

const sha = "ab".repeat(32);
const mapped = (...zones: Partial<Zone>[]): Instrument =>
  together("", [
    addSamples([newSample({ sha, name: "s", frames: 10 })]),
    placeZones(
      "main",
      "main",
      zones.map((z, i) => newZone({ id: `z${i}`, sample: sha, end: 10, ...z })),
      true,
    ),
  ]).apply(newInstrument("t", "T"));
const GROUP = "layers/main/groups/main";

test("a key sounds only if it does at every velocity", () => {
  const doc = mapped(
    { keyLow: 60, keyHigh: 62, velLow: 20, velHigh: 90 },
    { keyLow: 61, keyHigh: 61 },
    { keyLow: 62, keyHigh: 62, velLow: 80 },
  );
  const answers = keyAnswers(doc);
  expect(answers[59]?.kind).toBe("silent");
  expect(answers[60]).toEqual({
    kind: "some",
    gaps: [
      [1, 19],
      [91, 127],
    ],
  });
  expect(answers[61]?.kind).toBe("sounds");
  expect(answers[62]).toEqual({ kind: "some", gaps: [[1, 19]] });
  expect(mappedKeys(doc)).toEqual({ low: 60, high: 62 });
  expect(mappedKeys(newInstrument("t", "T"))).toBeNull();
});

test.each([
  ["trigger", "noteOff", "silent"],
  ["probability", 0, "silent"],
  ["probability", 0.5, "conditional"],
  ["keyswitch", "momentary", "conditional"],
  ["controller", 7, "conditional"],
  ["trigger", "firstNote", "conditional"],
] as const)("a group's %s at %s makes its keys %s", (id, value, kind) => {
  const doc = mapped({ keyLow: 60, keyHigh: 60 });
  expect(keyAnswers(setParam(doc, `${GROUP}/${id}`, value).apply(doc))[60]?.kind).toBe(kind);
});

test("a zone without its sample is no answer", () => {
  expect(keyAnswers({ ...mapped({ keyLow: 60, keyHigh: 60 }), samples: [] })[60]?.kind).toBe("silent");
});
