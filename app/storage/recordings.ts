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
  /** The instrument in which it was begun; recordings of earlier versions don't say. */
  readonly instrument?: string;
  /** When it was thrown away; for a month it can be taken back. */
  readonly thrownAway?: number;
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

/** A stretch of a recording: where in it it begins, and one Float32Array for each channel. */
export interface Chunk {
  readonly from: number;
  readonly channels: readonly Float32Array[];
}

/** Stores a stretch of a recording under its number; one that can't be stored leaves a hole, and those after it are kept. */
export const writeChunk = async (id: string, number: number, chunk: Chunk): Promise<void> => {
  await recordings.setItem(chunkKey(id, number), chunk);
};

/** Stores what is known by now, in place of what was known before. */
export const writeFacts = async (id: string, facts: RecordingFacts): Promise<void> => {
  await recordings.setItem(factsKey(id), facts);
};

/** What was known of a recording when it ended. */
export const readFacts = async (id: string): Promise<RecordingFacts> =>
  (await recordings.getItem<RecordingFacts>(factsKey(id))) ?? { clips: [], gaps: [], slices: [] };

/** All that was written of a recording, stretch after stretch, in the order in which it came; numbers that are missing are passed over. */
export async function* readChunks(id: string): AsyncGenerator<Chunk> {
  const keys = (await recordings.keys()).filter((key) => key.startsWith(`${id}/`) && key !== factsKey(id)).sort();
  let at = 0;
  for (const key of keys) {
    const stored = await recordings.getItem<Chunk | Float32Array[]>(key);
    if (!stored) continue;
    // At first they were stored without where they begin.
    const chunk = Array.isArray(stored) ? { from: at, channels: stored } : stored;
    yield chunk;
    at = chunk.from + (chunk.channels[0]?.length ?? 0);
  }
}

export async function forgetRecording(id: string): Promise<void> {
  for (const key of await recordings.keys())
    if (key === id || key.startsWith(`${id}/`)) await recordings.removeItem(key);
}

/** Throws a recording away, or takes it back: it stays in storage for a month, out of sight. */
export async function throwAway(id: string, thrown: boolean): Promise<void> {
  const info = await recordings.getItem<RecordingInfo>(id);
  if (!info) return;
  const { thrownAway: _, ...rest } = info;
  await recordings.setItem(id, thrown ? { ...rest, thrownAway: Date.now() } : rest);
}

/** Removes for good what was thrown away longer ago than so many milliseconds. */
export async function forgetThrownAway(longer: number, now = Date.now()): Promise<void> {
  for (const { id, thrownAway = now } of await storedRecordings())
    if (now - thrownAway > longer) await forgetRecording(id);
}

/** Recordings that were never finished: the tab closed or crashed meanwhile. */
export const unfinishedRecordings = async (): Promise<RecordingInfo[]> =>
  (await storedRecordings()).filter((info) => info.thrownAway === undefined);

async function storedRecordings(): Promise<RecordingInfo[]> {
  const found: RecordingInfo[] = [];
  for (const key of await recordings.keys()) {
    if (key.includes("/")) continue;
    const info = await recordings.getItem<RecordingInfo>(key);
    if (info) found.push(info);
  }
  return found;
}
