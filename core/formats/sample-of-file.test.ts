import { describe, expect, test } from "@jest/globals";
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
