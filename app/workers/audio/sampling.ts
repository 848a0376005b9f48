import { transfer } from "comlink";
import { Zip, ZipPassThrough } from "fflate";
import { loudnessOf } from "../../../core/analysis";
import {
  type Audio,
  deconvolve,
  framesOf,
  makeSweep,
  peakOf,
  responseOfClap,
  SWEEP,
  stretch,
  trimResponse,
} from "../../../core/audio";
import { makeSample, soundOfSlice, writeWav } from "../../../core/formats";
import { newSample, type Sample, type Slice, type Take } from "../../../core/instrument";
import { storeAudio, storeHashed } from "../../storage/audio-files";
import { type ExportOptions, sliceFile } from "../export-slice";
import { hold } from "./held-audio";

/** Makes treated sounds, samples and files of slices, and rooms of takes. */
export const sampling = {
  /** The treated sound of a slice, for listening. */
  async treated(take: Take, slice: Slice): Promise<Audio> {
    const { audio, noise } = await hold(take.sha);
    const sound = soundOfSlice(audio, take, slice, noise);
    return transfer(
      sound,
      sound.channels.map((c) => c.buffer as ArrayBuffer),
    );
  },

  /** Makes and stores a sample that is so many times as long at the same pitch. */
  async stretched(sample: Sample, ratio: number, name: string): Promise<Sample> {
    const audio = stretch((await hold(sample.sha)).audio, ratio);
    const bytes = writeWav(audio, 24);
    const sha = await storeHashed(bytes);
    const frames = framesOf(audio);
    const { beat } = sample;
    return {
      ...sample,
      ...{ sha, name, frames, from: null, file: null },
      peak: Math.max(-120, peakOf(audio)),
      loudness: loudnessOf(audio),
      beat: beat && {
        ...beat,
        tempo: beat.tempo / ratio,
        downbeat: Math.min(frames, Math.round(beat.downbeat * ratio)),
      },
    };
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
    const sha = await storeHashed(bytes);
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
};
