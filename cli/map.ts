import { readdir, stat, writeFile } from "node:fs/promises";
import { basename, join } from "node:path";
import { nameOfNote, parseNote } from "../core/audio";
import {
  type FileSample,
  FormatError,
  readSound,
  sampleOfFile,
  sha256Of,
  soundKindOf,
  storedOf,
  writePackage,
} from "../core/formats";
import { addSamples, newInstrument, together } from "../core/instrument";
import {
  type EvidentSound,
  evidenceOf,
  isKitBy,
  patternOf,
  placementEdit,
  placeSounds,
  type Reading,
  readByPattern,
  readNames,
  type SpreadMode,
  weigh,
} from "../core/mapping";
import { plural } from "../core/params";
import { readArguments, UsageError } from "./arguments";
import { bytesOfFile } from "./files";

const MODES: readonly SpreadMode[] = ["nearest", "down", "up", "none"];
const ORDER = new Intl.Collator("en", { numeric: true });
/** Most files that are looked at. */
const MOST = 20000;

function keyOption(text: string | null, fallback: number, name: string): number {
  if (text === null) return fallback;
  const note = parseNote(text);
  if (note === null) throw new UsageError(`--${name} wants a key such as C2 or 36, not “${text}”`);
  return note;
}

/** The files that were named, and those in folders that were, in the order of their names; what begins with a dot is passed over. */
async function filesIn(paths: readonly string[]): Promise<string[]> {
  const files: string[] = [];
  const look = async (path: string): Promise<void> => {
    if (files.length >= MOST) return;
    const found = await stat(path).catch(() => null);
    if (!found?.isDirectory()) {
      files.push(path);
      return;
    }
    const names = (await readdir(path)).filter((n) => !n.startsWith(".")).sort(ORDER.compare);
    for (const name of names) await look(join(path, name));
  };
  for (const path of paths) await look(path);
  return files;
}

interface Opened {
  /** The path that was given, or what lies in the folder that was. */
  readonly file: string;
  readonly made: FileSample & { readonly bytes: Uint8Array };
  /** What was odd about it and how it was read. */
  readonly warnings: readonly string[];
}

/** Opens what can be opened; what can't is told with its reason. A file with the content of another comes in once. */
async function openAll(
  files: readonly string[],
): Promise<{ opened: Opened[]; leftOut: { file: string; reason: string }[] }> {
  const opened: Opened[] = [];
  const leftOut: { file: string; reason: string }[] = [];
  const known = new Map<string, string>();
  for (const file of files) {
    try {
      const bytes = await bytesOfFile(file);
      const { audio, info } = readSound(bytes, { salvage: true });
      if (info.frames === 0) throw new FormatError("empty", 0, "there is no sound in it");
      const whole = soundKindOf(bytes) === "wav" && info.warnings.length === 0;
      const stored = storedOf(audio, whole ? bytes : null);
      const made = { ...sampleOfFile(audio, info, file.replaceAll("\\", "/"), sha256Of(stored)), bytes: stored };
      const same = known.get(made.sample.sha);
      if (same === undefined) opened.push({ file, made, warnings: info.warnings });
      else leftOut.push({ file, reason: `it holds the same sound as ${same}` });
      known.set(made.sample.sha, same ?? file);
    } catch (error) {
      if (!(error instanceof FormatError || error instanceof UsageError)) throw error;
      leftOut.push({ file, reason: error.message.replace(`${file}: `, "") });
    }
  }
  return { opened, leftOut };
}

/** How the names are read: by a pattern, or as they seem to be made; null where they say nothing. */
function readingOf(pattern: string | null, sounds: readonly EvidentSound[]): Reading | null {
  if (pattern === null) return readNames(sounds)[0] ?? null;
  const read = readByPattern(pattern, sounds);
  if (typeof read === "string") throw new UsageError(`--pattern ${pattern}: ${read}`);
  return read;
}

/** `vise map FILES… --out X.vise`: reads names, measures samples, places them on the keys and writes a package. */
export async function map(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files, text, number } = readArguments(args, ["out", "name", "spread", "low", "high", "pattern", "layers"]);
  const out = text("out");
  if (files.length === 0 || !out)
    throw new UsageError(
      "map takes samples or folders of them and a package to write: vise map FILES… --out X.vise [--spread nearest|down|up|none] [--low KEY] [--high KEY] [--pattern PATTERN] [--layers N]",
    );
  const mode = (text("spread") ?? "nearest") as SpreadMode;
  if (!MODES.includes(mode)) throw new UsageError(`--spread is one of ${MODES.join(", ")}, not “${mode}”`);
  const low = keyOption(text("low"), 0, "low");
  const high = keyOption(text("high"), 127, "high");
  const layers = number("layers", 0);
  if (layers !== 0 && !(Number.isInteger(layers) && layers >= 1 && layers <= 127))
    throw new UsageError(`--layers is how many velocity layers a note has, 1 to 127, not ${layers}`);
  const { opened, leftOut } = await openAll(await filesIn(files));
  const [firstOut] = leftOut;
  if (opened.length === 0)
    throw new UsageError(firstOut ? `${firstOut.file}: ${firstOut.reason}` : "there are no files");

  const sounds = opened.map((o) => evidenceOf(o.made.sample));
  const reading = readingOf(text("pattern"), sounds);
  const weighed = weigh(sounds, reading);
  const placement = placeSounds(
    opened.map(({ made }, i) => ({ sample: made.sample, says: weighed[i] as (typeof weighed)[number] })),
    { mode, low, high, kit: isKitBy(sounds, weighed, reading), ...(layers > 0 ? { layers } : {}) },
    (i) => `z${i + 1}`,
  );
  const name = text("name") ?? basename(out).replace(/\.vise$/i, "");
  const empty = newInstrument("mapped", name);
  let ids = 0;
  const instrument = together("", [
    addSamples(opened.map((o) => o.made.sample)),
    placementEdit(empty, placement, "replace", name, () => `placed${++ids}`),
  ]).apply(empty);
  const wavs = new Map(opened.map(({ made }) => [made.sample.sha, made.bytes]));
  await writeFile(
    out,
    writePackage(instrument, (sha) => wavs.get(sha) ?? null),
  );
  const fileOf = new Map(opened.map((o) => [o.made.sample.sha, o.file]));
  const warnings = opened.flatMap((o) => o.warnings.map((text) => ({ file: o.file, text })));
  const doubtOf = new Map(placement.doubts.map((d) => [d.zone, d.doubt]));
  const zones = placement.groups.flatMap((group) =>
    group.zones.map((z) => ({
      file: fileOf.get(z.sample ?? "") ?? "",
      keyLow: z.keyLow,
      keyHigh: z.keyHigh,
      root: z.root,
      velLow: z.velLow,
      velHigh: z.velHigh,
      repeat: z.repeat,
      tune: z.tune,
      group: group.name,
      trigger: group.trigger,
      mic: z.mic,
      doubts: doubtOf.has(z.id) ? [doubtOf.get(z.id)] : [],
    })),
  );
  leftOut.push(
    ...placement.leftOut.map((l) => ({ file: fileOf.get(l.sample.sha) ?? l.sample.name, reason: l.reason })),
  );
  return {
    json: {
      zones,
      leftOut,
      warnings,
      pattern: reading ? patternOf(reading, sounds) : null,
      agreement: reading?.agreement ?? null,
      octaveShift: reading?.shift ?? 0,
      detuneCents: Math.round(placement.detune * 10) / 10,
      velocityToLevel: placement.layered ? 0 : null,
      release: placement.release?.seconds ?? null,
      out,
    },
    text: [
      ...zones.map(
        (z) =>
          `${z.file}  ${nameOfNote(z.keyLow)}–${nameOfNote(z.keyHigh)} root ${nameOfNote(z.root)}  velocity ${z.velLow}–${z.velHigh}  repeat ${z.repeat}${z.doubts.length > 0 ? `  warning: ${z.doubts.join("; ")}` : ""}`,
      ),
      ...warnings.map((w) => `odd: ${w.file}: ${w.text}`),
      ...leftOut.map((l) => `excluded: ${l.file} (${l.reason})`),
      `${plural(zones.length, "zone")} written to ${out}${placement.doubts.length > 0 ? `, ${placement.doubts.length} with warnings` : ""}`,
    ].join("\n"),
  };
}
