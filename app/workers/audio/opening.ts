import { transfer } from "comlink";
import { factsOfSample, type SampleFacts } from "../../../core/analysis";
import { type Audio, framesOf, monoOf, outlineOf, type Peaks, peaksOf, sliceAudio } from "../../../core/audio";
import {
  BrokenDocument,
  FormatError,
  readSound,
  readWavInfo,
  soundKindOf,
  storedOf,
  type WavInfo,
  writeWav,
} from "../../../core/formats";
import type { Fault, Instrument } from "../../../core/instrument";
import { levelTrack, smoothTrack } from "../../../core/looping";
import { audioBytes, storeAudio, storeHashed } from "../../storage/audio-files";
import { type RecordingInfo, readChunks } from "../../storage/recordings";
import { type JoinedRecording, joinRecording } from "../join-recording";
import { type Opened, tooLong } from "../opened";
import { openBlob } from "../package-blob";
import { hold, keep } from "./held-audio";

/** Sounds up to so many frames are given to the page whole. */
const WHOLE_FRAMES = 44100 * 60;

/** The sound of a stored file; null where it is gone or can't be read: one bad file of many stops none of the others. */
async function storedSound(sha: string): Promise<Audio | null> {
  const bytes = await audioBytes(sha);
  try {
    return bytes && readSound(bytes, { salvage: true }).audio;
  } catch (error) {
    if (error instanceof FormatError) return null;
    throw error;
  }
}

/** What the head of a WAV file says, before all of it is read; null where it is of another kind, or its head is longer than what is looked at. */
async function headOf(file: Blob): Promise<WavInfo | null> {
  for (const size of HEADS) {
    const head = new Uint8Array(await file.slice(0, size).arrayBuffer());
    if (soundKindOf(head) !== "wav") return null;
    try {
      return readWavInfo(head, { salvage: true, size: file.size });
    } catch (error) {
      // What is said before the audio may be longer than that.
      if (!(error instanceof FormatError)) throw error;
    }
  }
  return null;
}
const HEADS = [2 ** 16, 2 ** 22];

/** Brings sounds into the browser's storage, and shows what is there. */
export const opening = {
  /** Opens a WAV, AIFF or FLAC file and stores it by content. `salvage` takes what is there of a damaged one. */
  async open(file: Blob, salvage: boolean): Promise<Opened> {
    try {
      const known = await headOf(file);
      const early = known && tooLong(known.frames / known.rate);
      if (early) return early;
      const bytes = new Uint8Array(await file.arrayBuffer());
      const { audio, info } = readSound(bytes, { salvage });
      const long = tooLong(info.frames / info.rate);
      if (long) return long;
      // A salvaged file is stored as a sound one, so that nobody stumbles over it again.
      const sound = salvage || info.warnings.length > 0 ? storedOf(audio, null) : bytes;
      const sha = await storeHashed(sound);
      keep(sha, audio);
      const { rate, frames, channels, markers, warnings, text, date } = info;
      return { ok: true, sha, rate, channels, frames, markers, warnings, text, date };
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
    const sha = await storeHashed(bytes);
    keep(sha, audio);
    const nothing = { markers: [], warnings: [], text: "", date: "" };
    return { ok: true, sha, rate, channels: channels.length, frames: framesOf(audio), ...nothing };
  },

  /** Makes a file of what was recorded and stores it. */
  async storeRecording({ id, rate }: RecordingInfo): Promise<Omit<JoinedRecording, "parts">> {
    const { parts, ...joined } = await joinRecording(rate, readChunks(id));
    if (joined.frames > 0) await storeAudio(joined.sha, parts);
    return joined;
  },

  /** The waveform of a stored file, of all its channels together or of one, and its samples where it is short; those of a long one are asked for in windows. */
  async peaks(
    sha: string,
    whole = false,
    channel: number | null = null,
  ): Promise<{ peaks: Peaks; samples: Float32Array | null }> {
    const { audio } = await hold(sha);
    const mono = (channel !== null && audio.channels[channel]) || monoOf(audio);
    const peaks = peaksOf(mono);
    // The page gets a copy of its own, handed over rather than cloned there.
    const samples = whole || mono.length <= WHOLE_FRAMES ? mono.slice() : null;
    return transfer({ peaks, samples }, [...(samples ? [samples.buffer] : []), ...peaks.levels.map((l) => l.buffer)]);
  },

  /** How loud a stored sound is, step by step (`STEP`), in decibels, a little evened out. */
  async levelTrack(sha: string): Promise<Float64Array> {
    const { audio } = await hold(sha);
    return smoothTrack(levelTrack([monoOf(audio)], audio.rate, 0, framesOf(audio)));
  },

  /** Small waveforms of stored files: the peaks of so many equal stretches each, 0 to 1; null where a file is gone or damaged. */
  async thumbnails(shas: readonly string[], columns: number): Promise<(Float32Array | null)[]> {
    const all: (Float32Array | null)[] = [];
    for (const sha of shas) {
      const audio = await storedSound(sha);
      all.push(audio && outlineOf(monoOf(audio), columns));
    }
    return all;
  },

  /** What only the audio of stored files tells; null where a file is gone. */
  async sampleFacts(shas: readonly string[]): Promise<(SampleFacts | null)[]> {
    const all: (SampleFacts | null)[] = [];
    for (const sha of shas) {
      const audio = await storedSound(sha);
      all.push(audio && factsOfSample(audio));
    }
    return all;
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
};
