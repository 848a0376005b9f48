import { type CycleMap, countCycles, mapsOf, type ReadyCycles } from "../dsp";
import type { Heap } from "./heap";

/** Bytes of a table that tells of cycles: how many there are, and a row for each set. */
export const CYCLE_TABLE_BYTES = 16 + 16 * 16;

/** Room in the kernels' memory for the cycles of a sample, set after set, and how far they have been copied in. */
export class CycleTables {
  private readonly count: number;
  private readonly maps: readonly CycleMap[];
  private readonly length: number;
  private copied = 0;
  /** Address of the table that tells the kernel of them; before all are there it tells of none. */
  readonly at: number;

  /** `frames` of the sample, and of a `cycle`. Throws RangeError where there is no memory. */
  constructor(
    private readonly heap: Heap,
    frames: number,
    readonly cycle: number,
  ) {
    this.count = countCycles(frames, cycle);
    this.maps = mapsOf(cycle);
    this.length = this.maps.reduce((sum, { stride }) => sum + stride * this.count, 0);
    // All in one piece, so that where there is no memory nothing of it is taken.
    this.at = heap.allocate(CYCLE_TABLE_BYTES + this.length * 4);
    heap.f32.fill(0, this.at / 4, (this.at + CYCLE_TABLE_BYTES) / 4);
  }

  get done(): boolean {
    return this.copied === this.length;
  }

  /** Whether these are the cycles that there is room for. */
  fits({ cycle, count, floats }: ReadyCycles): boolean {
    return cycle === this.cycle && count === this.count && floats.length === this.length;
  }

  /** Copies about so many bytes more of the cycles; with the last ones the kernel is told. */
  take({ floats }: ReadyCycles, bytes: number): void {
    if (this.done) return;
    const to = Math.min(this.length, this.copied + Math.max(1, Math.floor(bytes / 4)));
    this.heap.f32.set(floats.subarray(this.copied, to), (this.at + CYCLE_TABLE_BYTES) / 4 + this.copied);
    this.copied = to;
    if (this.done) this.tell();
  }

  private tell(): void {
    const { f32, i32, u32 } = this.heap;
    let set = this.at + CYCLE_TABLE_BYTES;
    this.maps.forEach(({ harmonics, points, stride }, m) => {
      const row = (this.at + 16 + m * 16) / 4;
      f32[row] = 0.5 / harmonics;
      u32[row + 1] = set;
      i32[row + 2] = Math.log2(points);
      i32[row + 3] = stride * 4;
      set += stride * this.count * 4;
    });
    i32[this.at / 4 + 1] = this.maps.length;
    i32[this.at / 4] = this.count;
  }

  /** Gives the memory back. */
  release(): void {
    this.heap.release(this.at);
  }
}
