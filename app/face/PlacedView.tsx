import type { FaceItem } from "../../core/instrument";
import { FaceItemView } from "./FaceItemView";
import { useStanding } from "./face-world";

/** An item in its place on the page, while its condition lets it be shown. */
export function PlacedView({ item }: { item: FaceItem }) {
  const { x, y, width, height } = item;
  const { shown } = useStanding(item);
  if (!shown) return null;
  return (
    <div style={{ position: "absolute", left: x, top: y, width, height, contain: "strict" }}>
      <FaceItemView item={item} />
    </div>
  );
}
