import { addSamples, changeZones, type Sample, type SampledZone, stretchedZone, together } from "../../core/instrument";
import { furtherAudioCalls } from "../workers/audio-worker";
import { Errand } from "./errand";
import { tell } from "./notices";
import { session } from "./session";

const maker = furtherAudioCalls().of(null);

/** How much longer or shorter a sound may become. */
const SHORTEST = 0.25;
const LONGEST = 4;

/** Lets a zone play its sample stretched to a tempo, at the same pitch. */
export async function followTempo(zone: SampledZone, sample: Sample, tempo: number): Promise<void> {
  if (!sample.beat) return;
  const ratio = sample.beat.tempo / tempo;
  if (!(ratio >= SHORTEST && ratio <= LONGEST)) {
    tell(
      "warning",
      `From ${Math.round(sample.beat.tempo)} to ${tempo} bpm is too far: a sound can become a quarter to four times as long.`,
    );
    return;
  }
  const errand = Errand.begin("stretch a sample");
  if (!errand) return;
  const made = await maker.stretched(sample, ratio, `${sample.name} at ${tempo}`);
  const edit = together(`Stretch ${sample.name} to ${tempo} bpm`, [
    addSamples([made]),
    changeZones(new Set([zone.id]), "Stretch", (z) => stretchedZone(z, made, ratio)),
  ]);
  if ((await errand.deliver(edit, `${sample.name} at ${tempo} bpm`)) !== "open") return;
  tell("good", `It plays at ${tempo} bpm now, ${ratio.toFixed(3)} times as long.`, session.undoAction());
}
