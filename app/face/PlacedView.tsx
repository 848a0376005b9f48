import { useCallback } from "react";
import type { FaceItem, Instrument } from "../../core/instrument";
import { FaceItemView } from "./FaceItemView";
import { holds, useFaceOf } from "./face-world";

/** An item in its place on the page, while its condition lets it be shown. */
export function PlacedView({ item }: { item: FaceItem }) {
  const { when, x, y, width, height } = item;
  const shown = useFaceOf(useCallback((i: Instrument) => when?.does !== "shows" || holds(i, { when }), [when]));
  if (!shown) return null;
  return (
    <div style={{ position: "absolute", left: x, top: y, width, height, contain: "strict" }}>
      <FaceItemView item={item} />
    </div>
  );
}
