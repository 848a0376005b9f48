import { useMemo, useState } from "react";
import { laidOut } from "../../../core/face";
import { type Instrument, sizeOfPage } from "../../../core/instrument";
import { FacePageView } from "../../face/FacePageView";
import { FaceContext, useFaceOf, useFaceWorld } from "../../face/face-world";
import { usePages } from "../../face/use-pages";
import { useView } from "../../state/view";
import { useSize } from "../../widgets/use-size";

const MARGIN = 28;

const faceOf = (instrument: Instrument) => instrument.face;

/** The page as it will be for whoever plays the instrument, on the screen that is looked at; it begins with the page that was edited. */
export function TryPage({ page: first, heard }: { page: string | null; heard: (items: HTMLElement | null) => void }) {
  const world = useFaceWorld();
  const screen = useView((v) => v.faceScreen);
  const face = laidOut(useFaceOf(faceOf), screen);
  const [own, room] = useSize<HTMLDivElement>();
  const [began] = useState(first);
  const { page, over, goTo, close } = usePages(world.instruments, began);
  const inside = useMemo(() => ({ ...world, page, goTo }), [world, page, goTo]);
  const size = sizeOfPage(face, page);
  const scale = Math.max(
    0.1,
    Math.min((room.width - 2 * MARGIN) / size.width, (room.height - 2 * MARGIN) / size.height, 2),
  );
  return (
    <div ref={own} className="min-h-0 flex-1 overflow-auto bg-ground">
      <div ref={heard} style={{ width: size.width * scale, margin: `${MARGIN}px auto` }}>
        <FaceContext.Provider value={inside}>
          <FacePageView face={face} page={page} over={over} close={close} scale={scale} />
        </FaceContext.Provider>
      </div>
    </div>
  );
}
