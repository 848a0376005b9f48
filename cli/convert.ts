import { mkdir, writeFile } from "node:fs/promises";
import { dirname, join } from "node:path";
import { readPackage, type WavDepth, writePackage, writeSfz } from "../core/formats";
import { type Instrument, listZones, removeSamples } from "../core/instrument";
import { plural } from "../core/params";
import { readArguments, UsageError } from "./arguments";
import { bytesOfFile, kindOf, reading, soundBytes, soundOfFile } from "./files";
import { openSfz } from "./sfz";

const SOUNDS = [".wav", ".aif", ".aiff", ".flac"];
const INSTRUMENTS = [".sfz", ".vise"];

interface Outcome {
  readonly json: unknown;
  readonly text: string;
}

/** `vise convert A B`: writes a sound as a sound file of another kind, or an instrument as another kind of instrument. */
export async function convert(args: readonly string[]): Promise<Outcome> {
  const { files, text, number } = readArguments(args, ["bits", "root"]);
  const [from, to, ...more] = files;
  if (!from || !to || more.length > 0)
    throw new UsageError(
      "convert takes a file and what it is to become: vise convert A B [--bits 16|24|32] [--root DIR]",
    );
  const all = [...SOUNDS, ...INSTRUMENTS];
  for (const path of [from, to])
    if (!all.includes(kindOf(path)))
      throw new UsageError(`${path}: convert knows ${all.join(" ")}, by the end of the name`);
  if (SOUNDS.includes(kindOf(from)) !== SOUNDS.includes(kindOf(to)))
    throw new UsageError(
      "a sound becomes a sound, an instrument an instrument; vise map makes an instrument of sounds",
    );
  return SOUNDS.includes(kindOf(from))
    ? convertSound(from, to, number("bits", 0))
    : convertInstrument(from, to, text("root"));
}

async function convertSound(from: string, to: string, wanted: number): Promise<Outcome> {
  const { audio, info } = await soundOfFile(from);
  const bits = wanted === 0 ? (info.float ? 32 : info.bits <= 16 ? 16 : 24) : wanted;
  const wav = kindOf(to) === ".wav";
  if (![16, 24, ...(wav ? [32] : [])].includes(bits)) {
    if (wanted !== 0) throw new UsageError(`--bits is 16 or 24, in WAV files also 32, not ${wanted}`);
  }
  const depth = (wav ? bits : Math.min(24, bits)) as WavDepth;
  await writeFile(to, soundBytes({ audio, info }, kindOf(to), depth));
  const json = { from, to, frames: info.frames, rate: info.rate, channels: info.channels, bits: depth };
  const notes = info.warnings.map((w) => `odd: ${from}: ${w}`);
  return {
    json: { ...json, root: info.root, loop: info.loop, warnings: info.warnings },
    text: [...notes, `${to}: ${info.frames} frames at ${info.rate} Hz, ${depth} bits`].join("\n"),
  };
}

/** A sound as a file of some kind, with all that its file said. */
async function convertInstrument(from: string, to: string, root: string | null): Promise<Outcome> {
  const { instrument, wavs, lost, problems, missing } = await openInstrument(from, root);
  const gone = new Set(instrument.samples.filter((s) => !wavs.has(s.sha)).map((s) => s.sha));
  const sound = gone.size > 0 ? removeSamples(gone).apply(instrument) : instrument;
  const written: string[] = [];
  if (kindOf(to) === ".sfz") {
    const sfz = writeSfz(sound);
    written.push(...sfz.lost);
    for (const { sample, path } of sfz.files) {
      const file = join(dirname(to), path);
      await mkdir(dirname(file), { recursive: true });
      await writeFile(file, wavs.get(sample.sha) ?? new Uint8Array());
    }
    await writeFile(to, sfz.text);
  } else
    await writeFile(
      to,
      reading(to, () => writePackage(sound, (sha) => wavs.get(sha) ?? null)),
    );
  const zones = listZones(sound).length;
  return {
    json: { from, to, zones, samples: wavs.size, lost, missing, problems, notWritten: written },
    text: [
      ...problems.map((p) => `odd: ${p}`),
      ...missing.map((path) => `missing: ${path}; its zones were skipped`),
      ...lost.map((l) => `no counterpart: ${l.opcode}, ${l.count} times, first in ${l.file}, line ${l.line}: ${l.why}`),
      ...written.map((w) => `not written: ${w}`),
      `${plural(zones, "zone")} written to ${to}`,
    ].join("\n"),
  };
}

interface OpenedInstrument {
  readonly instrument: Instrument;
  readonly wavs: ReadonlyMap<string, Uint8Array>;
  readonly lost: readonly { opcode: string; count: number; file: string; line: number; why: string }[];
  readonly problems: readonly string[];
  readonly missing: readonly string[];
}

async function openInstrument(path: string, root: string | null): Promise<OpenedInstrument> {
  if (kindOf(path) === ".sfz") {
    const { warnings, problems, ...opened } = await openSfz(path, root);
    return { ...opened, problems: [...problems, ...warnings.map((w) => `${w.file}: ${w.text}`)] };
  }
  const bytes = await bytesOfFile(path);
  const { instrument, samples, problems } = reading(path, () => readPackage(bytes));
  return { instrument, wavs: samples, lost: [], problems, missing: [] };
}
