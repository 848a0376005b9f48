import { CycleMaker, type CycleMap, cycleOf, MOST_CYCLES, mapsOf } from "../dsp";
import type { Heap } from "./heap";
import { frameReader, type StoredSample } from "./stored-sample";

/** Bytes of a table that tells of cycles: how many there are, and a row for each set. */
export const CYCLE_TABLE_BYTES = 16 + 16 * 16;

/** The cycles of a sample on their way into the kernels' memory, one after the other, and what is held of them. */
export class CycleTables {
  private next = 0;
  private readonly cycle: number;
  private readonly count: number;
  private readonly maps: readonly CycleMap[];
  private readonly maker: CycleMaker;
  /** Address of each set's first cycle. */
  private readonly sets: readonly number[];

  /** `at`: the table that tells the kernel of them once all are there; `asked`: frames of a cycle, 0 for the usual. Throws RangeError where there is no memory. */
  constructor(
    private readonly heap: Heap,
    private readonly at: number,
    private readonly sample: StoredSample,
    asked: number,
  ) {
    this.cycle = cycleOf(sample.frames, asked);
    this.count = Math.min(MOST_CYCLES, Math.max(1, Math.floor(sample.frames / this.cycle)));
    this.maps = mapsOf(this.cycle);
    this.maker = new CycleMaker(this.cycle, this.maps);
    this.sets = this.maps.map(({ stride }) => heap.allocate(stride * this.count * 4));
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

  /** Gives the memory back; the kernel knows of no cycles any more. */
  release(): void {
    this.heap.i32[this.at / 4] = 0;
    for (const at of this.sets) this.heap.release(at);
  }
}
