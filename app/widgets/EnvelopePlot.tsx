import { memo, type PointerEvent, useCallback, useRef } from "react";
import { bent } from "../../core/dsp";
import { findParam, setParam } from "../../core/instrument";
import type { NumberParam } from "../../core/params";
import { newGesture } from "../state/gesture";
import { session } from "../state/session";
import { useUnit } from "../state/use-session";
import { type Draw, Drawing } from "./Drawing";
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
export function corners({ delay, attack, hold, decay, sustain, release }: Times) {
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
  const drag = useRef<{ corner: "a" | "d" | "r"; gesture: string } | null>(null);
  const read = (id: keyof Times) => Number(params?.[id] ?? 0);
  const bendOf = (id: string) => Number(params?.[id] ?? 0);
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
      pen.fillText("let go", Math.min(w - 40, at.held * w + 4), 12);
    },
    [delay, attack, hold, decay, sustain, release, attackBend, decayBend, releaseBend],
  );
  const move = (event: PointerEvent) => {
    const from = drag.current;
    if (!from || !box.current) return;
    const bounds = box.current.getBoundingClientRect();
    const x = (event.clientX - bounds.left) / bounds.width;
    const level = 1 - (event.clientY - bounds.top - 6) / (bounds.height - 10);
    const set = (id: keyof Times, value: number) => {
      const { instrument: now } = session;
      const found = now && findParam(now, `${address}/${id}`);
      if (now && found)
        session.commit(
          setParam(now, `${address}/${id}`, Math.max((found.spec as NumberParam).min, value)),
          from.gesture + id,
        );
    };
    if (from.corner === "a") set("attack", seconds((x - c.from) / SHARES.attack, MOST.attack));
    else if (from.corner === "r") set("release", seconds((x - c.held) / SHARES.release, MOST.release));
    else {
      set("decay", seconds((x - c.h) / SHARES.decay, MOST.decay));
      set("sustain", level);
    }
  };
  const handle = (corner: "a" | "d" | "r", label: string, x: number, y: number) => (
    <button
      type="button"
      aria-label={label}
      title={label}
      className="absolute size-3 -translate-x-1/2 -translate-y-1/2 touch-none rounded-full border-2 border-cobalt bg-sheet"
      style={{ left: x * width, top: 6 + y * (height - 10) }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { corner, gesture: newGesture() };
      }}
      onPointerMove={move}
      onPointerUp={() => {
        drag.current = null;
      }}
    />
  );
  return (
    <div ref={box} className={`relative mt-2 ${className ?? "h-40"}`}>
      <Drawing
        draw={draw}
        label={`Envelope: delay ${delay} s, attack ${attack} s, hold ${hold} s, decay ${decay} s, sustain ${sustain}, release ${release} s`}
        className="h-full w-full"
      />
      {handle("a", "Attack", c.a, 0)}
      {handle("d", "Decay and sustain", c.d, c.s)}
      {handle("r", "Release", c.r, 1)}
    </div>
  );
});
