import { logSpectrum } from "../../../core/analysis";
import type { FaceGround, FaceWave, Instrument } from "../../../core/instrument";
import { usedSamples } from "../../../core/instrument";
import { tell } from "../../state/notices";
import { audioWorker } from "../../workers/audio-worker";

/** Places of an outline that is drawn. */
const PLACES = 240;
/** Frames that a spectrum is taken of, and the softest of it that is drawn, in decibels. */
const FRAMES = 32768;
const FLOOR = -72;

/** Samples whose waves can be drawn: those that are played, by their names. */
export const drawable = (instrument: Instrument): readonly { readonly id: string; readonly label: string }[] => {
  const used = usedSamples(instrument);
  return instrument.samples.filter((s) => used.has(s.sha)).map((s) => ({ id: s.sha, label: s.name }));
};

const gone = (): null => {
  tell("error", "Its sound isn’t here any more: nothing can be drawn of it.");
  return null;
};

/** A sample's wave as it is drawn, its loudest place full; null where its sound is gone, which is told. */
export async function waveOf(sample: string): Promise<FaceWave | null> {
  const [peaks] = await audioWorker().thumbnails([sample], PLACES);
  if (!peaks) return gone();
  const top = Math.max(1e-6, ...peaks);
  return { sample, outline: Array.from(peaks, (p) => Math.round((p / top) * 1000) / 1000) };
}

/** A ground drawn of a sample: its wave, or its spectrum from 20 Hz to 20 kHz by octaves. */
export async function groundOf(
  kind: "wave" | "spectrum",
  sample: string,
  rate: number,
): Promise<Pick<FaceGround, "kind" | "outline"> | null> {
  if (kind === "wave") {
    const wave = await waveOf(sample);
    return wave && { kind, outline: wave.outline };
  }
  try {
    const sound = await audioWorker().window(sample, 0, FRAMES);
    const levels = logSpectrum(sound, rate, 0);
    return { kind, outline: Array.from(levels, (l) => Math.round(Math.max(0, 1 - l / FLOOR) * 1000) / 1000) };
  } catch {
    return gone();
  }
}
