import { type KeyboardEvent, useCallback, useRef, useState } from "react";
import { useStore } from "zustand";
import { SPECTRUM_FROM, SPECTRUM_POINTS } from "../../core/analysis";
import { removeRows, rowsOf, setTable, type Unit } from "../../core/instrument";
import { formatValue } from "../../core/params";
import { isLocked, type TableRow, type TableSpec, unitSpec } from "../../core/units";
import { chooseRow, useRowOf } from "../state/chosen-row";
import { type FoundRows, rowFinding, rowsShown } from "../state/row-finding";
import { session } from "../state/session";
import { useInstrument } from "../state/use-session";
import { type Colours, type Draw, Drawing } from "../widgets/Drawing";
import { useDrag } from "../widgets/use-drag";
import { FindRows } from "./FindRows";
import { toggleLock } from "./row-commands";
import {
  FLOOR,
  heardColumns,
  heightOfLevel,
  levelAtHeight,
  placeOfRatio,
  ratioAtPlace,
  rowNear,
  type StrokePoint,
  stroke,
} from "./unit-rows";

/** Pixels from a row's head within which it is taken hold of, and from its line within which it is meant. */
const HEAD_REACH = 10;
const REACH = 14;
/** So near to a column it is meant as a whole, where no other stands nearer than so far. */
const NEAR = 5;
const LONE = 20;
const FOOT = 14;
const HEAD = 8;
/** Longest decay, in seconds, that is drawn fading away: a line's thickness says how long it rings. */
const LONGEST = 10;
const MONO = '10px "Spline Sans Mono Variable", monospace';

const minus = (text: string): string => text.replace("-", "−");

function grid(pen: CanvasRenderingContext2D, width: number, height: number, colours: Colours): void {
  const foot = height - FOOT;
  pen.fillStyle = colours.well;
  pen.fillRect(0, 0, width, height);
  pen.font = MONO;
  for (const level of [-12, -24, -36, -48]) {
    const y = Math.round(foot - heightOfLevel(level) * (foot - HEAD));
    pen.fillStyle = colours.rule;
    pen.fillRect(0, y, width, 1);
    pen.fillStyle = colours["ink-faint"];
    pen.fillText(minus(`${level} dB`), 3, y - 3);
  }
  for (let octave = -1; octave <= 7; octave++) {
    const x = Math.round(placeOfRatio(2 ** octave) * width);
    pen.fillStyle = octave === 0 ? colours["rule-strong"] : colours.rule;
    pen.fillRect(x, 0, 1, foot);
    pen.fillStyle = colours["ink-faint"];
    if (x < width - 30) pen.fillText(octave === 0 ? "key" : `× ${octave < 0 ? "½" : 2 ** octave}`, x + 3, height - 3);
  }
}

/** The spectrum in which something was found, behind it. */
function spectrumBehind(
  pen: CanvasRenderingContext2D,
  { spectrum, hertz }: FoundRows,
  width: number,
  height: number,
  colours: Colours,
): void {
  const foot = height - FOOT;
  pen.beginPath();
  pen.moveTo(0, foot);
  spectrum.forEach((level, p) => {
    const x = placeOfRatio((SPECTRUM_FROM * 2 ** (p / SPECTRUM_POINTS)) / hertz) * width;
    pen.lineTo(x, foot - heightOfLevel(level) * (foot - HEAD));
  });
  pen.lineTo(width, foot);
  pen.fillStyle = colours["rule-strong"];
  pen.globalAlpha = 0.55;
  pen.fill();
  pen.globalAlpha = 1;
}

/** What a row is, in words: `mode 3 · × 5.40 · −7.0 dB · 1.2 s`. */
const wordsOf = (spec: TableSpec, row: TableRow, r: number): string =>
  [
    `${spec.row} ${r + 1}`,
    ...heardColumns(spec)
      .map((c) => formatValue(c, row[c.id] ?? c.default))
      .filter((text) => text !== "held" && text !== "centre" && text !== "at once"),
    ...(isLocked(row) ? ["locked"] : []),
  ].join(" · ");

interface Held {
  readonly row: number;
  readonly from: TableRow;
  /** The rows as they were, and the pointer's way so far, where levels are drawn across. */
  readonly rows: readonly TableRow[];
  readonly points: StrokePoint[];
}

/**
 * The rows of a table as columns at their ratios, as high as they are loud. A head is dragged up and down, with Shift sideways; elsewhere a stroke across draws
 * the levels of all columns that it passes, with Alt along a straight line.
 */
export function RowsPlot({ address, unit }: { address: string; unit: Unit }) {
  const own = useRef<HTMLDivElement>(null);
  const spec = unitSpec(unit.kind).table;
  const of = useInstrument((i) => i.id);
  const finding = useStore(rowFinding.store, (s) =>
    s.now?.address === address && s.now.instrument === of ? s.now : null,
  );
  const rows = finding ? rowsShown(finding, unit.kind) : rowsOf(unit);
  const chosen = useRowOf(address, rows.length);
  const [over, setOver] = useState(-1);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      grid(pen, width, height, colours);
      if (finding) spectrumBehind(pen, finding, width, height, colours);
      const foot = height - FOOT;
      rows.forEach(({ ratio = 1, level = FLOOR, decay }, r) => {
        const x = placeOfRatio(ratio) * width;
        const top = foot - heightOfLevel(level) * (foot - HEAD);
        const thick = decay === undefined || decay === 0 ? 2 : 1 + 4 * Math.min(1, Math.sqrt(decay / LONGEST));
        const here = r === chosen && !finding;
        pen.fillStyle = here ? colours.cobalt : colours.ink;
        pen.fillRect(x - thick / 2, top, thick, foot - top);
        if (isLocked(rows[r] as TableRow)) pen.fillRect(x - 6, foot - 3, 12, 3);
        pen.beginPath();
        pen.arc(x, top, here ? 5 : 3, 0, 2 * Math.PI);
        pen.fill();
        if (!here && r !== over) return;
        pen.beginPath();
        pen.arc(x, top, here ? 2.5 : 5, 0, 2 * Math.PI);
        pen.fillStyle = colours.sheet;
        if (here) pen.fill();
        else {
          pen.strokeStyle = colours.ink;
          pen.stroke();
        }
      });
      const named = rows[over] ? over : chosen;
      const row = rows[named];
      if (!spec || !row) return;
      pen.font = MONO;
      pen.fillStyle = colours.ink;
      pen.textAlign = "right";
      pen.fillText(wordsOf(spec, row, named), width - 6, 12);
      pen.textAlign = "left";
    },
    [rows, chosen, over, spec, finding],
  );
  /** Where an event is, in shares of the width and the height of the columns. */
  const placeIn = (event: { clientX: number; clientY: number }): StrokePoint | null => {
    const box = own.current?.getBoundingClientRect();
    if (!box) return null;
    return {
      x: (event.clientX - box.left) / box.width,
      y: 1 - (event.clientY - box.top - HEAD) / (box.height - FOOT - HEAD),
    };
  };
  const nearest = (event: { clientX: number; clientY: number }): { row: number; held: boolean } => {
    const box = own.current?.getBoundingClientRect();
    const place = placeIn(event);
    if (!box || !place) return { row: -1, held: false };
    const row = rowNear(rows, place.x, REACH / box.width);
    const away = Math.abs(heightOfLevel(rows[row]?.level ?? 0) - place.y) * (box.height - FOOT - HEAD);
    const across = (r: TableRow | undefined) => Math.abs(placeOfRatio(r?.ratio ?? 1) - place.x) * box.width;
    // A column that stands alone is taken hold of anywhere; among many others only at its head.
    const alone = rows.every((r, i) => i === row || across(r) > LONE);
    return { row, held: row >= 0 && (away <= HEAD_REACH || (alone && across(rows[row]) <= NEAR)) };
  };
  const commit = (next: readonly TableRow[], what: string, gesture: string) =>
    session.commit(setTable(address, next, what), gesture);
  const dragging = useDrag<Held>({
    slack: 2,
    start: (event) => {
      const { row, held } = nearest(event);
      const place = placeIn(event);
      if (!place || finding) return null;
      if (row >= 0) chooseRow(address, row);
      if (held && isLocked(rows[row] ?? {})) return null;
      return { row: held ? row : -1, from: rows[row] ?? {}, rows, points: [place] };
    },
    move: ({ data, dx, dy, gesture }, event) => {
      const box = own.current?.getBoundingClientRect();
      const place = placeIn(event);
      if (!box || !place || !spec) return;
      if (data.row < 0) {
        // Along a straight line from where it began, or wherever the pointer goes.
        if (event.altKey) data.points.length = 1;
        data.points.push(place);
        return commit(stroke(data.rows, data.points), `Draw levels of ${spec.label.toLowerCase()}`, gesture);
      }
      const { ratio = 1, level = 0 } = data.from;
      const changed: TableRow = event.shiftKey
        ? { ratio: ratioAtPlace(placeOfRatio(ratio) + dx / box.width) }
        : { level: Math.round(levelAtHeight(heightOfLevel(level) - dy / (box.height - FOOT - HEAD)) * 10) / 10 };
      commit(
        data.rows.map((row, i) => (i === data.row ? { ...row, ...data.from, ...changed } : row)),
        `Move ${spec.row} ${data.row + 1}`,
        gesture,
      );
    },
  });
  const onKey = (event: KeyboardEvent) => {
    const row = rows[chosen];
    if (!spec || !row || finding) return;
    const lift = (by: number) => {
      if (isLocked(row)) return;
      const level = Math.min(0, Math.max(-96, Math.round(((row.level ?? 0) + by) * 10) / 10));
      commit(
        rows.map((r, i) => (i === chosen ? { ...r, level } : r)),
        `Move ${spec.row} ${chosen + 1}`,
        "keys",
      );
    };
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "ArrowLeft") chooseRow(address, Math.max(0, chosen - 1));
    else if (event.key === "ArrowRight") chooseRow(address, Math.min(rows.length - 1, chosen + 1));
    else if (event.key === "ArrowUp") lift(event.shiftKey ? 0.1 : 1);
    else if (event.key === "ArrowDown") lift(event.shiftKey ? -0.1 : -1);
    else if (event.key.toLowerCase() === "l") toggleLock(address, chosen);
    else if (event.key === "Delete") session.commit(removeRows(address, [chosen], `Remove ${spec.row} ${chosen + 1}`));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <FindRows address={address} unit={unit} />
      <div
        ref={own}
        {...dragging}
        role="slider"
        tabIndex={0}
        aria-label={`Columns of ${spec?.label.toLowerCase()}: left and right select one, up and down move its level, L locks it, Delete removes it`}
        aria-orientation="vertical"
        aria-valuemin={-96}
        aria-valuemax={0}
        aria-valuenow={rows[chosen]?.level ?? 0}
        aria-valuetext={spec && rows[chosen] ? wordsOf(spec, rows[chosen], chosen) : "none"}
        title="Drag a head up or down, with Shift sideways; draw across to set many, with Alt along a line"
        onPointerEnter={(event) => setOver(nearest(event).row)}
        onMouseMove={(event) => {
          const { row } = nearest(event);
          if (row !== over) setOver(row);
        }}
        onPointerLeave={() => setOver(-1)}
        onKeyDown={onKey}
        className="flex min-h-[110px] flex-1 cursor-crosshair touch-none flex-col"
      >
        <Drawing
          draw={draw}
          label={`${spec?.label}: ${rows.length}, by their ratios to the key and their levels${finding ? `, over the spectrum of ${finding.sample.name}` : ""}`}
          className="min-h-[110px] w-full flex-1"
        />
      </div>
    </div>
  );
}
