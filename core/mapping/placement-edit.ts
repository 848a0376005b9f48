import {
  addGroup,
  addLayer,
  addUnit,
  type Edit,
  type Instrument,
  listZones,
  newGroup,
  newLayer,
  newUnit,
  placeZones,
  removeZones,
  renameGroup,
  setParam,
  together,
} from "../instrument";
import { plural } from "../params";
import { defaultParams } from "../units";
import type { Placement } from "./place-parts";

/** Where placed zones go: in place of all that is mapped, beside what is in the first group, into groups or a layer of their own. */
export type PlaceInto = "replace" | "add" | "groups" | "layer";

/** Adds the microphones of which an instrument has none yet, called after their ids. */
export function addMicrophones(instrument: Instrument, ids: readonly string[]): Edit[] {
  const known = new Set(instrument.mics.map((m) => m.id));
  return [...new Set(ids)]
    .filter((id) => !known.has(id))
    .map((id) => addUnit("mics", newUnit("mic", id, `${id[0]?.toUpperCase() ?? ""}${id.slice(1)}`)));
}

/** Places what was sorted as one edit. `idOf` gives groups and layers their ids; `name` is what a new layer or group is called. */
export function placementEdit(
  instrument: Instrument,
  placement: Placement,
  into: PlaceInto,
  name: string,
  idOf: () => string,
): Edit {
  const edits: Edit[] = [];
  if (into === "replace") edits.push(removeZones(new Set(listZones(instrument).map((z) => z.id))));
  edits.push(...addMicrophones(instrument, placement.microphones));
  const fresh = into === "layer" ? newLayer(idOf(), name) : null;
  if (fresh) edits.push(addLayer(fresh));
  const layer = fresh ?? instrument.layers[0];
  if (!layer) return together("Place nothing", []);
  placement.groups.forEach(({ zones, trigger, name: called }, i) => {
    const first = layer.groups[0];
    if (i === 0 && into !== "groups" && trigger === "noteOn" && first) {
      edits.push(placeZones(layer.id, first.id, zones, into === "replace"));
      if (placement.kit && called !== "" && into !== "add") edits.push(renameGroup(layer.id, first.id, called));
      return;
    }
    const words = [called || (trigger === "noteOff" ? "" : name), trigger === "noteOff" ? "release" : ""].filter(
      (w) => w,
    );
    const group = newGroup(idOf(), words.join(" ").slice(0, 60) || "Placed");
    const settings = { ...group.settings, params: { ...group.settings.params, trigger } };
    edits.push(addGroup(layer.id, { ...group, settings, zones }));
  });
  // Where strengths were recorded, the recordings say how loud each is.
  if (placement.layered && (into === "layer" || into === "replace")) edits.push(velocityOff(layer.id));
  // A release that somebody has set stays.
  const usual = layer.amp.params.release === defaultParams("amp").release;
  if (placement.release && usual && (into === "layer" || into === "replace"))
    edits.push(releaseAfter(layer.id, placement.release.seconds));
  return together(`Place ${plural(placement.zones.length, "sample")}`, edits);
}

const releaseAfter = (layer: string, seconds: number): Edit => ({
  name: "Release",
  apply: (doc) => setParam(doc, `layers/${layer}/amp/release`, seconds).apply(doc),
});

const velocityOff = (layer: string): Edit => ({
  name: "Velocity to level 0 dB",
  apply: (doc) => setParam(doc, `layers/${layer}/strip/velocity`, 0).apply(doc),
});
