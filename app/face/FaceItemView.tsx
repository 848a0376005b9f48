import { type CSSProperties, memo } from "react";
import { faceKind, formOf, isControl, itemName, lettersOf } from "../../core/face";
import { type FaceItem, type FaceKind, type Instrument, listZones, type OwnLook } from "../../core/instrument";
import { ButtonControl, ChoiceControl, PagesControl, RandomControl, StepperControl, SwitchControl } from "./buttons";
import { ColumnsControl } from "./Columns";
import { type ControlProps, DialControl, NumberControl, PicturedControl, SliderControl, XyControl } from "./controls";
import { EnvelopeControl } from "./Envelope";
import { toneOf } from "./face-style";
import { type Bound, boundOf, useBounds, useFaceOf, useFaceWorld, useStanding } from "./face-world";
import { familyOf } from "./fonts";
import { KeysStrip } from "./KeysStrip";
import { LayersControl } from "./LayersControl";
import { Meter, Scope } from "./Live";
import { PadsControl, PlayedControl } from "./Played";
import { Pictures } from "./pictures";
import { SampleWave, Trace, TuningControl, Voices } from "./Told";

/** What is drawn for each kind of item. */
const VIEWS: Readonly<Record<FaceKind, React.ComponentType<ControlProps>>> = {
  dial: DialControl,
  slider: SliderControl,
  columns: ColumnsControl,
  number: NumberControl,
  switch: SwitchControl,
  button: ButtonControl,
  choice: ChoiceControl,
  stepper: StepperControl,
  xy: XyControl,
  envelope: EnvelopeControl,
  wheel: PlayedControl,
  ribbon: PlayedControl,
  pads: PadsControl,
  layers: LayersControl,
  random: RandomControl,
  page: PagesControl,
  label: Letters,
  picture: () => null,
  shape: Figure,
  meter: () => <Meter />,
  scope: (props) => (formOf(props.item) === "sample" ? <SampleWave item={props.item} /> : <Scope />),
  trace: () => <Trace />,
  voices: ({ label }) => <Voices label={label} />,
  tuning: TuningControl,
  keys: Keys,
};

/** Kinds that are turned along one way: where they have pictures of their own the whole item is what one turns. */
const TURNED: ReadonlySet<FaceKind> = new Set(["dial", "slider", "number"]);

/** One thing of a face as whoever plays the instrument sees it: the same in the editor and in the player. */
export const FaceItemView = memo(
  function FaceItemView({ item }: { item: FaceItem }) {
    const { live } = useFaceWorld();
    const bounds = useBounds(item);
    const { usable, tone, picture } = useStanding(item);
    // What moves a whole row is called after the row.
    const first = item.kind === "columns" ? bounds[0]?.spec.label : bounds[0]?.label;
    const label = item.text || first || faceKind(item.kind).label;
    const pictured = item.pictures.length > 0 || picture !== null;
    const toned = tone === null ? item : { ...item, tone };
    const View = VIEWS[item.kind];
    const props: ControlProps = { item: toned, bounds, label, disabled: !live || !usable };
    const drawn = pictured && (
      <Pictures
        item={item}
        travel={bounds[0]?.travel ?? 0}
        instead={picture}
        text={item.kind === "picture" ? item.text || item.name : ""}
      />
    );
    return (
      <div
        style={{
          ...{ position: "relative", height: "100%", display: "flex", flexDirection: "column" },
          ...(usable ? {} : { opacity: 0.4 }),
          ...lookOf(item.look, tone),
        }}
      >
        {pictured && TURNED.has(item.kind) ? (
          <PicturedControl {...props} picture={drawn} />
        ) : (
          <>
            {drawn}
            {pictured && isControl(item.kind) ? (
              // It is operated as ever; its pictures stand for what it looks like.
              <div style={{ flex: 1, minHeight: 0, opacity: 0 }}>
                <View {...props} />
              </div>
            ) : (
              <View {...props} />
            )}
          </>
        )}
      </div>
    );
  },
  // Where it stands is its surroundings' matter.
  (before, after) => sameLook(before.item, after.item),
);

/** What an item has of its own, as the variables with which it is drawn. */
function lookOf(look: OwnLook, tone: string | null): CSSProperties {
  const ink = look.ink ?? (tone === null || tone === "ink" ? null : toneOf(tone));
  return {
    ...(ink === null ? {} : { "--f-ink": ink, color: ink }),
    ...(look.spot === null ? {} : { "--f-spot": look.spot }),
    ...(look.fill === null ? {} : { "--f-fill": look.fill }),
    ...(look.letters === null ? {} : { fontSize: look.letters }),
    ...(look.font === null ? {} : { fontFamily: familyOf({ id: look.font }) }),
  } as CSSProperties;
}

/** What no picture of an item depends on. */
const ASIDE: ReadonlySet<string> = new Set([
  ...["x", "y", "turn", "name", "locked", "hidden", "group", "page", "tablet", "phone", "anchorX", "anchorY"],
]);

function sameLook(a: FaceItem, b: FaceItem): boolean {
  const other = b as unknown as Record<string, unknown>;
  return Object.entries(a).every(([key, value]) => ASIDE.has(key) || other[key] === value);
}

function Letters({ item }: ControlProps) {
  const size = lettersOf(item);
  const form = formOf(item);
  return (
    <div
      style={{
        fontSize: size,
        lineHeight: `${item.height}px`,
        fontWeight: size > 20 ? 650 : 400,
        color: item.look.ink ?? toneOf(item.tone),
        textAlign: form === "middle" ? "center" : form === "right" ? "right" : "left",
        whiteSpace: "nowrap",
        overflow: "hidden",
      }}
    >
      {item.text}
    </div>
  );
}

function Figure({ item }: ControlProps) {
  const of = formOf(item);
  const colour = toneOf(item.tone);
  const style =
    of === "line"
      ? { borderTop: `2px solid ${colour}`, marginTop: 0 }
      : of === "frame"
        ? { border: `2px solid ${colour}`, borderRadius: "var(--f-radius)", height: "100%" }
        : {
            background: item.tone === "ink" && item.look.ink === null ? "var(--f-fill)" : colour,
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
function Keys({ disabled }: ControlProps) {
  let [low, high] = useFaceOf(keysOf, (a, b) => a[0] === b[0] && a[1] === b[1]);
  if (low > high) [low, high] = [48, 83];
  const from = high - low > 47 ? Math.max(low, 48) : low;
  return <KeysStrip low={from} high={Math.min(high, from + 36)} disabled={disabled} />;
}

/** What an item says to those who can't see it. */
export const faceText = (item: FaceItem, instrument: Instrument): string => {
  const bounds: readonly Bound[] = isControl(item.kind) ? boundOf(instrument, item) : [];
  const value = !isControl(item.kind) ? "" : bounds.length === 0 ? " not bound" : ` ${bounds[0]?.text ?? ""}`;
  return `${itemName(instrument, item)}${value}`;
};
