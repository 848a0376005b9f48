import type { KeyboardEvent, PointerEvent } from "react";
import { changeFaceItem, type FaceItem, type Instrument } from "../../../core/instrument";
import { session } from "../../state/session";
import { setView } from "../../state/view";
import { WithMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";
import { FaceItemView, faceText } from "../../widgets/FaceItemView";
import { type Drag, useDrag } from "../../widgets/use-drag";
import { FACE_COMMANDS } from "./face-commands";

const GRID = 4;
const snap = (x: number): number => Math.round(x / GRID) * GRID;

interface FacePageProps {
  readonly instrument: Instrument;
  readonly selected: string | null;
  readonly trying: boolean;
  readonly set: (address: string, value: number, gesture: string) => void;
}

/** The page itself: items are moved and resized on a grid of four pixels, or operated while trying. */
export function FacePage({ instrument, selected, trying, set }: FacePageProps) {
  const { face } = instrument;
  return (
    <div
      className="grid min-h-0 flex-1 place-items-center overflow-auto bg-ground p-6"
      onPointerDown={() => setView({ faceItem: null })}
    >
      <div
        data-testid="face-page"
        className="relative shrink-0 border border-rule-strong bg-sheet"
        style={{
          width: face.width,
          height: face.height,
          backgroundImage: trying ? undefined : "radial-gradient(var(--rule) 1px, transparent 1px)",
          backgroundSize: "20px 20px",
        }}
      >
        {face.items.map((item) => (
          <PlacedItem
            key={item.id}
            item={item}
            instrument={instrument}
            selected={item.id === selected}
            trying={trying}
            set={set}
          />
        ))}
      </div>
    </div>
  );
}

interface PlacedItemProps extends Omit<FacePageProps, "selected"> {
  readonly item: FaceItem;
  readonly selected: boolean;
}

function PlacedItem({ item, instrument, selected, trying, set }: PlacedItemProps) {
  const dragOf = (resize: boolean) => ({
    slack: 3,
    start: (event: PointerEvent<HTMLElement>) => {
      event.stopPropagation();
      setView({ faceItem: item.id });
      return item;
    },
    move: ({ data, gesture, dx, dy }: Drag<FaceItem>) => {
      const fields = resize
        ? { width: snap(data.width + dx), height: snap(data.height + dy) }
        : { x: snap(data.x + dx), y: snap(data.y + dy) };
      session.commit(changeFaceItem(item.id, resize ? "Resize" : "Move", fields), gesture);
    },
  });
  const moving = useDrag(dragOf(false));
  const resizing = useDrag(dragOf(true));
  const style = { left: item.x, top: item.y, width: item.width, height: item.height };
  const view = <FaceItemView item={item} instrument={instrument} set={set} live={trying} />;
  if (trying) {
    return (
      <div className="absolute" style={style}>
        {view}
      </div>
    );
  }
  const keys = (event: KeyboardEvent) => {
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    const by = event.shiftKey ? 8 : 1;
    const step = {
      ArrowLeft: { x: item.x - by },
      ArrowRight: { x: item.x + by },
      ArrowUp: { y: item.y - by },
      ArrowDown: { y: item.y + by },
    }[event.key];
    if (step) session.commit(changeFaceItem(item.id, "Move", step), "keys");
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <WithMenu commands={FACE_COMMANDS}>
      <div
        role="group"
        aria-roledescription="item of the face"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by the arrow keys
        tabIndex={0}
        aria-label={`${item.kind} ${faceText(item, instrument)}`}
        style={style}
        className={cx(
          "absolute cursor-move touch-none outline-offset-2",
          selected ? "outline-2 outline-cobalt" : "hover:outline hover:outline-rule-strong",
          item.kind === "dial" && item.bind === null && "outline-1 outline-ochre outline-dashed",
        )}
        {...moving}
        onFocus={() => setView({ faceItem: item.id })}
        onContextMenu={() => setView({ faceItem: item.id })}
        onKeyDown={keys}
      >
        <div inert className="h-full">
          {view}
        </div>
        {selected && (
          <div
            className="absolute -right-1.5 -bottom-1.5 size-3 cursor-nwse-resize border-2 border-cobalt bg-sheet"
            {...resizing}
          />
        )}
      </div>
    </WithMenu>
  );
}
