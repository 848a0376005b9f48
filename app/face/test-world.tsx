import { act, render } from "@testing-library/react";
import type { ReactNode } from "react";
import { type Edit, History, type Instrument, setParam, together } from "../../core/instrument";
import type { EngineHost } from "../audio/engine-host";
import { type Change, FaceContext, type FaceWorld } from "./face-world";

/** What a face did: each step by its gesture, with the values that it set. */
interface Step {
  readonly gesture: string;
  readonly changes: readonly Change[];
}

/** A face that lives: an instrument that its items move, the steps in which they did, the page to which they went, the keys that they hold. */
export function worldOf(start: Instrument, host: Partial<EngineHost> = {}) {
  let history = History.of(start);
  const listeners = new Set<() => void>();
  const steps: Step[] = [];
  let page: string | null = start.face.pages[0]?.id ?? null;
  const commit = (edit: Edit, gesture: string | null) => {
    history = history.commit(edit, gesture);
    for (const changed of listeners) changed();
  };
  const world: FaceWorld = {
    instruments: {
      get: () => history.present,
      subscribe: (changed) => {
        listeners.add(changed);
        return () => listeners.delete(changed);
      },
    },
    live: true,
    setAll: (changes, gesture, what) => {
      steps.push({ gesture, changes });
      const edits = changes.map(([address, value]) => setParam(history.present, address, value));
      commit({ ...together("Move", edits), merge: what }, gesture);
    },
    page,
    goTo: (to) => {
      page = to;
    },
    host: host as EngineHost,
  };
  return {
    steps,
    get instrument(): Instrument {
      return history.present;
    },
    get page(): string | null {
      return page;
    },
    /** Something else moves a parameter. */
    set: (address: string, value: number | string) =>
      act(() => commit(setParam(history.present, address, value), null)),
    /** As many steps as undo takes back. */
    undoAll: (): number => {
      let count = 0;
      while (history.undoName !== null) {
        history = history.undo();
        count++;
      }
      act(() => {
        for (const changed of listeners) changed();
      });
      return count;
    },
    show: (what: ReactNode) => render(<FaceContext.Provider value={world}>{what}</FaceContext.Provider>),
  };
}

/** What a box of so many pixels measures where nothing is laid out. */
export const measures = (element: Element, width: number, height: number): void => {
  element.getBoundingClientRect = () => new DOMRect(0, 0, width, height);
};
