import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { readWav } from "./wav-read";
import { type WavDepth, writeWav } from "./wav-write";

const ramp = (frames: number, channels = 1) => ({
  rate: 44100,
  channels: Array.from({ length: channels }, (_, c) =>
    Float32Array.from({ length: frames }, (_, i) => Math.sin(i * 0.1 + c) * 0.9),
  ),
});

describe("writing and reading", () => {
  test.each([
    [16, 1 / 32768],
    [24, 1 / 8388608],
    [32, 1e-9],
  ] as [WavDepth, number][])("%i bits come back to within half a step", (depth, step) => {
    const audio = ramp(777, 2);
    const { audio: back, info } = readWav(writeWav(audio, depth));
    expect(info).toMatchObject({ rate: 44100, frames: 777, fileChannels: 2, bits: depth });
    audio.channels.forEach((channel, c) => {
      channel.forEach((x, i) => {
        expect(Math.abs((back.channels[c]?.[i] ?? 9) - x)).toBeLessThanOrEqual(step * 0.51);
      });
    });
  });

  test("root, fine tuning and loop come back", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 127 }),
        fc.double({ min: 0, max: 99.9, noNaN: true }),
        fc.nat(400),
        fc.integer({ min: 1, max: 300 }),
        fc.constantFrom("forward" as const, "alternating" as const, "backward" as const),
        (root, fine, start, length, mode) => {
          const sampler = { root, fine, loop: { start, end: start + length, mode } };
          const back = readWav(writeWav(ramp(800), 24, { sampler })).info.sampler;
          expect(back).toEqual({ root, fine: expect.closeTo(fine, 5), loop: sampler.loop, further: [] });
        },
      ),
    );
  });

  test("integers clip at full scale instead of wrapping round", () => {
    const back = readWav(writeWav({ rate: 8000, channels: [Float32Array.of(2, -2)] }, 16)).audio.channels[0];
    expect(Array.from(back ?? [])).toEqual([32767 / 32768, -1]);
  });
});
