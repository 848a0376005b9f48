import type { Audio, Hertz } from "../audio";
import type { Marker, SampleRange } from "../instrument";
import type { FileLoop, RiffExtras, WavInstrument } from "./riff-chunks";

/** What any sound file says of itself. */
export interface SoundInfo {
  readonly frames: number;
  readonly rate: Hertz;
  readonly channels: number;
  /** Bits of a sample, and whether they are a floating-point number. */
  readonly bits: number;
  readonly float: boolean;
  readonly markers: readonly Marker[];
  /** The root note that is written inside, with cents above it; null where none is. */
  readonly root: { readonly note: number; readonly cents: number } | null;
  /** The first loop that is written inside; null where there is none; and those after it. */
  readonly loop: FileLoop | null;
  readonly further: readonly FileLoop[];
  /** Keys and velocities for which its maker meant it, both ends included; null where the file names none. */
  readonly range: SampleRange | null;
  /** What its maker wrote about it, and when it was recorded (`2026-11-25`); empty where nothing is said. */
  readonly text: string;
  readonly date: string;
  /** All that it says beside its audio, as it can be written again. */
  readonly extras: RiffExtras;
  /** Sentences about what was odd and how it was read. */
  readonly warnings: readonly string[];
}

export interface SoundFile {
  readonly audio: Audio;
  readonly info: SoundInfo;
}

/** What is said of sounds whose files say nothing. */
export const nothingSaid: Pick<SoundInfo, "root" | "loop" | "further" | "range" | "text"> = {
  root: null,
  loop: null,
  further: [],
  range: null,
  text: "",
};

/** A range that its maker named: neither all keys and velocities nor one that is turned round. */
function rangeOf(given: WavInstrument | null): SampleRange | null {
  if (!given) return null;
  const { keyLow, keyHigh, velHigh } = given;
  const velLow = Math.max(1, given.velLow);
  if (keyLow > keyHigh || velLow > velHigh || (keyHigh === 0 && velHigh === 0)) return null;
  if (keyLow === 0 && keyHigh === 127 && velLow === 1 && velHigh === 127) return null;
  return { keyLow, keyHigh, velLow, velHigh };
}

/** Longest text that is kept of a file. */
const MOST_TEXT = 2000;

/** Whether a text is a day that there is: recorders whose clock was never set write others. */
const isDay = (text: string | undefined): text is string =>
  text !== undefined && /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));

/** What a file says of itself, from what stands beside its audio. */
export function soundInfo(
  given: Pick<SoundInfo, "frames" | "rate" | "channels" | "bits" | "float" | "warnings">,
  extras: RiffExtras,
  words: { readonly text?: string; readonly date?: string } = {},
): SoundInfo {
  const { sampler, instrument, broadcast, markers } = extras;
  const own = sampler ? { note: sampler.root, cents: sampler.fine } : null;
  return {
    ...given,
    markers,
    root: own ?? (instrument ? { note: instrument.root, cents: -instrument.fine } : null),
    loop: sampler?.loop ?? null,
    further: sampler?.further ?? [],
    range: rangeOf(instrument),
    text: ((broadcast?.description || words.text) ?? "").slice(0, MOST_TEXT),
    date: [broadcast?.date, words.date].find(isDay) ?? "",
    extras,
  };
}
