import { type KeyboardEvent, memo, type PointerEvent, useCallback } from "react";
import { bent } from "../../core/dsp";
import { setParam, together } from "../../core/instrument";
import { formatNumber } from "../../core/params";
import { session } from "../state/session";
import { useUnit } from "../state/use-session";
import { cx } from "./class-names";
import { type Draw, Drawing } from "./Drawing";
import { useDrag } from "./use-drag";
import { useSize } from "./use-size";

interface Times {
  readonly delay: number;
  readonly attack: number;
  readonly hold: number;
  readonly decay: number;
  readonly sustain: number;
  readonly release: number;
}

/** Width of a time on the plot: the square root leaves room for short ones. */
const SHARES = { delay: 0.1, attack: 0.24, hold: 0.1, decay: 0.28, release: 0.28 } as const;
const share = (seconds: number, most: number): number => Math.sqrt(Math.min(1, seconds / most));
const seconds = (part: number, most: number): number => Math.min(1, Math.max(0, part)) ** 2 * most;
const MOST = { delay: 10, attack: 10, hold: 10, decay: 20, release: 20 } as const;

/** Where the corners of the envelope stand, in shares of the width and height. */
function corners({ delay, attack, hold, decay, sustain, release }: Times) {
  const from = share(delay, MOST.delay) * SHARES.delay;
  const a = from + share(attack, MOST.attack) * SHARES.attack;
  const h = a + share(hold, MOST.hold) * SHARES.hold;
  const d = h + share(decay, MOST.decay) * SHARES.decay;
  const held = 1 - SHARES.release;
  return { from, a, h, d, s: 1 - sustain, held, r: held + share(release, MOST.release) * SHARES.release };
}

/** The envelope as the engine computes it, with its corners to drag. */
export const EnvelopePlot = memo(function EnvelopePlot({
  address,
  className,
}: {
  address: string;
  className?: string;
}) {
  const params = useUnit(address)?.params;
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const read = (id: keyof Times) => Number(params?.[id] ?? 0);
  const bendOf = (id: "attackBend" | "decayBend" | "releaseBend") => Number(params?.[id] ?? 0);
  const times: Times = {
    delay: read("delay"),
    hold: read("hold"),
    attack: read("attack"),
    decay: read("decay"),
    sustain: read("sustain"),
    release: read("release"),
  };
  const { delay, attack, hold, decay, sustain, release } = times;
  const attackBend = bendOf("attackBend");
  const decayBend = bendOf("decayBend");
  const releaseBend = bendOf("releaseBend");
  const c = corners(times);
  const draw = useCallback<Draw>(
    (pen, w, h, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, w, h);
      const at = corners({ delay, attack, hold, decay, sustain, release });
      const y = (level: number) => 6 + (1 - level) * (h - 10);
      pen.strokeStyle = colours.rule;
      pen.setLineDash([2, 3]);
      pen.beginPath();
      pen.moveTo(at.held * w, 0);
      pen.lineTo(at.held * w, h);
      pen.stroke();
      pen.setLineDash([]);
      pen.beginPath();
      pen.moveTo(0, y(0));
      const trace = (from: number, to: number, low: number, high: number, bend: number) => {
        for (let i = 0; i <= 40; i++)
          pen.lineTo((from + ((to - from) * i) / 40) * w, y(low + (high - low) * bent(i / 40, bend)));
      };
      trace(at.from, at.a, 0, 1, attackBend);
      pen.lineTo(at.h * w, y(1));
      trace(at.h, at.d, 1, sustain, decayBend);
      pen.lineTo(at.held * w, y(sustain));
      trace(at.held, at.r, sustain, 0, releaseBend);
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 2;
      pen.stroke();
      pen.font = '10px "Spline Sans Mono Variable", monospace';
      pen.fillStyle = colours["ink-faint"];
      pen.fillText("release", Math.min(w - 40, at.held * w + 4), 12);
    },
    [delay, attack, hold, decay, sustain, release, attackBend, decayBend, releaseBend],
  );
  /** Sets several parameters of the envelope as one edit. */
  const put = (values: Partial<Record<keyof Times, number>>, gesture: string) => {
    const { instrument } = session;
    if (!instrument) return;
    const edits = Object.entries(values).map(([id, value]) => setParam(instrument, `${address}/${id}`, value));
    const [first] = edits;
    if (first) session.commit({ ...together(first.name, edits), merge: `envelope:${address}` }, gesture);
  };
  const place = (corner: Corner, x: number, level: number, gesture: string) => {
    if (corner === "a") put({ attack: seconds((x - c.from) / SHARES.attack, MOST.attack) }, gesture);
    else if (corner === "r") put({ release: seconds((x - c.held) / SHARES.release, MOST.release) }, gesture);
    else put({ decay: seconds((x - c.h) / SHARES.decay, MOST.decay), sustain: level }, gesture);
  };
  const handle = (corner: Corner, label: string, text: string, x: number, y: number) => (
    <Handle
      label={label}
      text={text}
      x={x * width}
      y={6 + y * (height - 10)}
      before={corner === "a"}
      onDrag={(event, gesture) => {
        const bounds = box.current?.getBoundingClientRect();
        if (!bounds) return;
        const level = 1 - (event.clientY - bounds.top - 6) / (bounds.height - 10);
        place(corner, (event.clientX - bounds.left) / bounds.width, level, gesture);
      }}
      onStep={(across, up) => place(corner, x + across * 0.01, 1 - y + (corner === "d" ? up * 0.02 : 0), "keys")}
    />
  );
  return (
    <div ref={box} className={`relative mt-2 ${className ?? "h-40"}`}>
      <Drawing
        draw={draw}
        label={`Envelope: delay ${delay} s, attack ${attack} s, hold ${hold} s, decay ${decay} s, sustain ${sustain}, release ${release} s`}
        className="h-full w-full"
      />
      {handle("a", "Attack", formatNumber("seconds", attack), c.a, 0)}
      {handle(
        "d",
        "Decay and sustain",
        `${formatNumber("seconds", decay)}, ${formatNumber("percent", sustain)}`,
        c.d,
        c.s,
      )}
      {handle("r", "Release", formatNumber("seconds", release), c.r, 1)}
    </div>
  );
});

type Corner = "a" | "d" | "r";

/** A corner to drag, or to move by the arrow keys. */
function Handle({
  label,
  text,
  x,
  y,
  before,
  onDrag,
  onStep,
}: {
  label: string;
  /** Whether it is taken hold of before its corner rather than behind, so that neighbours don't cover one another. */
  before: boolean;
  text: string;
  x: number;
  y: number;
  onDrag: (event: PointerEvent<HTMLElement>, gesture: string) => void;
  onStep: (across: number, up: number) => void;
}) {
  const drag = useDrag<true>({ start: () => true, move: ({ gesture }, event) => onDrag(event, gesture) });
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (!step) return;
    event.preventDefault();
    const times = event.shiftKey ? 5 : 1;
    onStep((step[0] ?? 0) * times, (step[1] ?? 0) * times);
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(x)}
      aria-valuetext={text}
      title={`${label}: ${text}`}
      className="absolute flex size-6 -translate-y-1/2 touch-none items-center"
      style={{ left: x - (before ? 20 : 4), top: y, justifyContent: before ? "flex-end" : "flex-start" }}
      onKeyDown={keys}
      {...drag}
    >
      <span
        className={cx("size-3 shrink-0 rounded-full border-2 border-cobalt bg-sheet", before ? "-mr-0.5" : "-ml-0.5")}
      />
    </div>
  );
}
