import { bindsOf, type FaceItem, type Instrument } from "../instrument";
import { formOf } from "./kinds";

/** Everything that an item can set: what it is bound to, and what its kind moves by itself. */
export function reachOf(doc: Instrument, item: FaceItem): readonly string[] {
  if (item.kind === "layers")
    return doc.layers.flatMap(({ id }) =>
      formOf(item) === "blend" ? [`layers/${id}/strip/level`] : [`layers/${id}/strip/mute`, `layers/${id}/strip/level`],
    );
  if (item.kind === "tuning") return ["play/a4"];
  return bindsOf(item);
}
