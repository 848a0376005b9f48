import { expect, test } from "@jest/globals";
import {
  addFaceItem,
  addSamples,
  changeAbout,
  moving,
  newInstrument,
  newSample,
  newZone,
  placeZones,
  setParam,
  setSource,
  together,
} from "../../../core/instrument";
import { STATIONS } from "../../shell/stations";
import { checks } from "./checks";

const sha = (n: number) => n.toString(16).padStart(64, "0");
const empty = newInstrument("t", "New instrument");
const samples = addSamples(
  [1, 2, 3].map((n) =>
    newSample({
      sha: sha(n),
      name: `s${n}`,
      frames: 10,
    }),
  ),
);
const zone = (id: string, n: number, keyLow: number, keyHigh: number) =>
  newZone({ id, sample: sha(n), end: 10, keyLow, keyHigh });
const said = (doc: typeof empty) =>
  checks(doc)
    .map((c) => `${c.kind}: ${c.text}`)
    .join("\n");

test("an instrument without zones may not leave", () => {
  expect(checks(empty)).toEqual([{ kind: "error", text: expect.stringContaining("silent") }]);
});

test("gaps, unused samples, a missing name, maker, licence and unbound dials are told", () => {
  const doc = together("", [
    samples,
    placeZones("main", "main", [zone("a", 1, 40, 45), zone("b", 2, 50, 60)], true),
    addFaceItem({ id: "d", kind: "dial", x: 0, y: 0, width: 60, height: 60, text: "" }),
  ]).apply(empty);
  const text = said(doc);
  for (const words of [
    "4 keys between E2 and C4 have no zone that answers: A#2, B2, C3, C#3",
    "1 sample is not mapped",
    "no name of its own",
    "who made it",
    "what others may do",
    "1 control on its face is not bound",
  ]) {
    expect(text).toContain(words);
  }
});

test("a finished one has nothing but good", () => {
  const doc = together("", [
    samples,
    placeZones("main", "main", [zone("a", 1, 40, 45), zone("b", 2, 46, 60), zone("c", 3, 46, 60)], true),
    addFaceItem({
      id: "d",
      kind: "dial",
      x: 0,
      y: 0,
      width: 60,
      height: 60,
      text: "",
      moves: moving("macros/macro1/value"),
    }),
    changeAbout({ name: "Harp", maker: "Shop", licence: "CC0-1.0" }),
  ]).apply(empty);
  expect(checks(doc)).toEqual([
    {
      kind: "good",
      text: "A zone answers every key from E2 to C4, at every velocity. How it sounds was not listened to.",
    },
  ]);
  // A layer that isn't heard, is at nothing, or has no sample to compute from, answers for no key.
  for (const edit of [
    setParam(doc, "layers/main/strip/mute", 1),
    setParam(doc, "layers/main/strip/level", -60),
    setSource("main", "grains"),
  ])
    expect(said(edit.apply(doc))).toMatch(/keys between E2 and C4 have no zone that answers/);
});

test("the rail begins empty and says how far each station is", () => {
  const states = (doc: typeof empty) => Object.fromEntries(STATIONS.map((s) => [s.id, s.state(doc)]));
  expect(states(empty)).toMatchObject({
    take: { text: "empty", progress: "empty" },
    map: { progress: "empty" },
    loop: { text: "0 of 0" },
    rules: { text: "off", progress: "empty" },
    ship: { text: "not yet" },
  });
  const doc = together("", [samples, placeZones("main", "main", [zone("a", 1, 40, 45)], true)]).apply(empty);
  expect(states(doc)).toMatchObject({
    cut: { text: "3 samples" },
    map: { text: "1 · E2–A2", progress: "full" },
    loop: { text: "0 of 1" },
    ship: { text: "unnamed", progress: "half" },
  });
});
