import { createStore } from "zustand/vanilla";
import { engine } from "./engine";

/** Somebody who wants those who listen to hear a part of the sound (null: all of it); who `insists` goes before who doesn't. */
interface Want {
  readonly address: string | null;
  readonly insists: boolean;
}

/** Which part of the sound those hear who listen: there is but one at a time. */
class Tapping {
  /** The row or unit, by its address; null: all that comes out. */
  readonly store = createStore<{ readonly at: string | null }>(() => ({ at: null }));
  private wants: readonly Want[] = [];

  /** Wants a part to be heard until that is taken back: the last who insists has it, else the last who came. */
  want(address: string | null, insists = false): () => void {
    const want = { address, insists };
    this.wants = [...this.wants, want];
    this.settle();
    return () => {
      this.wants = this.wants.filter((w) => w !== want);
      this.settle();
    };
  }

  private settle(): void {
    const at = (this.wants.findLast((w) => w.insists) ?? this.wants.at(-1))?.address ?? null;
    engine.tap(at);
    if (at !== this.store.getState().at) this.store.setState({ at });
  }
}

export const tapping = new Tapping();
