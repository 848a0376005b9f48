import { createStore } from "zustand/vanilla";
import { type Edit, type Fault, faultText, History, type Instrument } from "../../core/instrument";
import { reasonOf } from "../basis/reason-of";
import { type Held, tabs as realTabs, type Tabs } from "../storage/instrument-locks";
import { keepVersion, type Loaded, type Saved, saveInstrument, sweepParts } from "../storage/library";
import { settings } from "../storage/stores";
import { documentWorker, type Failed } from "../workers/document-worker";
import { isDrag, onAbandon } from "./gesture";

/** The instrument that is open, with its history and whether it is saved. */
export interface SessionState {
  readonly history: History | null;
  readonly saved: "saved" | "saving" | "failed";
  readonly failure: string | null;
  /** Whether another tab writes this instrument, so that it can only be looked at here. */
  readonly reading: boolean;
  /** Another document of it that is looked at and heard in place of the present one, and what it is called. */
  readonly looking: { readonly name: string; readonly instrument: Instrument } | null;
}

/** Milliseconds after an edit until it is stored: soon after a single one, later while a drag or typing goes on; under a second, so that a crash loses no more. */
const SOON = 50;
const AT_LAST = 900;
/** Pauses between tries to store, where it fails. */
const FIRST_PAUSE = 1000;
const LONGEST_PAUSE = 60000;
/** Milliseconds after which typing or turning begins a new undo step. */
const PAUSE = 1200;
const LAST_OPEN = "open";

/** Thrown where opening another instrument would drop work that can't be stored. */
export class Unsaved extends Error {
  constructor(name: string, reason: string) {
    super(`“${name}” could not be saved (${reason}), so it stays open: make room, or export its package at Ship`);
  }
}

/** Thrown where a stored document can only be opened with a loss. */
export class Broken extends Error {
  constructor(readonly failed: Failed) {
    super(failed.message);
  }
}

/**
 * The open instrument: every edit goes through `commit`, is undone here, and is stored by itself. Failing to store is told and tried again,
 * with growing pauses. Opening, storing and keeping versions follow one another, never at once. Its part of the laws of storage (`library.ts`):
 *
 * - what is written is the present document, never a state that was captured earlier; it counts as saved only if it is what is stored;
 * - it is held first and read then, to be written; who can't hold it reads, and changes nothing;
 * - the lock is given up only with everything stored. What can't be stored isn't given away; what is taken by force is kept as `lostWork`.
 */
export class Session {
  readonly store = createStore<SessionState>(() => ({
    history: null,
    saved: "saved",
    failure: null,
    reading: false,
    looking: null,
  }));
  /** Called with why an edit changed nothing. */
  refused: (why: string) => void = () => {};
  /** Called with the present document where another tab has taken the instrument by force, and what is here isn't stored. */
  lostWork: (instrument: Instrument) => void = () => {};
  private soon: ReturnType<typeof setTimeout> | null = null;
  private atLast: ReturnType<typeof setTimeout> | null = null;
  private pause = FIRST_PAUSE;
  private line: Promise<unknown> = Promise.resolve();
  private stored: Saved | null = null;
  private held: Held | null = null;
  private openings = 0;
  private gesture = { name: "", at: 0, turn: 0 };

  constructor(private readonly tabs: Pick<Tabs, "hold" | "takeOver" | "listen" | "say"> = realTabs) {
    tabs.listen((message) => {
      const { instrument } = this;
      if (message.type === "give" && message.id === instrument?.id && this.held) void this.giveAway();
      if (message.type === "saved" && message.id === instrument?.id && this.store.getState().reading)
        void this.readAgain();
    });
  }

  /** The open instrument as its owner has it, whatever is being looked at. */
  get instrument(): Instrument | null {
    return this.store.getState().history?.present ?? null;
  }

  /** Makes an edit. Edits of one `gesture` and one kind become one undo step. */
  commit(edit: Edit, gesture: string | null = null): void {
    const { history } = this.store.getState();
    if (!history || !this.mayChange()) return;
    const refuse = (faults: readonly Fault[]) => {
      const [first] = faults;
      if (first) this.refused(`${edit.name}: ${faultText(first)}.`);
    };
    this.move(history.commit(edit, gesture && this.within(gesture), refuse), gesture === null);
  }

  /** Takes a gesture back that is still going on, such as a drag that was given up. */
  abandon(gesture: string): void {
    const { history } = this.store.getState();
    if (history && !this.store.getState().reading) this.move(history.abandon(gesture), true);
  }

  /** Typing, key presses and turns of a wheel belong together until there is a pause; a drag until it ends. */
  private within(gesture: string): string {
    if (isDrag(gesture)) return gesture;
    const now = performance.now();
    const goesOn = this.gesture.name === gesture && now - this.gesture.at < PAUSE;
    this.gesture = { name: gesture, at: now, turn: goesOn ? this.gesture.turn : this.gesture.turn + 1 };
    return `${gesture} ${this.gesture.turn}`;
  }

  /** How to undo what was done last, for a notice that speaks of it: as long as nothing else was done since; after that it says so instead. */
  undoAction(): { readonly label: string; readonly run: () => void; readonly still: () => boolean } {
    const step = this.store.getState().history?.lastStep ?? null;
    const still = () => step !== null && this.store.getState().history?.lastStep === step;
    return {
      label: "Undo",
      run: () => {
        if (still()) this.undo();
        else this.refused("This isn’t what was done last any more: undo steps back through what came after it first.");
      },
      still,
    };
  }

  undo(): void {
    const { history } = this.store.getState();
    if (history && this.mayChange()) this.move(history.undo(), true);
  }

  redo(): void {
    const { history } = this.store.getState();
    if (history && this.mayChange()) this.move(history.redo(), true);
  }

  private mayChange(): boolean {
    const { reading, looking } = this.store.getState();
    if (reading)
      this.refused("Another tab has this instrument open: take it over in the bar at the top to change it here.");
    else if (looking)
      this.refused(`You are looking at “${looking.name}”: go back to it, or leave it, before you change anything.`);
    return !reading && !looking;
  }

  private move(next: History, single: boolean): void {
    if (next === this.store.getState().history) return;
    this.store.setState({ history: next, saved: "saving" });
    this.atLast ??= setTimeout(() => void this.save(), AT_LAST);
    if (single) this.rest();
  }

  /** A gesture has ended: what it changed is stored soon. */
  rest(): void {
    if (this.atLast !== null) this.soon ??= setTimeout(() => void this.save(), SOON);
  }

  /** Stores the open instrument now; resolves when it is done. */
  save(): Promise<void> {
    return this.queue(() => this.write());
  }

  /**
   * Puts an edit into an instrument by its id, whichever is open: into the open one, also while a version is looked at, or into what is stored of
   * another. `before` names the version that is kept first. `elsewhere`: another tab writes it; `gone`: there is none. Throws where it can't be settled or
   * stored, Broken where it can only be read with a loss; then nothing has changed.
   */
  putInto(id: string, edit: Edit, before: string | null = null): Promise<"open" | "stored" | "elsewhere" | "gone"> {
    const settled = (history: History): History =>
      history.commit(edit, null, ([first]) => {
        throw new Error(first ? faultText(first) : "it can’t be");
      });
    return this.queue(async () => {
      const { history } = this.store.getState();
      if (history?.present.id === id) {
        if (this.store.getState().reading) return "elsewhere";
        // Its own place in the queue comes later; what it keeps is the state before the edit.
        if (before !== null) this.keepBefore(before);
        this.move(settled(history), true);
        return "open";
      }
      const held = await this.tabs.hold(id);
      if (!held) return "elsewhere";
      try {
        const loaded = await this.load(id, false);
        if (!loaded) return "gone";
        if (before !== null) await keepVersion(id, `before ${before}`, false);
        await saveInstrument(settled(History.of(loaded.instrument)).present, loaded.saved);
      } finally {
        held.release();
      }
      this.tabs.say({ type: "library" });
      return "stored";
    });
  }

  /** Does something to what is stored of the open instrument, once nothing else does; null where another tab writes it. */
  alone<T>(what: (id: string) => Promise<T>): Promise<T | null> {
    return this.queue(async () => (this.instrument && this.held ? what(this.instrument.id) : null));
  }

  private queue<T>(what: () => Promise<T>): Promise<T> {
    const done = this.line.then(what);
    this.line = done.catch(() => {});
    return done;
  }

  private async write(): Promise<void> {
    for (const timer of [this.soon, this.atLast]) if (timer !== null) clearTimeout(timer);
    this.soon = null;
    this.atLast = null;
    const { instrument } = this;
    if (!instrument || this.store.getState().reading) return;
    if (this.stored?.document === instrument) {
      this.store.setState({ saved: "saved", failure: null });
      return;
    }
    try {
      this.stored = await saveInstrument(instrument, this.stored);
      this.pause = FIRST_PAUSE;
      if (this.instrument === instrument) this.store.setState({ saved: "saved", failure: null });
      // It went on meanwhile.
      else this.atLast ??= setTimeout(() => void this.save(), SOON);
      this.tabs.say({ type: "saved", id: instrument.id });
      this.tabs.say({ type: "library" });
    } catch (error) {
      this.store.setState({ saved: "failed", failure: reasonOf(error) });
      this.atLast ??= setTimeout(() => void this.save(), this.pause);
      this.pause = Math.min(LONGEST_PAUSE, this.pause * 2);
    }
  }

  /** Stores everything, also what is edited while it is being stored; false where it can't be. */
  private async writeAll(): Promise<boolean> {
    do await this.write();
    while (this.store.getState().saved === "saving" && !this.store.getState().reading);
    return this.store.getState().saved !== "failed";
  }

  /** Opens an instrument that isn't stored yet, and stores it. */
  begin(instrument: Instrument, abandon = false): Promise<void> {
    ++this.openings;
    return this.queue(async () => {
      const held = this.instrument?.id === instrument.id && this.held ? this.held : await this.tabs.hold(instrument.id);
      await this.leave(abandon, held);
      this.show(History.of(instrument), null, false);
      this.store.setState({ saved: "saving" });
      await this.write();
      await settings.setItem(LAST_OPEN, instrument.id);
    });
  }

  /**
   * Opens a stored instrument; false when there is none of that id, or when another was opened meanwhile. Throws Broken where it can only be opened
   * with a loss, unless `repair` allows that, and Unsaved where what is open can't be stored, unless it may be abandoned.
   */
  open(id: string, { repair = false, abandon = false } = {}): Promise<boolean> {
    const turn = ++this.openings;
    return this.queue(async () => {
      if (turn !== this.openings) return false;
      await this.write();
      // What is open and held here is as new as can be: what is stored of it would be older.
      if (id === this.instrument?.id && this.held) return true;
      // Held first and read then: what is read before may be another tab's past.
      const held = await this.tabs.hold(id);
      let loaded: Loaded | null = null;
      try {
        if (turn === this.openings) loaded = await this.load(id, repair);
      } finally {
        if (!loaded || turn !== this.openings) held?.release();
      }
      if (!loaded || turn !== this.openings) return false;
      await this.leave(abandon, held);
      this.show(History.of(loaded.instrument), loaded.saved, this.held === null);
      // What was put in order is yet to be stored so.
      if (this.held && loaded.faults.length > 0) this.store.setState({ saved: "saving" });
      await settings.setItem(LAST_OPEN, id);
      if (this.held) {
        await sweepParts(id);
        await keepVersion(id, "when it was opened", false);
      }
      if (loaded.faults.length > 0) {
        const [first] = loaded.faults;
        const more = loaded.faults.length > 1 ? ` and ${loaded.faults.length - 1} more places` : "";
        this.refused(
          `It was put in order when it was opened: ${first ? `${faultText(first)} (${first.repair.toLowerCase()})` : ""}${more}.`,
        );
        if (this.held) await this.write();
      }
      return true;
    });
  }

  private async load(id: string, repair: boolean): Promise<Loaded | null> {
    const loaded = await documentWorker().loadInstrument(id, repair);
    if (loaded && "message" in loaded) throw new Broken(loaded);
    return loaded;
  }

  /** Stores what is open, also what is edited while it is being stored, and lets go of it for what is held from now on. */
  private async leave(abandon: boolean, next: Held | null): Promise<void> {
    if (this.instrument && !(await this.writeAll()) && !abandon) {
      if (next !== this.held) next?.release();
      throw new Unsaved(this.instrument.about.name, this.store.getState().failure ?? "");
    }
    if (next !== this.held) this.held?.release();
    this.held = next;
    this.stored = null;
  }

  private show(history: History, stored: Saved | null, reading: boolean): void {
    const { held } = this;
    this.stored = stored;
    this.store.setState({ history, saved: "saved", failure: null, reading, looking: null });
    void held?.lost.then(() => {
      if (this.held !== held) return;
      this.held = null;
      const { instrument } = this;
      if (instrument && this.stored?.document !== instrument) this.lostWork(instrument);
      this.store.setState({ reading: true, saved: "saved", failure: null });
    });
  }

  /** Lets another tab write the instrument, once it is stored; here it is looked at from now on. What can't be stored isn't given away. */
  private giveAway(): Promise<void> {
    return this.queue(async () => {
      const { instrument } = this;
      if (!instrument) return;
      if (!(await this.writeAll())) {
        this.tabs.say({ type: "kept", id: instrument.id, why: this.store.getState().failure ?? "" });
        this.refused("Another tab wanted to take this instrument over: it stays here, since it can’t be saved.");
        return;
      }
      this.held?.release();
      this.held = null;
      this.store.setState({ reading: true, looking: null });
    });
  }

  private readAgain(): Promise<void> {
    return this.queue(async () => {
      const { instrument } = this;
      if (!instrument || !this.store.getState().reading) return;
      const loaded = await this.load(instrument.id, true);
      if (loaded) this.store.setState({ history: History.of(loaded.instrument) });
    });
  }

  /** Takes the instrument over from the tab that writes it. Why it can't be had is told. */
  takeOver(): Promise<void> {
    return this.queue(async () => {
      const { instrument } = this;
      if (!instrument || !this.store.getState().reading) return;
      let held: Held | null = null;
      try {
        held = await this.tabs.takeOver(instrument.id);
        const loaded = await this.load(instrument.id, true);
        this.held = held;
        this.show(History.of(loaded?.instrument ?? instrument), loaded?.saved ?? null, false);
        // One that is gone, or was put in order, is stored as it is here.
        if (!loaded?.saved) this.store.setState({ saved: "saving" });
        await this.write();
      } catch (error) {
        if (this.held !== held) held?.release();
        this.refused(`It can’t be taken over: ${reasonOf(error)}.`);
      }
    });
  }

  /** Keeps the instrument as it is at this moment as a version; by itself before something large happens to it, or by hand under a name. */
  keep(name: string, byHand = false): Promise<void> {
    const { instrument } = this;
    return this.queue(async () => {
      if (!instrument || instrument.id !== this.instrument?.id || this.store.getState().reading) return;
      await this.write();
      // What is stored is the newest; what is kept is what it was at that moment.
      if (this.stored) await keepVersion(instrument.id, name, byHand, instrument, this.stored);
    });
  }

  /** Keeps a version by itself; that it couldn't be kept is told, and stops nothing. */
  keepBefore(what: string): void {
    this.keep(`before ${what}`).catch((error: unknown) =>
      this.refused(`No version could be kept before ${what}: ${reasonOf(error)}.`),
    );
  }

  /** Looks at and listens to another document of the instrument, changing nothing; null ends that. */
  look(looking: SessionState["looking"]): void {
    this.store.setState({ looking });
  }

  /** The id that was open last. */
  lastOpen(): Promise<string | null> {
    return settings.getItem<string>(LAST_OPEN);
  }
}

export const session = new Session();
onAbandon((gesture) => session.abandon(gesture));
