import { blobs } from "./stores";

/** Stores an audio file under its SHA-256; one that is there already is not written again. */
export async function storeAudio(sha: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
  if ((await blobs.getItem(sha)) !== null) return;
  await blobs.setItem(sha, new Blob([bytes], { type: "audio/wav" }));
}

/** The audio file of a SHA-256 as a blob; null when it isn't stored. */
export const audioBlob = (sha: string): Promise<Blob | null> => blobs.getItem<Blob>(sha);

/** The bytes of a stored audio file; null when it isn't there. */
export async function audioBytes(sha: string): Promise<Uint8Array<ArrayBuffer> | null> {
  const blob = await audioBlob(sha);
  return blob ? new Uint8Array(await blob.arrayBuffer()) : null;
}
