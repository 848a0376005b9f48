import { type PointerEvent, useEffect, useRef } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../core/audio";
import { ComputerKeys } from "../audio/computer-keys";
import type { EngineHost } from "../audio/engine-host";

const isBlack = (key: number): boolean => [1, 3, 6, 8, 10].includes(key % 12);

interface PlayerKeysProps {
  readonly host: EngineHost;
  readonly low: number;
  readonly high: number;
  readonly answers: Uint8Array;
}

/** The player's keyboard: several fingers or a pointer (lower is harder) and computer keys. */
export function PlayerKeys({ host, low, high, answers }: PlayerKeysProps) {
  const held = useStore(host.store, (s) => s.held);
  const fingers = useRef(new Map<number, number>());
  const first = Math.max(low, Math.min(high - 17, 60 <= high && 60 >= low ? 60 : low));
  useEffect(() => {
    const notes = new ComputerKeys(host, () => first);
    // Letters that are typed somewhere, or choose in a list, are no notes.
    const isTyped = ({ target }: KeyboardEvent) =>
      target instanceof HTMLInputElement || target instanceof HTMLSelectElement;
    const press = (event: KeyboardEvent) =>
      void (event.ctrlKey || event.metaKey || isTyped(event) || notes.down(event));
    const lift = (event: KeyboardEvent) => notes.up(event);
    const leave = () => notes.release();
    addEventListener("keydown", press);
    addEventListener("keyup", lift);
    addEventListener("blur", leave);
    return () => {
      removeEventListener("keydown", press);
      removeEventListener("keyup", lift);
      removeEventListener("blur", leave);
    };
  }, [host, first]);
  const count = high - low + 1;
  const release = ({ pointerId }: { pointerId: number }) => {
    const key = fingers.current.get(pointerId);
    if (key !== undefined) host.noteOff(key);
    fingers.current.delete(pointerId);
  };
  const play = (event: PointerEvent, starting: boolean) => {
    if (!starting && !fingers.current.has(event.pointerId)) return;
    const box = event.currentTarget.getBoundingClientRect();
    const key = low + Math.floor(((event.clientX - box.left) / box.width) * count);
    if (key === fingers.current.get(event.pointerId) || key < low || key > high) return;
    release(event);
    fingers.current.set(event.pointerId, key);
    const depth = (event.clientY - box.top) / (box.height * (isBlack(key) ? 0.62 : 1));
    host.noteOn(key, 20 + 107 * Math.min(1, Math.max(0, depth)));
  };
  return (
    <div
      className="keys"
      role="application"
      aria-label="Keyboard: lower is harder; the letters A W S E D … play too"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        play(event, true);
      }}
      onPointerMove={(event) => play(event, false)}
      onPointerUp={release}
      onPointerCancel={release}
    >
      {Array.from({ length: count }, (_, i) => low + i).map((key) => (
        <div
          key={key}
          className={`key${isBlack(key) ? " black" : ""}${held.has(key) ? " down" : ""}${answers[key] ? "" : " mute"}`}
        >
          {key % 12 === 0 && <span className="num">{nameOfNote(key)}</span>}
        </div>
      ))}
    </div>
  );
}
