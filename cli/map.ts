import { writeFile } from "node:fs/promises";
import { basename } from "node:path";
import { measureSlices } from "../core/analysis";
import { framesOf, nameOfNote, parseNote } from "../core/audio";
import { readWav, sha256Of, writePackage } from "../core/formats";
import { addSamples, newInstrument, newSample, placeZones, type Sample, setParam, together } from "../core/instrument";
import { placeSamples, type SpreadMode } from "../core/mapping";
import { readArguments, UsageError } from "./arguments";
import { bytesOfFile, reading } from "./files";

const MODES: readonly SpreadMode[] = ["nearest", "down", "up", "none"];

function keyOption(text: string | null, fallback: number, name: string): number {
  if (text === null) return fallback;
  const note = parseNote(text);
  if (note === null) throw new UsageError(`--${name} wants a key such as C2 or 36, not “${text}”`);
  return note;
}

/** `vise map FILES… --out X.vise`: measures samples, places them on the keys and writes a package. */
export async function map(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files, text } = readArguments(args, ["out", "name", "spread", "low", "high"]);
  const out = text("out");
  if (files.length === 0 || !out)
    throw new UsageError(
      "map takes samples and a package to write: vise map FILES… --out X.vise [--spread nearest|down|up|none] [--low KEY] [--high KEY]",
    );
  const mode = (text("spread") ?? "nearest") as SpreadMode;
  if (!MODES.includes(mode)) throw new UsageError(`--spread is one of ${MODES.join(", ")}, not “${mode}”`);
  const wavs = new Map<string, Uint8Array>();
  const samples: Sample[] = [];
  for (const path of files) {
    const bytes = await bytesOfFile(path);
    const { audio } = reading(path, () => readWav(bytes));
    const [measured] = measureSlices(audio, [{ start: 0, end: framesOf(audio), onset: 0 }]);
    const sha = sha256Of(bytes);
    wavs.set(sha, bytes);
    samples.push(
      newSample({
        sha,
        name: basename(path).replace(/\.wav$/i, ""),
        frames: framesOf(audio),
        rate: audio.rate,
        channels: audio.channels.length,
        pitch: measured?.pitch ?? null,
        confidence: measured?.confidence ?? 0,
        peak: measured?.peak ?? -120,
        loudness: measured?.loudness ?? -120,
      }),
    );
  }
  const low = keyOption(text("low"), 0, "low");
  const high = keyOption(text("high"), 127, "high");
  const placement = placeSamples(samples, { mode, low, high }, (i) => `z${i + 1}`);
  const name = text("name") ?? basename(out).replace(/\.vise$/i, "");
  const empty = newInstrument("mapped", name);
  const { layered } = placement;
  const instrument = together("", [
    addSamples(samples),
    placeZones("main", "main", placement.zones, true),
    ...(layered ? [setParam(empty, "layers/main/strip/velocity", 0)] : []),
  ]).apply(empty);
  await writeFile(
    out,
    writePackage(instrument, (sha) => wavs.get(sha) ?? null),
  );
  const nameOf = new Map(samples.map((s) => [s.sha, s.name]));
  const zones = placement.zones.map((z) => ({
    file: nameOf.get(z.sample ?? "") ?? "",
    keyLow: z.keyLow,
    keyHigh: z.keyHigh,
    root: z.root,
    velLow: z.velLow,
    velHigh: z.velHigh,
    repeat: z.repeat,
    tune: z.tune,
  }));
  const lines = zones.map(
    (z) =>
      `${z.file}  ${nameOfNote(z.keyLow)}–${nameOfNote(z.keyHigh)} root ${nameOfNote(z.root)}  velocity ${z.velLow}–${z.velHigh}  repeat ${z.repeat}`,
  );
  const leftOut = placement.leftOut.map((l) => ({ file: l.sample.name, reason: l.reason }));
  return {
    json: {
      zones,
      leftOut,
      detuneCents: Math.round(placement.detune * 10) / 10,
      velocityToLevel: layered ? 0 : null,
      out,
    },
    text: [
      ...lines,
      ...leftOut.map((l) => `left out: ${l.file} (${l.reason})`),
      `${zones.length} zones written to ${out}`,
    ].join("\n"),
  };
}
