import { makeStepTable, mapsOfWave, STEP_FLOATS, WAVES, type Wave, WaveMaker, type WaveMap } from "../dsp";
import type { Heap } from "./heap";

/** Bytes of a row in a set of tables: the most cycles per frame for which it is made, its address, log2 of its points. */
const ROW = 16;

/** A wave whose tables are on their way into memory. */
interface Making {
  readonly wave: Wave;
  readonly set: number;
  readonly maps: readonly WaveMap[];
  next: number;
}

/** The simple waves' tables in the kernels' memory. They are made one after the other, the poorest first: a note that is there already grows brighter with each. */
export class WaveTables {
  /** Address of where the sets of all waves stand, in their order, and the table by which steps are rounded; 0 until they are needed. */
  at = 0;
  private readonly making: Making[] = [];
  private maker: WaveMaker | null = null;

  constructor(private readonly heap: Heap) {}

  /** Makes room for all waves' tables, and the first of each. Allocates. */
  prepare(): void {
    if (this.at > 0) return;
    const sets = WAVES.map((wave) => this.prepareWave(wave));
    const steps = this.heap.allocate(STEP_FLOATS * 4);
    this.heap.f32.set(makeStepTable(), steps / 4);
    this.at = this.heap.allocate((WAVES.length + 1) * 4);
    this.heap.u32.set([...sets, steps], this.at / 4);
  }

  private prepareWave(wave: Wave): number {
    const maps = mapsOfWave(wave);
    const set = this.heap.allocate((maps.length + 1) * ROW);
    this.heap.f32[set / 4] = 0;
    this.making.push({ wave, set, maps, next: 0 });
    this.make(this.making.at(-1) as Making);
    return set;
  }

  /** Whether tables are still to be made. */
  get working(): boolean {
    return this.making.length > 0;
  }

  /** Makes the next table. Allocates. */
  work(): void {
    const [first] = this.making;
    if (!first) return;
    this.make(first);
    if (first.next === first.maps.length) this.making.shift();
    if (this.making.length === 0) this.maker = null;
  }

  private make(making: Making): void {
    const map = making.maps[making.next];
    if (!map) return;
    const { heap } = this;
    this.maker ??= new WaveMaker();
    const at = heap.allocate((map.size + 1) * 4);
    this.maker.make(making.wave, map, heap.f32.subarray(at / 4, at / 4 + map.size + 1));
    const row = (making.set + making.next * ROW) / 4;
    heap.u32[row + 1] = at;
    heap.i32[row + 2] = Math.log2(map.size);
    // The one behind it is the end, before this one is told of.
    heap.f32[row + ROW / 4] = 0;
    heap.f32[row] = 0.5 / map.harmonics;
    making.next++;
  }
}
