import { useRef } from "react";
import { type Edit, setParam, together } from "../../core/instrument";
import type { ParamValues } from "../../core/units";
import { session } from "../state/session";
import { useDrag } from "../widgets/use-drag";

interface PlotHandleProps<D> {
  /** What is dragged, and what it stands at, in words. */
  readonly label: string;
  readonly help: string;
  /** Address of the unit whose parameters it sets. */
  readonly address: string;
  readonly sign: string;
  /** Place in the plot, in shares of its width and height. */
  readonly x: number;
  readonly y: number;
  /** What a drag begins from. */
  readonly from: D;
  /** The parameters after a drag by such shares of the plot's width and height. */
  readonly drag: (from: D, across: number, down: number) => ParamValues;
  /** The parameters after a step of the arrow keys; null where it means nothing. */
  readonly step: (across: number, up: number, fine: boolean, other: boolean) => ParamValues | null;
}

/** A handle in a plot that sets parameters of a unit: one drag is one step; the arrow keys move it too. */
export function PlotHandle<D>({ label, help, address, sign, x, y, from, drag, step }: PlotHandleProps<D>) {
  const own = useRef<HTMLButtonElement>(null);
  const set = (values: ParamValues, gesture: string) => {
    const { instrument } = session;
    if (!instrument) return;
    const edits = Object.entries(values).map(([id, value]): Edit => setParam(instrument, `${address}/${id}`, value));
    session.commit({ ...together(`Set ${label}`, edits), merge: `handle:${address}:${sign}` }, gesture);
  };
  const dragging = useDrag<D>({
    start: () => from,
    move: ({ data, dx, dy, gesture }) => {
      const box = own.current?.parentElement?.getBoundingClientRect();
      if (box) set(drag(data, dx / box.width, dy / box.height), gesture);
    },
  });
  return (
    <button
      ref={own}
      type="button"
      {...dragging}
      aria-label={label}
      title={`${label}. ${help}`}
      onKeyDown={(event) => {
        const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
        const values = by && step(by[0] ?? 0, by[1] ?? 0, event.shiftKey, event.altKey);
        if (!values) return;
        event.preventDefault();
        event.stopPropagation();
        set(values, "keys");
      }}
      className="num absolute grid size-6 -translate-x-1/2 -translate-y-1/2 touch-none place-items-center rounded-full border-2 border-cobalt bg-sheet text-[11px]"
      style={{
        left: `clamp(13px, ${(x * 100).toFixed(3)}%, calc(100% - 13px))`,
        top: `clamp(13px, ${(y * 100).toFixed(3)}%, calc(100% - 13px))`,
      }}
    >
      {sign}
    </button>
  );
}
