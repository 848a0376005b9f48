import { expect, test } from "@jest/globals";
import { factsOfSample } from "./sample-facts";

const RATE = 44100;
const tone = (silent: number, offset: number, gain = 0.5): Float32Array =>
  Float32Array.from(
    { length: RATE },
    (_, i) => offset + (i < silent * RATE ? 0 : gain * Math.sin((2 * Math.PI * 441 * (i - silent * RATE)) / RATE)),
  );
const facts = (x: Float32Array) => factsOfSample({ rate: RATE, channels: [x] });

test("silence before the sound and the middle line are measured", () => {
  for (const [silent, offset] of [
    [0, 0],
    [0.25, 0],
    [0.05, 0.02],
    [0.5, -0.1],
  ] as const) {
    const found = facts(tone(silent, offset));
    expect(Math.abs(found.head - silent)).toBeLessThan(0.001);
    expect(Math.abs(found.offset - offset)).toBeLessThan(0.001);
  }
});

test("hum before a sound is no sound; silence and nothing have no head", () => {
  const hummed = tone(0.3, 0).map((x, i) => x + 0.0004 * Math.sin(i / 50));
  expect(Math.abs(facts(hummed).head - 0.3)).toBeLessThan(0.001);
  expect(facts(new Float32Array(5000))).toEqual({ head: 0, offset: 0 });
  expect(facts(new Float32Array(0))).toEqual({ head: 0, offset: 0 });
});
