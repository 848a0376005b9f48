import { expose, transfer } from "comlink";
import { Zip, ZipPassThrough } from "fflate";
import {
  type Flux,
  type FoundSlice,
  findAttacks,
  type Levels,
  loudnessOf,
  type MeasuredSlice,
  measureFlux,
  measureLevels,
  SliceMeter,
} from "../../core/analysis";
import {
  type Audio,
  deconvolve,
  framesOf,
  makeSweep,
  monoOf,
  type Peaks,
  peakOf,
  peaksOf,
  responseOfClap,
  SWEEP,
  sliceAudio,
  trimResponse,
} from "../../core/audio";
import { PHRASES } from "../../core/engine";
import {
  BrokenDocument,
  FormatError,
  makeSample,
  type NoiseMemory,
  readSound,
  readWavInfo,
  sha256Of,
  soundKindOf,
  soundOfSlice,
  writeWav,
} from "../../core/formats";
import {
  type Fault,
  type Instrument,
  newSample,
  type Sample,
  type Shot,
  type Slice,
  type Take,
} from "../../core/instrument";
import { judgeShot, type Landed, type ShotVerdict, searchTake } from "../../core/mapping";
import { bouncePhrase } from "../audio/bounce-phrase";
import { audioBlob, audioBytes, storeAudio } from "../storage/audio-files";
import { type RecordingInfo, readChunks } from "../storage/recordings";
import { type ExportOptions, sliceFile } from "./export-slice";
import { fillPlayer } from "./fill-player";
import { type JoinedRecording, joinRecording } from "./join-recording";
import { type Opened, tooLong } from "./opened";
import { openBlob, packBlob } from "./package-blob";

interface Held {
  sha: string;
  audio: Audio;
  levels: Levels | null;
  flux: Flux | null;
  meter: SliceMeter | null;
  /** What was measured already, by where it lies. */
  readonly measured: Map<string, MeasuredSlice>;
  readonly noise: NoiseMemory;
}

/** Seconds of a take in which attacks are looked for unasked. */
const LONGEST_LOOK = 600;

let measuring = 0;

/** Lets other messages through. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

/** The decoded audio that was worked on last; two at most, for they are large. */
const held: Held[] = [];

async function hold(sha: string): Promise<Held> {
  const known = held.find((h) => h.sha === sha);
  if (known) return known;
  const bytes = await audioBytes(sha);
  if (!bytes) throw new Error("the audio isn't in this browser's storage any more");
  return keep(sha, readSound(bytes, { salvage: true }).audio);
}

function keep(sha: string, audio: Audio): Held {
  const entry: Held = { sha, audio, levels: null, flux: null, meter: null, measured: new Map(), noise: new Map() };
  held.unshift(entry);
  held.length = Math.min(held.length, 2);
  return entry;
}

const levelsOf = (entry: Held): Levels => {
  entry.levels ??= measureLevels(monoOf(entry.audio), entry.audio.rate);
  return entry.levels;
};

const fluxOf = (entry: Held): Flux => {
  entry.flux ??= measureFlux(monoOf(entry.audio), entry.audio.rate, levelsOf(entry).floor);
  return entry.flux;
};

/** Sounds up to so many frames are given to the page whole. */
const WHOLE_FRAMES = 44100 * 60;

const worker = {
  /** Opens a WAV, AIFF or FLAC file and stores it by content. `salvage` takes what is there of a damaged one. */
  async open(file: Blob, salvage: boolean): Promise<Opened> {
    try {
      const head = new Uint8Array(await file.slice(0, 65536).arrayBuffer());
      if (soundKindOf(head) === "wav") {
        const info = readWavInfo(head, { salvage: true, size: file.size });
        const long = tooLong(info.frames / info.rate);
        if (long) return long;
      }
      const bytes = new Uint8Array(await file.arrayBuffer());
      const { audio, info } = readSound(bytes, { salvage });
      const long = tooLong(info.frames / info.rate);
      if (long) return long;
      // A salvaged file is stored as a sound one, so that nobody stumbles over it again.
      const sound = salvage ? writeWav(audio, 24) : bytes;
      const sha = sha256Of(sound);
      await storeAudio(sha, sound);
      keep(sha, audio);
      const { rate, frames, channels, markers, warnings } = info;
      return { ok: true, sha, rate, channels, frames, markers, warnings };
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      return { ok: false, code: error.code, message: error.message, salvage: error.code === "truncated" };
    }
  },

  /** Opens a package and stores its samples. */
  async openPackage(
    file: Blob,
    repair = false,
    progress: (share: number) => void = () => {},
  ): Promise<
    | { ok: true; instrument: Instrument; problems: readonly string[] }
    | { ok: false; message: string; faults: readonly Fault[] }
  > {
    try {
      const { instrument, problems } = await openBlob(file, repair, storeAudio, progress);
      return { ok: true, instrument, problems };
    } catch (error) {
      if (error instanceof BrokenDocument && error.repairable)
        return { ok: false, message: error.message, faults: error.faults };
      if (error instanceof FormatError) return { ok: false, message: error.message, faults: [] };
      throw error;
    }
  },

  /** Stores audio as a WAV file of 24 bits, or of 32-bit float where it came with more. */
  async store(channels: Float32Array[], rate: number, depth: 24 | 32 = 24): Promise<Extract<Opened, { ok: true }>> {
    const audio = { rate, channels };
    const bytes = writeWav(audio, depth);
    const sha = sha256Of(bytes);
    await storeAudio(sha, bytes);
    keep(sha, audio);
    return { ok: true, sha, rate, channels: channels.length, frames: framesOf(audio), markers: [], warnings: [] };
  },

  /** Makes a file of what was recorded and stores it. */
  async storeRecording({ id, rate }: RecordingInfo): Promise<Omit<JoinedRecording, "parts">> {
    const { parts, ...joined } = await joinRecording(rate, readChunks(id));
    if (joined.frames > 0) await storeAudio(joined.sha, parts);
    return joined;
  },

  /** The waveform of a stored file, and its samples where it is short; those of a long one are asked for in windows. */
  async peaks(sha: string, whole = false): Promise<{ peaks: Peaks; samples: Float32Array | null }> {
    const mono = monoOf((await hold(sha)).audio);
    const peaks = peaksOf(mono);
    // The page gets a copy of its own, handed over rather than cloned there.
    const samples = whole || mono.length <= WHOLE_FRAMES ? mono.slice() : null;
    return transfer({ peaks, samples }, [...(samples ? [samples.buffer] : []), ...peaks.levels.map((l) => l.buffer)]);
  },

  /** The frames `[from, to)` of a stored file in one channel, for close zooms. */
  async window(sha: string, from: number, to: number): Promise<Float32Array> {
    const out = monoOf(sliceAudio((await hold(sha)).audio, from, to));
    return transfer(out, [out.buffer as ArrayBuffer]);
  },

  /** A stretch of a stored file, decoded, for listening. */
  async stretch(sha: string, from: number, to: number): Promise<Audio> {
    const { audio } = await hold(sha);
    const channels = audio.channels.map((c) => c.slice(from, to));
    return transfer(
      { rate: audio.rate, channels },
      channels.map((c) => c.buffer),
    );
  },

  /** Finds the sounds of a take as its search says. */
  async search(
    take: Pick<Take, "sha" | "search" | "markers" | "frames" | "rate">,
  ): Promise<{ floor: number; slices: FoundSlice[] }> {
    const entry = await hold(take.sha);
    const levels = levelsOf(entry);
    return { floor: levels.floor, slices: searchTake(take, levels, () => fluxOf(entry)) };
  },

  /** How many attacks there are inside slices that were found by level: notes that ring into one another. Zero of takes that are too long for looking. */
  async attacksInside({
    sha,
    slices,
  }: Pick<Take, "sha"> & { readonly slices: readonly FoundSlice[] }): Promise<number> {
    const entry = await hold(sha);
    const { rate } = entry.audio;
    if (framesOf(entry.audio) > LONGEST_LOOK * rate) return 0;
    const attacks = findAttacks(fluxOf(entry), levelsOf(entry), 0.3, 0.08);
    const apart = 0.12 * rate;
    return attacks.filter((at) => slices.some((s) => at > s.onset + apart && at < s.end - apart)).length;
  },

  /** Measures pitch, level and colour of some slices; null when another measuring has taken its place meanwhile. */
  async measure(
    sha: string,
    slices: readonly FoundSlice[],
    progress: (share: number) => void,
  ): Promise<MeasuredSlice[] | null> {
    const entry = await hold(sha);
    const turn = ++measuring;
    entry.meter ??= new SliceMeter(entry.audio);
    const found: MeasuredSlice[] = [];
    for (const [i, slice] of slices.entries()) {
      const key = `${slice.start}/${slice.end}/${slice.onset}`;
      let measured = entry.measured.get(key);
      if (!measured) {
        measured = entry.meter.measure(slice);
        entry.measured.set(key, measured);
        // Between two slices other calls get their turn, so that a search is answered while this goes on.
        await breathe();
        if (turn !== measuring) return null;
      }
      found.push(measured);
      if (i % 8 === 0) progress(i / slices.length);
    }
    return found;
  },

  /** What else the strike note of a slice may be, best first. */
  async strikeNotes(sha: string, slice: FoundSlice): Promise<{ note: number; score: number }[]> {
    return new SliceMeter((await hold(sha)).audio).alternatives(slice);
  },

  /** Judges a sound that came in for an entry of the shot list. */
  judge(audio: Audio, shot: Shot, floor: number, landed: readonly Landed[]): ShotVerdict {
    return judgeShot(audio, shot, floor, landed);
  },

  /** The treated sound of a slice, for listening. */
  async treated(take: Take, slice: Slice): Promise<Audio> {
    const { audio, noise } = await hold(take.sha);
    const sound = soundOfSlice(audio, take, slice, noise);
    return transfer(
      sound,
      sound.channels.map((c) => c.buffer as ArrayBuffer),
    );
  },

  /** Peak and loudness of the treated sounds of some slices. */
  async levels(
    take: Take,
    slices: readonly Slice[],
    progress: (share: number) => void,
  ): Promise<{ peak: number; loudness: number }[]> {
    const { audio, noise } = await hold(take.sha);
    return slices.map((slice, i) => {
      progress(i / slices.length);
      const sound = soundOfSlice(audio, take, slice, noise);
      return { peak: Math.max(-120, peakOf(sound)), loudness: loudnessOf(sound) };
    });
  },

  /** Makes samples of some slices of a take under the given names, and stores them. */
  async makeSamples(
    take: Take,
    slices: readonly Slice[],
    names: readonly string[],
    progress: (share: number) => void,
  ): Promise<Sample[]> {
    const { audio, noise } = await hold(take.sha);
    const samples: Sample[] = [];
    for (const [i, slice] of slices.entries()) {
      const { sample, bytes } = makeSample(audio, take, slice, names[i] ?? slice.id, 24, noise);
      await storeAudio(sample.sha, bytes);
      samples.push(sample);
      progress((i + 1) / slices.length);
    }
    return samples;
  },

  /** One slice as a file, with what belongs inside it. */
  async sliceFile(take: Take, slice: Slice, options: ExportOptions): Promise<Uint8Array<ArrayBuffer>> {
    const { audio, noise } = await hold(take.sha);
    const bytes = sliceFile(audio, take, slice, options, noise);
    return transfer(bytes, [bytes.buffer]);
  },

  /** Some slices as files in one zip. */
  async sliceZip(
    take: Take,
    slices: readonly Slice[],
    names: readonly string[],
    options: ExportOptions,
    progress: (share: number) => void,
  ): Promise<Blob> {
    const { audio, noise } = await hold(take.sha);
    const parts: Uint8Array<ArrayBuffer>[] = [];
    const zip = new Zip((error, chunk) => {
      if (error) throw error;
      parts.push(chunk as Uint8Array<ArrayBuffer>);
    });
    for (const [i, slice] of slices.entries()) {
      const file = new ZipPassThrough(`${names[i] ?? slice.id}.${options.format}`);
      zip.add(file);
      file.push(sliceFile(audio, take, slice, options, noise), true);
      progress((i + 1) / slices.length);
    }
    zip.end();
    return new Blob(parts, { type: "application/zip" });
  },

  /** Makes an impulse of a take: a clap as it is, or what a room did to Vise's sweep. */
  async impulse(take: Take, way: "sweep" | "clap", name: string): Promise<Sample> {
    const { audio } = await hold(take.sha);
    const response = way === "clap" ? responseOfClap(audio) : deconvolve(audio, makeSweep(SWEEP, audio.rate));
    const trimmed = trimResponse(response);
    const bytes = writeWav(trimmed, 24);
    const sha = sha256Of(bytes);
    await storeAudio(sha, bytes);
    return newSample({
      sha,
      name,
      frames: framesOf(trimmed),
      rate: audio.rate,
      channels: trimmed.channels.length,
      peak: peakOf(trimmed),
      loudness: loudnessOf(trimmed),
      use: "impulse",
    });
  },

  /** Writes an instrument with its samples as a package. */
  pack: (instrument: Instrument, progress: (share: number) => void): Promise<Blob> =>
    packBlob(instrument, audioBlob, progress),

  /** Puts an instrument with its samples into the player's page. */
  async player(instrument: Instrument, template: string, progress: (share: number) => void): Promise<Blob> {
    const file = await packBlob(instrument, audioBlob, progress);
    return new Blob(await fillPlayer(template, instrument.about.name, file), { type: "text/html" });
  },

  /** Renders a phrase to a 32-bit float WAV file. */
  async bounce(
    instrument: Instrument,
    phraseId: string,
    tempo: number,
    rules: WebAssembly.Module,
    progress: (share: number) => void,
  ): Promise<Blob> {
    const phrase = PHRASES.find((p) => p.id === phraseId) ?? PHRASES[0];
    if (!phrase) throw new RangeError("there are no phrases");
    const audioOf = async (sha: string) => {
      const bytes = await audioBytes(sha);
      return bytes ? readSound(bytes, { salvage: true }).audio : null;
    };
    return bouncePhrase({ instrument, phrase, tempo, audioOf, rules, progress });
  },
};

export type AudioWorker = typeof worker;
expose(worker);
