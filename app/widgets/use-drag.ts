import { type PointerEvent, useEffect, useRef } from "react";
import { abandonGesture, newGesture } from "../state/gesture";

/** A drag that goes on: where it began, how far it is, and its name as a gesture, under which its edits are one undo step. */
export interface Drag<D> {
  readonly data: D;
  readonly gesture: string;
  /** Distance from where it began, in pixels, and that of the last move alone. */
  readonly dx: number;
  readonly dy: number;
  readonly stepX: number;
  readonly stepY: number;
}

interface DragHandlers<D> {
  /** What the drag needs to know of its beginning; null where none begins. */
  readonly start: (event: PointerEvent<HTMLElement>, gesture: string) => D | null;
  readonly move: (drag: Drag<D>, event: PointerEvent<HTMLElement>) => void;
  /** It has ended where the pointer was let go. */
  readonly end?: (drag: Drag<D>, event: PointerEvent<HTMLElement>) => void;
  /** The pointer was let go where it went down. */
  readonly click?: (drag: Drag<D>, event: PointerEvent<HTMLElement>) => void;
  /** Escape was pressed: what it changed in the instrument is as it was already, what it changed elsewhere isn't. */
  readonly giveUp?: (data: D) => void;
  /** Whatever became of it, also when it was given up. */
  readonly over?: () => void;
  /** Pixels within which a drag is still a click. */
  readonly slack?: number;
}

/** What is spread on an element that can be dragged. */
interface DragProps {
  /** Says to the style sheet that a press here selects no text, which costs a drag as much as all that it does itself. */
  readonly "data-drag": true;
  readonly onPointerDown: (event: PointerEvent<HTMLElement>) => void;
  readonly onPointerMove: (event: PointerEvent<HTMLElement>) => void;
  readonly onPointerUp: (event: PointerEvent<HTMLElement>) => void;
  readonly onPointerCancel: (event: PointerEvent<HTMLElement>) => void;
  readonly onLostPointerCapture: (event: PointerEvent<HTMLElement>) => void;
}

interface Going<D> {
  readonly data: D;
  readonly gesture: string;
  readonly pointer: number;
  readonly from: { readonly x: number; readonly y: number };
  at: { x: number; y: number };
  moved: boolean;
  readonly stop: () => void;
}

/**
 * One drag after the other with one pointer each: it ends when the pointer is let go or lost; Escape gives it up, and what it changed in the
 * instrument is as it was.
 */
export function useDrag<D>(handlers: DragHandlers<D>): DragProps {
  const { start, move, end, click, over, slack = 0 } = handlers;
  const latest = useRef(handlers);
  latest.current = handlers;
  const going = useRef<Going<D> | null>(null);
  const finish = () => {
    going.current?.stop();
    going.current = null;
    over?.();
  };
  const seen = (event: PointerEvent<HTMLElement>): Drag<D> | null => {
    const { current } = going;
    if (current?.pointer !== event.pointerId) return null;
    const [x, y] = [event.clientX, event.clientY];
    return {
      data: current.data,
      gesture: current.gesture,
      dx: x - current.from.x,
      dy: y - current.from.y,
      stepX: x - current.at.x,
      stepY: y - current.at.y,
    };
  };
  // Whoever goes away in the middle of a drag no longer listens to Escape.
  useEffect(
    () => () => {
      going.current?.stop();
      going.current = null;
    },
    [],
  );
  const lost = (event: PointerEvent<HTMLElement>) => {
    if (going.current?.pointer === event.pointerId) finish();
  };
  return {
    "data-drag": true,
    onPointerDown: (event) => {
      if (event.button !== 0) return;
      if (going.current) {
        // Another finger waits for the first one. A drag whose element was taken away under it never hears of its end.
        if (event.currentTarget.hasPointerCapture(going.current.pointer)) return;
        finish();
      }
      // What is being typed belongs to what is selected now: it is taken before a press selects something else.
      const { activeElement } = document;
      if (activeElement instanceof HTMLInputElement) activeElement.blur();
      const gesture = newGesture();
      const data = start(event, gesture);
      if (data === null) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const giveUp = (key: KeyboardEvent) => {
        if (key.key !== "Escape") return;
        key.preventDefault();
        key.stopPropagation();
        abandonGesture(gesture);
        latest.current.giveUp?.(data);
        finish();
      };
      addEventListener("keydown", giveUp, { capture: true });
      const at = { x: event.clientX, y: event.clientY };
      going.current = {
        data,
        gesture,
        pointer: event.pointerId,
        from: at,
        at,
        moved: false,
        stop: () => removeEventListener("keydown", giveUp, { capture: true }),
      };
    },
    onPointerMove: (event) => {
      const drag = seen(event);
      const { current } = going;
      if (!drag || !current) return;
      if (!current.moved && Math.hypot(drag.dx, drag.dy) < Math.max(1, slack)) return;
      // Whoever else looks where the pointer is, as the borders of panels do at the price of a layout, needn't now.
      event.preventDefault();
      current.moved = true;
      current.at = { x: event.clientX, y: event.clientY };
      move(drag, event);
    },
    onPointerUp: (event) => {
      const drag = seen(event);
      const { current } = going;
      if (!drag || !current) return;
      if (current.moved) end?.(drag, event);
      else click?.(drag, event);
      finish();
    },
    onPointerCancel: lost,
    onLostPointerCapture: lost,
  };
}
