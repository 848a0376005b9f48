import { type DragEvent, useCallback, useEffect, useMemo, useState } from "react";
import { createStore } from "zustand/vanilla";
import { isControl } from "../../../core/face";
import {
  addFacePictures,
  changeFace,
  changeFacePage,
  type Face,
  type FaceItem,
  type FaceSize,
  findParam,
  sizeOfPage,
} from "../../../core/instrument";
import { faceStyle } from "../../face/face-style";
import { useFaceFonts } from "../../face/fonts";
import { Ground } from "../../face/Ground";
import { useGrowing } from "../../face/use-growing";
import { addAll, addFor, bindItem, PARAM_DRAG } from "../../state/face-adding";
import { isPicture, readPictures } from "../../state/face-pictures";
import { choose, chosenIds, commitFace, withGroup } from "../../state/face-selection";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import { WithMenu } from "../../widgets/CommandMenu";
import { useDrag } from "../../widgets/use-drag";
import { useSize } from "../../widgets/use-size";
import { FACE_COMMANDS } from "./face-commands";
import { Handles } from "./Handles";
import { type Doing, Marks } from "./Marks";
import { drawWith, layerFor } from "./OwnLookSection";
import { PlacedItem, Tag } from "./PlacedItem";
import { Guides, Rulers } from "./Rulers";

/** Room around the page, for the rulers too. */
const MARGIN = 34;
/** The sizes that a page can have, in pixels. */
const LEAST = 10;
const MOST = 4000;

interface CanvasProps {
  /** As it is laid out for the screen that is looked at. */
  readonly face: Face;
  readonly page: string | null;
  /** How large the page is drawn; 0: as large as there is room. */
  readonly zoom: number;
}

/** The page on which items are chosen, moved, sized and put in order. */
export function FaceCanvas({ face, page, zoom }: CanvasProps) {
  const selected = useView((v) => v.faceItem);
  const more = useView((v) => v.faceMore);
  const [own, room] = useSize<HTMLDivElement>();
  // Marks alone follow it: the page of hundreds of items isn't gone through for each move of the pointer.
  const [doing] = useState(() => createStore<{ readonly now: Doing | null }>(() => ({ now: null })));
  const setDoing = useCallback((now: Doing | null) => doing.setState({ now }), [doing]);
  useFaceFonts();
  const size = sizeOfPage(face, page);
  const fit = Math.min((room.width - 2 * MARGIN) / size.width, (room.height - 2 * MARGIN) / size.height, 2);
  const scale = zoom > 0 ? zoom : Math.max(0.1, fit);
  const shown = useMemo(() => face.items.filter((i) => i.page === page || i.page === null), [face.items, page]);
  // What isn't on this page can't be chosen here.
  useEffect(() => {
    const there = new Set(shown.map((item) => item.id));
    const kept = [...chosenIds()].reverse().filter((id) => there.has(id));
    if (kept.length !== chosenIds().length) choose(kept);
  }, [shown]);
  const chosen = useMemo(() => new Set(selected === null ? [] : [selected, ...more]), [selected, more]);
  const drawn = useGrowing(shown, page);
  const alone = chosen.size === 1 ? shown.find((i) => chosen.has(i.id)) : undefined;
  const framing = useFraming(shown, scale, setDoing);
  const dropping = useDropping(shown, scale);
  return (
    <div
      ref={own}
      className="min-h-0 flex-1 overflow-auto bg-ground"
      // A press on a scroll bar of the desk lets nothing go.
      onPointerDown={(event) =>
        (event.target !== event.currentTarget ||
          (event.nativeEvent.offsetX < event.currentTarget.clientWidth &&
            event.nativeEvent.offsetY < event.currentTarget.clientHeight)) &&
        choose([])
      }
    >
      <div
        className="relative mx-auto"
        style={{ width: size.width * scale, height: size.height * scale, margin: `${MARGIN}px auto` }}
      >
        <Rulers face={face} size={size} scale={scale} />
        <WithMenu commands={FACE_COMMANDS}>
          <div
            data-testid="face-page"
            {...framing}
            {...dropping}
            className="face relative origin-top-left border-0 shadow-[0_0_0_1px_var(--rule-strong)]"
            style={{
              ...faceStyle(face.theme),
              width: size.width,
              height: size.height,
              transform: `scale(${scale})`,
              touchAction: "none",
            }}
          >
            <Ground ground={face.ground} theme={face.theme} />
            {drawn.map((item) => (
              <PlacedItem
                key={item.id}
                item={item}
                chosen={chosen.has(item.id)}
                alone={chosen.size === 1 && chosen.has(item.id)}
                scale={scale}
                onDoing={setDoing}
              />
            ))}
            <Guides face={face} size={size} scale={scale} />
            <Handles items={shown.filter((i) => chosen.has(i.id) && !i.locked)} scale={scale} onDoing={setDoing} />
            {alone && (
              <div
                className="pointer-events-none absolute"
                style={{ left: alone.x, top: alone.y, width: alone.width, height: alone.height }}
              >
                <Tag item={alone} scale={scale} />
              </div>
            )}
          </div>
        </WithMenu>
        <Marks doing={doing} scale={scale} />
        <PageCorner face={face} page={page} size={size} scale={scale} onDoing={setDoing} />
      </div>
    </div>
  );
}

/** The page's lower right corner, by which it is made larger and smaller. */
function PageCorner({
  face,
  page,
  size,
  scale,
  onDoing,
}: {
  face: Face;
  page: string | null;
  size: FaceSize;
  scale: number;
  onDoing: (doing: Doing | null) => void;
}) {
  const own = face.pages.find((p) => p.id === page);
  const sizing = useDrag<FaceSize>({
    start: (event) => {
      event.stopPropagation();
      return size;
    },
    move: ({ data, gesture, dx, dy }) => {
      const least = own?.width == null ? 100 : LEAST;
      const to = (value: number) => Math.round(Math.min(MOST, Math.max(least, value)));
      const next = { width: to(data.width + dx / scale), height: to(data.height + dy / scale) };
      const edit =
        own && own.width !== null
          ? changeFacePage(own.id, "Set size of the page", next)
          : changeFace("Set size of the page", next);
      commitFace(edit, gesture);
      onDoing({ guides: [], says: `${next.width} × ${next.height}`, frame: null });
    },
    over: () => onDoing(null),
  });
  return (
    <div
      {...sizing}
      data-handle="page"
      title={`Drag to make the page larger or smaller: ${size.width} × ${size.height} px`}
      className="absolute size-4 cursor-nwse-resize touch-none border-rule-strong border-r-2 border-b-2 hover:border-cobalt"
      style={{ left: size.width * scale, top: size.height * scale, margin: "-4px 0 0 -4px" }}
    />
  );
}

/** Pictures and parameters that are dropped on the page become items there; on an item they become its picture, or what it moves. */
function useDropping(shown: readonly FaceItem[], scale: number) {
  const takes = ({ types }: DataTransfer): boolean => types.includes(PARAM_DRAG) || types.includes("Files");
  return {
    onDragOver: (event: DragEvent) => {
      if (takes(event.dataTransfer)) event.preventDefault();
    },
    onDrop: (event: DragEvent<HTMLElement>) => {
      const { dataTransfer } = event;
      const files = [...dataTransfer.files];
      const address = dataTransfer.getData(PARAM_DRAG);
      // Other files are brought in as anywhere.
      if (address === "" && !(files.length > 0 && files.every(isPicture))) return;
      event.preventDefault();
      event.stopPropagation();
      const box = event.currentTarget.getBoundingClientRect();
      const at = { x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale };
      const under = [...shown]
        .reverse()
        .find((i) => at.x >= i.x && at.x < i.x + i.width && at.y >= i.y && at.y < i.y + i.height);
      if (address !== "") {
        const label = session.instrument ? (findParam(session.instrument, address)?.label ?? address) : address;
        if (under && isControl(under.kind)) bindItem(under, { addresses: [address], label });
        else addFor([address], at);
        return;
      }
      void dropPictures(files, under, at);
    },
  };
}

/** Pictures on an item lie over those that it has; on the page each stands by itself, as large as there is room. */
async function dropPictures(
  files: readonly File[],
  under: FaceItem | undefined,
  at: { readonly x: number; readonly y: number },
): Promise<void> {
  const taken = await readPictures(files);
  if (taken.length === 0) return;
  if (under && under.kind !== "label" && under.kind !== "shape") {
    drawWith(taken, [under.id]);
    choose([under.id]);
    return;
  }
  const added = taken.map((picture, n) => {
    const layer = layerFor(picture, { kind: "picture" });
    const [w, h] = layer.does === "plays" ? [1, 1] : [picture.width, picture.height];
    const fit =
      Math.min(1, 240 / Math.max(w, h)) * (layer.does === "plays" ? Math.min(picture.width, picture.height) : 1);
    const size = { width: Math.max(16, Math.round(w * fit)), height: Math.max(16, Math.round(h * fit)) };
    const middle = { x: at.x + n * 20, y: at.y + n * 20 };
    return { kind: "picture" as const, middle, more: { ...size, pictures: [layer], name: picture.name } };
  });
  addAll(added, [addFacePictures(taken)]);
}

/** Choosing by a frame that is drawn over the page. */
function useFraming(shown: readonly FaceItem[], scale: number, onDoing: (doing: Doing | null) => void) {
  return useDrag<{ readonly x: number; readonly y: number; readonly before: readonly string[] }>({
    slack: 3,
    start: (event) => {
      if (event.target !== event.currentTarget) return null;
      event.stopPropagation();
      const box = event.currentTarget.getBoundingClientRect();
      const adds = event.shiftKey || event.ctrlKey || event.metaKey;
      const before = adds ? [...chosenIds()].reverse() : [];
      if (!adds) choose([]);
      return { x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale, before };
    },
    move: ({ data, dx, dy }) => {
      const [w, h] = [dx / scale, dy / scale];
      const frame = {
        x: Math.min(data.x, data.x + w),
        y: Math.min(data.y, data.y + h),
        width: Math.abs(w),
        height: Math.abs(h),
      };
      const within = shown.filter(
        (i) =>
          !i.locked &&
          i.x < frame.x + frame.width &&
          frame.x < i.x + i.width &&
          i.y < frame.y + frame.height &&
          frame.y < i.y + i.height,
      );
      choose([...new Set([...data.before, ...within.flatMap((i) => withGroup(i.id))])]);
      onDoing({ guides: [], says: `${within.length}`, frame });
    },
    over: () => onDoing(null),
  });
}
