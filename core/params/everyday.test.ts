import { expect, test } from "@jest/globals";
import { addUnit, listParams, newInstrument, newUnit } from "../instrument";
import { foundBy } from "./everyday";

const labels = listParams(addUnit("effects", newUnit("delay", "d")).apply(newInstrument("i", "I"))).map((p) => p.label);
const found = (typed: string) => labels.filter((label) => foundBy(label, typed));

test.each([
  ["pitch", "Samples transpose"],
  ["volume", "Layer level"],
  ["vibrato", "Samples fine"],
  ["brightness", "Filter cutoff"],
  ["echo", "Delay mix"],
  ["room", "Reverb size"],
  ["reverb dry", "Reverb mix"],
  ["stereo layer", "Layer pan"],
  ["portamento", "Playing glide"],
  ["bright", "Filter cutoff"],
  ["FILTER cut", "Filter cutoff"],
])("%s finds %s", (typed, label) => {
  const all = found(typed);
  if (label === "Delay mix") expect(all.some((l) => l.startsWith("Delay"))).toBe(true);
  else expect(all).toContain(label);
});

test("what somebody types still narrows: each word must fit, and what means nothing finds nothing", () => {
  expect(found("pitch filter")).toEqual([]);
  expect(found("zebra")).toEqual([]);
  expect(found("")).toEqual(labels);
  expect(found("wah").every((l) => l.toLowerCase().includes("cutoff"))).toBe(true);
});
