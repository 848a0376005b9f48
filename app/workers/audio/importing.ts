import {
  FormatError,
  isRecording,
  nothingSaid,
  readSound,
  sampleOfFile,
  soundKindOf,
  storedOf,
} from "../../../core/formats";
import type { Sample } from "../../../core/instrument";
import { Room } from "../../basis/room";
import { storeAudio, storeHashed } from "../../storage/audio-files";
import { hashOf } from "../../storage/hash-of";
import { type Opened, tooLong } from "../opened";

/** What a sound file was taken for: a finished sample, or a recording that is to be cut. */
export type OpenedSound =
  | {
      readonly ok: true;
      readonly kind: "sample";
      readonly sample: Sample;
      readonly sounds: number;
      readonly warnings: readonly string[];
    }
  | { readonly ok: true; readonly kind: "recording"; readonly opened: Extract<Opened, { ok: true }> }
  | Extract<Opened, { ok: false }>;

/** Bytes of files that are in hand at once: of small ones the next is read while the last is stored. */
const MOST_IN_HAND = 2 ** 24;
const room = new Room(1);

/** Brings finished samples into the browser's storage. */
export const importing = {
  /**
   * Opens a WAV, AIFF or FLAC file as a sample, or as a recording where it is long and holds several sounds, unless it is asked for as a sample. `path`
   * with its folders.
   */
  async openSound(file: Blob, path: string, asSample = false): Promise<OpenedSound> {
    // How large a file is the page would have to wait for; here others are worked at meanwhile.
    const weight = Math.min(1, file.size / MOST_IN_HAND);
    await room.take(weight);
    try {
      const bytes = new Uint8Array(await file.arrayBuffer());
      const { audio, info } = readSound(bytes, { salvage: true });
      if (info.frames === 0) throw new FormatError("empty", 0, "there is no sound in it");
      const long = tooLong(info.frames / info.rate);
      if (long && !long.ok) return long;
      const isWav = soundKindOf(bytes) === "wav" && info.warnings.length === 0;
      const stored = storedOf(audio, isWav ? bytes : null);
      const { sample, sounds } = sampleOfFile(audio, info, path, await hashOf(stored));
      const { rate, frames, channels, markers, warnings, text, date } = info;
      if (!asSample && isRecording(frames / rate, sounds)) {
        const opened = {
          ok: true,
          sha: await storeHashed(soundKindOf(bytes) === "wav" && !isWav ? stored : bytes),
          rate,
          channels,
          frames,
          markers,
          warnings,
          text,
          date,
        } as const;
        return { ok: true, kind: "recording", opened };
      }
      await storeAudio(sample.sha, stored);
      return { ok: true, kind: "sample", sample, sounds, warnings };
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      return { ok: false, code: error.code, message: error.message, salvage: false };
    } finally {
      room.give(weight);
    }
  },

  /** Takes what the browser has decoded as a sample. */
  async storeSample(channels: Float32Array[], rate: number, path: string): Promise<OpenedSound> {
    const audio = { rate, channels };
    const sha = await storeHashed(storedOf(audio, null));
    const { sample, sounds } = sampleOfFile(audio, nothingSaid, path, sha);
    return { ok: true, kind: "sample", sample, sounds, warnings: [] };
  },
};
