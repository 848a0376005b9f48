import {
  FormatError,
  folderOf,
  instrumentOfSfz,
  type OpenedSfz,
  programOf,
  readSfzText,
  type SfzProgram,
  textOf,
} from "../../../core/formats";
import type { Sample } from "../../../core/instrument";
import { unzipSounds } from "../package-blob";

/** A file with its path below what was dropped or picked. */
export interface FoundFile {
  readonly file: File;
  readonly path: string;
}

/** Largest text that is taken for a part of an SFZ file, in bytes. */
const MOST_TEXT = 2 ** 25;

/** Paths whatever their case: those who write such files seldom have to care. */
const keyOf = (path: string): string => path.normalize("NFC").toLowerCase();

/** The program of an SFZ file among others; what it includes is read as it is asked for. */
async function programFrom(files: readonly FoundFile[], main: string): Promise<SfzProgram> {
  const byPath = new Map(files.map((f) => [keyOf(f.path), f.file]));
  const texts = new Map<string, string>();
  const textAt = async (path: string): Promise<string> => {
    const file = byPath.get(keyOf(path));
    if (!file || file.size > MOST_TEXT) return "";
    return textOf(new Uint8Array(await file.arrayBuffer()));
  };
  const own = await textAt(main);
  for (;;) {
    const wanted = new Set<string>();
    const include = (path: string): string | null => {
      const key = keyOf(path);
      if (byPath.has(key) && !texts.has(key)) wanted.add(path);
      return byPath.has(key) ? (texts.get(key) ?? "") : null;
    };
    const text = readSfzText(main, own, include);
    if (wanted.size === 0) return programOf(text, main);
    for (const path of wanted) texts.set(keyOf(path), await textAt(path));
  }
}

type Refused = { readonly ok: false; readonly message: string };

async function attempt<T extends object>(run: () => Promise<T>): Promise<(T & { readonly ok: true }) | Refused> {
  try {
    return { ok: true, ...(await run()) };
  } catch (error) {
    if (error instanceof FormatError) return { ok: false, message: error.message };
    throw error;
  }
}

/** Opens SFZ files. */
export const openingSfz = {
  /** The files of a zip that is no package; null where it is one. */
  filesOfZip(file: File) {
    return attempt(async () => ({ files: await unzipSounds(file) }));
  },

  /** The samples that an SFZ file names, by the path that it gives, and where they are among the files. */
  samplesOfSfz(files: readonly FoundFile[], main: string) {
    return attempt(async () => {
      const program = await programFrom(files, main);
      const places = new Map(files.map((f, i) => [keyOf(f.path), i]));
      const names = new Set(program.regions.map((r) => r.sample));
      const found: { readonly path: string; readonly at: number }[] = [];
      for (const path of names) {
        const at = path === null ? undefined : places.get(keyOf(path));
        if (path !== null && at !== undefined) found.push({ path, at });
      }
      return { found };
    });
  },

  /** The instrument of an SFZ file, once its samples are stored. */
  instrumentOfSfz(files: readonly FoundFile[], main: string, samples: ReadonlyMap<string, Sample>, id: string) {
    return attempt(async (): Promise<OpenedSfz> => {
      const program = await programFrom(files, main);
      const name =
        main
          .slice(folderOf(main).length)
          .replace(/\.sfz$/i, "")
          .slice(0, 200) || "unnamed";
      return instrumentOfSfz(program, (path) => samples.get(path) ?? null, id, name);
    });
  },
};
