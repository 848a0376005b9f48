import { useCallback, useRef } from "react";
import { setTable, type Unit } from "../../core/instrument";
import { unitSpec } from "../../core/units";
import { session } from "../state/session";
import { type Draw, Drawing } from "../widgets/Drawing";
import { useDrag } from "../widgets/use-drag";
import { FLOOR, heightOfLevel, levelAtHeight, placeOfRatio, rowNear, rowsOf } from "./unit-rows";

/** Pixels from a row's line within which it is taken hold of. */
const REACH = 14;
const FOOT = 14;
const HEAD = 8;
/** Longest decay, in seconds, that is drawn fading away: a line's thickness says how long it rings. */
const LONGEST = 10;

/** The rows of a table as lines at their ratios, as high as they are loud: dragged, one is made louder or softer. */
export function RowsPlot({ address, unit }: { address: string; unit: Unit }) {
  const own = useRef<HTMLDivElement>(null);
  const spec = unitSpec(unit.kind).table;
  const rows = rowsOf(unit);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      pen.font = '10px "Spline Sans Mono Variable", monospace';
      const foot = height - FOOT;
      const heightOf = (level: number) => foot - heightOfLevel(level) * (foot - HEAD);
      for (const level of [-12, -24, -36, -48]) {
        const y = Math.round(heightOf(level));
        pen.fillStyle = colours.rule;
        pen.fillRect(0, y, width, 1);
        pen.fillStyle = colours["ink-faint"];
        pen.fillText(`${level} dB`.replace("-", "−"), 3, y - 3);
      }
      for (let octave = -1; octave <= 6; octave++) {
        const x = Math.round(placeOfRatio(2 ** octave) * width);
        pen.fillStyle = octave === 0 ? colours["rule-strong"] : colours.rule;
        pen.fillRect(x, 0, 1, foot);
        pen.fillStyle = colours["ink-faint"];
        if (x < width - 30)
          pen.fillText(octave === 0 ? "× 1, key" : `× ${octave < 0 ? "½" : 2 ** octave}`, x + 3, height - 3);
      }
      for (const { ratio = 1, level = FLOOR, decay } of rows) {
        const x = placeOfRatio(ratio) * width;
        const top = heightOf(level);
        const thick = decay === undefined ? 2 : 1 + 4 * Math.min(1, Math.sqrt(decay / LONGEST));
        pen.fillStyle = colours.ink;
        pen.fillRect(x - thick / 2, top, thick, foot - top);
        pen.beginPath();
        pen.arc(x, top, 3, 0, 2 * Math.PI);
        pen.fill();
      }
    },
    [rows],
  );
  const dragging = useDrag<{ row: number; level: number }>({
    start: (event) => {
      const box = event.currentTarget.getBoundingClientRect();
      const row = rowNear(rows, (event.clientX - box.left) / box.width, REACH / box.width);
      return row < 0 ? null : { row, level: rows[row]?.level ?? 0 };
    },
    move: ({ data, dy, gesture }) => {
      const box = own.current?.getBoundingClientRect();
      if (!box || !spec) return;
      const level = levelAtHeight(heightOfLevel(data.level) - dy / (box.height - FOOT - HEAD));
      session.commit(
        setTable(
          address,
          rows.map((row, i) => (i === data.row ? { ...row, level: Math.round(level * 10) / 10 } : row)),
          `Set level of ${spec.row} ${data.row + 1}`,
        ),
        gesture,
      );
    },
  });
  return (
    <div ref={own} {...dragging} className="flex min-h-[110px] flex-1 cursor-ns-resize touch-none flex-col">
      <Drawing
        draw={draw}
        label={`${spec?.label}: ${rows.length}, by their ratios to the key and their levels; dragged up or down they are louder or softer`}
        className="min-h-[110px] w-full flex-1"
      />
    </div>
  );
}
