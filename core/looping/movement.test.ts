import { describe, expect, test } from "@jest/globals";
import { LoopJudge } from "./judge";
import { Movement, straightened } from "./movement";
import { RATE, swinging } from "./test-sounds";

const sound = (...channels: Float32Array[]) => ({ rate: RATE, channels });

describe("movement", () => {
  test.each([
    [0, 5],
    [6, 4],
    [12, 0.7],
  ])("a level that swings by %d dB, %d times a second, moves by so much; a fall is none", (decibels, hertz) => {
    // Nine tenths of the time a sine is within 0.988 of its way.
    const own = new Movement([swinging(decibels, hertz)], RATE, RATE / 10, 5 * RATE).own[0] as number;
    expect(Math.abs(own - decibels)).toBeLessThan(0.15 * decibels + 0.2);
    const falling = swinging(decibels, hertz).map((x, i) => x * 10 ** ((-4 * i) / RATE / 20));
    const fallen = new Movement([falling], RATE, RATE / 10, 5 * RATE).own[0] as number;
    expect(Math.abs(fallen - own)).toBeLessThan(0.1 * own + 0.2);
  });

  test("a moment of it moves less; an image that stands still in a loop is told by the difference of left and right", () => {
    const sides = [swinging(10, 0.8), swinging(10, 0.8, Math.PI)];
    const moves = new Movement(sides, RATE, RATE / 10, 5 * RATE);
    const [level, image] = moves.own as [number, number];
    // Both together are nearly as loud all the time.
    expect(level).toBeLessThan(4);
    expect(image).toBeGreaterThan(18);
    const [, still] = moves.between(2 * RATE, 2.1 * RATE) as [number, number];
    expect(still).toBeLessThan(image / 2);
    const judge = LoopJudge.of(sound(...sides)) as LoopJudge;
    const short = judge.judge({ start: 2 * RATE, end: Math.round(2.1 * RATE) });
    const long = judge.judge({ start: RATE, end: Math.round(3.5 * RATE) });
    expect(short.parts.lost).toBeGreaterThan(6);
    expect(long.parts.lost).toBeLessThan(1);
    expect(short.reason).toMatch(/of the sound's movement stay outside it/);
  });

  test("silence and a single frame are no trouble", () => {
    expect(new Movement([new Float32Array(RATE)], RATE, 0, RATE).own).toEqual([0]);
    expect(new Movement([new Float32Array(1), new Float32Array(1)], RATE, 0, 1).own).toEqual([0, 0]);
    expect(straightened(Float64Array.of(3, 5, 7, 9))).toEqual(Float64Array.of(0, 0, 0, 0));
  });
});
