import { type KeyboardEvent, memo, useCallback, useEffect, useMemo, useState } from "react";
import { around, type Box, type Guide, isControl, snapped } from "../../../core/face";
import { bindsOf, changeFaceItems, type FaceItem, findParam, type Instrument } from "../../../core/instrument";
import { FaceItemView, faceText } from "../../face/FaceItemView";
import { faceStyle } from "../../face/face-style";
import { useFaceOf } from "../../face/face-world";
import { session } from "../../state/session";
import { INSTRUMENT_SHOWN, useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { WithMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";
import { useDrag } from "../../widgets/use-drag";
import { useSize } from "../../widgets/use-size";
import { FACE_COMMANDS } from "./face-commands";
import { choose, chosenIds, chosenItems, toggleChosen, withGroup } from "./face-selection";

/** Pixels of the screen within which items settle on each other; of the page between two lines of the grid. */
const REACH = 6;
const GRID = 4;
/** From so many items on their frames alone are dragged, until they are let go: hundreds of pictures aren't drawn anew in time. */
const MANY = 24;
/** Room around the page. */
const MARGIN = 28;

interface CanvasProps {
  readonly page: string | null;
  /** How large the page is drawn; 0: as large as there is room. */
  readonly zoom: number;
}

/** What is being done to the page by hand, beside what that does to the document. */
interface Doing {
  readonly guides: readonly Guide[];
  /** What is said beside the pointer. */
  readonly says: string;
  readonly frame: Box | null;
  /** Frames of what is dragged, and how far they are from where they were. */
  readonly dragged?: { readonly boxes: readonly Box[]; readonly x: number; readonly y: number };
}

/** The page on which items are chosen, moved, sized and put in order. */
export function FaceCanvas({ page, zoom }: CanvasProps) {
  const face = useInstrument((i) => i.face);
  const selected = useView((v) => v.faceItem);
  const more = useView((v) => v.faceMore);
  const [own, room] = useSize<HTMLDivElement>();
  const [doing, setDoing] = useState<Doing | null>(null);
  const fit = Math.min((room.width - 2 * MARGIN) / face.width, (room.height - 2 * MARGIN) / face.height, 2);
  const scale = zoom > 0 ? zoom : Math.max(0.1, fit);
  const shown = useMemo(() => face.items.filter((i) => i.page === page || i.page === null), [face.items, page]);
  // What isn't on this page can't be chosen here.
  useEffect(() => {
    const there = new Set(shown.map((item) => item.id));
    const kept = [...chosenIds()].reverse().filter((id) => there.has(id));
    if (kept.length !== chosenIds().length) choose(kept);
  }, [shown]);
  const chosen = useMemo(() => new Set(selected === null ? [] : [selected, ...more]), [selected, more]);
  const framing = useFraming(shown, scale, setDoing);
  return (
    <div ref={own} className="min-h-0 flex-1 overflow-auto bg-ground" onPointerDown={() => choose([])}>
      <div
        className="relative mx-auto"
        style={{ width: face.width * scale, height: face.height * scale, margin: `${MARGIN}px auto` }}
      >
        <WithMenu commands={FACE_COMMANDS}>
          <div
            data-testid="face-page"
            {...framing}
            className="relative origin-top-left border-0 shadow-[0_0_0_1px_var(--rule-strong)]"
            style={{
              ...faceStyle(face.theme),
              width: face.width,
              height: face.height,
              transform: `scale(${scale})`,
              touchAction: "none",
            }}
          >
            {shown.map((item) => (
              <PlacedItem
                key={item.id}
                item={item}
                chosen={chosen.has(item.id)}
                alone={chosen.size === 1 && chosen.has(item.id)}
                scale={scale}
                onDoing={setDoing}
              />
            ))}
            <Handles items={shown.filter((i) => chosen.has(i.id) && !i.locked)} scale={scale} onDoing={setDoing} />
            {doing && <Marks doing={doing} scale={scale} />}
          </div>
        </WithMenu>
      </div>
    </div>
  );
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

/** Items that are dragged: where they were, what they may settle on, and how far they are by now. */
interface Moving {
  readonly from: readonly FaceItem[];
  readonly still: readonly FaceItem[];
  readonly page: Pick<Box, "width" | "height">;
  by: { readonly x: number; readonly y: number };
}

/** Puts what is dragged where it is by now. */
function place({ from: items, by }: Moving, gesture: string): void {
  const from = new Map(items.map((i) => [i.id, i]));
  session.commit(
    changeFaceItems(new Set(from.keys()), "Move", (i) => {
      const was = from.get(i.id) ?? i;
      return { x: was.x + by.x, y: was.y + by.y };
    }),
    gesture,
  );
}

/** An item on the page while the face is edited. */
const PlacedItem = memo(function PlacedItem({
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
      const { face } = INSTRUMENT_SHOWN.get();
      const still = face.items.filter(
        (i) => !ids.has(i.id) && !i.hidden && (i.page === null || i.page === item.page || item.page === null),
      );
      return from.length === 0 || adds ? null : { from, still, page: face, by: { x: 0, y: 0 } };
    },
    move: ({ data, gesture, dx, dy }, event) => {
      const whole = around(data.from);
      const wanted = { ...whole, x: whole.x + dx / scale, y: whole.y + dy / scale };
      // Alt lets it go anywhere.
      const at = event.altKey
        ? { x: Math.round(wanted.x), y: Math.round(wanted.y), guides: [] }
        : snapped(wanted, data.still, data.page, REACH / scale, GRID);
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
    session.commit(
      changeFaceItems(ids, "Move", (i) => ({ x: i.x + (step[0] as number), y: i.y + (step[1] as number) })),
      "keys",
    );
    event.preventDefault();
    event.stopPropagation();
  };
  const loose = isControl(item.kind) && bindsOf(item).length === 0;
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
      <div inert className="h-full [contain:strict]">
        <FaceItemView item={item} />
      </div>
      {(alone || loose) && <Tag item={item} scale={scale} />}
    </div>
  );
});

/** What an item moves, below it; that it moves nothing yet. */
function Tag({ item, scale }: { item: FaceItem; scale: number }) {
  const binds = bindsOf(item);
  const [address] = binds;
  const first = useInstrument((i) => (address === undefined ? null : findParam(i, address)));
  if (!isControl(item.kind)) return null;
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

const CORNERS = [
  [0, 0, "nwse"],
  [0.5, 0, "ns"],
  [1, 0, "nesw"],
  [1, 0.5, "ew"],
  [1, 1, "nwse"],
  [0.5, 1, "ns"],
  [0, 1, "nesw"],
  [0, 0.5, "ew"],
] as const;

/** The frame around what is chosen, by whose handles it is sized; several are sized together. */
function Handles({
  items,
  scale,
  onDoing,
}: {
  items: readonly FaceItem[];
  scale: number;
  onDoing: (doing: Doing | null) => void;
}) {
  const whole = items.length > 0 ? around(items) : null;
  if (!whole) return null;
  return (
    <div
      className="pointer-events-none absolute"
      style={{ left: whole.x, top: whole.y, width: whole.width, height: whole.height }}
    >
      {CORNERS.map(([x, y, cursor]) => (
        <Handle
          key={`${x} ${y}`}
          x={x}
          y={y}
          cursor={cursor}
          whole={whole}
          items={items}
          scale={scale}
          onDoing={onDoing}
        />
      ))}
    </div>
  );
}

function Handle({
  x,
  y,
  cursor,
  whole,
  items,
  scale,
  onDoing,
}: {
  x: number;
  y: number;
  cursor: string;
  whole: Box;
  items: readonly FaceItem[];
  scale: number;
  onDoing: (doing: Doing | null) => void;
}) {
  const sizing = useDrag<{ readonly from: readonly FaceItem[]; readonly whole: Box }>({
    start: (event) => {
      event.stopPropagation();
      return { from: items, whole };
    },
    move: ({ data, gesture, dx, dy }, event) => {
      const before = data.whole;
      const grid = (value: number) => (event.altKey ? Math.round(value) : Math.round(value / GRID) * GRID);
      // The side that is held moves, the other stays.
      const left = x === 0 ? Math.min(grid(before.x + dx / scale), before.x + before.width - GRID) : before.x;
      const right =
        x === 1 ? Math.max(grid(before.x + before.width + dx / scale), left + GRID) : before.x + before.width;
      const top = y === 0 ? Math.min(grid(before.y + dy / scale), before.y + before.height - GRID) : before.y;
      const bottom =
        y === 1 ? Math.max(grid(before.y + before.height + dy / scale), top + GRID) : before.y + before.height;
      const [across, down] = [(right - left) / before.width, (bottom - top) / before.height];
      const from = new Map(data.from.map((i) => [i.id, i]));
      session.commit(
        changeFaceItems(new Set(from.keys()), "Resize", (i) => {
          const was = from.get(i.id) ?? i;
          return {
            x: Math.round(left + (was.x - before.x) * across),
            y: Math.round(top + (was.y - before.y) * down),
            width: Math.round(was.width * across),
            height: Math.round(was.height * down),
          };
        }),
        gesture,
      );
      onDoing({ guides: [], says: `${Math.round(right - left)} × ${Math.round(bottom - top)}`, frame: null });
    },
    over: () => onDoing(null),
  });
  const size = 9 / scale;
  return (
    <div
      {...sizing}
      data-handle={`${x} ${y}`}
      className="pointer-events-auto absolute touch-none border-2 border-cobalt bg-sheet"
      style={{
        left: `${x * 100}%`,
        top: `${y * 100}%`,
        width: size,
        height: size,
        marginLeft: -size / 2,
        marginTop: -size / 2,
        borderWidth: 2 / scale,
        cursor: `${cursor}-resize`,
      }}
    />
  );
}

/** Frames of many items, drawn once. */
const Frames = memo(function Frames({ boxes, scale }: { boxes: readonly Box[]; scale: number }) {
  return boxes.map(({ x, y, width, height }, i) => (
    <div
      // biome-ignore lint/suspicious/noArrayIndexKey: they stay as they are for as long as they are dragged
      key={i}
      className="absolute border-cobalt"
      style={{ left: x, top: y, width, height, borderWidth: 1 / scale }}
    />
  ));
});

/** The lines that something settled on, the frame that is drawn, and figures beside it. */
function Marks({ doing: { guides, says, frame, dragged }, scale }: { doing: Doing; scale: number }) {
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0">
      {dragged && (
        <div style={{ transform: `translate(${dragged.x}px, ${dragged.y}px)`, willChange: "transform" }}>
          <Frames boxes={dragged.boxes} scale={scale} />
        </div>
      )}
      {guides.map((guide) => (
        <div
          key={`${guide.way} ${guide.at}`}
          className="absolute bg-cobalt"
          style={
            guide.way === "x"
              ? { left: guide.at, top: guide.from - 8, height: guide.to - guide.from + 16, width: 1 / scale }
              : { top: guide.at, left: guide.from - 8, width: guide.to - guide.from + 16, height: 1 / scale }
          }
        />
      ))}
      {frame && (
        <div
          className="absolute border border-cobalt border-dashed bg-tint-cobalt opacity-50"
          style={{ left: frame.x, top: frame.y, width: frame.width, height: frame.height }}
        />
      )}
      <span
        className="num absolute top-1 right-1 rounded-m bg-cobalt px-1.5 text-on-spot text-s"
        style={{ transform: `scale(${1 / scale})`, transformOrigin: "100% 0" }}
      >
        {says}
      </span>
    </div>
  );
}
