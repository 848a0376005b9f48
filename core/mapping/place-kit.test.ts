import { describe, expect, test } from "@jest/globals";
import { newInstrument, type Sample } from "../instrument";
import { placeSamples, placeSounds } from "./place";
import type { PlaceSound } from "./place-parts";
import { placementEdit } from "./placement-edit";
import { SPREAD, sample, sound } from "./test-sounds";

describe("a kit", () => {
  const named = (name: string, given: Partial<Sample> = {}, says: Partial<PlaceSound["says"]> = {}) =>
    sound(says, { name, ...given });
  const told = (sounds: readonly PlaceSound[], kit = true) => placeSounds(sounds, { ...SPREAD, kit }, (i) => `z${i}`);
  const shape = ({ groups }: ReturnType<typeof told>) =>
    groups.map((g) => [g.name, ...g.zones.map((z) => `${z.keyLow} ${z.velLow}–${z.velHigh} ${z.repeat}`)]);

  test("a tonal tube among others has one key as they do, untuned, each with its layers and repeats in a group of its own", () => {
    const tube = { pitch: 45.3, confidence: 0.95 };
    const SOFT = { loudness: -32 };
    const samples = [
      named("36_stand_v1_1", SOFT, { strength: 1 }),
      named("36_stand_v1_2", SOFT, { strength: 1 }),
      named("36_stand_v2_1", {}, { strength: 2 }),
      named("41_tube_v1_1", { ...tube, ...SOFT }, { note: 45, strength: 1 }),
      named("41_tube_v2_1", tube, { note: 45, strength: 2 }),
    ];
    const placed = told(samples);
    expect(shape(placed)).toEqual([
      ["stand", "36 1–90 1", "36 1–90 2", "36 91–127 1"],
      ["tube", "41 1–90 1", "41 91–127 1"],
    ]);
    expect(placed.zones.map((z) => z.tune)).toEqual([0, 0, 0, 0, 0]);
    expect([placed.kit, placed.layered, placed.roots]).toEqual([true, true, 2]);
    expect(placed.leftOut).toEqual([]);
  });

  test("layers are heard for each sound by itself where names say none, and a strength that all share says nothing", () => {
    const placed = told([
      named("rim 1", { loudness: -40 }, { strength: 3 }),
      named("rim 2", { loudness: -12 }, { strength: 3 }),
      named("fork 1", { loudness: -30 }, { strength: 1 }),
      named("fork 2", { loudness: -30 }, { strength: 1 }),
    ]);
    const [rim, fork] = placed.groups;
    expect(new Set(rim?.zones.map((z) => z.velHigh)).size).toBe(2);
    expect(fork?.zones.map((z) => [z.velLow, z.velHigh, z.repeat])).toEqual([
      [1, 127, 1],
      [1, 127, 2],
    ]);
  });

  test("placed in place of all zones its first group is called after its first sound; more sounds than keys are left out", () => {
    const placed = told([named("rim"), named("fork")]);
    let groups = 0;
    const instrument = placementEdit(newInstrument("i", "Bench"), placed, "replace", "", () => `g${++groups}`).apply(
      newInstrument("i", "Bench"),
    );
    expect(instrument.layers[0]?.groups.map((g) => g.name)).toEqual(["rim", "fork"]);
    const letter = (n: number) => String.fromCharCode(97 + (n % 26));
    const many = told(Array.from({ length: 100 }, (_, n) => named(`part${letter(n)}${letter(Math.floor(n / 26))}q`)));
    expect(many.zones).toHaveLength(92);
    expect(many.leftOut).toHaveLength(8);
  });

  test("samples of a take are a kit where few have a pitch and their names tell them apart", () => {
    const samples = ["rim 1", "rim 2", "fork 1", "tube 1"].map((name, n) =>
      sample({ name, ...(n === 3 ? { pitch: 45.3, confidence: 0.95 } : {}) }),
    );
    const { kit, leftOut, groups } = placeSamples(samples, SPREAD, (i) => `z${i}`);
    expect([kit, leftOut.length]).toEqual([true, 0]);
    expect(groups.map((g) => g.name)).toEqual(["rim", "fork", "tube"]);
  });
});
