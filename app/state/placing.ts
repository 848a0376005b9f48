import { type Edit, listZones, placeZones, removeZones, type Sample, setParam, together } from "../../core/instrument";
import { placeSamples, type SpreadMode } from "../../core/mapping";
import { plural } from "../../core/params";
import { freshId } from "./ids";
import { settleAxis } from "./key-axis";
import { tell } from "./notices";
import { session } from "./session";
import { setView } from "./view";

interface PlaceOptions {
  readonly mode: SpreadMode;
  readonly low: number;
  readonly high: number;
}

export const PLACE_DEFAULTS: PlaceOptions = { mode: "nearest", low: 36, high: 84 };

/** Places samples on the keys of the first layer in place of all that is mapped, in whatever layer, as one step, and says what came of it. */
export function placeAll(samples: readonly Sample[], options: PlaceOptions = PLACE_DEFAULTS): void {
  const { instrument } = session;
  const layer = instrument?.layers[0];
  const group = layer?.groups[0];
  if (!instrument || !layer || !group) return;
  const before = new Set(listZones(instrument).map((z) => z.id));
  const taken = new Set(before);
  // The usual four octaves, and wherever else there are roots.
  const pitches = samples.flatMap((s) => (s.pitch === null ? [] : [Math.round(s.pitch)]));
  const limits = { ...options, low: Math.min(options.low, ...pitches), high: Math.max(options.high, ...pitches) };
  const placement = placeSamples(samples, limits, () => {
    const id = freshId(taken);
    taken.add(id);
    return id;
  });
  const edits: Edit[] = [removeZones(before), placeZones(layer.id, group.id, placement.zones, true)];
  const { layered, roots } = placement;
  const address = `layers/${layer.id}/strip/velocity`;
  if (layered) edits.push(setParam(instrument, address, 0));
  session.keepBefore("placing");
  session.commit(together(`Place ${plural(placement.zones.length, "sample")}`, edits));
  const keys = placement.zones.flatMap((z) => [z.keyLow, z.keyHigh]);
  const low = Math.min(...keys);
  setView({ zoneIds: new Set(), ...(keys.length > 0 && settleAxis(low - 2, Math.max(...keys) - low + 5)) });
  const shape = placement.kit
    ? "No clear pitch was found, so each sound has a key of its own from C2."
    : `${plural(roots, "root")}${layered ? "; velocity layers were recorded, so velocity to level is set to 0 dB" : ""}.`;
  const gone = before.size > 0 ? ` They take the place of ${plural(before.size, "zone")}.` : "";
  tell("good", `${plural(placement.zones.length, "sample")} placed. ${shape}${gone}`, {
    label: "Undo",
    run: session.undoer(),
  });
  if (placement.leftOut.length > 0) {
    const names = placement.leftOut.slice(0, 3).map((l) => `${l.sample.name} (${l.reason})`);
    const more = placement.leftOut.length > 3 ? ` and ${placement.leftOut.length - 3} more` : "";
    tell("doubt", `Not placed: ${names.join(", ")}${more}.`);
  }
}
