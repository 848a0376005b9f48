import { listZones, type Sample } from "../../core/instrument";
import { placementEdit, placeSamples, saysGone, whatGoes } from "../../core/mapping";
import { plural } from "../../core/params";
import { freshId } from "./ids";
import { settleAxis } from "./key-axis";
import { tell } from "./notices";
import { session } from "./session";
import { setView } from "./view";

/** The usual four octaves. */
const USUAL = { low: 36, high: 84 };

/** Places samples on the keys of the first layer in place of all that is mapped, in whatever layer, as one step, and says what came of it. */
export function placeAll(samples: readonly Sample[]): void {
  const { instrument } = session;
  if (!instrument) return;
  const going = whatGoes(instrument);
  const before = new Set(listZones(instrument).map((z) => z.id));
  const taken = new Set(before);
  // The usual four octaves, and wherever else there are roots.
  const pitches = samples.flatMap((s) => (s.pitch === null ? [] : [Math.round(s.pitch)]));
  const limits = {
    mode: "nearest" as const,
    low: Math.min(USUAL.low, ...pitches),
    high: Math.max(USUAL.high, ...pitches),
  };
  const placement = placeSamples(samples, limits, () => {
    const id = freshId(taken);
    taken.add(id);
    return id;
  });
  const { layered, roots } = placement;
  session.keepBefore("placing");
  session.commit(placementEdit(instrument, placement, "replace", "", freshId));
  const keys = placement.zones.flatMap((z) => [z.keyLow, z.keyHigh]);
  const low = Math.min(...keys);
  setView({ zoneIds: new Set(), ...(keys.length > 0 && settleAxis(low - 2, Math.max(...keys) - low + 5)) });
  const shape = placement.kit
    ? `A kit: ${plural(roots, "key")}, one for each sound.`
    : `${plural(roots, "root")}${layered ? "; velocity layers were recorded, so velocity to level is set to 0 dB" : ""}.`;
  const goes = going.zones > 0 ? ` They take the place of ${saysGone(going)}.` : "";
  tell("good", `${plural(placement.zones.length, "sample")} placed. ${shape}${goes}`, session.undoAction());
  if (placement.leftOut.length > 0) {
    const names = placement.leftOut.slice(0, 3).map((l) => `${l.sample.name} (${l.reason})`);
    const more = placement.leftOut.length > 3 ? ` and ${placement.leftOut.length - 3} more` : "";
    tell("warning", `Not placed: ${names.join(", ")}${more}.`);
  }
}
