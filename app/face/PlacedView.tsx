import type { FaceItem } from "../../core/instrument";
import { FaceItemView } from "./FaceItemView";
import { useStanding } from "./face-world";

/** How an item is turned about its middle; outside of what is cut off at its edges. */
export const turned = (degrees: number): { readonly transform?: string } =>
  degrees === 0 ? {} : { transform: `rotate(${degrees}deg)` };

/** An item in its place on the page, while its condition lets it be shown. */
export function PlacedView({ item }: { item: FaceItem }) {
  const { x, y, width, height, turn } = item;
  const { shown } = useStanding(item);
  if (!shown) return null;
  return (
    <div style={{ position: "absolute", left: x, top: y, width, height, contain: "strict", ...turned(turn) }}>
      <FaceItemView item={item} />
    </div>
  );
}
