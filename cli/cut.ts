import { mkdir, writeFile } from "node:fs/promises";
import { basename, join } from "node:path";
import { FIND_DEFAULTS, measureLevels, measureSlices } from "../core/analysis";
import { monoOf, nameOfNote } from "../core/audio";
import { makeSample, noteOfSlice } from "../core/formats";
import { searchTake, sliceId, slicesOf } from "../core/mapping";
import { readArguments, UsageError } from "./arguments";
import { wavOfFile } from "./files";

/** `vise cut TAKE.wav --out DIR`: finds the sounds of a take and writes each as a named WAV. */
export async function cut(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files, text, number } = readArguments(args, ["out", "threshold"]);
  const [path, ...rest] = files;
  const out = text("out");
  if (!path || rest.length > 0 || !out)
    throw new UsageError("cut takes one take and a folder: vise cut TAKE.wav --out DIR [--threshold DB] [--json]");
  const { audio, info } = await wavOfFile(path);
  const levels = measureLevels(monoOf(audio), audio.rate);
  const found = searchTake(levels, number("threshold", FIND_DEFAULTS.threshold));
  const measured = measureSlices(audio, found);
  const slices = slicesOf(measured, (i) => sliceId(measured[i]?.onset ?? i));
  await mkdir(out, { recursive: true });
  const kept = slices.filter((s) => s.keep);
  const rows = [];
  for (const [i, slice] of kept.entries()) {
    const { sample, bytes } = makeSample(audio, { id: "take", name: basename(path) }, slice, i + 1);
    const file = join(out, `${sample.name}.wav`);
    await writeFile(file, bytes);
    const note = noteOfSlice(slice);
    rows.push({
      start: slice.start,
      end: slice.end,
      note: note === null ? null : nameOfNote(note),
      cents: slice.pitch === null ? null : Math.round((slice.pitch - Math.round(slice.pitch)) * 1000) / 10,
      confidence: Math.round(slice.confidence * 1000) / 1000,
      peakDb: Math.round(slice.peak * 10) / 10,
      file,
    });
  }
  const left = slices.length - kept.length;
  const lines = rows.map(
    (r) =>
      `${r.file}  ${r.note ?? "no pitch"} ${r.cents === null ? "" : `${r.cents >= 0 ? "+" : ""}${r.cents} ct`}  ${r.peakDb} dB`,
  );
  const summary = `${rows.length} sounds cut${left > 0 ? `, ${left} left out as bumps or false starts` : ""}; noise floor ${levels.floor} dB`;
  return {
    json: { slices: rows, leftOut: left, noiseFloorDb: levels.floor, warnings: info.warnings },
    text: [...lines, summary].join("\n"),
  };
}
