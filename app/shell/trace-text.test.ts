import { describe, expect, test } from "@jest/globals";
import { type NoteTrace, REASON } from "../../core/engine";
import { addSamples, newInstrument, newSample, newZone, placeZones, setSource, together } from "../../core/instrument";
import { traceText } from "./trace-text";

const sha = (n: number) => n.toString(16).padStart(64, "0");
const instrument = together("", [
  addSamples(
    [1, 2].map((n) =>
      newSample({
        sha: sha(n),
        name: `spoke-${n}`,
        frames: 10,
      }),
    ),
  ),
  placeZones(
    "main",
    "main",
    [
      newZone({ id: "a", sample: sha(1), end: 10, velHigh: 80 }),
      newZone({ id: "b", sample: sha(2), end: 10, velLow: 81, repeat: 2 }),
    ],
    true,
  ),
]).apply(newInstrument("t", "T"));

const trace = (change: Partial<NoteTrace>): NoteTrace => ({
  key: 62,
  velocity: 92,
  frame: 0,
  zones: 2,
  otherKeys: 0,
  playedKey: 62,
  playedVelocity: 92,
  delay: 0,
  rules: "off",
  stolen: 0,
  release: false,
  bound: "no",
  at: [],
  ...change,
});
const at = (zone: number, reason: 0 | 1 | 2 | 3) => ({ layer: 0, zone, reason, rate: 1.0594, level: -6.2, from: 62 });

describe("the note trace in words", () => {
  test("what played, at which rate and level, and what did not", () => {
    const text = traceText(trace({ at: [at(0, 1), at(1, 0)] }), instrument, false);
    expect(text).toMatchObject({
      headline: "D4 · 92",
      silent: false,
      played: ["spoke-2 · rate 1.059 · −6.2 dB"],
      notes: ["velocity 1–80 passed over"],
    });
  });

  test.each([
    [{ zones: 0 }, "nothing is mapped yet"],
    [{ otherKeys: 2 }, "none of 2 zones answers this key"],
    [{ at: [at(0, 1)] }, "no zone answers this velocity"],
    [{ at: [at(0, 3)] }, "the sound is missing"],
    [{ rules: "dropped" as const }, "the rules dropped it"],
  ])("a silent note always says why: %j", (change, words) => {
    const text = traceText(trace(change), instrument, false);
    expect(text.silent).toBe(true);
    expect(text.notes.join(" ")).toContain(words);
  });

  test("voices that gave way are counted, with how many there may be; what is gone is nobody's news", () => {
    const said = (stolen: number) => traceText(trace({ stolen, at: [at(0, 1)] }), instrument, false).notes.join("; ");
    expect(said(0)).not.toContain("gave way");
    expect(said(1)).toContain("an older voice gave way: there are 64 at most");
    expect(said(12)).toContain("12 older voices gave way");
    const gone = { layer: 5, zone: 40, reason: REASON.played, rate: 0, level: -3, from: 62 };
    expect(traceText(trace({ at: [gone, at(1, 0)] }), instrument, false).played).toEqual([
      expect.stringContaining("spoke-2"),
    ]);
  });

  test("computed sound is called by its source, and says that it has no sample yet", () => {
    const computed = setSource("main", "oscillator").apply(newInstrument("t", "T"));
    const played = [{ layer: 0, zone: 0, reason: REASON.played, rate: 0, level: -6, from: 62 }];
    expect(traceText(trace({ at: played }), computed, false).played).toEqual(["Oscillator · −6.0 dB"]);
    const cloud = setSource("main", "grains").apply(newInstrument("t", "T"));
    expect(traceText(trace({ at: played }), cloud, false).notes).toEqual(["Grains: no sample is selected yet"]);
    const bare = setSource("main", "samples").apply(computed);
    expect(bare.layers[0]?.groups[0]?.zones).toEqual([]);
  });

  test("a sample on its way is told apart from one that is gone", () => {
    expect(traceText(trace({ at: [at(0, 3)] }), instrument, true).notes.join(" ")).toContain("was still loading");
  });

  test("what a rule changed is told", () => {
    const text = traceText(
      trace({ rules: "changed", playedKey: 60, playedVelocity: 100, delay: 0.004, at: [at(1, 0)] }),
      instrument,
      false,
    );
    expect(text.notes.join()).toBe("rules: key from C4, velocity from 100, 4.0 ms later");
  });
});
