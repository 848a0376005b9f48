import { around, type Box } from "../../../core/face";
import { changeFaceItems, type FaceItem } from "../../../core/instrument";
import { commitFace } from "../../state/face-selection";
import { useDrag } from "../../widgets/use-drag";
import type { Doing } from "./Marks";
import { GRID } from "./page-grid";

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
export function Handles({
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
      {items.length === 1 && items[0] && <TurnHandle item={items[0]} scale={scale} onDoing={onDoing} />}
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
      commitFace(
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

/** Degrees between two places at which something that is turned settles; Alt lets it go between them. */
const TURNS = 15;

/** A grip above an item, by which it is turned about its middle; a double click sets it upright. */
function TurnHandle({
  item,
  scale,
  onDoing,
}: {
  item: FaceItem;
  scale: number;
  onDoing: (doing: Doing | null) => void;
}) {
  const turn = (degrees: number, gesture: string | null) =>
    commitFace(
      changeFaceItems(new Set([item.id]), "Turn", () => ({ turn: degrees })),
      gesture,
    );
  const turning = useDrag<{ readonly x: number; readonly y: number; readonly from: number; readonly turn: number }>({
    start: (event) => {
      event.stopPropagation();
      const grip = event.currentTarget.getBoundingClientRect();
      // The middle of the item lies below the grip by half its height.
      const x = grip.left + grip.width / 2;
      const y = grip.top + grip.height / 2 + (item.height / 2) * scale + LIFT;
      return { x, y, from: angleOf(event.clientX - x, event.clientY - y), turn: item.turn };
    },
    move: ({ data, gesture }, event) => {
      const free = data.turn + angleOf(event.clientX - data.x, event.clientY - data.y) - data.from;
      const round = event.altKey ? Math.round(free) : Math.round(free / TURNS) * TURNS;
      const degrees = ((((round + 180) % 360) + 360) % 360) - 180;
      turn(degrees, gesture);
      onDoing({ guides: [], says: `${degrees}°`, frame: null });
    },
    over: () => onDoing(null),
  });
  const size = 11 / scale;
  return (
    <div
      {...turning}
      data-handle="turn"
      title="Turn it: settles every 15°, with Alt anywhere; a double click sets it upright"
      onDoubleClick={() => turn(0, null)}
      className="pointer-events-auto absolute left-1/2 cursor-grab touch-none rounded-full bg-cobalt"
      style={{ width: size, height: size, marginLeft: -size / 2, top: -LIFT / scale - size / 2 }}
    />
  );
}

/** How far the grip lies above the item, in pixels of the screen. */
const LIFT = 22;

const angleOf = (x: number, y: number): number => (Math.atan2(y, x) * 180) / Math.PI;
