import { type KeyboardEvent, useRef, useState } from "react";
import { formOf } from "../../core/face";
import { useDrag } from "../widgets/use-drag";
import { type ControlProps, NAME } from "./controls";
import { type Bound, useFaceWorld } from "./face-world";

const within = (x: number): number => Math.min(1, Math.max(0, x));

/** A row of levels, one for each parameter: drawn across by hand, gone through by keys; as columns, or as a curve through points. */
export function ColumnsControl(props: ControlProps) {
  return (
    <>
      <Columns {...props} />
      <span style={{ ...NAME, fontWeight: 600 }}>{props.label}</span>
    </>
  );
}

function Columns({ item, label, bounds, disabled }: ControlProps) {
  const { setAll } = useFaceWorld();
  const own = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState(0);
  const at = Math.min(chosen, bounds.length - 1);
  const here = bounds[at];
  /** Sets some columns to their levels: all that one gesture draws is one step. */
  const draw = (levels: readonly (readonly [column: number, travel: number])[], gesture: string) =>
    setAll(
      levels.flatMap(([column, travel]) => {
        const bound = bounds[column];
        return bound ? [[bound.address, bound.atTravel(within(travel))] as const] : [];
      }),
      gesture,
      `item ${item.id}`,
    );
  const to = (column: number, travel: number, gesture: string) => draw([[column, travel]], gesture);
  /** The column under a pointer, and the level at its height. */
  const under = (event: { clientX: number; clientY: number }) => {
    const box = own.current?.getBoundingClientRect();
    if (!box) return null;
    const column = Math.floor(((event.clientX - box.left) / box.width) * bounds.length);
    return {
      column: Math.min(bounds.length - 1, Math.max(0, column)),
      travel: within(1 - (event.clientY - box.top) / box.height),
    };
  };
  const drawing = useDrag<{ column: number; travel: number }>({
    start: (event, gesture) => {
      const place = disabled ? null : under(event);
      if (!place) return null;
      event.stopPropagation();
      setChosen(place.column);
      to(place.column, place.travel, gesture);
      return place;
    },
    move: ({ data, gesture }, event) => {
      const place = under(event);
      if (!place) return;
      // Columns that a quick pointer has skipped lie on the line between.
      const count = Math.abs(place.column - data.column);
      const way = Math.sign(place.column - data.column);
      draw(
        Array.from({ length: Math.max(1, count) }, (_, n) => {
          const share = count === 0 ? 1 : (n + 1) / count;
          return [
            data.column + way * (count === 0 ? 0 : n + 1),
            data.travel + (place.travel - data.travel) * share,
          ] as const;
        }),
        gesture,
      );
      data.column = place.column;
      data.travel = place.travel;
      setChosen(place.column);
    },
  });
  const onKeyDown = (event: KeyboardEvent) => {
    if (!here || disabled || event.ctrlKey || event.metaKey || event.altKey) return;
    const by = event.shiftKey ? 0.1 : 0.01;
    if (event.key === "ArrowLeft") setChosen(Math.max(0, at - 1));
    else if (event.key === "ArrowRight") setChosen(Math.min(bounds.length - 1, at + 1));
    else if (event.key === "ArrowUp") to(at, here.travel + by, "keys");
    else if (event.key === "ArrowDown") to(at, here.travel - by, "keys");
    else if (event.key === "Home") to(at, 0, "keys");
    else if (event.key === "End") to(at, 1, "keys");
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      ref={own}
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={`${label}: left and right select a column, up and down move it`}
      aria-orientation="vertical"
      aria-disabled={disabled}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round((here?.travel ?? 0) * 100)}
      aria-valuetext={here ? `${at + 1} of ${bounds.length}: ${here.label} ${here.text}` : "nothing"}
      {...drawing}
      onKeyDown={onKeyDown}
      style={{
        ...{ flex: 1, minHeight: 0, display: "flex", gap: bounds.length > 24 ? 1 : 4, touchAction: "none" },
        ...(formOf(item) === "curve" ? { background: "var(--f-fill)", borderRadius: "var(--f-radius)" } : {}),
      }}
    >
      {formOf(item) === "curve" && <Curve bounds={bounds} at={at} />}
      {formOf(item) === "bars" &&
        bounds.map((bound) => (
          <div key={bound.address} style={{ flex: 1, minWidth: 0, position: "relative", background: "var(--f-fill)" }}>
            <div
              style={{
                position: "absolute",
                inset: "auto 0 0 0",
                height: `${bound.travel * 100}%`,
                background: "var(--f-ink)",
                borderTop: `${bounds.length > 48 ? 2 : 6}px solid var(--f-spot)`,
              }}
            />
          </div>
        ))}
    </div>
  );
}

/** The same levels as a line through points, each in the middle of its column. */
function Curve({ bounds, at }: { bounds: readonly Bound[]; at: number }) {
  const x = (column: number): number => ((column + 0.5) / bounds.length) * 100;
  const y = ({ travel }: Bound): number => (1 - travel) * 100;
  const here = bounds[at];
  const path = bounds
    .map((bound, i) => `${i === 0 ? "M0" : "L"}${i === 0 ? ` ${y(bound)}L${x(i)}` : x(i)} ${y(bound)}`)
    .join("");
  const last = bounds.at(-1);
  const line = last ? `${path}L100 ${y(last)}` : "";
  return (
    <svg
      viewBox="0 0 100 100"
      preserveAspectRatio="none"
      aria-hidden="true"
      style={{ width: "100%", height: "100%", overflow: "visible" }}
    >
      <path d={`${line}L100 100L0 100Z`} fill="var(--f-ink)" opacity={0.18} />
      <path d={line} fill="none" stroke="var(--f-ink)" strokeWidth={2.5} vectorEffect="non-scaling-stroke" />
      {bounds.length <= 48 && (
        <path
          d={bounds.map((bound, i) => `M${x(i)} ${y(bound)}h0`).join("")}
          stroke="var(--f-spot)"
          strokeWidth={10}
          strokeLinecap="round"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {here && (
        <path
          d={`M${x(at)} ${y(here)}h0`}
          stroke="var(--f-spot)"
          strokeWidth={15}
          strokeLinecap="round"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </svg>
  );
}
