import { framesOf, nameOfNote, peakOf } from "../core/audio";
import { FormatError, looksLikeZip, readMidi, readPackage, readSound, readWav, soundKindOf } from "../core/formats";
import { type Instrument, listZones } from "../core/instrument";
import { readArguments, UsageError } from "./arguments";
import { bytesOfFile, reading } from "./files";
import { openSfz } from "./sfz";

/** `vise inspect FILE`: says what a file is and what is in it. */
export async function inspect(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files } = readArguments(args, []);
  const [path, ...rest] = files;
  if (!path || rest.length > 0) throw new UsageError("inspect takes one file: vise inspect FILE [--json]");
  const bytes = await bytesOfFile(path);
  if (/\.sfz$/i.test(path)) return shown(await describeSfz(path));
  return shown(reading(path, () => describe(bytes)));
}

const shown = (json: Record<string, unknown>): { json: unknown; text: string } => ({
  json,
  text: Object.entries(json)
    .map(([key, value]) => `${key}: ${typeof value === "object" ? JSON.stringify(value) : value}`)
    .join("\n"),
});

async function describeSfz(path: string): Promise<Record<string, unknown>> {
  const { instrument, lost, missing, problems, warnings } = await openSfz(path, null);
  return {
    kind: "sfz",
    ...factsOf(instrument),
    lost,
    missing,
    problems: [...problems, ...warnings.map((w) => `${w.file}: ${w.text}`)],
  };
}

/** What people want to know of an instrument. */
function factsOf(instrument: Instrument): Record<string, unknown> {
  const zones = listZones(instrument);
  const keys = zones.flatMap((z) => [z.keyLow, z.keyHigh]);
  return {
    version: instrument.version,
    ...instrument.about,
    samples: instrument.samples.length,
    zones: zones.length,
    keys: keys.length > 0 ? `${nameOfNote(Math.min(...keys))}–${nameOfNote(Math.max(...keys))}` : null,
    layers: instrument.layers.length,
    macros: instrument.macros.map((m) => m.name),
    rules: instrument.rules.on,
  };
}

function describe(bytes: Uint8Array): Record<string, unknown> {
  if (bytes.length === 0) throw new FormatError("empty", 0, "the file is empty");
  if (looksLikeZip(bytes)) {
    const { instrument, problems } = readPackage(bytes);
    return {
      kind: "package",
      ...factsOf(instrument),
      problems,
    };
  }
  const head = String.fromCharCode(...bytes.subarray(0, 4));
  if (head === "MThd") {
    const song = readMidi(bytes);
    return { kind: "song", seconds: song.seconds, events: song.events.length, tempo: song.tempo };
  }
  const kind = soundKindOf(bytes);
  if (kind === null)
    throw new FormatError(
      "not-this-format",
      0,
      "it is neither a WAV, AIFF or FLAC file, a Standard MIDI File, an SFZ file nor a Vise package",
    );
  if (kind !== "wav") {
    const { audio, info } = readSound(bytes);
    return {
      kind: "audio",
      format: kind,
      rate: info.rate,
      channels: info.channels,
      frames: info.frames,
      seconds: info.frames / info.rate,
      peakDb: Math.round(peakOf(audio) * 10) / 10,
      bits: info.bits,
      root: info.root,
      loop: info.loop,
      range: info.range,
      text: info.text,
      markers: info.markers.length,
      warnings: info.warnings,
    };
  }
  const { audio, info } = readWav(bytes);
  return {
    kind: "audio",
    rate: info.rate,
    channels: info.fileChannels,
    bits: info.bits,
    encoding: info.encoding,
    frames: framesOf(audio),
    seconds: framesOf(audio) / info.rate,
    peakDb: Math.round(peakOf(audio) * 10) / 10,
    sampler: info.sampler,
    instrument: info.instrument,
    text: info.broadcast?.description ?? "",
    markers: info.markers.length,
    warnings: info.warnings,
  };
}
