import { useMemo } from "react";
import type { Instrument } from "../../../core/instrument";
import { faceStyle } from "../../face/face-style";
import { useFaceOf } from "../../face/face-world";
import { PlacedView } from "../../face/PlacedView";
import { useSize } from "../../widgets/use-size";

const MARGIN = 28;

/** The page as it will be for whoever plays the instrument. */
export function TryPage({ page }: { page: string | null }) {
  const face = useFaceOf(faceOf);
  const [own, room] = useSize<HTMLDivElement>();
  const items = useMemo(
    () => face.items.filter((i) => !i.hidden && (i.page === page || i.page === null)),
    [face.items, page],
  );
  const scale = Math.max(
    0.1,
    Math.min((room.width - 2 * MARGIN) / face.width, (room.height - 2 * MARGIN) / face.height, 2),
  );
  return (
    <div ref={own} className="min-h-0 flex-1 overflow-auto bg-ground">
      <div style={{ width: face.width * scale, height: face.height * scale, margin: `${MARGIN}px auto` }}>
        <div
          data-testid="face-page"
          className="relative origin-top-left"
          style={{ ...faceStyle(face.theme), width: face.width, height: face.height, transform: `scale(${scale})` }}
        >
          {items.map((item) => (
            <PlacedView key={item.id} item={item} />
          ))}
        </div>
      </div>
    </div>
  );
}

const faceOf = (instrument: Instrument) => instrument.face;
