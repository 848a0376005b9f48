import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { hertzOf } from "../audio";
import { isRecording, sampleOfFile, storedOf } from "./sample-of-file";
import { readSound } from "./sound-file";
import { nothingSaid } from "./sound-info";
import { writeWav } from "./wav-write";

const RATE = 44100;
/** Struck sounds, one every second. */
const struck = (count: number, note: number): Float32Array =>
  Float32Array.from({ length: RATE * count }, (_, i) => {
    const t = (i % RATE) / RATE;
    return 0.4 * Math.exp(-8 * t) * Math.sin(2 * Math.PI * hertzOf(note) * t);
  });
const NOTHING = nothingSaid;
const SHA = "a".repeat(64);

describe("a file is taken as a finished sample", () => {
  test("with its name, folders, pitch, level, and what the file says of root and loop", () => {
    const bytes = writeWav({ rate: RATE, channels: [struck(1, 57)] }, 24, {
      sampler: { root: 57, fine: 12, loop: { start: 1000, end: 30000, mode: "forward" } },
    });
    const { audio, info } = readSound(bytes);
    expect(storedOf(audio, bytes)).toBe(bytes);
    const { sample, sounds } = sampleOfFile(audio, info, "Tubes/soft/A3 1.wav", SHA);
    expect(sample).toMatchObject({
      sha: SHA,
      name: "A3 1",
      frames: RATE,
      from: null,
      file: { path: "Tubes/soft/A3 1", loop: { start: 1000, end: 30000, mode: "forward" } },
    });
    expect(sample.file?.root).toBeCloseTo(57.12, 2);
    expect(Math.abs((sample.pitch ?? 0) - 57)).toBeLessThan(0.05);
    expect(sample.peak).toBeLessThan(-7);
    expect(sounds).toBe(1);
  });

  test("what is no WAV is stored as one, and reads back as the same sound", () => {
    const channels = [struck(1, 60), struck(1, 64)];
    const back = readSound(storedOf({ rate: 48000, channels }, null));
    expect(back.info).toMatchObject({ rate: 48000, channels: 2, frames: RATE });
    for (let i = 0; i < RATE; i += 97)
      expect(Math.abs((back.audio.channels[1]?.[i] ?? 1) - (channels[1]?.[i] ?? 0))).toBeLessThan(1e-6);
  });

  test("in as few bits as hold it: 16 where every value is a step of 16, else 24, number for number", () => {
    const whole = (bits: number) => fc.integer({ min: -(2 ** (bits - 1)), max: 2 ** (bits - 1) - 1 });
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 2 }),
        fc.array(whole(16), { minLength: 1, maxLength: 300 }),
        fc.option(whole(24).filter((x) => x % 256 !== 0)),
        (count, steps, finer) => {
          const first = Float32Array.from(steps, (x) => x / 32768);
          if (finer !== null) first[first.length - 1] = finer / 8388608;
          const channels = Array.from({ length: count }, (_, c) => (c === 0 ? first : first.map((x) => -x)));
          for (const channel of channels) for (const [i, x] of channel.entries()) if (x === 1) channel[i] = 0.5;
          const { audio, info } = readSound(storedOf({ rate: RATE, channels }, null));
          expect(info).toMatchObject({ bits: finer === null ? 16 : 24, channels: count, frames: first.length });
          expect(audio.channels).toEqual(channels.map((channel) => channel.map((x) => x + 0)));
        },
      ),
    );
  });

  test("what is beyond full scale is kept as it is, in floats; what is no number does no harm", () => {
    const channels = [Float32Array.of(0, 1, 2, -2, Number.NaN, 0.5)];
    const { audio, info } = readSound(storedOf({ rate: RATE, channels }, null));
    expect(info).toMatchObject({ bits: 32, float: true });
    const [read = new Float32Array(0)] = audio.channels;
    expect(Array.from(read).filter((_, i) => i !== 4)).toEqual([0, 1, 2, -2, 0.5]);
    expect(Number.isFinite(read[4])).toBe(true);
  });

  test("silence, a single frame and names without end are survived", () => {
    for (const frames of [1, 2, 63, 5000]) {
      const { sample } = sampleOfFile(
        { rate: RATE, channels: [new Float32Array(frames)] },
        NOTHING,
        `${"ö/".repeat(900)}.wav`,
        SHA,
      );
      expect(sample).toMatchObject({ frames, pitch: null, name: "unnamed" });
      expect(sample.file?.path.length).toBeLessThanOrEqual(1000);
    }
  });
});

test("several sounds in a long file are a recording; one long sound and a short rhythm are not", () => {
  expect(sampleOfFile({ rate: RATE, channels: [struck(15, 60)] }, NOTHING, "a", SHA).sounds).toBe(15);
  expect(isRecording(15, 15)).toBe(true);
  expect(isRecording(20, 1)).toBe(false);
  expect(isRecording(8, 16)).toBe(false);
  expect(isRecording(200, 1)).toBe(true);
});
