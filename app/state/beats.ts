import {
  addGroup,
  type Beat,
  type Instrument,
  listSampled,
  newGroup,
  placeZones,
  type SampledZone,
  setBeat,
  together,
} from "../../core/instrument";
import { phraseOfSlices, sliceZones } from "../../core/mapping";
import { plural } from "../../core/params";
import { furtherAudioCalls } from "../workers/audio-worker";
import { freshId } from "./ids";
import { tell } from "./notices";
import { SLICES, slicesOf } from "./phrase-ids";
import { session } from "./session";
import { setView } from "./view";

const searcher = furtherAudioCalls().of(null);

/** Looks for the beat in what a zone plays, and writes it down at its sample. */
export async function lookForBeat(zone: SampledZone): Promise<void> {
  const of = session.instrument?.id;
  const found = await searcher.findBeat(zone.sample, zone.start, zone.end);
  // Whatever was opened meanwhile isn't what was asked for.
  if (!of || session.instrument?.id !== of) return;
  if (!found) {
    tell("warning", "No beat was found: its attacks lie on no regular grid. Type a tempo, and where a bar begins.");
    return;
  }
  const { tempo, downbeat, bar } = found;
  session.commit(setBeat(zone.sample, { tempo: Math.round(tempo * 1000) / 1000, downbeat, bar }));
}

/** First key of slices. */
const FIRST_KEY = 36;

/** Cuts what a zone plays at its attacks: each slice on a key of its own, in a group of theirs, and chosen to be played in order. */
export async function sliceToKeys(zone: SampledZone, beat: Beat): Promise<void> {
  const of = session.instrument?.id;
  const found = await searcher.findBeat(zone.sample, zone.start, zone.end);
  const { instrument } = session;
  if (!instrument || instrument.id !== of) return;
  const sample = instrument.samples.find((s) => s.sha === zone.sample);
  const layer = instrument.layers.find((l) => l.groups.some((g) => g.zones.some((z) => z.id === zone.id)));
  if (!sample || !layer) return;
  const frames = (60 / beat.tempo) * sample.rate;
  // Where no attacks were found, at each beat.
  const attacks =
    found?.attacks ??
    Array.from({ length: Math.max(0, Math.floor((zone.end - beat.downbeat) / frames)) }, (_, n) =>
      Math.round(beat.downbeat + n * frames),
    );
  const taken = new Set(listSampled(instrument).map((z) => z.id));
  const zones = sliceZones(zone, sample.rate, attacks, FIRST_KEY, () => {
    const id = freshId(taken);
    taken.add(id);
    return id;
  });
  if (zones.length === 0) {
    tell("warning", "There is nothing to slice: no attack was found.");
    return;
  }
  const group = newGroup(freshId(new Set(layer.groups.map((g) => g.id))), `Slices of ${sample.name}`);
  session.commit(
    together(`Slice ${sample.name} to keys`, [addGroup(layer.id, group), placeZones(layer.id, group.id, zones, true)]),
  );
  setView({ phrase: SLICES });
  tell(
    "good",
    `${plural(zones.length, "slice")} from C2 up, in a group of their own. The phrase “Slices in their order” plays them at any tempo.`,
    session.undoAction(),
  );
}

/** The slices in their order as a phrase; null where there are none. */
export function slicesPhrase({ layers, samples }: Pick<Instrument, "layers" | "samples">) {
  const slices = slicesOf(layers)(samples);
  return slices && phraseOfSlices(slices.zones, slices.rate, slices.beat);
}
