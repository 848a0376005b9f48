import { describe, expect, test } from "@jest/globals";
import { newPictureLayer } from "../instrument";
import { drawnLayer, frameAt, framesFit, guessedFrames } from "./picture-layers";

describe("pictures that follow a place", () => {
  const layer = newPictureLayer("p");
  test("turn, slide, rise, fill", () => {
    const size = { width: 100, height: 100 };
    expect([0, 0.5, 1, 9].map((t) => drawnLayer({ ...layer, does: "turns" }, size, t).turn)).toEqual([
      -135, 0, 135, 135,
    ]);
    expect(drawnLayer({ ...layer, does: "slides" }, size, 0.25).x).toBe(0.25);
    expect(drawnLayer({ ...layer, does: "rises" }, size, 0.25).y).toBe(0.75);
    expect(drawnLayer({ ...layer, does: "fills" }, size, 0.25).seen).toBe(0.25);
    expect(drawnLayer(layer, size, 0.25)).toEqual(drawnLayer(layer, size, 1));
  });

  test("frames below or beside each other: the first at the one end, the last at the other; playing they go round", () => {
    const strip = { ...layer, does: "frames" as const, frames: 5 };
    expect([-1, 0, 0.12, 0.13, 0.5, 1, 2].map((t) => frameAt(strip, t, 0))).toEqual([0, 0, 0, 1, 2, 4, 4]);
    expect(drawnLayer(strip, { width: 20, height: 100 }, 1)).toMatchObject({ height: 5, width: 1, y: -4, x: 0 });
    expect(drawnLayer(strip, { width: 100, height: 20 }, 1)).toMatchObject({ height: 1, width: 5, y: 0, x: -4 });
    const plays = { ...strip, does: "plays" as const, rate: 10 };
    expect([0, 0.1, 0.49, 0.5].map((s) => frameAt(plays, 0, s))).toEqual([0, 1, 4, 0]);
  });

  test("how many frames there likely are, and whether so many fit", () => {
    expect(guessedFrames({ width: 64, height: 64 * 31 })).toBe(31);
    expect(guessedFrames({ width: 640, height: 64 })).toBe(10);
    expect(guessedFrames({ width: 64, height: 100 })).toBe(1);
    expect([2, 3, 4].map((n) => guessedFrames({ width: 30 * n, height: 30 }, 4))).toEqual([1, 1, 4]);
    expect(guessedFrames({ width: 60, height: 30 })).toBe(2);
    expect(framesFit({ width: 64, height: 100 }, 3)).toBe(false);
    expect(framesFit({ width: 64, height: 100 }, 4)).toBe(true);
  });
});
