import { expect, test } from "@jest/globals";
import { deliveredBy, reasonOf } from "./open-input";

const streamOf = (stats: unknown, sampleRate?: number): MediaStream =>
  ({ getAudioTracks: () => [{ stats, getSettings: () => ({ sampleRate }) }] }) as unknown as MediaStream;

test("what a device has delivered counts only where the browser says it, at the rate that is captured", () => {
  expect(deliveredBy(streamOf({ deliveredFrames: 4410 }, 44100), 44100)).toBe(4410);
  expect(deliveredBy(streamOf({ deliveredFrames: 0 }, 44100), 44100)).toBe(0);
  expect(deliveredBy(streamOf({ deliveredFrames: 4800 }, 48000), 44100)).toBeNull();
  expect(deliveredBy(streamOf({ deliveredFrames: 4800 }), 48000)).toBeNull();
  expect(deliveredBy(streamOf(undefined, 44100), 44100)).toBeNull();
  expect(deliveredBy({ getAudioTracks: () => [] } as unknown as MediaStream, 44100)).toBeNull();
  expect(deliveredBy(null, 44100)).toBeNull();
});

test("why an input can't be had is said in words", () => {
  expect(reasonOf(new DOMException("x", "NotAllowedError"))).toMatch(/not allowed to use the microphone/);
  expect(reasonOf(new DOMException("x", "NotFoundError"))).toMatch(/the bench mic is always there/);
  expect(reasonOf(new Error("the cable is out"))).toBe("the cable is out");
  expect(reasonOf("nothing")).toBe("nothing");
});
