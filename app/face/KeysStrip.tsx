import { type PointerEvent, useMemo } from "react";
import { useStore } from "zustand";
import { BLACK_DOWN, keyUnder, stripKeys } from "../../core/face";
import { useFaceWorld } from "./face-world";
import { useFingers } from "./use-fingers";

/** A strip of keys that play: lower is harder, several fingers at once. */
export function KeysStrip({ low, high, disabled }: { low: number; high: number; disabled: boolean }) {
  const { host } = useFaceWorld();
  const held = useStore(host.store, (s) => s.held);
  const keys = useMemo(() => stripKeys(low, high), [low, high]);
  const fingers = useFingers(host);
  const lift = (event: PointerEvent) => fingers.lift(event.pointerId);
  const play = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const under = keyUnder(keys, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
    if (under) fingers.press(event.pointerId, under.key, 20 + 107 * under.strength);
  };
  return (
    <div
      role="application"
      aria-label="Keys: lower is harder"
      onPointerDown={(event) => {
        if (disabled) return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        play(event);
      }}
      onPointerMove={(event) => fingers.keyOf(event.pointerId) !== undefined && play(event)}
      onPointerUp={lift}
      onPointerCancel={lift}
      style={{ flex: 1, minHeight: 0, position: "relative", overflow: "hidden", touchAction: "none" }}
    >
      {[...keys.filter((k) => !k.black), ...keys.filter((k) => k.black)].map(({ key, from, to, black }) => (
        <div
          key={key}
          style={{
            position: "absolute",
            top: 0,
            height: black ? `${BLACK_DOWN * 100}%` : "100%",
            left: `${from * 100}%`,
            width: `${(to - from) * 100}%`,
            // White keys are white and black ones black in every theme.
            background: held.has(key) ? "var(--f-spot)" : black ? "#1b1b1f" : "#fbfaf5",
            border: "1px solid #1b1b1f",
          }}
        />
      ))}
    </div>
  );
}
