import { describe, expect, test } from "@jest/globals";
import { kitOf, looksLikeKit } from "./kit";

const names = (...paths: string[]) => paths.map((path) => ({ path, microphone: null, trigger: null }));
const called = (...paths: string[]) => kitOf(names(...paths))?.map((s) => [s.name, s.key, s.members.join()]) ?? null;

describe("the sounds of a kit", () => {
  test("all words of a name are one name; strengths and repeats aren't part of it", () => {
    expect(called("36_stand_v1_1", "36_stand_v1_2", "36_stand_v2_1", "38_bell_cup_v1_1", "38_bell_cup_v2_1")).toEqual([
      ["stand", 36, "0,1,2"],
      ["bell cup", 38, "3,4"],
    ]);
    expect(called("Frame Hit soft 1", "Frame Hit hard 1", "frame hit hard 2", "Low tube", "High tube")).toEqual([
      ["Frame Hit", null, "0,1,2"],
      ["Low tube", null, "3"],
      ["High tube", null, "4"],
    ]);
  });

  test("a number in front that goes with one set of words is that set's; numbers that count the files are nobody's", () => {
    expect(called("019_Some Organ_07", "019_Some Organ_08", "016_Other Organ_03", "016_Other Organ_04")).toEqual([
      ["Some Organ", null, "0,1"],
      ["Other Organ", null, "2,3"],
    ]);
    expect(called("01_spoke", "02_rim", "03_spoke", "04_rim")).toEqual([
      ["spoke", null, "0,2"],
      ["rim", null, "1,3"],
    ]);
    expect(called("41_tube_1", "41_tube_2", "43_tube_1", "45_rim_1")).toEqual([
      ["tube 41", 41, "0,1"],
      ["tube 43", 43, "2"],
      ["rim", 45, "3"],
    ]);
  });

  test("folders call sounds whose names are numbers; what names don't tell apart is no kit by them", () => {
    expect(called("kit/rim/01", "kit/rim/02", "kit/fork/01")).toEqual([
      ["rim", null, "0,1"],
      ["fork", null, "2"],
    ]);
    expect(called("bench 1", "bench 2", "bench 3")).toBeNull();
    expect(called("01", "02")).toBeNull();
    expect(kitOf([])).toBeNull();
  });

  test("the microphone's and the release's word isn't part of the name where they are taken for that", () => {
    const kit = kitOf([
      { path: "rim close", microphone: "close", trigger: null },
      { path: "rim room", microphone: "room", trigger: null },
      { path: "fork release", microphone: null, trigger: "noteOff" },
      { path: "fork", microphone: null, trigger: null },
    ]);
    expect(kit?.map((s) => [s.name, s.members])).toEqual([
      ["rim", [0, 1]],
      ["fork", [2, 3]],
    ]);
  });
});

describe("whether sounds are a kit", () => {
  const kit = names("rim_1", "rim_2", "fork_1", "tube_1");
  const signs = { manner: null, agreement: null, pitches: [null, null, null, 45.1] };

  test("one tonal sound among others leaves them a kit; where most have a pitch they are notes", () => {
    expect(looksLikeKit(kit, signs)).toBe(true);
    expect(looksLikeKit(kit, { ...signs, pitches: [60, 62, 64, null] })).toBe(false);
    expect(looksLikeKit(names("a1", "a2", "a3", "a4"), signs)).toBe(false);
    expect(looksLikeKit(kit, { ...signs, pitches: [null, null, null, null] })).toBe(true);
  });

  test("names that tell notes are notes; numbers in front are a kit's keys where few sound as they are called", () => {
    expect(looksLikeKit(kit, { ...signs, manner: "note" })).toBe(false);
    const keyed = names("36_stand_1", "36_stand_2", "38_bell_1", "40_rim_1");
    expect(looksLikeKit(keyed, { ...signs, manner: "midi", agreement: 0 })).toBe(true);
    expect(looksLikeKit(keyed, { ...signs, manner: "midi", agreement: 0.9 })).toBe(false);
    const one = names("36_stand_1", "37_stand_1", "38_stand_1", "39_stand_1");
    expect(looksLikeKit(one, { ...signs, manner: "midi" })).toBe(false);
    expect(looksLikeKit(names("piano_60_1", "piano_62_1", "harp_60_1"), { ...signs, manner: "midi" })).toBe(false);
  });
});
