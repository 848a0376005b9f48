import { memo, useCallback } from "react";
import { faceKind, formOf, isControl, itemName, lettersOf } from "../../core/face";
import { type FaceItem, type Instrument, listZones } from "../../core/instrument";
import { ButtonControl, ChoiceControl, PagesControl, RandomControl, StepperControl, SwitchControl } from "./buttons";
import { Columns } from "./Columns";
import { type ControlProps, DialControl, NumberControl, SliderControl, XyControl } from "./controls";
import { toneOf } from "./face-style";
import { boundOf, holds, useBounds, useFaceOf, useFaceWorld } from "./face-world";
import { KeysStrip } from "./KeysStrip";
import { Meter, Scope } from "./Live";

/** Controls by their kinds. */
const CONTROLS = {
  dial: DialControl,
  slider: SliderControl,
  number: NumberControl,
  switch: SwitchControl,
  button: ButtonControl,
  choice: ChoiceControl,
  stepper: StepperControl,
  xy: XyControl,
  random: RandomControl,
} as const satisfies Partial<Record<FaceItem["kind"], React.ComponentType<ControlProps>>>;

const isDrawn = (kind: FaceItem["kind"]): kind is keyof typeof CONTROLS => Object.hasOwn(CONTROLS, kind);

/** One thing of a face as whoever plays the instrument sees it: the same in the editor and in the player. */
export const FaceItemView = memo(
  function FaceItemView({ item }: { item: FaceItem }) {
    const { live } = useFaceWorld();
    const bounds = useBounds(item);
    const { when } = item;
    const met = useFaceOf(useCallback((instrument: Instrument) => holds(instrument, { when }), [when]));
    const off = !met && item.when?.does === "enables";
    const disabled = !live || off;
    const label = item.text || bounds[0]?.label || faceKind(item.kind).label;
    const shown = off ? { opacity: 0.4, height: "100%" } : { height: "100%" };
    if (isDrawn(item.kind)) {
      const Control = CONTROLS[item.kind];
      return (
        <div style={shown}>
          <Control item={item} bounds={bounds} label={label} disabled={disabled} />
        </div>
      );
    }
    return (
      <div style={{ ...shown, display: "flex", flexDirection: "column" }}>
        <Shown item={item} label={label} bounds={bounds} disabled={disabled} />
      </div>
    );
  },
  // Where it stands is its surroundings' matter.
  (before, after) => sameLook(before.item, after.item),
);

function sameLook(a: FaceItem, b: FaceItem): boolean {
  const { x: _ax, y: _ay, name: _an, locked: _al, hidden: _ah, group: _ag, page: _ap, ...one } = a;
  const other: Record<string, unknown> = { ...b };
  return Object.entries(one).every(([key, value]) => other[key] === value);
}

/** What isn't one of the plain controls. */
function Shown({ item, label, bounds, disabled }: ControlProps) {
  switch (item.kind) {
    case "columns":
      return (
        <>
          <Columns item={item} label={label} bounds={bounds} disabled={disabled} />
          <span style={{ fontWeight: 600, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
            {label}
          </span>
        </>
      );
    case "page":
      return <PagesControl disabled={disabled} />;
    case "meter":
      return <Meter />;
    case "scope":
      return <Scope />;
    case "keys":
      return <Keys disabled={disabled} />;
    case "shape":
      return <Figure item={item} />;
    default: {
      const size = lettersOf(item);
      return (
        <div
          style={{
            fontSize: size,
            lineHeight: `${item.height}px`,
            fontWeight: size > 20 ? 650 : 400,
            color: toneOf(item.tone),
            textAlign: formOf(item) === "middle" ? "center" : formOf(item) === "right" ? "right" : "left",
            whiteSpace: "nowrap",
            overflow: "hidden",
          }}
        >
          {item.text}
        </div>
      );
    }
  }
}

function Figure({ item: { form, tone } }: { item: FaceItem }) {
  const of = formOf({ kind: "shape", form });
  const colour = toneOf(tone);
  const style =
    of === "line"
      ? { borderTop: `2px solid ${colour}`, marginTop: 0 }
      : of === "frame"
        ? { border: `2px solid ${colour}`, borderRadius: "var(--f-radius)", height: "100%" }
        : {
            background: tone === "ink" ? "var(--f-fill)" : colour,
            borderRadius: of === "round" ? "50%" : "var(--f-radius)",
            height: "100%",
          };
  return <div aria-hidden style={style} />;
}

/** The lowest and the highest key that answers. */
function keysOf(instrument: Instrument): readonly [number, number] {
  let [low, high] = [127, 0];
  for (const zone of listZones(instrument)) {
    low = Math.min(low, zone.keyLow);
    high = Math.max(high, zone.keyHigh);
  }
  return [low, high];
}

/** The keys that answer, at the most three octaves of them. */
function Keys({ disabled }: { disabled: boolean }) {
  let [low, high] = useFaceOf(keysOf, (a, b) => a[0] === b[0] && a[1] === b[1]);
  if (low > high) [low, high] = [48, 83];
  const from = high - low > 47 ? Math.max(low, 48) : low;
  return <KeysStrip low={from} high={Math.min(high, from + 36)} disabled={disabled} />;
}

/** What an item says to those who can't see it. */
export const faceText = (item: FaceItem, instrument: Instrument): string => {
  const bounds = isControl(item.kind) ? boundOf(instrument, item) : [];
  const value = !isControl(item.kind) ? "" : bounds.length === 0 ? " not bound" : ` ${bounds[0]?.text ?? ""}`;
  return `${itemName(instrument, item)}${value}`;
};
