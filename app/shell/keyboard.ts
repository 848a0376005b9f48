import { useEffect } from "react";
import { ComputerKeys } from "../audio/computer-keys";
import { chordOf, isMac } from "../state/chords";
import { commandOf } from "../state/commands";
import { engine } from "../state/engine";
import { strengthOf } from "../state/strength";
import { useView } from "../state/view";

/** Inputs into which nothing is written. */
const NO_TEXT = /^(checkbox|radio|range|button|color|file)$/;
/** Chords that also work while something is written. */
const ALWAYS: ReadonlySet<string> = new Set(["Mod+K", "F1"]);
const UNDOING: ReadonlySet<string> = new Set(["Mod+Z", "Mod+Shift+Z", "Mod+Y"]);

/** Whether what has the focus takes the keys itself: text, lists that are open, dialogs. */
function takesKeys(target: EventTarget | null, chord: string): boolean {
  // Text that is marked on the page is copied as text.
  if (chord === "Mod+C" && getSelection()?.isCollapsed === false) return true;
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement) {
    if (NO_TEXT.test(target.type)) return false;
    // A field in which nothing is written yet has nothing to undo of its own.
    return !(UNDOING.has(chord) && target.dataset.clean === "true");
  }
  return (
    target.isContentEditable ||
    target.closest("textarea, select, [contenteditable], [role=dialog], [role=listbox], [role=menu]") !== null
  );
}

/** Whether a key does something to the control that has the focus: Space and Enter press a button, arrows move a slider. */
function belongsToControl(target: EventTarget | null, chord: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (chord === "Space" || chord === "Enter")
    return (
      target.closest("button, a, summary, input, [role=slider], [role=option], [role=tab], [role=switch]") !== null
    );
  return /^(Shift\+)?(Arrow|Page|Home|End)/.test(chord) && target.closest("[role=slider], [role=tablist]") !== null;
}

/** Listens to the computer keyboard: notes and commands. Nothing while text is typed. */
export function useKeyboard(): void {
  useEffect(() => {
    const player = {
      noteOn: (key: number, velocity: number) => engine.noteOn(key, strengthOf(velocity)),
      noteOff: (key: number) => engine.noteOff(key),
    };
    const notes = new ComputerKeys(player, () => useView.getState().octave);
    const mac = isMac();
    const down = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.isComposing) return;
      const chord = chordOf(event, mac);
      if (!ALWAYS.has(chord) && takesKeys(event.target, chord)) return;
      const plain = !event.ctrlKey && !event.metaKey && !event.altKey;
      if (plain && notes.down(event)) return;
      if (belongsToControl(event.target, chord)) return;
      // Where digits need Shift, as on French keyboards, their keys are meant all the same.
      const digit = plain ? /^Digit(\d)$/.exec(event.code)?.[1] : undefined;
      const command = commandOf(chord) ?? (digit === undefined ? null : commandOf(digit));
      if (!command) return;
      event.preventDefault();
      if (!event.repeat || command.repeats) command.run();
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
  }, []);
}
