import { useEffect } from "react";
import { ComputerKeys } from "../audio/computer-keys";
import { engine } from "../audio/engine";
import { session } from "../state/session";
import { useView } from "../state/view";
import type { Command } from "./commands";

const typesText = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target.closest("input, textarea, [contenteditable], [role=dialog], [role=listbox]") !== null);

/** Listens to the computer keyboard: notes, shortcuts. Nothing while text is typed. */
export function useKeyboard(commands: readonly Command[]): void {
  useEffect(() => {
    const notes = new ComputerKeys(engine, () => useView.getState().octave);
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
      if (ctrl || event.altKey || notes.down(event) || event.repeat) return;
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
    const up = (event: KeyboardEvent) => notes.up(event);
    const leave = () => notes.release();
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
