import {
  type Flux,
  type Levels,
  type MeasuredSlice,
  measureFlux,
  measureLevels,
  type SliceMeter,
} from "../../../core/analysis";
import { type Audio, monoOf } from "../../../core/audio";
import { type NoiseMemory, readSound } from "../../../core/formats";
import { audioBytes } from "../../storage/audio-files";

/** The decoded audio of a stored file, with what was found out about it already. */
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

/** The decoded audio that was worked on last; two at most, for they are large. */
const held: Held[] = [];

/** The audio of a stored file; throws where it is gone. */
export async function hold(sha: string): Promise<Held> {
  const known = held.find((h) => h.sha === sha);
  if (known) return known;
  const bytes = await audioBytes(sha);
  if (!bytes) throw new Error("the audio isn't in this browser's storage any more");
  return keep(sha, readSound(bytes, { salvage: true }).audio);
}

/** Keeps decoded audio for what is asked of it next. */
export function keep(sha: string, audio: Audio): Held {
  const entry: Held = { sha, audio, levels: null, flux: null, meter: null, measured: new Map(), noise: new Map() };
  held.unshift(entry);
  held.length = Math.min(held.length, 2);
  return entry;
}

export const levelsOf = (entry: Held): Levels => {
  entry.levels ??= measureLevels(monoOf(entry.audio), entry.audio.rate);
  return entry.levels;
};

export const fluxOf = (entry: Held): Flux => {
  entry.flux ??= measureFlux(monoOf(entry.audio), entry.audio.rate, levelsOf(entry).floor);
  return entry.flux;
};
