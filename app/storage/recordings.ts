import type { Slice } from "../../core/instrument";
import { recordings } from "./stores";

/** A recording that is being written, or was when the tab closed. */
export interface RecordingInfo {
  readonly id: string;
  readonly name: string;
  readonly rate: number;
  readonly channels: number;
  readonly started: number;
  /** What it was recorded from, in words. */
  readonly source: string;
}

/** What is known of a recording beside its sound: frames at which it clipped and at which sound was lost, and what was sorted. */
export interface RecordingFacts {
  readonly clips: readonly number[];
  readonly gaps: readonly number[];
  readonly slices: readonly Slice[];
}

const factsKey = (id: string) => `${id}/facts`;
const chunkKey = (id: string, number: number) => `${id}/${String(number).padStart(6, "0")}`;

export const beginRecording = async (info: RecordingInfo): Promise<void> => {
  await recordings.setItem(info.id, info);
};

/** Stores the next stretch of a recording: one Float32Array for each channel. */
export const writeChunk = async (id: string, number: number, channels: Float32Array[]): Promise<void> => {
  await recordings.setItem(chunkKey(id, number), channels);
};

/** Stores what is known by now, in place of what was known before. */
export const writeFacts = async (id: string, facts: RecordingFacts): Promise<void> => {
  await recordings.setItem(factsKey(id), facts);
};

/** What was known of a recording when it ended. */
export const readFacts = async (id: string): Promise<RecordingFacts> =>
  (await recordings.getItem<RecordingFacts>(factsKey(id))) ?? { clips: [], gaps: [], slices: [] };

/** All that was written of a recording, joined: as many channels as its widest chunk has; what has fewer fills them with its first. */
export async function readRecording(info: RecordingInfo): Promise<Float32Array<ArrayBuffer>[]> {
  const chunks: Float32Array[][] = [];
  for (let n = 0; ; n++) {
    const chunk = await recordings.getItem<Float32Array[]>(chunkKey(info.id, n));
    if (!chunk) break;
    chunks.push(chunk);
  }
  const frames = chunks.reduce((sum, c) => sum + (c[0]?.length ?? 0), 0);
  const channels = chunks.reduce((most, c) => Math.max(most, c.length), chunks.length > 0 ? 1 : info.channels);
  return Array.from({ length: channels }, (_, c) => {
    const out = new Float32Array(frames);
    let at = 0;
    for (const chunk of chunks) {
      const part = chunk[c] ?? chunk[0] ?? new Float32Array(0);
      out.set(part, at);
      at += part.length;
    }
    return out;
  });
}

export async function forgetRecording(id: string): Promise<void> {
  for (const key of await recordings.keys())
    if (key === id || key.startsWith(`${id}/`)) await recordings.removeItem(key);
}

/** Recordings that were never finished: the tab closed or crashed meanwhile. */
export async function unfinishedRecordings(): Promise<RecordingInfo[]> {
  const found: RecordingInfo[] = [];
  for (const key of await recordings.keys()) {
    if (key.includes("/")) continue;
    const info = await recordings.getItem<RecordingInfo>(key);
    if (info) found.push(info);
  }
  return found;
}
