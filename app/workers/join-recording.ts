import { sha256OfParts, wavData, wavHead } from "../../core/formats";
import type { Chunk } from "../storage/recordings";

/** A recording as a WAV file of 24 bits. */
export interface JoinedRecording {
  readonly parts: readonly Uint8Array<ArrayBuffer>[];
  readonly sha: string;
  readonly channels: 1 | 2;
  readonly frames: number;
  /** Frames at which a stretch is missing that could not be stored; silence stands in its place. */
  readonly holes: readonly number[];
}

const BYTES = 3;

/** Every second sample of stereo data: its left channel. */
function leftOf(stereo: Uint8Array): Uint8Array<ArrayBuffer> {
  const left = new Uint8Array(stereo.length / 2);
  for (let from = 0, to = 0; from < stereo.length; from += 2 * BYTES, to += BYTES)
    for (let b = 0; b < BYTES; b++) left[to + b] = stereo[from + b] as number;
  return left;
}

/**
 * Joins the stretches of a recording, one after the other, so that never more than its file is held. It is mono where both channels hold the
 * very same sound, as a microphone's often do; a stretch of one channel fills both.
 */
export async function joinRecording(rate: number, chunks: AsyncIterable<Chunk>): Promise<JoinedRecording> {
  const parts: Uint8Array<ArrayBuffer>[] = [];
  const holes: number[] = [];
  let frames = 0;
  let alike = true;
  for await (const { from, channels } of chunks) {
    const [left = new Float32Array(0), right = left] = channels;
    if (from > frames) {
      holes.push(frames);
      parts.push(new Uint8Array((from - frames) * 2 * BYTES));
      frames = from;
    }
    // What overlaps what is there already, as two writers would leave it, is left out.
    const skip = Math.min(left.length, frames - from);
    if (alike) alike = left.every((x, i) => x === right[i]);
    parts.push(wavData({ rate, channels: [left.subarray(skip), right.subarray(skip)] }, 24));
    frames += left.length - skip;
  }
  const channels = alike ? 1 : 2;
  const data = alike ? parts.map(leftOf) : parts;
  const odd = (frames * channels * BYTES) & 1 ? [new Uint8Array(1)] : [];
  const whole = [wavHead(rate, channels, 24, frames), ...data, ...odd];
  return { parts: whole, sha: sha256OfParts(whole), channels, frames, holes };
}
