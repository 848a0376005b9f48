import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import {
  checkInstrument,
  DOCUMENT_VERSION,
  drawnPictures,
  type Fault,
  faultText,
  type Instrument,
  migrate,
  type Sample,
  usedSamples,
  versionOf,
} from "../instrument";
import { FormatError } from "./format-error";
import { sha256Of } from "./hash";

/** Extension of a package's file name. */
export const PACKAGE_EXTENSION = ".vise";
/** The file in a package that holds the document. */
export const PACKAGE_DOCUMENT = "instrument.json";
const SAMPLE = /^samples\/([0-9a-f]{64})\.wav$/;
const MOST_ENTRIES = 20000;
const MOST_BYTES = 2 ** 31;
const MOST_DOCUMENT_BYTES = 64 * 2 ** 20;
/** Audio never shrinks by more than this; whatever does is a trap. */
const MOST_RATIO = 200;

/** A package opened: the instrument, its samples' WAV files by SHA-256, and what was wrong with parts of it. */
export interface OpenedPackage {
  readonly instrument: Instrument;
  readonly samples: ReadonlyMap<string, Uint8Array>;
  readonly problems: readonly string[];
}

/** The instrument as others get it: takes, unused samples and pictures that nothing draws stay behind. */
export function packedInstrument(instrument: Instrument): Instrument {
  const used = usedSamples(instrument);
  const drawn = drawnPictures(instrument.face);
  return {
    ...instrument,
    takes: [],
    shots: [],
    samples: instrument.samples.filter((s) => used.has(s.sha)).map((s) => ({ ...s, from: null })),
    face: { ...instrument.face, pictures: instrument.face.pictures.filter((p) => drawn.has(p.id)) },
  };
}

/** One fixed date, so that the same instrument gives the same bytes. */
export const PACKAGE_DATE = new Date("2000-01-01T12:00:00");

/** The file in a package that holds the audio of a sample. */
export const sampleFile = (sha: string): string => `samples/${sha}.wav`;

/** The document of a package as it is written: packed, and checked, for whoever gets it must be able to open it. */
export function packedDocument(instrument: Instrument): { readonly packed: Instrument; readonly bytes: Uint8Array } {
  const packed = packedInstrument(instrument);
  const checked = checkInstrument(packed);
  if (!checked.ok) throw new FormatError("invalid-document", 0, `nobody could open it again: ${checked.problems[0]}`);
  return { packed, bytes: strToU8(JSON.stringify(packed, null, 1)) };
}

/** What is wrong where a package is to be written and the audio of a sample isn't there. */
export const missingAudio = (name: string): FormatError =>
  new FormatError("damaged", 0, `the audio of sample ${name} is missing, so the package would be silent there`);

/**
 * Looks at a package before it is written as whoever opens it will: throws FormatError where nobody could. `files`: names and bytes of what is in it beside
 * the document, which takes `document` bytes.
 */
export function guardPackage(
  document: number,
  files: Iterable<{ readonly name: string; readonly size: number }>,
): void {
  const guard = new EntryGuard();
  try {
    guard.allows(PACKAGE_DOCUMENT, document, document);
    for (const { name, size } of files) guard.allows(name, size, size);
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    throw new FormatError(error.code, 0, `nobody could open it again: ${error.message}`);
  }
}

/** Writes a package (docs/format.md). `wavOf` gives a sample's WAV file; null where it is missing, which is an error, as is a document that others would refuse. */
export function writePackage(
  instrument: Instrument,
  wavOf: (sha: string) => Uint8Array | null,
): Uint8Array<ArrayBuffer> {
  const { packed, bytes: document } = packedDocument(instrument);
  const files: Record<string, [Uint8Array, { level: 0 | 6; mtime: Date }]> = {};
  files[PACKAGE_DOCUMENT] = [document, { level: 6, mtime: PACKAGE_DATE }];
  for (const sample of packed.samples) {
    const bytes = wavOf(sample.sha);
    if (!bytes) throw missingAudio(sample.name);
    files[sampleFile(sample.sha)] = [bytes, { level: 0, mtime: PACKAGE_DATE }];
  }
  guardPackage(
    document.length,
    packed.samples.map((s) => ({ name: sampleFile(s.sha), size: files[sampleFile(s.sha)]?.[0].length ?? 0 })),
  );
  return zipSync(files) as Uint8Array<ArrayBuffer>;
}

/** Whether bytes look like a zip, so that a package is known by its content. */
export const looksLikeZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

function checkName(name: string): void {
  if (
    name.startsWith("/") ||
    name.includes("\\") ||
    name.includes("\0") ||
    /^[a-z]:/i.test(name) ||
    name.split("/").includes("..")
  ) {
    throw new FormatError(
      "unsafe-name",
      0,
      `it holds a file named “${name}”, which points outside the package; it was not opened`,
    );
  }
}

/** Looks at the files of a package before they are unpacked: their names, how many they are, and how large they would become. */
export class EntryGuard {
  private entries = 0;
  private total = 0;

  /** `wanted`: names of files that are of use beside the document. */
  constructor(private readonly wanted = SAMPLE) {}

  /** Whether a file belongs to the package; others are passed over. Throws FormatError where it can't be allowed. */
  allows(name: string, packed: number, size: number): boolean {
    checkName(name);
    if (++this.entries > MOST_ENTRIES)
      throw new FormatError("too-large", 0, `it holds more than ${MOST_ENTRIES} files`);
    if (name !== PACKAGE_DOCUMENT && !this.wanted.test(name)) return false;
    this.total += size;
    if (
      size > packed * MOST_RATIO + 2 ** 20 ||
      this.total > MOST_BYTES ||
      (name === PACKAGE_DOCUMENT && size > MOST_DOCUMENT_BYTES)
    ) {
      throw new FormatError(
        "too-large",
        0,
        `unpacked, “${name}” would take ${Math.round(size / 2 ** 20)} MB, more than a package may hold`,
      );
    }
    return true;
  }
}

/** What is told of a package that can't be unpacked. */
export const damagedPackage = (error: unknown): FormatError =>
  error instanceof FormatError
    ? error
    : new FormatError(
        "damaged",
        0,
        `the package is damaged and can't be unpacked (${error instanceof Error ? error.message : "unknown"})`,
      );

/** Unpacks what a package may hold, within bounds; other files are passed over. */
function unpack(bytes: Uint8Array): Record<string, Uint8Array> {
  const guard = new EntryGuard();
  const sizes = new Map<string, number>();
  const filter = (file: { name: string; size: number; originalSize: number }) => {
    if (!guard.allows(file.name, file.size, file.originalSize)) return false;
    sizes.set(file.name, file.originalSize);
    return true;
  };
  try {
    const files = unzipSync(bytes, { filter });
    for (const [name, data] of Object.entries(files)) {
      if (data.length !== sizes.get(name))
        throw new FormatError("too-large", 0, `“${name}” isn't as long as the package says`);
    }
    return files;
  } catch (error) {
    throw damagedPackage(error);
  }
}

/** A package whose document can be opened only by throwing something away: what that is. */
export class BrokenDocument extends FormatError {
  constructor(
    readonly faults: readonly Fault[],
    /** Whether anything can be made of it. */
    readonly repairable: boolean,
  ) {
    const told = faults
      .filter((f) => f.loses)
      .slice(0, 3)
      .map(faultText);
    super("invalid-document", 0, `its ${PACKAGE_DOCUMENT} doesn't hold together: ${told.join("; ")}`);
  }
}

/** The document of a package, from the bytes of its file (null: there is none); see readPackage for what it throws. `problems` is what was put right. */
export function readDocument(
  document: Uint8Array | null,
  repair: boolean,
): { readonly instrument: Instrument; readonly problems: readonly string[] } {
  if (!document)
    throw new FormatError("not-this-format", 0, `it isn't a Vise package: there is no ${PACKAGE_DOCUMENT} in it`);
  let raw: unknown;
  try {
    raw = JSON.parse(strFromU8(document));
  } catch {
    throw new FormatError("invalid-document", 0, `its ${PACKAGE_DOCUMENT} can't be read as JSON`);
  }
  const version = versionOf(raw);
  if (version !== null && version > DOCUMENT_VERSION) {
    throw new FormatError(
      "newer-version",
      0,
      `it was made by a newer Vise (document ${version}; this one reads up to ${DOCUMENT_VERSION}). Update Vise to open it`,
    );
  }
  const { instrument, faults } = migrate(raw);
  if (!instrument || (!repair && faults.some((f) => f.loses))) throw new BrokenDocument(faults, instrument !== null);
  return { instrument, problems: faults.map((f) => `${faultText(f)}. ${f.repair}: done.`) };
}

/** What is wrong with the audio of a sample in a package; null where nothing is. */
export function sampleProblem({ name, sha }: Sample, bytes: Uint8Array | null): string | null {
  if (!bytes) return `The audio of sample “${name}” is missing; its zones stay silent.`;
  return sha256Of(bytes) === sha
    ? null
    : `The audio of sample “${name}” is damaged and was skipped; its zones stay silent.`;
}

/**
 * Opens a package. Throws FormatError where nothing can be opened: not a zip, an unsafe name, a bomb, a newer version; BrokenDocument where
 * its document can only be opened with a loss, unless that is allowed by `repair`. What is put right without loss, and a damaged or missing
 * sample, is a problem with its name; the rest opens.
 */
export function readPackage(bytes: Uint8Array, repair = false): OpenedPackage {
  if (bytes.length === 0) throw new FormatError("empty", 0, "the file is empty");
  if (!looksLikeZip(bytes))
    throw new FormatError("not-this-format", 0, "it isn't a Vise package: it doesn't begin like a zip");
  const files = unpack(bytes);
  const { instrument, problems: repaired } = readDocument(files[PACKAGE_DOCUMENT] ?? null, repair);
  const samples = new Map<string, Uint8Array>();
  const problems = [...repaired];
  for (const sample of instrument.samples) {
    const data = files[sampleFile(sample.sha)] ?? null;
    const problem = sampleProblem(sample, data);
    if (problem) problems.push(problem);
    else if (data) samples.set(sample.sha, data);
  }
  return { instrument, samples, problems };
}
