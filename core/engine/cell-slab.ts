import type { Heap } from "./heap";

/** Blocks of one size for the pairs of a layer: taken and given back without allocation. */
export class CellSlab {
  private readonly at: number;
  private readonly free: Int32Array;
  private left: number;
  /** A block that nobody renders: of a pair for which there was none left. */
  readonly spare: number;

  constructor(
    private readonly heap: Heap,
    readonly stride: number,
    readonly blocks: number,
  ) {
    this.at = heap.allocate(stride * (blocks + 1));
    this.free = Int32Array.from({ length: blocks }, (_, i) => this.at + i * stride);
    this.spare = this.at + blocks * stride;
    this.left = blocks;
  }

  get available(): number {
    return this.left;
  }

  /** Address of a block; 0 when there is none left. */
  take(): number {
    return this.left > 0 ? (this.free[--this.left] as number) : 0;
  }

  give(block: number): void {
    this.free[this.left++] = block;
  }

  /** Gives its memory back; false while blocks are in use. */
  release(): boolean {
    if (this.left < this.blocks) return false;
    this.heap.release(this.at);
    return true;
  }
}
