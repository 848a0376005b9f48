import type { Kernels } from "./kernels/kernels";

/** Hands out places in the memory of some kernels, one after another. */
export class KernelMemory {
  private top = 64;
  constructor(readonly kernels: Kernels) {}

  /** The address of so many floats, at a multiple of 16 bytes. */
  floats(count: number): number {
    const at = this.top;
    this.top = (at + count * 4 + 15) & ~15;
    const { memory } = this.kernels;
    const missing = this.top - memory.buffer.byteLength;
    if (missing > 0) memory.grow(Math.ceil(missing / 65536));
    return at;
  }
}
