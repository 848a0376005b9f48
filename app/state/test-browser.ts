import type { Held, TabMessage } from "../storage/instrument-locks";

/** The tabs of one browser, for tests: whoever holds an instrument writes it, and what one tab says the others hear. */
export class TestBrowser {
  private readonly holders = new Map<string, { readonly tab: number; readonly lose: () => void }>();
  private readonly listeners: ((message: TabMessage) => void)[] = [];

  /** `wait`: how a tab waits a moment for another; `bind`: ties what a tab does when it hears something to that tab. */
  constructor(
    private readonly wait: () => Promise<void> = () => new Promise((go) => setTimeout(go, 1)),
    private readonly bind: <F extends (message: TabMessage) => void>(listener: F) => F = (listener) => listener,
  ) {}

  /** A new tab, as `Session` knows it. */
  tab() {
    const mine = this.listeners.length;
    const hold = async (id: string): Promise<Held | null> => (this.holders.has(id) ? null : this.take(id, mine));
    const listen = (listener: (message: TabMessage) => void) => {
      // What it does then it does as its own tab, not as the one that spoke.
      this.listeners[mine] = this.bind(listener);
      return () => {};
    };
    listen(() => {});
    let kept: string | null = null;
    return {
      hold,
      listen: (listener: (message: TabMessage) => void) =>
        listen((message) => {
          if (message.type === "kept") kept = message.why;
          listener(message);
        }),
      takeOver: async (id: string): Promise<Held> => {
        kept = null;
        this.say(mine, { type: "give", id });
        for (let i = 0; i < 100; i++) {
          const held = await hold(id);
          if (held) return held;
          if (kept !== null) throw new Error(`the other tab can't save it (${kept})`);
          await this.wait();
        }
        this.holders.get(id)?.lose();
        return this.take(id, mine);
      },
      say: (message: TabMessage) => this.say(mine, message),
      /** The tab is gone: it hears nothing any more, and what it held is free. */
      close: () => {
        this.listeners[mine] = () => {};
        for (const [id, { tab }] of this.holders) if (tab === mine) this.holders.delete(id);
      },
    };
  }

  private say(from: number, message: TabMessage): void {
    this.listeners.forEach((listener, i) => {
      if (i !== from) listener(message);
    });
  }

  private take(id: string, tab: number): Held {
    let lose: () => void = () => {};
    const lost = new Promise<void>((resolve) => {
      lose = resolve;
    });
    const mine = { tab, lose };
    this.holders.set(id, mine);
    return { release: () => this.holders.get(id) === mine && this.holders.delete(id), lost };
  }
}
