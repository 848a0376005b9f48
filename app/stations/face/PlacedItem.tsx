import { type KeyboardEvent, memo, useCallback } from "react";
import { around, type Box, isControl, isPlayed, snapped } from "../../../core/face";
import {
  bindsOf,
  changeFaceItems,
  type FaceGuide,
  type FaceItem,
  findParam,
  type Instrument,
  sizeOfPage,
} from "../../../core/instrument";
import { FaceItemView, faceText } from "../../face/FaceItemView";
import { useFaceOf } from "../../face/face-world";
import { turned } from "../../face/PlacedView";
import {
  choose,
  chosenIds,
  chosenItems,
  commitFace,
  faceShown,
  toggleChosen,
  withGroup,
} from "../../state/face-selection";
import { useInstrument } from "../../state/use-session";
import { setView } from "../../state/view";
import { cx } from "../../widgets/class-names";
import { useDrag } from "../../widgets/use-drag";
import type { Doing } from "./Marks";
import { GRID, REACH } from "./page-grid";

/** From so many items on their frames alone are dragged, until they are let go: hundreds of pictures aren't drawn anew in time. */
const MANY = 24;

/** Items that are dragged: where they were, what they may settle on, and how far they are by now. */
interface Moving {
  readonly from: readonly FaceItem[];
  readonly still: readonly FaceItem[];
  readonly guides: readonly FaceGuide[];
  readonly page: Pick<Box, "width" | "height">;
  by: { readonly x: number; readonly y: number };
}

/** Puts what is dragged where it is by now. */
function place({ from: items, by }: Moving, gesture: string): void {
  const from = new Map(items.map((i) => [i.id, i]));
  commitFace(
    changeFaceItems(new Set(from.keys()), "Move", (i) => {
      const was = from.get(i.id) ?? i;
      return { x: was.x + by.x, y: was.y + by.y };
    }),
    gesture,
  );
}

/** An item on the page while the face is edited. */
export const PlacedItem = memo(function PlacedItem({
  item,
  chosen,
  alone,
  scale,
  onDoing,
}: {
  item: FaceItem;
  chosen: boolean;
  alone: boolean;
  scale: number;
  onDoing: (doing: Doing | null) => void;
}) {
  const text = useFaceOf(useCallback((i: Instrument) => faceText(item, i), [item]));
  const moving = useDrag<Moving>({
    slack: 3,
    start: (event) => {
      event.stopPropagation();
      const adds = event.shiftKey || event.ctrlKey || event.metaKey;
      if (adds) toggleChosen(item.id);
      else if (!chosen) choose(withGroup(item.id));
      const from = chosenItems().filter((i) => !i.locked);
      const ids = new Set(from.map((i) => i.id));
      const face = faceShown();
      if (!face) return null;
      const still = face.items.filter(
        (i) => !ids.has(i.id) && !i.hidden && (i.page === null || i.page === item.page || item.page === null),
      );
      const page = sizeOfPage(face, item.page);
      return from.length === 0 || adds ? null : { from, still, guides: face.guides, page, by: { x: 0, y: 0 } };
    },
    move: ({ data, gesture, dx, dy }, event) => {
      const whole = around(data.from);
      const wanted = { ...whole, x: whole.x + dx / scale, y: whole.y + dy / scale };
      // Alt lets it go anywhere.
      const at = event.altKey
        ? { x: Math.round(wanted.x), y: Math.round(wanted.y), guides: [] }
        : snapped(wanted, data.still, data.page, REACH / scale, GRID, data.guides);
      data.by = { x: Math.round(at.x - whole.x), y: Math.round(at.y - whole.y) };
      const { by } = data;
      if (data.from.length < MANY) place(data, gesture);
      onDoing({
        guides: at.guides,
        says: `${Math.round(whole.x + by.x)}, ${Math.round(whole.y + by.y)}`,
        frame: null,
        ...(data.from.length < MANY ? {} : { dragged: { boxes: data.from, ...by } }),
      });
    },
    end: ({ data, gesture }) => {
      if (data.from.length >= MANY) place(data, gesture);
    },
    over: () => onDoing(null),
  });
  const keys = (event: KeyboardEvent) => {
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    const by = event.shiftKey ? 8 : 1;
    const step = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key];
    if (!step) return;
    const ids = new Set(
      chosenItems()
        .filter((i) => !i.locked)
        .map((i) => i.id),
    );
    commitFace(
      changeFaceItems(ids, "Move", (i) => ({ x: i.x + (step[0] as number), y: i.y + (step[1] as number) })),
      "keys",
    );
    event.preventDefault();
    event.stopPropagation();
  };
  const loose = isControl(item.kind) && !isPlayed(item) && bindsOf(item).length === 0;
  return (
    <div
      role="group"
      aria-roledescription="item of the face"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by the arrow keys
      tabIndex={0}
      data-face-item={item.id}
      aria-label={`${item.kind} ${text}`}
      style={{
        transform: `translate(${item.x}px, ${item.y}px)`,
        width: item.width,
        height: item.height,
        opacity: item.hidden ? 0.25 : 1,
      }}
      className={cx(
        "absolute top-0 left-0 touch-none outline-offset-1",
        item.locked ? "cursor-default" : "cursor-move",
        chosen ? "outline-2 outline-cobalt" : "hover:outline hover:outline-cobalt",
        loose && !chosen && "outline-2 outline-ochre outline-dashed",
      )}
      {...moving}
      // By keys alone: a press has chosen already, or has just let it go.
      onFocus={(event) =>
        event.target.matches(":focus-visible") && !chosenIds().includes(item.id) && choose(withGroup(item.id))
      }
      onContextMenu={() => !chosenIds().includes(item.id) && choose(withGroup(item.id))}
      onDoubleClick={() => setView({ faceSide: "item" })}
      onKeyDown={keys}
    >
      <div inert className="h-full [contain:strict]" style={turned(item.turn)}>
        <FaceItemView item={item} />
      </div>
      {item.kind === "picture" && item.pictures.length === 0 && (
        <div className="pointer-events-none absolute inset-0 grid place-items-center border border-current border-dashed text-s opacity-60">
          drop a picture here
        </div>
      )}
      {loose && !alone && <Tag item={item} scale={scale} />}
    </div>
  );
});

/** What an item moves, below it; that it moves nothing yet. */
export function Tag({ item, scale }: { item: FaceItem; scale: number }) {
  const binds = bindsOf(item);
  const [address] = binds;
  const first = useInstrument((i) => (address === undefined ? null : findParam(i, address)));
  if (!isControl(item.kind)) return null;
  if (binds.length === 0 && isPlayed(item)) return null;
  const text = first
    ? `moves ${first.label}${binds.length > 1 ? ` and ${binds.length - 1} more` : ""}`
    : "moves nothing yet";
  return (
    <span
      className={cx(
        "pointer-events-none absolute top-full left-0 z-10 whitespace-nowrap rounded-m border px-1.5 text-s normal-case",
        first ? "border-plum bg-sheet text-plum" : "border-ochre bg-sheet text-ochre",
      )}
      style={{
        fontFamily: "var(--font)",
        transform: `scale(${1 / scale})`,
        transformOrigin: "0 0",
        marginTop: 4 / scale,
      }}
    >
      {text}
    </span>
  );
}
