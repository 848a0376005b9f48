import {
  type Audio,
  amplify,
  type FadeShape,
  fade,
  framesOf,
  learnNoise,
  monoOf,
  type NoiseProfile,
  quietestStretch,
  reduceNoise,
  removeOffset,
  reversed,
  sliceAudio,
  stretch,
} from "../audio";
import { type Slice, settingOf, type Take, type Unit } from "../instrument";

/** Frames of the take on either side of a slice that noise reduction hears, so that its edges are like its middle. */
const CONTEXT = 4096;
/** How long the room is learnt where nobody said. */
const QUIET_SECONDS = 0.5;
/** The fades that every cut gets, in seconds: too short to hear, long enough not to click. */
const EDGE_IN = 0.001;
const EDGE_OUT = 0.008;

const number = (unit: Unit, id: string): number => Number(settingOf(unit, id) ?? 0);

/** What was learnt of the noise of one take already, by the stretch that it was learnt from. */
export type NoiseMemory = Map<string, NoiseProfile | null>;

/** The noise of a stretch of a take, or of its quietest; null where that is too short. */
function noiseOf(take: Audio, unit: Unit): NoiseProfile | null {
  const frames = framesOf(take);
  const [from, to] = [number(unit, "learnFrom"), number(unit, "learnTo")].map((s) => Math.round(s * take.rate)) as [
    number,
    number,
  ];
  const size = Math.min(frames, Math.max(2048, Math.round(QUIET_SECONDS * take.rate)));
  const at = to - from >= 2048 && from < frames - 2048 ? from : quietestStretch(monoOf(take), size);
  const until = to - from >= 2048 && from < frames - 2048 ? Math.min(to, frames) : at + size;
  return until - at < 2048 ? null : learnNoise(take, at, until);
}

function denoised(audio: Audio, take: Audio, unit: Unit, memory: NoiseMemory): Audio {
  const key = `${number(unit, "learnFrom")}/${number(unit, "learnTo")}`;
  let profile = memory.get(key);
  if (profile === undefined) {
    profile = noiseOf(take, unit);
    memory.set(key, profile);
  }
  return profile ? reduceNoise(audio, profile, number(unit, "reduction"), number(unit, "threshold")) : audio;
}

function treated(audio: Audio, take: Audio, unit: Unit, memory: NoiseMemory): Audio {
  const seconds = number(unit, "time") * audio.rate;
  const shape = (unit.params.shape ?? "smooth") as FadeShape;
  switch (unit.kind) {
    case "gain":
      return amplify(audio, number(unit, "level"));
    case "offset":
      return removeOffset(audio);
    case "denoise":
      return denoised(audio, take, unit, memory);
    case "fadeIn":
      return fade(audio, "in", seconds, shape);
    case "fadeOut":
      return fade(audio, "out", seconds, shape);
    case "reverse":
      return reversed(audio);
    case "stretch":
      return stretch(audio, number(unit, "ratio"));
    default:
      return audio;
  }
}

/**
 * The sound of a slice: cut out of its take, treated as the take and then as the slice says, in order, with edges too short to
 * hear that keep it from clicking. Noise reduction that comes first hears the take on either side; `memory` spares learning the
 * same noise for every slice of one take.
 */
export function soundOfSlice(
  audio: Audio,
  take: Pick<Take, "treatments">,
  slice: Pick<Slice, "start" | "end" | "treatments">,
  memory: NoiseMemory = new Map(),
): Audio {
  const units = [...take.treatments, ...slice.treatments];
  const early = units.findIndex((u) => u.kind !== "denoise" && u.kind !== "gain");
  const wide = early < 0 ? units.length : early;
  const lead = wide > 0 ? Math.min(CONTEXT, slice.start) : 0;
  let sound = sliceAudio(audio, slice.start - lead, slice.end + (wide > 0 ? CONTEXT : 0));
  for (const unit of units.slice(0, wide)) sound = treated(sound, audio, unit, memory);
  sound = sliceAudio(sound, lead, lead + slice.end - slice.start);
  for (const unit of units.slice(wide)) sound = treated(sound, audio, unit, memory);
  const faded = fade(sound, "in", Math.round(audio.rate * EDGE_IN), "smooth");
  return fade(faded, "out", Math.round(audio.rate * EDGE_OUT), "smooth");
}
