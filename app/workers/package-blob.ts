import {
  BlobReader,
  BlobWriter,
  configure,
  type Entry,
  Uint8ArrayReader,
  Uint8ArrayWriter,
  ZipReader,
  ZipWriter,
} from "@zip.js/zip.js";
import {
  damagedPackage,
  EntryGuard,
  FormatError,
  guardPackage,
  missingAudio,
  PACKAGE_DATE,
  PACKAGE_DOCUMENT,
  packedDocument,
  readDocument,
  sampleFile,
  sampleProblem,
} from "../../core/formats";
import type { Instrument } from "../../core/instrument";

// This runs in a worker already.
configure({ useWebWorkers: false });

type Progress = (share: number) => void;

/** Writes a package, one sample after the other as `audioOf` gives it, so that never more than one is in the memory. */
export async function packBlob(
  instrument: Instrument,
  audioOf: (sha: string) => Promise<Blob | null>,
  progress: Progress = () => {},
): Promise<Blob> {
  const { packed, bytes } = packedDocument(instrument);
  const sizes: { readonly name: string; readonly size: number }[] = [];
  for (const sample of packed.samples) {
    const audio = await audioOf(sample.sha);
    if (!audio) throw missingAudio(sample.name);
    sizes.push({ name: sampleFile(sample.sha), size: audio.size });
  }
  guardPackage(bytes.length, sizes);
  const zip = new ZipWriter(new BlobWriter("application/zip"), { lastModDate: PACKAGE_DATE, extendedTimestamp: false });
  await zip.add(PACKAGE_DOCUMENT, new Uint8ArrayReader(bytes), { level: 6 });
  for (const [i, sample] of packed.samples.entries()) {
    const audio = await audioOf(sample.sha);
    if (!audio) throw missingAudio(sample.name);
    await zip.add(sampleFile(sample.sha), new BlobReader(audio), { level: 0 });
    progress((i + 1) / packed.samples.length);
  }
  return zip.close();
}

/** A zip of files, each asked for when it is its turn, so that never more than one is in the memory. */
export async function zipBlob(
  files: readonly { readonly name: string; readonly blob: () => Promise<Blob> }[],
  progress: Progress = () => {},
): Promise<Blob> {
  const zip = new ZipWriter(new BlobWriter("application/zip"), { lastModDate: PACKAGE_DATE, extendedTimestamp: false });
  for (const [i, { name, blob }] of files.entries()) {
    await zip.add(name, new BlobReader(await blob()), { level: name.endsWith(".wav") ? 0 : 6 });
    progress((i + 1) / files.length);
  }
  return zip.close();
}

/** The bytes of a file in a package, no more of them than the package says. */
async function bytesOf(entry: Entry | undefined): Promise<Uint8Array<ArrayBuffer> | null> {
  if (!entry || entry.directory) return null;
  const bytes = await entry.getData(new Uint8ArrayWriter());
  if (bytes.length !== entry.uncompressedSize)
    throw new FormatError("too-large", 0, `“${entry.filename}” isn't as long as the package says`);
  return bytes as Uint8Array<ArrayBuffer>;
}

/** Names of files in a zip that are of use where it is no package: sounds, and SFZ files with what they include. */
const USEFUL = /\.(wave?|aif[fc]?|flac|mp3|og[ga]|opus|m4a|sfz|sfzh|txt|inc|h)$/i;

/**
 * The sounds and SFZ files of a zip that is no package, with their paths; null where it is a package. Throws FormatError for one that would be too large or
 * holds names that lead out of it.
 */
export async function unzipSounds(file: Blob): Promise<{ readonly path: string; readonly blob: Blob }[] | null> {
  const zip = new ZipReader(new BlobReader(file), { filenameValidation: "tolerant" });
  try {
    const guard = new EntryGuard(USEFUL);
    const entries = (await zip.getEntries()).filter((e) => !e.directory);
    if (entries.some((e) => e.filename === PACKAGE_DOCUMENT)) return null;
    const found: { path: string; blob: Blob }[] = [];
    for (const entry of entries) {
      if (!guard.allows(entry.filename, entry.compressedSize, entry.uncompressedSize)) continue;
      const bytes = await bytesOf(entry);
      if (bytes) found.push({ path: entry.filename, blob: new Blob([bytes]) });
    }
    return found;
  } catch (error) {
    throw damagedPackage(error);
  } finally {
    await zip.close();
  }
}

/** Bytes of samples that are read on while others are still being kept. */
const MOST_HELD = 2 ** 24;

/** Opens a package of any size: only what is wanted is read of it, one sample after the other, each given to `keep`, a few at once. Throws as core's readPackage does. */
export async function openBlob(
  file: Blob,
  repair: boolean,
  keep: (sha: string, bytes: Uint8Array<ArrayBuffer>) => Promise<void>,
  progress: Progress = () => {},
): Promise<{ readonly instrument: Instrument; readonly problems: readonly string[] }> {
  if (file.size === 0) throw new FormatError("empty", 0, "the file is empty");
  // Names are looked at here, so that what is refused is named.
  const zip = new ZipReader(new BlobReader(file), { filenameValidation: "tolerant" });
  try {
    const guard = new EntryGuard();
    const entries = new Map<string, Entry>();
    for (const entry of await zip.getEntries())
      if (guard.allows(entry.filename, entry.compressedSize, entry.uncompressedSize) && !entry.directory)
        entries.set(entry.filename, entry);
    const { instrument, problems: repaired } = readDocument(await bytesOf(entries.get(PACKAGE_DOCUMENT)), repair);
    const problems = [...repaired];
    let keeping: Promise<void>[] = [];
    let held = 0;
    const keepHeld = async () => {
      await Promise.all(keeping);
      keeping = [];
      held = 0;
    };
    for (const [i, sample] of instrument.samples.entries()) {
      // What can't be unpacked is damaged; the rest opens.
      const bytes = await bytesOf(entries.get(sampleFile(sample.sha))).catch(() => new Uint8Array(0));
      const problem = sampleProblem(sample, bytes);
      if (problem) problems.push(problem);
      else if (bytes) {
        if (held + bytes.length > MOST_HELD) await keepHeld();
        held += bytes.length;
        // Told when it is waited for, and not before.
        const kept = keep(sample.sha, bytes);
        kept.catch(() => {});
        keeping.push(kept);
      }
      progress((i + 1) / instrument.samples.length);
    }
    await keepHeld();
    return { instrument, problems };
  } catch (error) {
    throw damagedPackage(error);
  } finally {
    await zip.close();
  }
}
