import { createStore } from "zustand/vanilla";
import { type Edit, History, type Instrument } from "../../core/instrument";
import { saveInstrument } from "../storage/library";
import { settings } from "../storage/stores";
import { documentWorker } from "../workers/document-worker";

/** The instrument that is open, with its history and whether it is saved. */
export interface SessionState {
  readonly history: History | null;
  readonly saved: "saved" | "saving" | "failed";
  readonly failure: string | null;
}

/** Time after an edit until it is stored; under a second, so that a crash loses no more. */
const SAVE_AFTER = 350;
const LAST_OPEN = "open";

/**
 * The open instrument: every edit goes through `commit`, is undone here, and is stored by itself. Failing to store is told and
 * tried again with the next edit.
 */
export class Session {
  readonly store = createStore<SessionState>(() => ({ history: null, saved: "saved", failure: null }));
  private timer: ReturnType<typeof setTimeout> | null = null;
  private writing: Promise<void> = Promise.resolve();

  get instrument(): Instrument | null {
    return this.store.getState().history?.present ?? null;
  }

  /** Makes an edit. Edits of one `gesture` and one kind become one undo step. */
  commit(edit: Edit, gesture: string | null = null): void {
    const { history } = this.store.getState();
    if (history) this.move(history.commit(edit, gesture));
  }

  undo(): void {
    const { history } = this.store.getState();
    if (history) this.move(history.undo());
  }

  redo(): void {
    const { history } = this.store.getState();
    if (history) this.move(history.redo());
  }

  private move(next: History): void {
    if (next === this.store.getState().history) return;
    this.store.setState({ history: next, saved: "saving" });
    this.timer ??= setTimeout(() => {
      this.timer = null;
      void this.save();
    }, SAVE_AFTER);
  }

  /** Stores the open instrument now; resolves when it is done. */
  save(): Promise<void> {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    this.writing = this.writing.then(async () => {
      const { instrument } = this;
      if (!instrument) return;
      try {
        await saveInstrument(instrument);
        if (this.instrument === instrument) this.store.setState({ saved: "saved", failure: null });
      } catch (error) {
        this.store.setState({ saved: "failed", failure: error instanceof Error ? error.message : String(error) });
      }
    });
    return this.writing;
  }

  /** Opens an instrument that isn't stored yet, and stores it. */
  async begin(instrument: Instrument): Promise<void> {
    await this.save();
    this.store.setState({ history: History.of(instrument), saved: "saving", failure: null });
    await this.save();
    await settings.setItem(LAST_OPEN, instrument.id);
  }

  /** Opens a stored instrument; false when there is none of that id. */
  async open(id: string): Promise<boolean> {
    await this.save();
    const instrument = await documentWorker().loadInstrument(id);
    if (!instrument) return false;
    this.store.setState({ history: History.of(instrument), saved: "saved", failure: null });
    await settings.setItem(LAST_OPEN, id);
    return true;
  }

  /** The id that was open last. */
  lastOpen(): Promise<string | null> {
    return settings.getItem<string>(LAST_OPEN);
  }
}

export const session = new Session();
