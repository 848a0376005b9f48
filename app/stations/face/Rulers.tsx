import type { KeyboardEvent } from "react";
import { changeFace, type Face, type FaceGuide, type FaceSize } from "../../../core/instrument";
import { commitFace } from "../../state/face-selection";
import { useDrag } from "../../widgets/use-drag";

/** Thickness of a ruler and its distance from the page, in pixels of the screen. */
const THICK = 16;
const AWAY = 5;
/** Steps between figures on a ruler, in pixels of the page, of which the first that leaves room is taken. */
const STEPS = [10, 20, 50, 100, 200, 500, 1000];
const ROOM = 44;
/** How long a figure is. */
const FIGURE = 24;

type Way = FaceGuide["way"];
const setGuides = (guides: readonly FaceGuide[], gesture: string | null) =>
  commitFace(changeFace("Set guides", { guides }), gesture);

interface RulerProps {
  readonly face: Face;
  readonly size: FaceSize;
  readonly scale: number;
}

/** Rulers above the page and beside it: a guide is drawn out of either. */
export function Rulers(props: RulerProps) {
  return (
    <>
      <Ruler way="x" {...props} />
      <Ruler way="y" {...props} />
    </>
  );
}

/** The ruler along one way; guides of that way stand across it. */
function Ruler({ way, face, size, scale }: RulerProps & { way: Way }) {
  const length = way === "x" ? size.width : size.height;
  const step = STEPS.find((s) => s * scale >= ROOM) ?? 2000;
  const minor = step / 5;
  const at = (event: { clientX: number; clientY: number; currentTarget: HTMLElement }) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.round((way === "x" ? event.clientX - box.left : event.clientY - box.top) / scale);
  };
  const draw = useDrag<{ readonly before: readonly FaceGuide[] }>({
    start: (event, gesture) => {
      event.stopPropagation();
      setGuides([...face.guides, { way, at: within(at(event), length) }], gesture);
      return { before: face.guides };
    },
    move: ({ data, gesture }, event) => setGuides([...data.before, { way, at: within(at(event), length) }], gesture),
  });
  const ticks = Array.from({ length: Math.floor(length / minor) + 1 }, (_, i) => i * minor);
  const place = (value: number) => value * scale;
  return (
    <div
      {...draw}
      title="Draw a guide out of the ruler"
      data-ruler={way}
      className="absolute cursor-crosshair touch-none overflow-hidden bg-sheet text-ink-soft"
      style={
        way === "x"
          ? { left: 0, width: length * scale, top: -THICK - AWAY, height: THICK }
          : { top: 0, height: length * scale, left: -THICK - AWAY, width: THICK }
      }
    >
      <svg
        aria-hidden="true"
        width={way === "x" ? length * scale : THICK}
        height={way === "x" ? THICK : length * scale}
      >
        <path
          d={ticks
            .map((value) => {
              const long = value % step === 0 ? THICK : 5;
              return way === "x" ? `M${place(value)} ${THICK}v${-long}` : `M${THICK} ${place(value)}h${-long}`;
            })
            .join("")}
          stroke="currentColor"
          strokeWidth={1}
          opacity={0.6}
        />
        {ticks
          .filter((value) => value % step === 0 && (length - value) * scale > FIGURE)
          .map((value) => (
            <text
              key={value}
              className="num"
              fontSize={9}
              fill="currentColor"
              {...(way === "x"
                ? { x: place(value) + 3, y: 10 }
                : { transform: `translate(9 ${place(value) + 3}) rotate(90)` })}
            >
              {value}
            </text>
          ))}
      </svg>
    </div>
  );
}

const within = (at: number, length: number): number => Math.min(length, Math.max(0, at));

/** The guides over a page: dragged, moved by arrow keys, taken off by Delete or beyond the edge. */
export function Guides({ face, size, scale }: RulerProps) {
  return face.guides.map((guide, n) =>
    guide.at <= (guide.way === "x" ? size.width : size.height) ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: guides have no names, and keep their order
      <GuideLine key={n} guide={guide} n={n} guides={face.guides} size={size} scale={scale} />
    ) : null,
  );
}

function GuideLine({
  guide: { way, at },
  n,
  guides,
  size,
  scale,
}: {
  guide: FaceGuide;
  n: number;
  guides: readonly FaceGuide[];
  size: FaceSize;
  scale: number;
}) {
  const length = way === "x" ? size.width : size.height;
  const put = (next: number, gesture: string | null) =>
    setGuides(guides.with(n, { way, at: within(next, length) }), gesture);
  const remove = (gesture: string | null) => setGuides(guides.toSpliced(n, 1), gesture);
  const drag = useDrag<{ readonly from: number }>({
    start: (event) => {
      event.stopPropagation();
      return { from: at };
    },
    move: ({ data, gesture, dx, dy }) => put(Math.round(data.from + (way === "x" ? dx : dy) / scale), gesture),
    end: ({ data, gesture, dx, dy }) => {
      const next = data.from + (way === "x" ? dx : dy) / scale;
      if (next < -8 || next > length + 8) remove(gesture);
    },
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = event.shiftKey ? 8 : 1;
    const step = { ArrowLeft: -by, ArrowUp: -by, ArrowRight: by, ArrowDown: by }[event.key];
    if (step !== undefined) put(at + step, "keys");
    else if (event.key === "Delete" || event.key === "Backspace") remove(null);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      {...drag}
      role="slider"
      tabIndex={0}
      aria-label={way === "x" ? "Guide down the page" : "Guide across the page"}
      aria-valuemin={0}
      aria-valuemax={length}
      aria-valuenow={at}
      aria-valuetext={`${at} px`}
      onKeyDown={onKeyDown}
      className="absolute z-10 touch-none"
      style={
        way === "x"
          ? { left: at, top: 0, width: 7 / scale, marginLeft: -3.5 / scale, height: size.height, cursor: "ew-resize" }
          : { top: at, left: 0, height: 7 / scale, marginTop: -3.5 / scale, width: size.width, cursor: "ns-resize" }
      }
    >
      <div
        className="pointer-events-none absolute bg-cobalt opacity-70"
        style={
          way === "x"
            ? { left: 3 / scale, top: 0, bottom: 0, width: 1 / scale }
            : { top: 3 / scale, left: 0, right: 0, height: 1 / scale }
        }
      />
    </div>
  );
}
