import { type KeyboardEvent, type PointerEvent, useCallback, useEffect, useRef } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../core/audio";
import { formOf, type Pad, padsOf } from "../../core/face";
import type { Instrument } from "../../core/instrument";
import type { EngineHost } from "../audio/engine-host";
import { useDrag } from "../widgets/use-drag";
import { useValueWheel } from "../widgets/use-wheel";
import { type ControlProps, NAME, VALUE } from "./controls";
import { useFaceOf, useFaceWorld, useMoves } from "./face-world";
import { useFingers } from "./use-fingers";

const within = (x: number): number => Math.min(1, Math.max(0, x));

/** Pitch bend and the modulation wheel as MIDI has them, for a place of 0 to 1. */
const BEND = 0xe0;
const CONTROL = 0xb0;
function bendTo(host: EngineHost, place: number): void {
  const value = Math.min(16383, Math.round(place * 16384));
  host.midi(BEND, value & 127, value >> 7);
}

/** What a wheel or a ribbon moves: where it stands, how it is said, whether it springs back, and where it is at rest. */
function usePlayed({ item, bounds, label }: ControlProps) {
  const { host } = useFaceWorld();
  const { to } = useMoves(bounds);
  const bend = useStore(host.store, (s) => s.bend);
  const wheel = useStore(host.store, (s) => s.wheel);
  const form = formOf(item);
  if (form === "bend")
    return {
      place: (bend + 1) / 2,
      text: `${Math.round(bend * 100)} %`,
      back: 0.5,
      rest: 0.5,
      name: item.text || "Bend",
      set: (place: number) => bendTo(host, place),
      ready: true,
    };
  if (form === "wheel")
    return {
      place: wheel,
      text: `${Math.round(wheel * 100)} %`,
      back: null,
      rest: 0,
      name: item.text || "Wheel",
      set: (place: number) => host.midi(CONTROL, 1, Math.round(place * 127)),
      ready: true,
    };
  const [bound] = bounds;
  return {
    place: bound?.travel ?? 0,
    text: bound?.text ?? "not bound",
    back: form === "back" ? (bound?.standardTravel ?? 0) : null,
    rest: bound?.standardTravel ?? 0,
    name: label,
    set: (place: number, gesture: string) => to(place, gesture),
    ready: bound !== undefined,
  };
}

/** A wheel that is pushed up and down, or a ribbon that is pressed along its length. */
export function PlayedControl(props: ControlProps) {
  const { item, disabled } = props;
  const { place, text, back, rest, name, set, ready } = usePlayed(props);
  const area = useRef<HTMLDivElement>(null);
  const across = item.kind === "ribbon";
  const off = disabled || !ready;
  const under = (event: { clientX: number; clientY: number }): number => {
    const box = area.current?.getBoundingClientRect();
    if (!box) return place;
    return within(across ? (event.clientX - box.left) / box.width : 1 - (event.clientY - box.top) / box.height);
  };
  const drag = useDrag<{ readonly from: number; readonly pressed: number }>({
    start: (event, gesture) => {
      if (off) return null;
      event.stopPropagation();
      const pressed = under(event);
      // A bending ribbon begins where it is pressed, and bends from there; what has a place of its own goes where it is pressed.
      if (back === null) set(pressed, gesture);
      return { from: back === null ? pressed : place, pressed };
    },
    move: ({ data, gesture }, event) => set(within(data.from + under(event) - data.pressed), gesture),
    end: ({ gesture }) => back !== null && set(back, gesture),
    click: ({ gesture }) => back !== null && set(back, gesture),
    giveUp: () => back !== null && set(back, "keys"),
  });
  // What springs back does so too where it goes away in the middle of a drag.
  const spring = useRef(() => {});
  spring.current = () => back !== null && !off && place !== back && set(back, "keys");
  useEffect(() => () => spring.current(), []);
  useValueWheel(area, (notches, fine) => {
    if (!off && back === null) set(within(place + notches * (fine ? 0.002 : 0.02)), "wheel");
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = event.shiftKey ? 0.1 : 0.02;
    const next = {
      ArrowUp: place + by,
      ArrowRight: place + by,
      ArrowDown: place - by,
      ArrowLeft: place - by,
      Home: 0,
      End: 1,
      Escape: back ?? place,
    }[event.key];
    if (next === undefined || off) return;
    event.preventDefault();
    event.stopPropagation();
    set(within(next), "keys");
  };
  const filled = across
    ? {
        left: `${Math.min(place, back ?? 0) * 100}%`,
        width: `${Math.abs(place - (back ?? 0)) * 100}%`,
        top: 0,
        bottom: 0,
      }
    : {
        bottom: `${Math.min(place, back ?? 0) * 100}%`,
        height: `${Math.abs(place - (back ?? 0)) * 100}%`,
        left: 0,
        right: 0,
      };
  const mark = across
    ? { left: `${place * 100}%`, top: 0, bottom: 0, width: 6, marginLeft: -3 }
    : { bottom: `${place * 100}%`, left: 0, right: 0, height: 8, marginBottom: -4 };
  return (
    <div style={{ display: "flex", flexDirection: "column", height: "100%", gap: 2, alignItems: "stretch" }}>
      <div
        ref={area}
        role="slider"
        tabIndex={off ? -1 : 0}
        aria-label={name}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(place * 100)}
        aria-valuetext={text}
        aria-disabled={off}
        aria-orientation={across ? "horizontal" : "vertical"}
        {...drag}
        onDoubleClick={() => !off && set(rest, "reset")}
        onKeyDown={onKeyDown}
        // What springs back does so when the keys leave it.
        onBlur={() => spring.current()}
        style={{
          ...{ flex: 1, minHeight: 0, position: "relative", overflow: "hidden", touchAction: "none" },
          background: "var(--f-fill)",
          borderRadius: "var(--f-radius)",
        }}
      >
        <div style={{ position: "absolute", ...filled, background: "var(--f-ink)" }} />
        <div style={{ position: "absolute", ...mark, background: "var(--f-spot)" }} />
      </div>
      <span style={{ display: "flex", justifyContent: "center", gap: 8 }}>
        <span style={{ ...NAME, fontWeight: 600 }}>{name}</span>
        {across && <span style={VALUE}>{text}</span>}
      </span>
    </div>
  );
}

const samePads = (a: readonly Pad[], b: readonly Pad[]): boolean =>
  a.length === b.length && a.every((pad, i) => pad.key === b[i]?.key && pad.label === b[i]?.label);

/** Fields that play, several fingers at once: the lower one presses, the harder. */
export function PadsControl({ item, label, disabled }: ControlProps) {
  const { host } = useFaceWorld();
  const most = Number(formOf(item));
  const pads = useFaceOf(
    useCallback((instrument: Instrument) => padsOf(instrument, most), [most]),
    samePads,
  );
  const held = useStore(host.store, (s) => s.held);
  const fingers = useFingers(host);
  const press = (event: PointerEvent<HTMLElement>, key: number) => {
    if (disabled) return;
    event.stopPropagation();
    const box = event.currentTarget.getBoundingClientRect();
    event.currentTarget.setPointerCapture(event.pointerId);
    fingers.press(event.pointerId, key, 30 + 97 * within((event.clientY - box.top) / box.height));
  };
  // As many rows as make fields about one and a half times as wide as tall, all of them full where that goes.
  const rows = Math.max(1, Math.round(Math.sqrt((pads.length * item.height * 1.5) / Math.max(1, item.width))));
  const columns = Math.max(1, Math.ceil(pads.length / rows));
  return (
    <div
      role="group"
      aria-label={label}
      style={{
        ...{ flex: 1, minHeight: 0, height: "100%", display: "grid", gap: 6, touchAction: "none" },
        gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
        gridAutoRows: "minmax(0, 1fr)",
      }}
    >
      {pads.map(({ key, label: name }) => (
        <button
          key={key}
          type="button"
          disabled={disabled}
          aria-pressed={held.has(key)}
          aria-label={`${name}, ${nameOfNote(key)}`}
          onPointerDown={(event) => press(event, key)}
          onPointerUp={(event) => fingers.lift(event.pointerId)}
          onPointerCancel={(event) => fingers.lift(event.pointerId)}
          onKeyDown={(event) => {
            if (event.key !== " " && event.key !== "Enter") return;
            event.preventDefault();
            event.stopPropagation();
            // Pointers have numbers above 0.
            if (!event.repeat) fingers.press(-1 - key, key, 100);
          }}
          onKeyUp={() => fingers.lift(-1 - key)}
          onBlur={() => fingers.lift(-1 - key)}
          style={{
            ...{ font: "inherit", textTransform: "inherit", minWidth: 0, padding: 4, touchAction: "none" },
            border: "max(var(--f-stroke), 1px) solid var(--f-ink)",
            borderRadius: "var(--f-radius)",
            background: held.has(key) ? "var(--f-spot)" : "var(--f-fill)",
            color: held.has(key) ? "var(--f-on-spot)" : "var(--f-ink)",
          }}
        >
          <span style={{ ...NAME, display: "block" }}>{name}</span>
        </button>
      ))}
    </div>
  );
}
