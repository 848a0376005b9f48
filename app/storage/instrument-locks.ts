/** What is said between tabs. */
export type TabMessage =
  /** An instrument was stored; whoever shows it without writing it reads it again. */
  | { readonly type: "saved"; readonly id: string }
  /** The library's list has changed. */
  | { readonly type: "library" }
  /** Recordings have begun or ended. */
  | { readonly type: "recordings" }
  /** Another tab wants to write this instrument. */
  | { readonly type: "give"; readonly id: string }
  /** Who writes this instrument doesn't give it away, since it can't be stored; the reason. */
  | { readonly type: "kept"; readonly id: string; readonly why: string };

/** Milliseconds that a tab has for giving an instrument away before it is taken: as long as saving may take. */
const PATIENCE = 3000;

/** Milliseconds for which a page that is reloaded may still hold what it held. */
const LEAVING = 500;

const nameOf = (id: string) => `vise-instrument-${id}`;

/** A lock that is held; `lost` resolves when another tab has taken it. */
export interface Held {
  readonly release: () => void;
  readonly lost: Promise<void>;
}

/** Takes a lock by its name: at once or not at all, or, with `steal`, from whoever has it. Null where it is taken. */
export function takeLock(name: string, steal = false): Promise<Held | null> {
  const { locks } = globalThis.navigator ?? {};
  // Where a browser has no locks, nothing can be told of other tabs.
  if (!locks) return Promise.resolve({ release: () => {}, lost: new Promise(() => {}) });
  return new Promise((resolve) => {
    let release: () => void = () => {};
    const over = new Promise<void>((done) => {
      release = done;
    });
    const options = steal ? { steal: true } : { ifAvailable: true };
    const request = locks.request(name, options, (lock) => {
      if (!lock) {
        resolve(null);
        return undefined;
      }
      resolve({ release, lost });
      return over;
    });
    // It is refused only when it was taken away.
    const lost = new Promise<void>((taken) => {
      request.catch(() => taken());
    });
  });
}

/** Locks and messages by which tabs of one browser keep out of each other's way. */
export class Tabs {
  private readonly channel = globalThis.BroadcastChannel ? new BroadcastChannel("vise") : null;

  /** Calls back with what other tabs say; returns how to stop. */
  listen(listener: (message: TabMessage) => void): () => void {
    const { channel } = this;
    const heard = (event: MessageEvent<TabMessage>) => listener(event.data);
    channel?.addEventListener("message", heard);
    return () => channel?.removeEventListener("message", heard);
  }

  say(message: TabMessage): void {
    this.channel?.postMessage(message);
  }

  /** Takes the right to write an instrument; null where another tab has it. A page that was just left may have it a moment longer. */
  async hold(id: string): Promise<Held | null> {
    for (const until = Date.now() + LEAVING; ; ) {
      const held = await takeLock(nameOf(id));
      if (held || Date.now() > until) return held;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  /**
   * Takes over an instrument from another tab, which is asked first and stores what it has. One that doesn't answer loses it; throws the reason where one
   * keeps it because it can't store it.
   */
  async takeOver(id: string): Promise<Held> {
    let kept: string | null = null;
    const stop = this.listen((message) => {
      if (message.type === "kept" && message.id === id) kept = message.why;
    });
    try {
      this.say({ type: "give", id });
      for (const until = Date.now() + PATIENCE; Date.now() < until; ) {
        const held = await this.hold(id);
        if (held) return held;
        if (kept !== null)
          throw new Error(`the other tab can't save it (${kept}): make room first, or export it there`);
      }
    } finally {
      stop();
    }
    const taken = await takeLock(nameOf(id), true);
    if (!taken) throw new Error("the other tab doesn't let go of it");
    return taken;
  }

  /** How many locks are held whose names begin so. */
  async countHeld(start: string): Promise<number> {
    const state = await globalThis.navigator?.locks?.query();
    return state?.held?.filter((lock) => lock.name?.startsWith(start)).length ?? 0;
  }

  /** Whether any tab has a lock of this name. */
  async isHeld(name: string): Promise<boolean> {
    const state = await globalThis.navigator?.locks?.query();
    return state?.held?.some((lock) => lock.name === name) ?? false;
  }
}

export const tabs = new Tabs();
