import { readFile } from "node:fs/promises";
import { basename } from "node:path";
import { FormatError, readSound, type SoundFile } from "../core/formats";
import { UsageError } from "./arguments";

/** Bytes of a file; a UsageError when it can't be read. */
export async function bytesOfFile(path: string): Promise<Uint8Array<ArrayBuffer>> {
  try {
    return new Uint8Array(await readFile(path));
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    throw new UsageError(
      `${path}: ${code === "ENOENT" ? "there is no such file" : code === "EISDIR" ? "that is a folder" : `it can't be read (${code})`}`,
    );
  }
}

/** Runs a reader of foreign bytes and names the file in its error. */
export function reading<T>(path: string, read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof FormatError) throw new UsageError(`${basename(path)}: ${error.message}`);
    throw error;
  }
}

/** A WAV, AIFF or FLAC file, decoded. */
export const soundOfFile = async (path: string): Promise<SoundFile> => {
  const bytes = await bytesOfFile(path);
  return reading(path, () => readSound(bytes));
};
