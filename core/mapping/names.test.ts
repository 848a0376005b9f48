import { describe, expect, test } from "@jest/globals";
import { type NameFacts, nameAll, nameByPattern, usableNames } from "./names";

describe("names", () => {
  const facts = (change: Partial<NameFacts> = {}): NameFacts => ({
    take: "rear wheel.wav",
    number: 7,
    note: 63,
    cents: -12.4,
    strength: 2,
    repeat: 3,
    peak: -6.2,
    length: 0.51,
    ...change,
  });

  test.each([
    ["{take}-{note}-{number:2}", {}, "rear wheel-D#4-07"],
    ["{take}-{note}-{number:2}", { note: null }, "rear wheel-07"],
    ["{midi:3}_v{layer}_r{repeat}", {}, "063_v2_r3"],
    ["{midi:3}_v{layer}_r{repeat}", { strength: null }, "063_r3"],
    ["{midi:3}_s{strength}_r{repeat}", {}, "063_s2_r3"],
    ["{note} {cents} {peak} {length}", {}, "D#4 -12 -6dB 510ms"],
    ["{nothing}{number}", {}, "{nothing}7"],
  ])("%s", (pattern, change, name) => {
    expect(nameByPattern(pattern, facts(change))).toBe(name);
  });

  test("clashes, illegal characters and empty names are told; usable names never clash", () => {
    const all = [facts(), facts({ number: 8 }), facts({ number: 9, note: 64 })];
    expect(nameAll("{note}", all).map((n) => n.problem)).toEqual(["clash", "clash", ""]);
    expect(nameAll("a/b {number}", all).map((n) => n.problem)).toEqual(["illegal", "illegal", "illegal"]);
    expect(nameAll("{note}", [facts({ note: null })])[0]?.problem).toBe("empty");
    expect(usableNames("{note}", all)).toEqual(["D#4", "D#4-2", "E4"]);
    // Names that one system or another keeps for its devices, and dots that end no file's name.
    expect(nameAll("CON", all).map((n) => n.problem)).toEqual(["illegal", "illegal", "illegal"]);
    expect(usableNames("con.{number}", all)).toEqual(["con-sound.7", "con-sound.8", "con-sound.9"]);
    expect(nameByPattern("{take}", facts({ take: "session 1.25" }))).toBe("session 1.25");
    expect(nameByPattern("{take}", facts({ take: "session 1.25.wav" }))).toBe("session 1.25");
    expect(usableNames("../{note}:*", [facts()])).toEqual(["-D#4--"]);
    expect(usableNames("{note}", [facts({ note: null })])).toEqual(["sound-7"]);
  });
});
