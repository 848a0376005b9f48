import { type KeyboardEvent, useCallback, useRef } from "react";
import { bent } from "../../core/dsp";
import { findParam, type Instrument } from "../../core/instrument";
import { useDrag } from "../widgets/use-drag";
import { type ControlProps, NAME } from "./controls";
import { type Bound, type Change, useFaceOf, useFaceWorld } from "./face-world";

/** How much of the width each part has at the most. */
const SHARES = { attack: 0.26, hold: 0.12, decay: 0.28, release: 0.28 } as const;
type Corner = "attack" | "hold" | "decay" | "sustain" | "release";

const within = (x: number): number => Math.min(1, Math.max(0, x));
const roleOf = ({ address }: Bound): Corner => address.slice(address.lastIndexOf("/") + 1) as Corner;

/** A corner that can be dragged: where it stands (shares of the width, from the left; of the height, from below), what goes along and what goes up. */
interface Handle {
  readonly id: Corner;
  readonly x: number;
  readonly y: number;
  readonly across: Bound | undefined;
  readonly up: Bound | undefined;
  readonly share: number;
}

/** How the envelope's parts are bent, by the unit whose attack or release is moved. */
function bendsOf(instrument: Instrument, unit: string): readonly [attack: number, decay: number, release: number] {
  const bend = (part: string): number => Number(findParam(instrument, `${unit}/${part}Bend`)?.value ?? 0);
  return [bend("attack"), bend("decay"), bend("release")];
}

const sameThree = (a: readonly number[], b: readonly number[]): boolean => a.every((x, i) => x === b[i]);

/** The course of an envelope: its corners are dragged, or moved by the arrow keys. */
export function EnvelopeControl({ item, bounds, label, disabled }: ControlProps) {
  const { setAll } = useFaceWorld();
  const own = useRef<HTMLDivElement>(null);
  const first = bounds[0]?.address ?? "";
  const unit = first.slice(0, first.lastIndexOf("/"));
  const bends = useFaceOf(
    useCallback((instrument: Instrument) => bendsOf(instrument, unit), [unit]),
    sameThree,
  );
  const of = (corner: Corner) => bounds.find((bound) => roleOf(bound) === corner);
  const [attack, hold, decay, sustain, release] = [of("attack"), of("hold"), of("decay"), of("sustain"), of("release")];
  const level = sustain?.travel ?? 1;
  const a = (attack?.travel ?? 0) * SHARES.attack;
  const h = a + (hold?.travel ?? 0) * SHARES.hold;
  const d = h + (decay?.travel ?? 0) * SHARES.decay;
  const held = 1 - SHARES.release;
  const r = held + (release?.travel ?? 0) * SHARES.release;
  const handles: readonly Handle[] = [
    { id: "attack" as const, x: a, y: 1, across: attack, up: undefined, share: SHARES.attack },
    ...(hold ? [{ id: "hold" as const, x: h, y: 1, across: hold, up: undefined, share: SHARES.hold }] : []),
    { id: "decay" as const, x: d, y: level, across: decay, up: sustain, share: SHARES.decay },
    { id: "release" as const, x: r, y: 0, across: release, up: undefined, share: SHARES.release },
  ].filter((handle) => handle.across ?? handle.up);
  const move = (handle: Handle, across: number, up: number, gesture: string) => {
    const changes: Change[] = [];
    if (handle.across) changes.push([handle.across.address, handle.across.atTravel(within(across))]);
    if (handle.up) changes.push([handle.up.address, handle.up.atTravel(within(up))]);
    setAll(changes, gesture, `item ${item.id}`);
  };
  const line = (from: number, to: number, low: number, high: number, bend: number): string =>
    Array.from({ length: 17 }, (_, i) => {
      const way = i / 16;
      return `L${(from + (to - from) * way) * 100} ${(1 - (low + (high - low) * bent(way, bend))) * 100}`;
    }).join("");
  const course = `M0 100${line(0, a, 0, 1, bends[0])}L${h * 100} 0${line(h, d, 1, level, bends[1])}L${held * 100} ${(1 - level) * 100}${line(held, r, level, 0, bends[2])}`;
  return (
    <div style={{ display: "flex", flexDirection: "column", height: "100%", gap: 2 }}>
      <div
        ref={own}
        role="group"
        aria-label={label}
        style={{
          flex: 1,
          minHeight: 0,
          position: "relative",
          background: "var(--f-fill)",
          borderRadius: "var(--f-radius)",
          padding: 0,
        }}
      >
        <svg
          viewBox="0 0 100 100"
          preserveAspectRatio="none"
          aria-hidden="true"
          style={{
            position: "absolute",
            inset: 8,
            width: "calc(100% - 16px)",
            height: "calc(100% - 16px)",
            overflow: "visible",
          }}
        >
          <path d={`${course}L0 100Z`} fill="var(--f-ink)" opacity={0.18} />
          <path d={course} fill="none" stroke="var(--f-ink)" strokeWidth={2.5} vectorEffect="non-scaling-stroke" />
        </svg>
        <div style={{ position: "absolute", inset: 8 }}>
          {handles.map((handle) => (
            <CornerHandle key={handle.id} handle={handle} label={label} disabled={disabled} area={own} move={move} />
          ))}
        </div>
      </div>
      <span style={{ ...NAME, fontWeight: 600 }}>{bounds.length === 0 ? `${label}: not bound` : label}</span>
    </div>
  );
}

function CornerHandle({
  handle,
  label,
  disabled,
  area,
  move,
}: {
  handle: Handle;
  label: string;
  disabled: boolean;
  area: React.RefObject<HTMLDivElement | null>;
  move: (handle: Handle, across: number, up: number, gesture: string) => void;
}) {
  const { id, x, y, across, up, share } = handle;
  const drag = useDrag<{ readonly across: number; readonly up: number }>({
    start: (event) => {
      if (disabled) return null;
      event.stopPropagation();
      return { across: across?.travel ?? 0, up: up?.travel ?? 0 };
    },
    move: ({ data, gesture, dx, dy }, event) => {
      const box = area.current?.getBoundingClientRect();
      if (!box) return;
      const fine = event.shiftKey ? 0.1 : 1;
      move(
        handle,
        data.across + (dx / (box.width * share)) * fine,
        data.up - (dy / Math.max(1, box.height)) * fine,
        gesture,
      );
    },
  });
  const texts = [across, up].flatMap((bound) => (bound ? [`${bound.label} ${bound.text}`] : []));
  return (
    <div
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={`${label}: ${id === "decay" && up ? "decay and sustain" : id}`}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round((across?.travel ?? up?.travel ?? 0) * 100)}
      aria-valuetext={texts.join(", ")}
      aria-disabled={disabled}
      title={texts.join(", ")}
      {...drag}
      onDoubleClick={() => {
        if (disabled) return;
        move(handle, across?.standardTravel ?? 0, up?.standardTravel ?? 0, "reset");
      }}
      onKeyDown={(event: KeyboardEvent) => {
        const by = event.shiftKey ? 0.1 : 0.01;
        const step = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[event.key];
        if (!step || disabled) return;
        event.preventDefault();
        event.stopPropagation();
        // What has only one way goes along it by either pair of keys.
        const [sideways, upward] = step as [number, number];
        move(
          handle,
          (across?.travel ?? 0) + (up ? sideways : sideways + upward),
          (up?.travel ?? 0) + (across ? upward : sideways + upward),
          "keys",
        );
      }}
      style={{
        position: "absolute",
        left: `${x * 100}%`,
        bottom: `${y * 100}%`,
        width: 16,
        height: 16,
        margin: "0 0 -8px -8px",
        borderRadius: "50%",
        background: "var(--f-spot)",
        border: "2px solid var(--f-ground)",
        touchAction: "none",
        cursor: "grab",
      }}
    />
  );
}
