import { type PointerEvent, useEffect, useId, useRef } from "react";
import { formOf } from "../../core/face";
import type { Instrument } from "../../core/instrument";
import { newGesture } from "../state/gesture";
import { type ControlProps, NAME, PRESSED, VALUE } from "./controls";
import { useFaceOf, useFaceWorld, useMoves, useSet } from "./face-world";

const within = (x: number): number => Math.min(1, Math.max(0, x));

export function SwitchControl({ bounds, label, disabled }: ControlProps) {
  const { to } = useMoves(bounds);
  const [bound] = bounds;
  const on = (bound?.travel ?? 0) >= 0.5;
  return (
    <button
      type="button"
      role="switch"
      aria-checked={on}
      aria-label={label}
      disabled={disabled || !bound}
      onClick={() => to(on ? 0 : 1, newGesture())}
      style={{
        all: "unset",
        display: "flex",
        flexDirection: "column",
        alignItems: "center",
        justifyContent: "center",
        gap: 4,
        width: "100%",
        height: "100%",
        cursor: "pointer",
      }}
    >
      <span
        style={{
          width: 46,
          height: 24,
          borderRadius: "max(var(--f-radius), 3px)",
          background: on ? "var(--f-spot)" : "var(--f-fill)",
          border: "1.5px solid var(--f-ink)",
          position: "relative",
        }}
      >
        <span
          style={{
            position: "absolute",
            top: 2,
            bottom: 2,
            width: 18,
            left: on ? 23 : 2,
            borderRadius: "max(calc(var(--f-radius) - 2px), 2px)",
            background: on ? "var(--f-on-spot)" : "var(--f-ink)",
          }}
        />
      </span>
      <span style={{ ...NAME, fontWeight: 600 }}>
        {label} {bound?.steps === 2 && bound.spec.type === "choice" ? <span style={VALUE}>{bound.text}</span> : null}
      </span>
    </button>
  );
}

export function ButtonControl({ item, bounds, label, disabled }: ControlProps) {
  const moves = useMoves(bounds);
  const [bound] = bounds;
  const before = useRef<number | null>(null);
  const on = (bound?.travel ?? 0) >= 0.99;
  const to = (travel: number) => moves.to(travel, newGesture());
  const kept = formOf(item) === "kept";
  const press = () => {
    if (before.current !== null) return;
    before.current = bound?.travel ?? 0;
    to(1);
  };
  const lift = () => {
    if (before.current === null) return;
    // Who pressed it at its highest finds it at its lowest.
    to(before.current >= 0.99 ? 0 : before.current);
    before.current = null;
  };
  // Where it goes away while it is held, as on a page that it leads away from, it is let go.
  const latest = useRef(lift);
  latest.current = lift;
  useEffect(() => () => latest.current(), []);
  const held = kept
    ? { onClick: () => to(on ? 0 : 1) }
    : {
        onPointerDown: (event: PointerEvent<HTMLElement>) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          press();
        },
        onPointerUp: lift,
        onPointerCancel: lift,
        onKeyDown: (event: React.KeyboardEvent) => {
          if (event.key !== " " && event.key !== "Enter") return;
          event.preventDefault();
          press();
        },
        onKeyUp: lift,
        onBlur: lift,
      };
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={disabled || !bound}
      {...held}
      style={{
        ...PRESSED,
        width: "100%",
        height: "100%",
        background: on ? "var(--f-spot)" : "var(--f-fill)",
        color: on ? "var(--f-on-spot)" : "var(--f-ink)",
        fontWeight: 600,
        touchAction: "none",
      }}
    >
      {label}
    </button>
  );
}

export function ChoiceControl({ item, bounds, label, disabled }: ControlProps) {
  const set = useSet();
  const [bound] = bounds;
  const id = useId();
  const choices = bound?.spec.type === "choice" ? bound.spec.choices : [];
  const now = choices[Math.round((bound?.travel ?? 0) * Math.max(1, choices.length - 1))]?.id;
  const to = (value: string) => bound && set(bound.address, value, newGesture());
  return (
    <div style={{ display: "flex", flexDirection: "column", height: "100%", gap: 2 }}>
      <span id={id} style={{ ...NAME, fontWeight: 600 }}>
        {label}
      </span>
      {formOf(item) !== "list" ? (
        <div
          role="radiogroup"
          aria-labelledby={id}
          style={{ flex: 1, minHeight: 0, display: "flex", flexDirection: formOf(item) === "stack" ? "column" : "row" }}
        >
          {choices.map((choice) => (
            <button
              key={choice.id}
              type="button"
              role="radio"
              aria-checked={choice.id === now}
              disabled={disabled}
              onClick={() => to(choice.id)}
              style={{
                ...PRESSED,
                ...NAME,
                flex: 1,
                minWidth: 0,
                padding: "0 4px",
                background: choice.id === now ? "var(--f-spot)" : "var(--f-fill)",
                color: choice.id === now ? "var(--f-on-spot)" : "var(--f-ink)",
              }}
            >
              {choice.label}
            </button>
          ))}
        </div>
      ) : (
        <select
          aria-labelledby={id}
          value={now ?? ""}
          disabled={disabled || !bound}
          onChange={(event) => to(event.target.value)}
          style={{
            ...PRESSED,
            flex: 1,
            minHeight: 0,
            width: "100%",
            background: "var(--f-fill)",
            color: "var(--f-ink)",
          }}
        >
          {choices.length === 0 && <option value="">not bound</option>}
          {choices.map((choice) => (
            <option key={choice.id} value={choice.id}>
              {choice.label}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}

/** One after the other, by name, round at the ends. */
export function StepperControl({ bounds, label, disabled }: ControlProps) {
  const set = useSet();
  const [bound] = bounds;
  const places = bound?.steps && bound.steps > 1 ? bound.steps : 11;
  const go = (by: number) => {
    if (!bound) return;
    const now = Math.round(bound.travel * (places - 1));
    set(bound.address, bound.atTravel(((now + by + places) % places) / (places - 1)), newGesture());
  };
  const button = (by: number, sign: string, name: string) => (
    <button
      type="button"
      aria-label={`${label}: ${name}`}
      disabled={disabled || !bound}
      onClick={() => go(by)}
      style={{ ...PRESSED, width: 36, background: "var(--f-fill)", color: "var(--f-ink)" }}
    >
      {sign}
    </button>
  );
  return (
    <div style={{ display: "flex", flexDirection: "column", height: "100%", gap: 2 }}>
      <span style={{ ...NAME, fontWeight: 600 }}>{label}</span>
      <div style={{ flex: 1, minHeight: 0, display: "flex", gap: 4 }}>
        {button(-1, "‹", "the one before")}
        <output
          style={{
            ...NAME,
            flex: 1,
            display: "grid",
            placeItems: "center",
            background: "var(--f-fill)",
            borderRadius: "var(--f-radius)",
          }}
        >
          {bound?.text ?? "not bound"}
        </output>
        {button(1, "›", "the one after")}
      </div>
    </div>
  );
}

/** Moves all that it is bound to by chance, about where it is, but for what is fixed: one undo step. */
export function RandomControl({ item, bounds, label, disabled }: ControlProps) {
  const { setAll } = useFaceWorld();
  return (
    <button
      type="button"
      disabled={disabled || bounds.length === 0}
      onClick={() => {
        const fixed = new Set(item.moves.filter((m) => m.fixed).map((m) => m.address));
        const drawn = bounds
          .filter((bound) => !fixed.has(bound.address))
          .map((bound) => {
            const travel = within(bound.travel + (2 * Math.random() - 1) * item.amount);
            return [bound.address, bound.atTravel(travel)] as const;
          });
        setAll(drawn, newGesture(), `item ${item.id}`);
      }}
      style={{
        ...PRESSED,
        width: "100%",
        height: "100%",
        background: "var(--f-spot)",
        color: "var(--f-on-spot)",
        fontWeight: 600,
      }}
    >
      {label}
    </button>
  );
}

const pagesOf = (instrument: Instrument) => instrument.face.pages;

/** The pages of the face, of which one is shown. */
export function PagesControl({ disabled }: { disabled: boolean }) {
  const { page, goTo } = useFaceWorld();
  const pages = useFaceOf(pagesOf);
  return (
    <nav aria-label="Pages" style={{ display: "flex", gap: 4, height: "100%" }}>
      {pages
        .filter((p) => p.when === null)
        .map(({ id, name }) => (
          <button
            key={id}
            type="button"
            aria-current={id === page ? "page" : undefined}
            disabled={disabled}
            onClick={() => goTo(id)}
            style={{
              ...PRESSED,
              ...NAME,
              flex: 1,
              minWidth: 0,
              background: id === page ? "var(--f-ink)" : "transparent",
              color: id === page ? "var(--f-ground)" : "var(--f-ink)",
            }}
          >
            {name}
          </button>
        ))}
    </nav>
  );
}
