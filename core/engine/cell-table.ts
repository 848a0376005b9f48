import type { Hertz } from "../audio";
import { cycleOf, type ReadyCycles } from "../dsp";
import { CYCLE_TABLE_BYTES, CycleTables } from "./cycle-tables";
import type { Heap } from "./heap";
import type { StoredSample } from "./stored-sample";

/** What voices read beside a unit's inputs: a header in the kernels' memory, and what it names. */
interface Held {
  /** Address of the header. */
  readonly at: number;
  readonly sample: StoredSample | null;
  readonly release: () => void;
}

/** Cycles that are on their way into the kernels' memory: room for them, and they themselves once they are made. */
interface Making {
  readonly cycles: CycleTables;
  readonly held: Held;
  ready: ReadyCycles | null;
  /** Whether they have been asked for. */
  asked: boolean;
}

/** What tells of a sample: its format, frames and addresses. */
const SAMPLE_BYTES = 32;

/**
 * What the voices of a layer read together for one unit: a sample, or the cycles that were made of it. Where either becomes another, those who sound
 * go on reading what they have until others have taken over from them: `version` tells who is to.
 */
export class CellTable {
  private now: Held;
  /** What only voices on their way out still read. */
  private old: Held[] = [];
  private making: Making | null = null;
  private meant: StoredSample | null = null;
  private cycle = 0;
  version = 0;
  /** Rate of the sample that is read. */
  rate: Hertz;

  constructor(
    private readonly heap: Heap,
    private readonly ofCycles: boolean,
    rate: Hertz,
  ) {
    this.rate = rate;
    this.now = this.nothing();
  }

  /** Address of what a fresh voice reads. */
  get at(): number {
    return this.now.at;
  }

  /** Whether there is something to be copied. */
  get working(): boolean {
    return this.making?.ready != null;
  }

  /** The sample whose cycles are still to be made elsewhere, and their frames; null where none are. */
  get wanted(): { readonly sample: StoredSample; readonly cycle: number } | null {
    if (!this.making || this.making.ready || !this.meant) return null;
    return { sample: this.meant, cycle: this.cycle };
  }

  /** The frames of the cycles that are wanted, the first time that it is asked; 0 from then on, and where none are. */
  ask(): number {
    if (!this.making || this.making.ready || this.making.asked) return 0;
    this.making.asked = true;
    return this.cycle;
  }

  /** Takes cycles that were made; `work` copies them. Others than those that are wanted are let go. */
  give(ready: ReadyCycles): void {
    const { making } = this;
    if (making && !making.ready && making.cycles.fits(ready)) making.ready = ready;
  }

  /**
   * From now on another sample is meant, or cycles of another length (frames, 0 for the usual). A sample is read at once; cycles are there
   * once they were given and `work` has copied them, and so long what was there is heard. `awaited`: where it isn't there, it may still come, and who sounds goes on.
   * Whether anything is other. Throws RangeError where there is no memory.
   */
  follow(sample: StoredSample | null, awaited: boolean, asked: number): boolean {
    const cycle = this.ofCycles && sample ? cycleOf(sample.frames, asked) : 0;
    if (sample === this.meant && cycle === this.cycle) return false;
    this.meant = sample;
    this.cycle = cycle;
    if (this.making) {
      this.let(this.making.held);
      this.making = null;
    }
    if (!sample) this.take(this.nothing(), !awaited);
    else if (!this.ofCycles) this.take(this.ofSample(sample));
    else {
      const cycles = new CycleTables(this.heap, sample.frames, cycle);
      sample.readers++;
      const held = { at: cycles.at, sample, release: () => cycles.release() };
      this.making = { cycles, held, ready: null, asked: false };
    }
    return true;
  }

  /** Copies about so many bytes of the cycles that were given. Allocates. */
  work(bytes: number): void {
    const { making } = this;
    if (!making?.ready) return;
    making.cycles.take(making.ready, bytes);
    if (!making.cycles.done) return;
    this.making = null;
    this.take(making.held);
  }

  private take(held: Held, byAll = true): void {
    this.old.push(this.now);
    this.now = held;
    if (held.sample) this.rate = held.sample.rate;
    if (byAll) this.version++;
  }

  private header(bytes: number): number {
    const at = this.heap.allocate(bytes);
    this.heap.f32.fill(0, at / 4, (at + bytes) / 4);
    return at;
  }

  private nothing(): Held {
    const at = this.header(this.ofCycles ? CYCLE_TABLE_BYTES : SAMPLE_BYTES);
    return { at, sample: null, release: () => this.heap.release(at) };
  }

  private ofSample(sample: StoredSample): Held {
    const at = this.header(SAMPLE_BYTES);
    const { i32, u32 } = this.heap;
    i32[at / 4] = sample.format;
    i32[at / 4 + 1] = sample.frames;
    u32[at / 4 + 2] = sample.left;
    u32[at / 4 + 3] = sample.right;
    u32[at / 4 + 4] = sample.leftLow;
    u32[at / 4 + 5] = sample.rightLow;
    sample.readers++;
    return { at, sample, release: () => this.heap.release(at) };
  }

  private let({ sample, release }: Held): void {
    if (sample) sample.readers--;
    release();
  }

  /** Whether there are some that only voices on their way out may read. */
  get hasOld(): boolean {
    return this.old.length > 0;
  }

  /** Gives back what nobody reads any more. */
  tidy(isRead: (at: number) => boolean): void {
    this.old = this.old.filter((held) => {
      if (isRead(held.at)) return true;
      this.let(held);
      return false;
    });
  }

  /** Gives everything back. */
  release(): void {
    for (const held of [...this.old, this.now, ...(this.making ? [this.making.held] : [])]) this.let(held);
    this.old = [];
    this.making = null;
  }
}
