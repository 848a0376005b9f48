import { expose, transfer } from "comlink";
import { type FoundSlice, type Levels, type MeasuredSlice, measureLevels, measureSlices } from "../../core/analysis";
import { type Audio, framesOf, monoOf, type Peaks, peaksOf } from "../../core/audio";
import { PHRASES } from "../../core/engine";
import {
  FormatError,
  makeSample,
  readPackage,
  readWav,
  readWavInfo,
  sha256Of,
  writePackage,
  writeWav,
} from "../../core/formats";
import type { Instrument, Sample, Slice, Take } from "../../core/instrument";
import { searchTake } from "../../core/mapping";
import { bouncePhrase } from "../audio/bounce-phrase";
import { audioBytes, storeAudio } from "../storage/audio-files";
import { fillPlayer } from "./fill-player";

/** Longest file that is opened as a take, in seconds. */
const MOST_SECONDS = 3600;

/** What opening a file came to. */
export type Opened =
  | {
      readonly ok: true;
      readonly sha: string;
      readonly rate: number;
      readonly channels: number;
      readonly frames: number;
      readonly warnings: readonly string[];
    }
  | { readonly ok: false; readonly message: string; readonly salvage: boolean };

interface Held {
  sha: string;
  audio: Audio;
  levels: Levels | null;
}

/** The decoded audio that was worked on last; two at most, for they are large. */
const held: Held[] = [];

async function hold(sha: string): Promise<Held> {
  const known = held.find((h) => h.sha === sha);
  if (known) return known;
  const bytes = await audioBytes(sha);
  if (!bytes) throw new Error("the audio isn't in this browser's storage any more");
  return keep(sha, readWav(bytes, { salvage: true }).audio);
}

function keep(sha: string, audio: Audio): Held {
  const entry = { sha, audio, levels: null };
  held.unshift(entry);
  held.length = Math.min(held.length, 2);
  return entry;
}

const levelsOf = (entry: Held): Levels => {
  entry.levels ??= measureLevels(monoOf(entry.audio), entry.audio.rate);
  return entry.levels;
};

const hours = (seconds: number) => `${Math.floor(seconds / 3600)} h ${Math.round((seconds % 3600) / 60)} min`;

async function packed(instrument: Instrument): Promise<Uint8Array<ArrayBuffer>> {
  const wavs = new Map<string, Uint8Array>();
  for (const { sha } of instrument.samples) {
    const bytes = await audioBytes(sha);
    if (bytes) wavs.set(sha, bytes);
  }
  return writePackage(instrument, (sha) => wavs.get(sha) ?? null);
}

const worker = {
  /** Opens a WAV file and stores it by content. `salvage` takes what is there of a damaged one. */
  async open(file: Blob, salvage: boolean): Promise<Opened> {
    try {
      const head = new Uint8Array(await file.slice(0, 65536).arrayBuffer());
      const info = readWavInfo(head, { salvage: true, size: file.size });
      if (info.frames / info.rate > MOST_SECONDS) {
        return {
          ok: false,
          salvage: false,
          message: `it is ${hours(info.frames / info.rate)} long; takes of up to an hour can be opened. Cut it into parts first`,
        };
      }
      const bytes = new Uint8Array(await file.arrayBuffer());
      const { audio, info: whole } = readWav(bytes, { salvage });
      // A salvaged file is stored as a sound one, so that nobody stumbles over it again.
      const sound = salvage ? writeWav(audio, 24) : bytes;
      const sha = sha256Of(sound);
      await storeAudio(sha, sound);
      keep(sha, audio);
      return {
        ok: true,
        sha,
        rate: audio.rate,
        channels: audio.channels.length,
        frames: framesOf(audio),
        warnings: whole.warnings,
      };
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      return { ok: false, message: error.message, salvage: error.code === "truncated" };
    }
  },

  /** Opens a package and stores its samples. */
  async openPackage(
    file: Blob,
  ): Promise<{ ok: true; instrument: Instrument; problems: readonly string[] } | { ok: false; message: string }> {
    try {
      const { instrument, samples, problems } = readPackage(new Uint8Array(await file.arrayBuffer()));
      for (const [sha, bytes] of samples) await storeAudio(sha, Uint8Array.from(bytes));
      return { ok: true, instrument, problems };
    } catch (error) {
      if (error instanceof FormatError) return { ok: false, message: error.message };
      throw error;
    }
  },

  /** Stores recorded audio as a 24-bit WAV file. */
  async store(channels: Float32Array[], rate: number): Promise<Extract<Opened, { ok: true }>> {
    const audio = { rate, channels };
    const bytes = writeWav(audio, 24);
    const sha = sha256Of(bytes);
    await storeAudio(sha, bytes);
    keep(sha, audio);
    return { ok: true, sha, rate, channels: channels.length, frames: framesOf(audio), warnings: [] };
  },

  /** The waveform of a stored file, with its samples for close zooms. */
  async peaks(sha: string): Promise<{ peaks: Peaks; samples: Float32Array }> {
    const { audio } = await hold(sha);
    const mono = monoOf(audio);
    const peaks = peaksOf(mono);
    // The page gets a copy of its own, handed over rather than cloned there.
    const samples = mono.slice();
    return transfer({ peaks, samples }, [samples.buffer, ...peaks.levels.map((l) => l.buffer)]);
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

  /** Finds the sounds of a take at a threshold above its noise floor. */
  async search(sha: string, threshold: number): Promise<{ floor: number; slices: FoundSlice[] }> {
    const levels = levelsOf(await hold(sha));
    return { floor: levels.floor, slices: searchTake(levels, threshold) };
  },

  /** Measures pitch and level of some slices. */
  async measure(
    sha: string,
    slices: readonly FoundSlice[],
    progress: (share: number) => void,
  ): Promise<MeasuredSlice[]> {
    const { audio } = await hold(sha);
    return measureSlices(audio, slices, progress);
  },

  /** Makes samples of the kept slices of a take and stores them. */
  async makeSamples(take: Take, progress: (share: number) => void): Promise<Sample[]> {
    const { audio } = await hold(take.sha);
    const kept = take.slices.filter((s) => s.keep);
    const samples: Sample[] = [];
    for (const [i, slice] of kept.entries()) {
      const { sample, bytes } = makeSample(audio, take, slice as Slice, i + 1);
      await storeAudio(sample.sha, bytes);
      samples.push(sample);
      progress((i + 1) / kept.length);
    }
    return samples;
  },

  /** Writes an instrument with its samples as a package. */
  async pack(instrument: Instrument): Promise<Blob> {
    return new Blob([await packed(instrument)], { type: "application/zip" });
  },

  /** Puts an instrument with its samples into the player's page. */
  async player(instrument: Instrument, template: string): Promise<Blob> {
    return new Blob(fillPlayer(template, instrument.about.name, await packed(instrument)), { type: "text/html" });
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
      return bytes ? readWav(bytes, { salvage: true }).audio : null;
    };
    return bouncePhrase({ instrument, phrase, tempo, audioOf, rules, progress });
  },
};

export type AudioWorker = typeof worker;
expose(worker);
