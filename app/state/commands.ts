import { useEffect } from "react";
import { create } from "zustand";

/** Something that can be done: by the palette, by keys, from a menu or by a button. */
export interface Command {
  readonly id: string;
  readonly label: string;
  /** Keys that do it, as `chordOf` names them; the first is shown. */
  readonly chords?: readonly string[];
  /** Whether a key that is held down does it again and again. */
  readonly repeats?: boolean;
  /** Why it can't be done at present; null where it can. */
  readonly why?: () => string | null;
  readonly run: () => void;
}

/** Commands that belong together, such as a station's. */
interface Scope {
  readonly name: string;
  readonly commands: readonly Command[];
}

/** Every command that there is at present; what was added later comes first, so that a station's keys go before those of the frame. */
export const useScopes = create<{ readonly scopes: readonly Scope[] }>(() => ({ scopes: [] }));

/** Adds commands; returns how to take them away again. */
function addCommands(name: string, commands: readonly Command[]): () => void {
  const scope = { name, commands };
  useScopes.setState(({ scopes }) => ({ scopes: [scope, ...scopes] }));
  return () => useScopes.setState(({ scopes }) => ({ scopes: scopes.filter((s) => s !== scope) }));
}

/** The commands of a component, as long as it is there. */
export function useCommands(name: string, commands: readonly Command[]): void {
  useEffect(() => addCommands(name, commands), [name, commands]);
}

/** The command that a chord does at present; null where there is none that can be done. */
export function commandOf(chord: string): Command | null {
  for (const { commands } of useScopes.getState().scopes) {
    const found = commands.find((c) => c.chords?.includes(chord) && (c.why?.() ?? null) === null);
    if (found) return found;
  }
  return null;
}
