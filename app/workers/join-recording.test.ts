import { describe, expect, test } from "@jest/globals";
import { readWav, sha256Of } from "../../core/formats";
import type { Chunk } from "../storage/recordings";
import { joinRecording } from "./join-recording";

async function* given(chunks: readonly Chunk[]): AsyncGenerator<Chunk> {
  yield* chunks;
}

async function joined(chunks: readonly Chunk[]) {
  const { parts, ...rest } = await joinRecording(44100, given(chunks));
  const bytes = new Uint8Array(await new Blob([...parts]).arrayBuffer());
  expect(sha256Of(bytes)).toBe(rest.sha);
  const { audio } = readWav(bytes);
  return { ...rest, heard: audio.channels.map((c) => [...c]) };
}

describe("a recording is joined", () => {
  test("stretch after stretch, in two channels", async () => {
    const { channels, frames, holes, heard } = await joined([
      { from: 0, channels: [Float32Array.of(0.5, 0.25), Float32Array.of(-0.5, 0)] },
      { from: 2, channels: [Float32Array.of(0.125), Float32Array.of(0.75)] },
    ]);
    expect([channels, frames, holes]).toEqual([2, 3, []]);
    expect(heard).toEqual([
      [0.5, 0.25, 0.125],
      [-0.5, 0, 0.75],
    ]);
  });

  test("mono where both channels hold the very same", async () => {
    const same = (from: number, ...x: number[]) => ({ from, channels: [Float32Array.from(x), Float32Array.from(x)] });
    const { channels, heard } = await joined([same(0, 0.5, -0.5, 0.25), same(3, 0.75)]);
    expect(channels).toBe(1);
    expect(heard).toEqual([[0.5, -0.5, 0.25, 0.75]]);
  });

  test("a stretch that is missing is silent, and told; what comes after it lies where it belongs", async () => {
    const { holes, heard } = await joined([
      { from: 0, channels: [Float32Array.of(0.5)] },
      { from: 3, channels: [Float32Array.of(0.25), Float32Array.of(-0.25)] },
    ]);
    expect(holes).toEqual([1]);
    expect(heard).toEqual([
      [0.5, 0, 0, 0.25],
      [0.5, 0, 0, -0.25],
    ]);
  });

  test("nothing at all is an empty file", async () => {
    expect(await joinRecording(44100, given([]))).toMatchObject({ frames: 0, channels: 1, holes: [] });
  });
});
