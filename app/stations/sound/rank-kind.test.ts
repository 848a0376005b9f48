import { expect, test } from "@jest/globals";
import { UNITS } from "../../../core/units";
import { rankKind } from "./rank-kind";

const placed = Object.values(UNITS).filter((u) => "places" in u && u.places.length > 0);
/** Labels of the kinds that are found, the best first. */
const foundFor = (typed: string) =>
  placed
    .map((u) => ({ label: u.label, rank: rankKind(u.label, u.help, typed) }))
    .filter((u) => u.rank > 0)
    .sort((a, b) => b.rank - a.rank)
    .map((u) => u.label);

test.each([
  ["tremolo", "Tremolo"],
  ["delay", "Delay"],
  ["eq", "Equaliser"],
  ["reduces level", "Compressor"],
  ["echo", "Delay"],
  ["hiss", "Noise"],
  ["modal", "Resonator"],
] as const)("%s finds %s first", (typed, label) => {
  expect(foundFor(typed)[0]).toBe(label);
});

test.each([
  ["room", "Reverb"],
  ["organ", "Partials"],
  ["fuzz", "Drive"],
  ["bell", "Resonator"],
] as const)("%s finds %s", (typed, label) => {
  expect(foundFor(typed)).toContain(label);
});

test("nothing typed finds all, nonsense nothing", () => {
  expect(foundFor("")).toHaveLength(placed.length);
  expect(foundFor("zzz")).toEqual([]);
});
