import { mkdir, readdir, readFile, stat, writeFile } from "node:fs/promises";
import { basename, extname, join } from "node:path";
import { loudnessOf, measureFlux, measureLevels, measureSlices } from "../core/analysis";
import { type Audio, framesOf, monoOf, nameOfNote, peakOf } from "../core/audio";
import {
  namesOfSlices,
  noteOfSlice,
  pitchOfSlice,
  samplerOf,
  soundOfSlice,
  type WavDepth,
  writeFlac,
  writeWav,
} from "../core/formats";
import { NAMING, newTake, newUnit, SEARCH, type Search, type Slice, type Take } from "../core/instrument";
import {
  makeShots,
  type Normalising,
  normalisingGains,
  readPlan,
  searchTake,
  sliceId,
  slicesOf,
  sortByMeasure,
  sortByShots,
  withoutExtension,
} from "../core/mapping";
import { plural } from "../core/params";
import { readArguments, UsageError } from "./arguments";
import { soundOfFile } from "./files";

const HELP =
  "cut takes takes (or folders of them) and a folder: vise cut TAKE… --out DIR [--by level|attack|grid|markers] [--threshold DB] " +
  '[--sensitivity 0–1] [--tempo BPM] [--beats N] [--plan LIST.json|"C3 D3 x3"] [--normalise peak:DB|loudness:LUFS[:each|layer|all]] ' +
  "[--pattern P] [--depth 16|24|32] [--format wav|flac] [--json]";

const SOUNDS = new Set([".wav", ".aif", ".aiff", ".aifc", ".flac"]);

/** The sound files that arguments name: files as they are, folders by what lies in them. */
export async function soundFiles(paths: readonly string[]): Promise<string[]> {
  const files: string[] = [];
  for (const path of paths) {
    const kind = await stat(path).catch(() => null);
    if (!kind?.isDirectory()) files.push(path);
    else {
      const names = (await readdir(path)).filter((n) => SOUNDS.has(extname(n).toLowerCase())).sort();
      if (names.length === 0) throw new UsageError(`${path}: there is no WAV, AIFF or FLAC file in this folder`);
      files.push(...names.map((n) => join(path, n)));
    }
  }
  return files;
}

/** What is typed behind --normalise; `strength` is what `layer` was called before. */
function readNormalising(text: string | null): Normalising | null {
  if (text === null) return null;
  const match = /^(peak|loudness):(-?\d+(?:\.\d+)?)(?::(each|layer|strength|all))?$/.exec(text);
  if (!match) throw new UsageError(`--normalise is like peak:-1 or loudness:-20:layer, not “${text}”`);
  return {
    to: match[1] as "peak",
    level: Number(match[2]),
    keep: (match[3] === "layer" ? "strength" : (match[3] ?? "each")) as Normalising["keep"],
  };
}

/** A plan as typed, or as a JSON file: a list of {"note": "C3" or 48 or null, "name"?, "strength"?, "repeat"?}. */
async function readShots(given: string | null) {
  if (given === null) return null;
  if (!given.endsWith(".json")) {
    const read = readPlan(given);
    if (!read.ok) throw new UsageError(`--plan: “${read.word}” is neither a note nor a name`);
    return makeShots(read.plan);
  }
  try {
    const raw = JSON.parse(await readFile(given, "utf8")) as unknown;
    const list = Array.isArray(raw) ? raw : (raw as { shots?: unknown[] }).shots;
    if (!Array.isArray(list)) throw new Error("it holds no list");
    return list.map((entry, i) => {
      const e = entry as { note?: unknown; name?: unknown; strength?: unknown; repeat?: unknown };
      const typed = readPlan(String(e.note ?? e.name ?? ""));
      const [note] = typed.ok ? makeShots(typed.plan) : [];
      if (!note) throw new Error(`entry ${i + 1} has neither a note nor a name`);
      return { ...note, strength: Number(e.strength ?? 1) || 1, repeat: Number(e.repeat ?? 1) || 1 };
    });
  } catch (error) {
    throw new UsageError(`${basename(given)}: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/** The slices with the gains that bring them to the level. */
function normalised(audio: Audio, take: Take, slices: readonly Slice[], how: Normalising): Slice[] {
  const levels = slices.map((s) => {
    const sound = soundOfSlice(audio, take, s);
    return { peak: peakOf(sound), loudness: loudnessOf(sound) };
  });
  const gains = normalisingGains(slices, levels, how);
  return slices.map((s) => {
    const gain = newUnit("gain", "normalise");
    const level = gains.get(s.id);
    return level === undefined ? s : { ...s, treatments: [{ ...gain, params: { level } }] };
  });
}

/** `vise cut`: finds the sounds of takes and writes each as a named file. One take is held at a time. */
export async function cut(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files, text, number } = readArguments(args, [
    ...["out", "by", "threshold", "tempo", "beats", "sensitivity"],
    ...["plan", "normalise", "pattern", "depth", "format"],
  ]);
  const out = text("out");
  if (files.length === 0 || !out) throw new UsageError(HELP);
  const one = <T extends string>(name: string, of: readonly T[], fallback: T): T => {
    const given = (text(name) ?? fallback) as T;
    if (!of.includes(given)) throw new UsageError(`--${name} is one of ${of.join(", ")}, not “${given}”`);
    return given;
  };
  const format = one("format", ["wav", "flac"], "wav");
  const depth = Number(one("depth", ["16", "24", "32"], "24")) as WavDepth;
  if (format === "flac" && depth === 32) throw new UsageError("FLAC holds 16 or 24 bits; --depth 32 is for WAV");
  const search: Search = {
    ...SEARCH,
    by: one("by", ["level", "attack", "grid", "markers"], "level"),
    threshold: number("threshold", SEARCH.threshold),
    sensitivity: number("sensitivity", SEARCH.sensitivity),
    tempo: number("tempo", SEARCH.tempo),
    beats: number("beats", SEARCH.beats),
  };
  if (!(search.tempo > 0 && search.beats > 0)) throw new UsageError("--tempo and --beats are above 0");
  const how = readNormalising(text("normalise"));
  const shots = await readShots(text("plan"));
  await mkdir(out, { recursive: true });
  const takes = await soundFiles(files);
  const written = new Set<string>();
  const rows: Row[] = [];
  const lines: string[] = [];
  const reports: { take: string; cut: number; leftOut: number; noiseFloorDb: number; warnings: readonly string[] }[] =
    [];
  const leftOut: { take: string; start: number; end: number; reason: string }[] = [];
  for (const path of takes) {
    const { audio, info } = await soundOfFile(path);
    const name = withoutExtension(basename(path));
    const bare = newTake({
      id: "take",
      name,
      sha: "",
      rate: audio.rate,
      channels: audio.channels.length,
      frames: framesOf(audio),
      origin: "imported",
      markers: info.markers,
      search,
    });
    const mono = monoOf(audio);
    const levels = measureLevels(mono, audio.rate);
    const measured = measureSlices(
      audio,
      searchTake(bare, levels, () => measureFlux(mono, audio.rate, levels.floor)),
    );
    const found = slicesOf(measured, (i) => sliceId(measured[i]?.onset ?? i));
    const { roles } = shots ? sortByShots(found, shots) : sortByMeasure(found, pitchOfSlice);
    const sorted = found.map((s) => {
      const role = roles.get(s.id);
      return role ? { ...s, note: role.note ?? s.note, strength: role.strength, repeat: role.repeat } : s;
    });
    const kept = sorted.filter((s) => s.keep);
    const slices = how ? normalised(audio, bare, kept, how) : kept;
    const names = namesOfSlices(text("pattern") ?? NAMING, bare, slices);
    for (const [i, slice] of slices.entries()) {
      let free = names[i] ?? slice.id;
      for (let n = 2; written.has(free.toLowerCase()); n++) free = `${names[i]}-${n}`;
      written.add(free.toLowerCase());
      // The folder as it was given, so that whoever gave it finds the file by it.
      const file = `${out.replace(/\/+$/, "") || "/"}/${free}.${format}`;
      const sound = soundOfSlice(audio, bare, slice);
      const bytes =
        format === "flac"
          ? writeFlac(sound, depth === 16 ? 16 : 24)
          : writeWav(sound, depth, { sampler: samplerOf(pitchOfSlice(slice)), dither: true });
      await writeFile(file, bytes);
      const row = rowOf(slice, file);
      rows.push(row);
      lines.push(
        `${file}  ${row.note ?? "no pitch"} ${row.cents === null ? "" : `${row.cents >= 0 ? "+" : ""}${row.cents} ct`}  ${row.peakDb} dB`,
      );
    }
    const left = found.length - kept.length;
    for (const { keep, start, end, doubt } of found) if (!keep) leftOut.push({ take: path, start, end, reason: doubt });
    reports.push({ take: path, cut: kept.length, leftOut: left, noiseFloorDb: levels.floor, warnings: info.warnings });
    const why = [...new Set(found.flatMap((s) => (s.keep ? [] : [s.doubt])))].join("; ");
    lines.push(
      `${name}: ${plural(kept.length, "sound")} cut${left > 0 ? `, ${left} excluded (${why})` : ""}; noise floor ${levels.floor} dB`,
    );
  }
  const [only] = reports;
  return {
    json: {
      slices: rows,
      takes: reports,
      leftOut,
      noiseFloorDb: only?.noiseFloorDb ?? null,
      warnings: reports.flatMap((r) => r.warnings),
    },
    text: lines.join("\n"),
  };
}

interface Row {
  readonly start: number;
  readonly end: number;
  readonly note: string | null;
  readonly cents: number | null;
  readonly strength: number | null;
  readonly repeat: number | null;
  readonly confidence: number;
  readonly peakDb: number;
  readonly file: string;
}

function rowOf(slice: Slice, file: string): Row {
  const note = noteOfSlice(slice);
  const pitch = pitchOfSlice(slice);
  return {
    start: slice.start,
    end: slice.end,
    note: note === null ? null : nameOfNote(note),
    cents: note === null || pitch === null ? null : Math.round((pitch - note) * 1000) / 10,
    strength: slice.strength,
    repeat: slice.repeat,
    confidence: Math.round(slice.confidence * 1000) / 1000,
    peakDb: Math.round(slice.peak * 10) / 10,
    file,
  };
}
