import { together } from "./about-edits";
import { newUnit } from "./defaults";
import type { Edit } from "./edit";
import type { Instrument } from "./instrument";
import { addRoute, addUnit, setParam } from "./param-edits";

/** Semitones from which a pitch comes at the beginning of a note, and in which time. */
const FALLS = { amount: 24, seconds: 0.07 };
const RISES = { amount: -12, seconds: 0.12 };
/** Seconds for which a punch holds the level, and in which it falls afterwards. */
const HELD = 0.025;
const FALLING = 0.18;

/** Lets a layer's pitch fall or rise to the key's at the beginning of each note: an envelope of its own moves the source. */
export function pitchBeginning(
  doc: Instrument,
  layerId: string,
  way: "falls" | "rises",
  ids: { envelope: string; route: string },
): Edit {
  const { amount, seconds } = way === "falls" ? FALLS : RISES;
  const name = way === "falls" ? "Pitch drop" : "Pitch rise";
  const at = `envelopes/${ids.envelope}`;
  const added = addUnit("envelopes", newUnit("envelope", ids.envelope, name));
  const made = added.apply(doc);
  return together(`${name} at the beginning`, [
    added,
    setParam(made, `${at}/attack`, 0),
    setParam(made, `${at}/decay`, seconds),
    setParam(made, `${at}/sustain`, 0),
    addRoute({ id: ids.route, source: at, target: `layers/${layerId}/source/transpose`, amount }),
  ]);
}

/** Holds a layer's level at the beginning of each note before it falls: the punch of a drum or a pluck. */
export function punch(doc: Instrument, layerId: string): Edit {
  const amp = `layers/${layerId}/amp`;
  return together("Hold the beginning", [
    setParam(doc, `${amp}/attack`, 0),
    setParam(doc, `${amp}/hold`, HELD),
    setParam(doc, `${amp}/decay`, FALLING),
    setParam(doc, `${amp}/sustain`, 0.4),
  ]);
}
