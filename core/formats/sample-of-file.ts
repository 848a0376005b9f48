import { findSlices, measureLevels, SliceMeter } from "../analysis";
import { type Audio, framesOf, monoOf, peakOf } from "../audio";
import { newSample, type Sample, SEARCH } from "../instrument";
import { withoutExtension } from "../mapping";
import type { SoundInfo } from "./sound-info";
import { writeWav } from "./wav-write";

/** A file taken as a finished sample. */
export interface FileSample {
  readonly sample: Sample;
  /** How many sounds there are in it, parted by silence. */
  readonly sounds: number;
}

/** Seconds above which a file is a recording whatever is in it, and above which it is one if there are several sounds in it. */
const SURELY_LONG = 90;
const LONG = 12;
const SEVERAL = 3;

/** Whether a file is a recording that is to be cut, by its length in seconds and by how many sounds there are in it. */
export const isRecording = (seconds: number, sounds: number): boolean =>
  seconds > SURELY_LONG || (seconds > LONG && sounds >= SEVERAL);

/** Path and name of a file as a sample keeps them, however long they are. */
function named(path: string): { name: string; path: string } {
  const inside = withoutExtension(path).normalize("NFC").slice(-1000);
  const name = inside.slice(inside.lastIndexOf("/") + 1).slice(0, 200);
  return { name: name || "unnamed", path: inside };
}

/** Whether 16 bits hold every value exactly. */
const fitsIn16 = ({ channels }: Audio): boolean =>
  channels.every((channel) => {
    for (let i = 0; i < channel.length; i++) {
      const step = (channel[i] as number) * 32768;
      if (step !== Math.trunc(step) || step > 32767) return false;
    }
    return true;
  });

/** The fewest bits of a WAV file that hold a sound: 24, or, where it goes beyond full scale, a float of 32, in which nothing is clipped. */
export const depthFor = (audio: Audio): 24 | 32 => (peakOf(audio) > 0 ? 32 : 24);

/** What is stored of a sound: the file's own `bytes` where it is a WAV, else (null) a WAV of the same numbers, in 16 bits where these hold them. */
export const storedOf = (audio: Audio, bytes: Uint8Array<ArrayBuffer> | null): Uint8Array<ArrayBuffer> =>
  bytes ?? writeWav(audio, fitsIn16(audio) ? 16 : depthFor(audio));

/** Measures a file as one finished sample. `path` with its folders; `sha` is the hash of what is stored of it. */
export function sampleOfFile(
  audio: Audio,
  info: Pick<SoundInfo, "root" | "loop" | "further" | "range" | "text">,
  path: string,
  sha: string,
): FileSample {
  const frames = framesOf(audio);
  const mono = monoOf(audio);
  const found = findSlices(measureLevels(mono, audio.rate), SEARCH);
  const onset = Math.min(Math.max(0, frames - 1), found[0]?.onset ?? 0);
  const measured = frames > 0 ? new SliceMeter(audio).hear({ start: 0, end: frames, onset }) : null;
  const { name, path: inside } = named(path);
  return {
    sample: newSample({
      sha,
      name,
      frames,
      rate: audio.rate,
      channels: audio.channels.length,
      pitch: measured?.pitch ?? null,
      confidence: measured?.confidence ?? 0,
      peak: measured?.peak ?? -120,
      loudness: measured?.loudness ?? -120,
      file: {
        path: inside,
        root: info.root ? info.root.note + info.root.cents / 100 : null,
        loop: info.loop,
        further: info.further,
        range: info.range,
        text: info.text.slice(0, 2000),
      },
    }),
    sounds: found.length,
  };
}
