import { type ReactNode, useRef, useState } from "react";
import { faceTheme, formOf, isDialForm } from "../../core/face";
import type { FaceItem, Instrument } from "../../core/instrument";
import { parseValue } from "../../core/params";
import { newGesture } from "../state/gesture";
import { useDrag } from "../widgets/use-drag";
import { DialFace } from "./DialFace";
import { type Bound, type Change, useFaceOf, useFaceWorld, useMoves, useSet } from "./face-world";
import { useTravel } from "./use-travel";

/** What a control is given: its item, what it moves, what it is called, and whether it can't be operated now. */
export interface ControlProps {
  readonly item: FaceItem;
  readonly bounds: readonly Bound[];
  readonly label: string;
  readonly disabled: boolean;
}

export const VALUE = {
  fontFamily: "var(--font-number)",
  fontSize: 12,
  color: "var(--f-soft)",
  textTransform: "none",
  whiteSpace: "nowrap",
} as const;
export const NAME = { maxWidth: "100%", overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" } as const;
export const PRESSED = {
  border: "var(--f-stroke) solid var(--f-ink)",
  borderRadius: "var(--f-radius)",
  font: "inherit",
  textTransform: "inherit",
} as const;

/** What a slider to hand and keys needs to know of the first parameter of an item. */
export function useFirst({ bounds, label, disabled }: ControlProps, way: "up" | "across", length?: number) {
  const { to, reset } = useMoves(bounds);
  const [bound] = bounds;
  return useTravel({
    label,
    text: bound?.text ?? "not bound",
    travel: bound?.travel ?? 0,
    steps: bound?.steps ?? 0,
    disabled: disabled || !bound,
    way,
    ...(length === undefined ? {} : { length }),
    set: to,
    reset,
  });
}

/** As wide as there is room, whatever they say: the browser puts its layers in order anew where the box of one becomes another, for all items of a face. */
const BELOW = { ...NAME, width: "100%", textAlign: "center" } as const;

const Named = ({ label, text }: { label: string; text: string }) => (
  <>
    <span style={{ ...BELOW, fontWeight: 600 }}>{label}</span>
    <span style={{ ...BELOW, ...VALUE }}>{text}</span>
  </>
);

const themeOf = (instrument: Instrument) => instrument.face.theme;

export function DialControl(props: ControlProps) {
  const theme = useFaceOf(themeOf);
  const { item, bounds, label } = props;
  const [bound] = bounds;
  const { dial, letters } = item.look;
  // Its name and its value stand below it.
  const size = Math.max(24, Math.min(item.width, item.height - 2.7 * (letters ?? 15)));
  const own = faceTheme(theme).form;
  return (
    <div style={{ display: "flex", flexDirection: "column", alignItems: "center", height: "100%" }}>
      <div {...useFirst(props, "up")} style={{ width: size, height: size, touchAction: "none" }}>
        <DialFace form={dial !== null && isDialForm(dial) ? dial : own} travel={bound?.travel ?? 0} size={size} />
      </div>
      <Named label={label} text={bound?.text ?? "not bound"} />
    </div>
  );
}

/** From so many pixels of height on there is room for a name and a value below a picture. */
const ROOM = 70;

/** What is turned where it is drawn by pictures of its own: all of them. Where there is room its name and its value stay below. */
export function PicturedControl({ picture, ...props }: ControlProps & { picture: ReactNode }) {
  const { label, bounds, item } = props;
  const across = item.kind === "slider" && formOf(item) === "across";
  const slider = useFirst(props, across ? "across" : "up", Math.max(60, across ? item.width : item.height));
  const text = bounds[0]?.text ?? "not bound";
  return (
    <div style={{ display: "flex", flexDirection: "column", alignItems: "center", height: "100%" }}>
      <div
        {...slider}
        title={`${label} ${text}`}
        style={{ flex: 1, minHeight: 0, width: "100%", position: "relative", touchAction: "none" }}
      >
        {picture}
      </div>
      {item.height >= ROOM && <Named label={label} text={text} />}
    </div>
  );
}

export function SliderControl(props: ControlProps) {
  const { item, bounds, label } = props;
  const [bound] = bounds;
  const across = formOf(item) === "across";
  const travel = bound?.travel ?? 0;
  const length = across ? item.width : Math.max(20, item.height - 40);
  const slider = useFirst(props, across ? "across" : "up", length);
  const place = across
    ? { left: `${travel * 100}%`, top: 0, bottom: 0, width: 4, marginLeft: -2 }
    : { bottom: `${travel * 100}%`, left: 0, right: 0, height: 6, marginBottom: -3 };
  const filled = across
    ? { left: 0, top: 0, bottom: 0, width: `${travel * 100}%` }
    : { bottom: 0, left: 0, right: 0, height: `${travel * 100}%` };
  return (
    <div
      style={{
        display: "flex",
        flexDirection: "column",
        alignItems: across ? "stretch" : "center",
        height: "100%",
        gap: 2,
      }}
    >
      <div
        {...slider}
        style={{
          flex: 1,
          minHeight: 0,
          width: across ? "100%" : Math.min(44, item.width),
          position: "relative",
          background: "var(--f-fill)",
          borderRadius: "var(--f-radius)",
          overflow: "hidden",
          touchAction: "none",
        }}
      >
        <div style={{ position: "absolute", ...filled, background: "var(--f-ink)" }} />
        <div style={{ position: "absolute", ...place, background: "var(--f-spot)" }} />
      </div>
      {across ? (
        <span style={{ display: "flex", justifyContent: "space-between", gap: 8 }}>
          <span style={{ ...NAME, fontWeight: 600 }}>{label}</span>
          <span style={VALUE}>{bound?.text ?? "not bound"}</span>
        </span>
      ) : (
        <Named label={label} text={bound?.text ?? "not bound"} />
      )}
    </div>
  );
}

/** A value that is dragged, or typed after a double click or Enter. */
export function NumberControl(props: ControlProps) {
  const { bounds, label, disabled } = props;
  const set = useSet();
  const [bound] = bounds;
  const [draft, setDraft] = useState<string | null>(null);
  const slider = useFirst(props, "up");
  const take = () => {
    const value = bound && draft !== null ? parseValue(bound.spec, draft) : null;
    if (bound && value !== null) set(bound.address, value, newGesture());
    setDraft(null);
  };
  const text = bound?.text ?? "not bound";
  return (
    <div style={{ display: "flex", flexDirection: "column", height: "100%" }}>
      {draft === null ? (
        <div
          {...slider}
          onDoubleClick={() => !disabled && bound && setDraft(text)}
          onKeyDown={(event) => {
            if (event.key === "Enter" && !disabled && bound) setDraft(text);
            else slider.onKeyDown(event);
          }}
          style={{
            ...PRESSED,
            flex: 1,
            minHeight: 0,
            display: "grid",
            placeItems: "center",
            background: "var(--f-fill)",
            touchAction: "none",
            cursor: "ns-resize",
            fontFamily: "var(--font-number)",
          }}
        >
          {text}
        </div>
      ) : (
        <input
          // biome-ignore lint/a11y/noAutofocus: whoever asked to type a value types it now
          autoFocus
          aria-label={`${label}: type a value`}
          value={draft}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === "Enter") take();
            else if (event.key === "Escape") setDraft(null);
          }}
          style={{
            ...PRESSED,
            flex: 1,
            minHeight: 0,
            width: "100%",
            background: "var(--f-ground)",
            color: "var(--f-ink)",
            textAlign: "center",
          }}
        />
      )}
      <span style={{ ...NAME, fontWeight: 600, textAlign: "center" }}>{label}</span>
    </div>
  );
}

const within = (x: number): number => Math.min(1, Math.max(0, x));

/** Two parameters by one point: across the first, up the second. */
export function XyControl({ item, bounds, label, disabled }: ControlProps) {
  const { setAll } = useFaceWorld();
  const own = useRef<HTMLDivElement>(null);
  const [x, y] = bounds;
  const to = (across: number, up: number, gesture: string) => {
    const changes: Change[] = [];
    if (x) changes.push([x.address, x.atTravel(within(across))]);
    if (y) changes.push([y.address, y.atTravel(within(up))]);
    setAll(changes, gesture, `item ${item.id}`);
  };
  const at = (event: { clientX: number; clientY: number }, gesture: string) => {
    const box = own.current?.getBoundingClientRect();
    if (box) to((event.clientX - box.left) / box.width, 1 - (event.clientY - box.top) / box.height, gesture);
  };
  const drag = useDrag<true>({
    start: (event, gesture) => {
      if (disabled) return null;
      event.stopPropagation();
      at(event, gesture);
      return true;
    },
    move: ({ gesture }, event) => at(event, gesture),
  });
  const [across, up] = [x?.travel ?? 0.5, y?.travel ?? 0.5];
  return (
    <div style={{ display: "flex", flexDirection: "column", height: "100%", gap: 2 }}>
      <div
        ref={own}
        role="slider"
        aria-roledescription="two-way slider"
        tabIndex={disabled ? -1 : 0}
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(across * 100)}
        aria-valuetext={`${x ? `${x.label} ${x.text}` : "not bound"}, ${y ? `${y.label} ${y.text}` : "not bound"}`}
        aria-disabled={disabled}
        {...drag}
        onKeyDown={(event) => {
          const by = event.shiftKey ? 0.1 : 0.02;
          const move = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[event.key];
          if (!move || disabled) return;
          event.preventDefault();
          event.stopPropagation();
          to(across + (move[0] as number), up + (move[1] as number), "keys");
        }}
        style={{
          flex: 1,
          minHeight: 0,
          position: "relative",
          background: "var(--f-fill)",
          borderRadius: "var(--f-radius)",
          overflow: "hidden",
          touchAction: "none",
        }}
      >
        <div
          style={{
            position: "absolute",
            left: `${across * 100}%`,
            top: 0,
            bottom: 0,
            width: 1,
            background: "var(--f-soft)",
          }}
        />
        <div
          style={{
            position: "absolute",
            bottom: `${up * 100}%`,
            left: 0,
            right: 0,
            height: 1,
            background: "var(--f-soft)",
          }}
        />
        <div
          style={{
            position: "absolute",
            left: `${across * 100}%`,
            bottom: `${up * 100}%`,
            width: 18,
            height: 18,
            margin: "0 0 -9px -9px",
            borderRadius: "50%",
            background: "var(--f-spot)",
            border: "2px solid var(--f-ink)",
          }}
        />
      </div>
      <Named label={label} text={`${x?.text ?? "not bound"} · ${y?.text ?? "not bound"}`} />
    </div>
  );
}
