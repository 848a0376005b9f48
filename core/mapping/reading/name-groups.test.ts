import { describe, expect, test } from "@jest/globals";
import { partByName } from "./name-groups";
import { wordsOf } from "./name-words";
import { readNames } from "./read-names";
import type { NameReading } from "./reading";
import { type EvidentSound, weigh } from "./weigh";

const SILENT: NameReading = {
  note: null,
  strength: null,
  velocities: null,
  repeat: null,
  microphone: null,
  trigger: null,
  group: null,
};
const sound = (path: string, pitch: number | null, loudness = -20): EvidentSound => ({
  path,
  pitch,
  loudness,
  root: null,
});

describe("what sounds are called", () => {
  test("several words are one name; what else a word says isn't part of it", () => {
    const named = (path: string, microphone: string | null = null) => ({ path, microphone, trigger: null });
    expect(wordsOf(named("kit/019_Some Organ_07"), 0)).toBe("Some Organ");
    expect(wordsOf(named("kit/019_Some Organ_07"), 1)).toBe("kit");
    expect(wordsOf(named("Reed pipe soft v2 rr1 close", "close"), 0)).toBe("Reed pipe");
    expect(wordsOf(named("low tube ff"), 0, [{ start: 0, end: 3, role: "strength" }])).toBe("tube");
    expect(wordsOf(named("low tube ff"), 0)).toBe("low tube");
  });

  test("instruments of one folder are groups, and the number in front of each is its own, no velocity layer", () => {
    const sounds = ["019_Some Organ", "016_Other Organ", "017_Third Organ"].flatMap((name) =>
      [40, 42, 45, 47, 50].map((note, n) => sound(`${name}_0${n + 1}`, note)),
    );
    const weighed = weigh(sounds, readNames(sounds)[0] ?? null);
    expect([...new Set(weighed.map((w) => w.group))]).toEqual(["some organ", "other organ", "third organ"]);
    expect(new Set(weighed.map((w) => w.strength))).toEqual(new Set([null]));
    expect(new Set(weighed.map((w) => w.velocities))).toEqual(new Set([null]));
    expect(weighed.map((w) => w.note).slice(0, 5)).toEqual([40, 42, 45, 47, 50]);
  });

  test("strengths and repeats that tell sounds of one name apart stay what they are", () => {
    const paths = ["oak bar 1", "oak bar 2", "elm bar 1", "elm bar 2"];
    const names = [1, 2, 1, 2].map((strength) => ({ ...SILENT, strength }));
    const parted = partByName(paths, names, [], [60, 60, 60, 60]);
    expect(parted.map((p) => `${p.group} ${p.strength}`)).toEqual(["oak bar 1", "oak bar 2", "elm bar 1", "elm bar 2"]);
  });

  test("names that take no place twice, that differ each, or that part the set already leave it as it is", () => {
    const names = [SILENT, SILENT, SILENT, SILENT];
    const two = ["oak bar 1", "oak bar 2", "elm bar 1", "elm bar 2"];
    expect(partByName(two, names, [], [60, 62, 64, 65])).toBe(names);
    expect(partByName(["oak", "elm", "ash", "fir"], names, [], [60, 60, 60, 60])).toBe(names);
    expect(partByName(["bar 1", "bar 2", "bar 3", "bar 4"], names, [], [60, 60, 60, 60])).toBe(names);
    const grouped = ["oak", "oak", "elm", "elm"].map((group) => ({ ...SILENT, group }));
    expect(partByName(two, grouped, [], [60, 60, 60, 60])).toBe(grouped);
  });

  test("names that end alike are parted by all their words, although one word was read as their group", () => {
    const names = ["organ", "organ", "organ", "organ"].map((group) => ({ ...SILENT, group }));
    const paths = ["some organ 1", "some organ 2", "other organ 1", "other organ 2"];
    expect(partByName(paths, names, [], [60, 62, 60, 62]).map((p) => p.group)).toEqual([
      "some organ",
      "some organ",
      "other organ",
      "other organ",
    ]);
  });
});
