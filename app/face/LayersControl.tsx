import { useCallback } from "react";
import { blendLevels, blendPlace, formOf } from "../../core/face";
import { findParam, type Instrument } from "../../core/instrument";
import { newGesture } from "../state/gesture";
import { type ControlProps, NAME, PRESSED, VALUE } from "./controls";
import { type Bound, boundTo, useFaceOf, useFaceWorld, useMoves } from "./face-world";
import { useTravel } from "./use-travel";

/** A layer as whoever plays sees it. */
interface Shown {
  readonly id: string;
  readonly name: string;
  readonly heard: boolean;
  readonly level: number;
}

const layersOf = (instrument: Instrument): readonly Shown[] =>
  instrument.layers.map(({ id, name }) => ({
    id,
    name,
    heard: Number(findParam(instrument, `layers/${id}/strip/mute`)?.value ?? 0) < 0.5,
    level: Number(findParam(instrument, `layers/${id}/strip/level`)?.value ?? 0),
  }));

const sameLayers = (a: readonly Shown[], b: readonly Shown[]): boolean =>
  a.length === b.length &&
  a.every((layer, i) => {
    const other = b[i] as Shown;
    return (
      layer.id === other.id && layer.name === other.name && layer.heard === other.heard && layer.level === other.level
    );
  });

const muteAt = (id: string): string => `layers/${id}/strip/mute`;
const levelAt = (id: string): string => `layers/${id}/strip/level`;

/** The layers of the instrument: mixed, chosen one at a time, or blended. */
export function LayersControl(props: ControlProps) {
  const layers = useFaceOf(layersOf, sameLayers);
  switch (formOf(props.item)) {
    case "one":
      return <OneOf {...props} layers={layers} />;
    case "blend":
      return <Blend {...props} layers={layers} />;
    default:
      return <Mix {...props} layers={layers} />;
  }
}

interface LayersProps extends ControlProps {
  readonly layers: readonly Shown[];
}

function Mix({ item, disabled, layers, label }: LayersProps) {
  const { setAll } = useFaceWorld();
  return (
    <div
      role="group"
      aria-label={label}
      style={{
        height: "100%",
        display: "flex",
        flexDirection: "column",
        gap: 4,
        overflowY: "auto",
        overflowX: "hidden",
      }}
    >
      {layers.map(({ id, name, heard }) => (
        <div key={id} style={{ flex: "1 0 24px", display: "flex", gap: 6, alignItems: "stretch", minHeight: 24 }}>
          <button
            type="button"
            role="switch"
            aria-checked={heard}
            aria-label={`${name} is heard`}
            disabled={disabled}
            onClick={() => setAll([[muteAt(id), heard ? 1 : 0]], newGesture(), `item ${item.id}`)}
            style={{
              ...PRESSED,
              ...NAME,
              width: "38%",
              padding: "0 6px",
              textAlign: "left",
              background: heard ? "var(--f-spot)" : "var(--f-fill)",
              color: heard ? "var(--f-on-spot)" : "var(--f-ink)",
            }}
          >
            {name}
          </button>
          <Level id={id} name={name} disabled={disabled} />
        </div>
      ))}
    </div>
  );
}

const sameBound = (a: Bound | null, b: Bound | null): boolean => a?.travel === b?.travel && a?.text === b?.text;

/** How loud a layer is, along a bar. */
function Level({ id, name, disabled }: { id: string; name: string; disabled: boolean }) {
  const bound = useFaceOf(
    useCallback((instrument: Instrument) => boundTo(instrument, levelAt(id)), [id]),
    sameBound,
  );
  const { to, reset } = useMoves(bound ? [bound] : []);
  const travel = bound?.travel ?? 0;
  const slider = useTravel({
    label: `Level of ${name}`,
    text: bound?.text ?? "",
    travel,
    steps: 0,
    disabled,
    way: "across",
    set: to,
    reset,
  });
  return (
    <div
      {...slider}
      style={{
        ...{ flex: 1, position: "relative", overflow: "hidden", touchAction: "none" },
        background: "var(--f-fill)",
        borderRadius: "var(--f-radius)",
      }}
    >
      <div
        style={{ position: "absolute", inset: 0, width: `${travel * 100}%`, background: "var(--f-ink)", opacity: 0.35 }}
      />
      <div
        style={{
          position: "absolute",
          top: 0,
          bottom: 0,
          left: `${travel * 100}%`,
          width: 4,
          marginLeft: -2,
          background: "var(--f-spot)",
        }}
      />
      <span
        style={{
          ...VALUE,
          color: "var(--f-ink)",
          position: "absolute",
          right: 6,
          top: "50%",
          transform: "translateY(-50%)",
        }}
      >
        {bound?.text}
      </span>
    </div>
  );
}

function OneOf({ item, disabled, layers, label }: LayersProps) {
  const { setAll } = useFaceWorld();
  const heard = layers.filter((l) => l.heard);
  const only = heard.length === 1 ? heard[0]?.id : undefined;
  const choose = (id: string) =>
    setAll(
      layers.map((l) => [muteAt(l.id), l.id === id ? 0 : 1] as const),
      newGesture(),
      `item ${item.id}`,
    );
  return (
    <div role="radiogroup" aria-label={label} style={{ height: "100%", display: "flex", gap: 4, flexWrap: "wrap" }}>
      {layers.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          role="radio"
          aria-checked={id === only}
          disabled={disabled}
          onClick={() => choose(id)}
          style={{
            ...PRESSED,
            ...NAME,
            flex: "1 0 70px",
            padding: "0 6px",
            background: id === only ? "var(--f-spot)" : "var(--f-fill)",
            color: id === only ? "var(--f-on-spot)" : "var(--f-ink)",
          }}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

function Blend({ item, disabled, layers, label }: LayersProps) {
  const { setAll } = useFaceWorld();
  const place = blendPlace(layers.map((l) => l.level));
  const to = (next: number, gesture: string) => {
    const levels = blendLevels(layers.length, next);
    setAll(
      layers.map((layer, i) => [levelAt(layer.id), levels[i] ?? 0] as const),
      gesture,
      `item ${item.id}`,
    );
  };
  const nearest = layers[Math.round(place * Math.max(0, layers.length - 1))];
  const slider = useTravel({
    label,
    text: nearest ? `${Math.round(place * 100)} %, nearest ${nearest.name}` : "no layers",
    travel: place,
    steps: 0,
    disabled: disabled || layers.length < 2,
    way: "across",
    length: item.width,
    set: to,
    reset: () => to(0, "reset"),
  });
  return (
    <div style={{ height: "100%", display: "flex", flexDirection: "column", gap: 2 }}>
      <div
        {...slider}
        style={{
          ...{ flex: 1, minHeight: 0, position: "relative", overflow: "hidden", touchAction: "none" },
          background: "var(--f-fill)",
          borderRadius: "var(--f-radius)",
        }}
      >
        <div
          style={{
            position: "absolute",
            top: 0,
            bottom: 0,
            left: `${place * 100}%`,
            width: 8,
            marginLeft: -4,
            background: "var(--f-spot)",
          }}
        />
      </div>
      <span style={{ display: "flex", justifyContent: "space-between", gap: 8 }}>
        {layers.map(({ id, name }) => (
          <span key={id} style={{ ...NAME, fontWeight: id === nearest?.id ? 600 : 400 }}>
            {name}
          </span>
        ))}
      </span>
    </div>
  );
}
