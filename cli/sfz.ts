import { existsSync, readdirSync, readFileSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { basename, dirname, join, relative, resolve, sep } from "node:path";
import {
  FormatError,
  instrumentOfSfz,
  type OpenedSfz,
  programOf,
  readSfzText,
  readSound,
  sampleOfFile,
  sha256Of,
  soundKindOf,
  storedOf,
  textOf,
} from "../core/formats";
import type { Sample } from "../core/instrument";
import { UsageError } from "./arguments";
import { bytesOfFile, reading } from "./files";

/** An SFZ file with the samples that it names. */
interface OpenedWithSamples extends OpenedSfz {
  /** WAV files by SHA-256. */
  readonly wavs: ReadonlyMap<string, Uint8Array<ArrayBuffer>>;
  /** What was odd about samples, each with its path. */
  readonly warnings: readonly { readonly file: string; readonly text: string }[];
}

/** Finds files below a folder whatever the case of their names: those who write such files seldom have to care. */
class Folder {
  private readonly lists = new Map<string, readonly string[]>();

  constructor(private readonly root: string) {}

  /** Where a file lies; null where there is none. */
  find(path: string): string | null {
    let at = this.root;
    for (const part of path.split("/")) {
      const exact = join(at, part);
      if (existsSync(exact)) at = exact;
      else {
        const like = this.listOf(at).find((name) => name.toLowerCase() === part.toLowerCase());
        if (like === undefined) return null;
        at = join(at, like);
      }
    }
    return at;
  }

  private listOf(folder: string): readonly string[] {
    const known = this.lists.get(folder);
    if (known) return known;
    let names: readonly string[] = [];
    try {
      names = readdirSync(folder);
    } catch {
      // It is no folder, or may not be read: nothing is found in it.
    }
    this.lists.set(folder, names);
    return names;
  }
}

/** Opens an SFZ file with its samples. Nothing outside `root` (its own folder unless given) is read. */
export async function openSfz(path: string, root: string | null): Promise<OpenedWithSamples> {
  const base = resolve(root ?? dirname(path));
  const inside = relative(base, resolve(path)).split(sep).join("/");
  if (inside.startsWith("..")) throw new UsageError(`${path} doesn't lie in the folder ${root}`);
  const folder = new Folder(base);
  const bytes = await bytesOfFile(path);
  const textAt = (name: string): string | null => {
    const file = folder.find(name);
    try {
      return file === null ? null : textOf(new Uint8Array(readFileSync(file)));
    } catch {
      return null;
    }
  };
  const program = reading(path, () => programOf(readSfzText(inside, textOf(bytes), textAt), inside));
  const samples = new Map<string, Sample>();
  const wavs = new Map<string, Uint8Array<ArrayBuffer>>();
  const warnings: { file: string; text: string }[] = [];
  for (const name of new Set(program.regions.map((r) => r.sample))) {
    if (name === null || name === "" || name.startsWith("*")) continue;
    const file = folder.find(name);
    if (file === null) continue;
    try {
      const own = new Uint8Array(await readFile(file));
      const { audio, info } = readSound(own, { salvage: true });
      warnings.push(...info.warnings.map((text) => ({ file: name, text })));
      const whole = soundKindOf(own) === "wav" && info.warnings.length === 0;
      const stored = storedOf(audio, whole ? own : null);
      const { sample } = sampleOfFile(audio, info, name, sha256Of(stored));
      samples.set(name, sample);
      wavs.set(sample.sha, stored);
    } catch (error) {
      if (!(error instanceof FormatError) && (error as NodeJS.ErrnoException).code === undefined) throw error;
      warnings.push({ file: name, text: error instanceof Error ? error.message : String(error) });
    }
  }
  const opened = instrumentOfSfz(
    program,
    (name) => samples.get(name) ?? null,
    "converted",
    basename(path)
      .replace(/\.sfz$/i, "")
      .slice(0, 200) || "unnamed",
  );
  return { ...opened, wavs, warnings };
}
