import { newGroup, newInstrument, newLayer, newRoute, newZone } from "./defaults";
import { moving } from "./face-defaults";
import { addFaceItem } from "./face-edits";
import { addGroup } from "./group-edits";
import type { Instrument } from "./instrument";
import { addLayer } from "./layer-edits";
import { addRoute } from "./param-edits";
import { placeZones } from "./zone-edits";

/** A zone without a sound, on one key. */
export const zone = (id: string, key: number) =>
  newZone({ id, sample: null, end: 0, keyLow: key, keyHigh: key, root: key });
/** Two layers; the first has the groups main and dampers, the second main. A route moves the dampers' level, a dial their pan. */
export function made(): Instrument {
  const start = newInstrument("groups", "Groups");
  const edits = [
    addLayer(newLayer("body", "Body")),
    addGroup("main", newGroup("dampers", "Dampers")),
    placeZones("main", "main", [zone("a", 60), zone("b", 61)], false),
    placeZones("main", "dampers", [zone("c", 62), zone("d", 62)], false),
    placeZones("body", "main", [zone("e", 60)], false),
    addRoute(newRoute({ id: "r", source: "wheel", target: "layers/main/groups/dampers/level", amount: 6 })),
    addFaceItem({
      ...{ id: "dial", kind: "dial", x: 0, y: 0, width: 64, height: 64, text: "Dampers" },
      moves: moving("layers/main/groups/dampers/pan"),
    }),
  ];
  return edits.reduce((doc, edit) => edit.apply(doc), start);
}
