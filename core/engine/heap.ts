/** Pages of 64 KiB by which the memory grows at the least: 4 MB. */
const GENEROUS = 64;

/** Hands out stretches of a WebAssembly memory, first fit, and takes them back. Addresses are multiples of 16 bytes. */
export class Heap {
  f32: Float32Array;
  f64: Float64Array;
  i32: Int32Array;
  u32: Uint32Array;
  private readonly sizes = new Map<number, number>();
  /** Free stretches by address, in order, never touching. */
  private free: { at: number; size: number }[] = [];
  private top: number;

  constructor(
    readonly memory: WebAssembly.Memory,
    from: number,
  ) {
    this.top = align(from);
    this.f32 = new Float32Array(memory.buffer);
    this.f64 = new Float64Array(memory.buffer);
    this.i32 = new Int32Array(memory.buffer);
    this.u32 = new Uint32Array(memory.buffer);
  }

  /** Bytes handed out. */
  get used(): number {
    let sum = 0;
    for (const size of this.sizes.values()) sum += size;
    return sum;
  }

  /** Address of a fresh stretch (its contents are anything); throws RangeError when the memory can't grow that far. */
  allocate(bytes: number): number {
    const size = align(Math.max(16, bytes));
    const hole = this.free.find((f) => f.size >= size);
    let at: number;
    if (hole) {
      at = hole.at;
      hole.at += size;
      hole.size -= size;
      if (hole.size === 0) this.free.splice(this.free.indexOf(hole), 1);
    } else {
      at = this.top;
      this.grow(at + size);
      this.top = at + size;
    }
    this.sizes.set(at, size);
    return at;
  }

  release(at: number): void {
    const size = this.sizes.get(at);
    if (size === undefined) throw new RangeError(`nothing was handed out at ${at}`);
    this.sizes.delete(at);
    const { free } = this;
    let low = 0;
    for (let high = free.length; low < high; ) {
      const middle = (low + high) >> 1;
      if ((free[middle]?.at ?? 0) < at) low = middle + 1;
      else high = middle;
    }
    const before = free[low - 1];
    const after = free[low];
    const joins = before !== undefined && before.at + before.size === at;
    const joined = after !== undefined && at + size === after.at;
    if (joins && joined) {
      before.size += size + after.size;
      free.splice(low, 1);
    } else if (joins) before.size += size;
    else if (joined) {
      after.at = at;
      after.size += size;
    } else free.splice(low, 0, { at, size });
  }

  private grow(bytes: number): void {
    const missing = bytes - this.memory.buffer.byteLength;
    if (missing <= 0) return;
    const pages = Math.ceil(missing / 65536);
    // Generously, so that it is seldom; near the end of what there may be, just as much as is needed.
    if (!this.tryToGrow(Math.max(pages, GENEROUS)) && !this.tryToGrow(pages)) {
      throw new RangeError(`there is no room for ${Math.ceil(missing / 1e6)} MB more of samples`);
    }
    this.f32 = new Float32Array(this.memory.buffer);
    this.f64 = new Float64Array(this.memory.buffer);
    this.i32 = new Int32Array(this.memory.buffer);
    this.u32 = new Uint32Array(this.memory.buffer);
  }

  private tryToGrow(pages: number): boolean {
    try {
      this.memory.grow(pages);
      return true;
    } catch {
      return false;
    }
  }
}

/** A size that the next stretch can follow: a multiple of 16 bytes. */
export const align = (bytes: number): number => Math.ceil(bytes / 16) * 16;
