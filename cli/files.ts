import { readFile } from "node:fs/promises";
import { basename, extname } from "node:path";
import {
  FormatError,
  readSound,
  type SoundExtras,
  type SoundFile,
  type WavDepth,
  writeAiff,
  writeFlac,
  writeWav,
} from "../core/formats";
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

/** What kind of file it is, by the end of its name: `.wav`. */
export const kindOf = (path: string): string => extname(path).toLowerCase();

/** A sound as a file of a kind, with what stands beside its audio. */
export function soundBytes(
  { audio, info }: SoundFile,
  kind: string,
  depth: WavDepth,
  extras: SoundExtras = info.extras,
): Uint8Array {
  if (kind === ".wav") return writeWav(audio, depth, { ...extras, dither: true });
  const integer = depth === 16 ? 16 : 24;
  return kind === ".flac" ? writeFlac(audio, integer, 1, extras) : writeAiff(audio, integer, extras);
}
