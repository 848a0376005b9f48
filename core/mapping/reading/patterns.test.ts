import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { applyReading } from "./apply-reading";
import { matchPattern, parsePattern } from "./pattern";
import { patternOf, readByPattern } from "./patterns";
import { piecesOf } from "./pieces";
import { readNames } from "./read-names";
import { HABITS, setByHabit } from "./test-habits";

const USUAL = { below: false, forte: false };
const matched = (text: string, path: string): Record<string, string> | null => {
  const pattern = parsePattern(text);
  if (typeof pattern === "string") throw new Error(pattern);
  const pieces = piecesOf(path, USUAL);
  const found = matchPattern(pattern, path, pieces);
  return found && Object.fromEntries([...found].map(([role, at]) => [role, pieces[at]?.text ?? ""]));
};

describe("patterns of names", () => {
  test.each([
    ["take{repeat} - {layer} - {note}", "take2 - ff - C#3", { repeat: "2", strength: "ff", note: "C#3" }],
    ["*_{note}_v{layer}", "Wheel/big spoke_A3_v100", { note: "A3", strength: "100" }],
    ["{strength}/{note} *", "Spokes/soft/C4 2", { strength: "soft", note: "C4" }],
    ["{note}{layer}", "C4soft", { note: "C4", strength: "soft" }],
    ["TAKE{repeat}*", "take7 whatever", { repeat: "7" }],
    ["*{note}", "a b c D4", { note: "D4" }],
    ["{note}", "C4 x", null],
    ["x{note}", "C4", null],
  ] as const)("%s takes %s apart", (pattern, path, expected) => {
    expect(matched(pattern, path)).toEqual(expected);
  });

  test.each([
    ["", "nothing in it"],
    ["abc *", "nothing in it"],
    ["{note} {note}", "twice"],
    ["{layer} {strength} {note}", "{layer} stands there twice"],
    ["{pitch}", "{pitch} means nothing"],
    ["{note", "means nothing"],
    ["{note}".concat("*a".repeat(40)), "parts"],
  ])("%s is told what is wrong with it", (text, wrong) => {
    expect(parsePattern(text)).toContain(wrong);
    expect(readByPattern(text, [{ path: "C4", pitch: 60, loudness: -20 }])).toContain(wrong);
  });

  test("odd patterns and names are survived", () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (text, path) => {
        const pattern = parsePattern(text);
        if (typeof pattern !== "string") matchPattern(pattern, path, piecesOf(path, USUAL));
      }),
    );
    // Tried in every way it would never end.
    expect(matched(`${"*a".repeat(18)}*b{note}`, "a".repeat(3000))).toBeNull();
  });

  test("the pattern of a reading reads the names in the same way", () => {
    // Habits in which all names are made alike.
    for (const name of [
      "take first, C3 is middle",
      "MIDI number labelled",
      "folders for strengths",
      "dots",
      "camel case",
      "ranges of velocities",
    ]) {
      const habit = HABITS.find((h) => h.name === name);
      if (!habit) throw new Error(name);
      const sounds = setByHabit({ ...habit, strengths: 3, repeats: 3 }, 5);
      const [reading] = readNames(sounds);
      if (!reading) throw new Error("nothing was read");
      const pattern = patternOf(reading, sounds);
      const again = readByPattern(pattern, sounds);
      if (typeof again === "string") throw new Error(`${name}, ${pattern}: ${again}`);
      expect(applyReading(again, sounds).names).toEqual(applyReading(reading, sounds).names);
    }
  });

  test("a pattern says what names are made of, and of what differs that it does", () => {
    const sounds = ["big wheel C3 p", "small wheel C3 f", "old wheel D3 p", "new wheel D3 f"].map((path, i) => ({
      path: `Wheels/${path}`,
      pitch: 48 + ([0, 0, 2, 2][i] ?? 0),
      loudness: i % 2 ? -10 : -30,
    }));
    const [reading] = readNames(sounds);
    expect(reading && patternOf(reading, sounds)).toBe("* wheel {note} {layer}");
    expect(readByPattern("zzz{note}", sounds)).toBe("no name is made so");
  });
});
