import { GroupedWrites } from "./grouped-writes";
import { hashOf } from "./hash-of";
import { addBlobs, blobs } from "./stores";

const writes = new GroupedWrites(addBlobs);

/** Stores an audio file, whole or in parts, under its SHA-256; one that is there already is not written again. Those that come while others are stored go together. */
export const storeAudio = (
  sha: string,
  bytes: Uint8Array<ArrayBuffer> | readonly Uint8Array<ArrayBuffer>[],
): Promise<void> =>
  writes.add(sha, new Blob(bytes instanceof Uint8Array ? [bytes] : [...bytes], { type: "audio/wav" }));

/** Stores an audio file under the SHA-256 that it has, which is the answer. */
export async function storeHashed(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const sha = await hashOf(bytes);
  await storeAudio(sha, bytes);
  return sha;
}

/** The audio file of a SHA-256 as a blob; null when it isn't stored. */
export const audioBlob = (sha: string): Promise<Blob | null> => blobs.getItem<Blob>(sha);

/** The bytes of a stored audio file; null when it isn't there. */
export async function audioBytes(sha: string): Promise<Uint8Array<ArrayBuffer> | null> {
  const blob = await audioBlob(sha);
  return blob ? new Uint8Array(await blob.arrayBuffer()) : null;
}

/** Bytes of the stored files of some SHA-256, by SHA-256; what isn't stored is left out. */
export async function audioSizes(shas: Iterable<string>): Promise<Map<string, number>> {
  const sizes = new Map<string, number>();
  for (const sha of shas) {
    const blob = await audioBlob(sha);
    if (blob) sizes.set(sha, blob.size);
  }
  return sizes;
}

/** The SHA-256 of every stored audio file. */
export const storedAudio = async (): Promise<ReadonlySet<string>> => new Set(await blobs.keys());
