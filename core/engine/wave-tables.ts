import { type ReadyWaves, STEP_FLOATS, WAVE_FLOATS, WAVE_TABLES, WAVES, type WaveTable, writeFirst } from "../dsp";
import { align, type Heap } from "./heap";

/** Bytes of a row in a set of tables: the most cycles per frame for which it is made, its address, log2 of its points. */
const ROW = 16;

/**
 * The simple waves' tables in the kernels' memory. They are made elsewhere and copied in, the poorest first: a note that is there already grows brighter with each.
 * Until then each wave is its first harmonic.
 */
export class WaveTables {
  /** Address of where the sets of all waves stand, in their order, and the table by which steps are rounded; 0 until they are needed. */
  at = 0;
  private floats = 0;
  /** Where the next row of each wave's set goes. */
  private readonly rows = new Map<string, number>();
  private ready: ReadyWaves | null = null;
  private copied = 0;
  /** Tables that are there whole. */
  private whole = 0;
  private asked = false;

  constructor(private readonly heap: Heap) {}

  /** Makes room for all waves' tables, and the first of each. Allocates. Throws RangeError where there is no memory. */
  prepare(): void {
    if (this.at > 0) return;
    const { heap } = this;
    // All in one piece, so that where there is no memory nothing of it is taken: the sets' addresses, the sets, the tables.
    const head = align((WAVES.length + 1) * 4);
    const lengths = WAVES.map((wave) => (WAVE_TABLES.filter((t) => t.wave === wave).length + 1) * ROW);
    const sets = lengths.reduce((sum, length) => sum + length, 0);
    const at = heap.allocate(head + sets + WAVE_FLOATS * 4);
    this.floats = at + head + sets;
    heap.u32[at / 4 + WAVES.length] = this.floats;
    let set = at + head;
    WAVES.forEach((wave, w) => {
      heap.u32[at / 4 + w] = set;
      this.rows.set(wave, set);
      set += lengths[w] as number;
    });
    heap.f32.fill(0, this.floats / 4, this.floats / 4 + STEP_FLOATS);
    // The poorest of each come first of all.
    for (; this.whole < WAVES.length; this.whole++) {
      const first = WAVE_TABLES[this.whole] as WaveTable;
      const from = this.floats / 4 + first.at;
      writeFirst(first.wave, heap.f32.subarray(from, from + first.size + 1));
      this.tell(first);
    }
    this.at = at;
  }

  /** Whether tables are still to be made elsewhere. */
  get awaiting(): boolean {
    return this.at > 0 && this.ready === null && this.copied < WAVE_FLOATS;
  }

  /** Whether they are to be made, the first time that it is asked. */
  ask(): boolean {
    if (!this.awaiting || this.asked) return false;
    this.asked = true;
    return true;
  }

  /** Takes the tables that were made; `work` copies them. */
  give(ready: ReadyWaves): void {
    if (this.awaiting && ready.length === WAVE_FLOATS) this.ready = ready;
  }

  /** Whether there is something to be copied. */
  get working(): boolean {
    return this.ready !== null;
  }

  /** Copies about so many bytes of the tables. Allocates. */
  work(bytes: number): void {
    const { ready } = this;
    if (!ready) return;
    const to = Math.min(WAVE_FLOATS, this.copied + Math.max(1, Math.floor(bytes / 4)));
    this.heap.f32.set(ready.subarray(this.copied, to), this.floats / 4 + this.copied);
    this.copied = to;
    for (let next = WAVE_TABLES[this.whole]; next && next.at + next.size < to; next = WAVE_TABLES[++this.whole])
      this.tell(next);
    if (to === WAVE_FLOATS) this.ready = null;
  }

  /** The next row of a wave's set tells of a table. */
  private tell({ wave, harmonics, size, at }: WaveTable): void {
    const { heap } = this;
    const row = (this.rows.get(wave) as number) / 4;
    heap.u32[row + 1] = this.floats + at * 4;
    heap.i32[row + 2] = Math.log2(size);
    // The one behind it is the end, before this one is told of.
    heap.f32[row + ROW / 4] = 0;
    heap.f32[row] = 0.5 / harmonics;
    this.rows.set(wave, (row + ROW / 4) * 4);
  }
}
