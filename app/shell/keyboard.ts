import { useEffect } from "react";
import { engine } from "../audio/engine";
import { session } from "../state/session";
import { useView } from "../state/view";
import type { Command } from "./commands";

/** The letters in the order of a keyboard's keys, from the left: where they lie counts, not what is printed on them. */
const NOTES = [
  "KeyA",
  "KeyW",
  "KeyS",
  "KeyE",
  "KeyD",
  "KeyF",
  "KeyT",
  "KeyG",
  "KeyY",
  "KeyH",
  "KeyU",
  "KeyJ",
  "KeyK",
  "KeyO",
  "KeyL",
  "KeyP",
  "Semicolon",
];
const VELOCITY = 96;

const typesText = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target.closest("input, textarea, [contenteditable], [role=dialog], [role=listbox]") !== null);

/** Listens to the computer keyboard: notes, shortcuts. Nothing while text is typed. */
export function useKeyboard(commands: readonly Command[]): void {
  useEffect(() => {
    const held = new Map<string, number>();
    const down = (event: KeyboardEvent) => {
      const ctrl = event.ctrlKey || event.metaKey;
      if (ctrl && event.code === "KeyK") {
        event.preventDefault();
        commands.find((c) => c.id === "palette")?.run();
        return;
      }
      if (typesText(event.target)) return;
      if (ctrl && event.code === "KeyZ") {
        event.preventDefault();
        if (event.shiftKey) session.redo();
        else session.undo();
        return;
      }
      if (ctrl || event.altKey || event.repeat) return;
      const index = NOTES.indexOf(event.code);
      if (index >= 0 && !held.has(event.code)) {
        const key = useView.getState().octave + index;
        if (key <= 127) {
          held.set(event.code, key);
          engine.noteOn(key, event.shiftKey ? 40 : VELOCITY);
        }
        return;
      }
      const onControl =
        event.target instanceof HTMLElement && event.target.closest("button, a, [role=slider], [role=option]") !== null;
      const keys =
        event.key === " "
          ? "Space"
          : event.key === "?"
            ? "?"
            : event.key.length === 1
              ? event.key.toUpperCase()
              : event.key;
      if (keys === "Space" && onControl) return;
      const command = commands.find((c) => c.keys === keys);
      if (!command) return;
      event.preventDefault();
      command.run();
    };
    const up = (event: KeyboardEvent) => {
      const key = held.get(event.code);
      if (key === undefined) return;
      held.delete(event.code);
      engine.noteOff(key);
    };
    const leave = () => {
      for (const key of held.values()) engine.noteOff(key);
      held.clear();
    };
    addEventListener("keydown", down);
    addEventListener("keyup", up);
    addEventListener("blur", leave);
    return () => {
      removeEventListener("keydown", down);
      removeEventListener("keyup", up);
      removeEventListener("blur", leave);
    };
  }, [commands]);
}
