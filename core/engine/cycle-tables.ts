import { CycleMaker, type CycleMap, cycleOf, MOST_CYCLES, mapsOf } from "../dsp";
import type { Heap } from "./heap";
import { frameReader, type StoredSample } from "./stored-sample";

/** Bytes of a table that tells of cycles: how many there are, and a row for each set. */
export const CYCLE_TABLE_BYTES = 16 + 16 * 16;

/** The cycles of a sample on their way into the kernels' memory, one after the other, and what is held of them. */
export class CycleTables {
  private next = 0;
  private readonly count: number;
  private readonly maps: readonly CycleMap[];
  private readonly maker: CycleMaker;
  /** Address of each set's first cycle. */
  private readonly sets: readonly number[];
  /** Address of the table that tells the kernel of them; before all are there it tells of none. */
  readonly at: number;

  /** Frames of a sample's cycle where so many were asked for, 0 for the usual. */
  static cycleOf(sample: StoredSample, asked: number): number {
    return cycleOf(sample.frames, asked);
  }

  /** `cycle`: its frames. Throws RangeError where there is no memory. */
  constructor(
    private readonly heap: Heap,
    private readonly sample: StoredSample,
    private readonly cycle: number,
  ) {
    this.count = Math.min(MOST_CYCLES, Math.max(1, Math.floor(sample.frames / this.cycle)));
    this.maps = mapsOf(cycle);
    this.maker = new CycleMaker(cycle, this.maps);
    // All in one piece, so that where there is no memory nothing of it is taken.
    const bytes = this.maps.map(({ stride }) => stride * this.count * 4);
    this.at = heap.allocate(bytes.reduce((sum, b) => sum + b, CYCLE_TABLE_BYTES));
    heap.f32.fill(0, this.at / 4, (this.at + CYCLE_TABLE_BYTES) / 4);
    let next = this.at + CYCLE_TABLE_BYTES;
    this.sets = bytes.map((b) => {
      next += b;
      return next - b;
    });
  }

  get done(): boolean {
    return this.next === this.count;
  }

  /** Makes the tables of the next cycle; with the last one the kernel is told. */
  work(): void {
    if (this.done) return;
    const { heap, cycle, maps, sets } = this;
    const read = frameReader(heap.memory.buffer, this.sample, false);
    const from = this.next * cycle;
    const outs = maps.map(({ stride }, m) => {
      const at = (sets[m] as number) / 4 + this.next * stride;
      return heap.f32.subarray(at, at + stride);
    });
    this.maker.make((frame) => read(from + frame), outs);
    this.next++;
    if (this.done) this.tell();
  }

  private tell(): void {
    const { f32, i32, u32 } = this.heap;
    this.maps.forEach(({ harmonics, points, stride }, m) => {
      const row = (this.at + 16 + m * 16) / 4;
      f32[row] = 0.5 / harmonics;
      u32[row + 1] = this.sets[m] as number;
      i32[row + 2] = Math.log2(points);
      i32[row + 3] = stride * 4;
    });
    i32[this.at / 4 + 1] = this.maps.length;
    i32[this.at / 4] = this.count;
  }

  /** Gives the memory back. */
  release(): void {
    this.heap.release(this.at);
  }
}
