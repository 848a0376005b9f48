import { nameOfNote } from "../../core/audio";
import { listZones, placeZones, type Sample } from "../../core/instrument";
import { type KeyStep, layOnKeys } from "../../core/mapping";
import { plural } from "../../core/params";
import { freshId } from "./ids";
import { tell } from "./notices";
import { session } from "./session";
import { setView } from "./view";

/** Lays samples on keys from one upwards, each on its own, beside what is mapped; they are selected afterwards. */
export function layFrom(samples: readonly Sample[], key: number, step: KeyStep): void {
  const { instrument } = session;
  const layer = instrument?.layers[0];
  const group = layer?.groups[0];
  if (!instrument || !layer || !group || samples.length === 0) return;
  const taken = new Set(listZones(instrument).map((z) => z.id));
  const zones = layOnKeys(samples, key, step, () => {
    const id = freshId(taken);
    taken.add(id);
    return id;
  });
  session.commit(placeZones(layer.id, group.id, zones, false));
  setView({ zoneIds: new Set(zones.map((z) => z.id)) });
  const left = samples.length - zones.length;
  tell(
    left > 0 ? "doubt" : "good",
    `${plural(zones.length, "sample")} from ${nameOfNote(key)} up, a key each.${left > 0 ? ` For ${left} there was no key left; they stay in the pool.` : ""}`,
    { label: "Undo", run: session.undoer() },
  );
}
