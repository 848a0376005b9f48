import { FormatError } from "./format-error";

/** A number that was folded so that those below 0 stand between the others. */
const unfolded = (folded: number): number => (folded % 2 === 1 ? -(folded + 1) / 2 : folded / 2);

/** Reads bits from bytes, the highest first; reading past the end throws a FormatError `truncated`. */
export class BitReader {
  private cache = 0;
  private cached = 0;

  constructor(
    readonly bytes: Uint8Array,
    /** The next byte that isn't in the cache yet. */
    private at = 0,
  ) {}

  /** Offset of the byte in which the next bit lies. */
  get offset(): number {
    return this.at - (this.cached >> 3);
  }

  /** The next 0 to 32 bits as an unsigned number. */
  unsigned(count: number): number {
    if (count > 24) {
      const high = this.unsigned(count - 16);
      return high * 65536 + this.unsigned(16);
    }
    while (this.cached < count) {
      const byte = this.bytes[this.at];
      if (byte === undefined)
        throw new FormatError("truncated", this.at, `the file ends at byte ${this.at}, inside its audio`);
      this.at++;
      this.cache = ((this.cache << 8) | byte) & 0x7fffffff;
      this.cached += 8;
    }
    this.cached -= count;
    return (this.cache >>> this.cached) & ((1 << count) - 1);
  }

  signed(count: number): number {
    if (count === 0) return 0;
    const x = this.unsigned(count);
    return x >= 2 ** (count - 1) ? x - 2 ** count : x;
  }

  /** How many zeros come before the next one. */
  zeros(): number {
    let count = 0;
    for (;;) {
      if (this.cached === 0) {
        const byte = this.bytes[this.at];
        if (byte === undefined)
          throw new FormatError("truncated", this.at, `the file ends at byte ${this.at}, inside its audio`);
        this.at++;
        this.cache = byte;
        this.cached = 8;
      }
      const bits = this.cache & ((1 << this.cached) - 1);
      if (bits === 0) {
        count += this.cached;
        this.cached = 0;
        continue;
      }
      const lead = Math.clz32(bits) - (32 - this.cached);
      this.cached -= lead + 1;
      return count + lead;
    }
  }

  /** Reads numbers in Rice's code with so many low bits (RFC 9639, 9.2.7) into `out[from … to)`. What is in the cache stays in local variables: this is where decoding spends its time. */
  rice(out: Float64Array, from: number, to: number, low: number): void {
    if (low > 20) {
      for (let i = from; i < to; i++) out[i] = unfolded(this.zeros() * 2 ** low + this.unsigned(low));
      return;
    }
    const { bytes } = this;
    const mask = (1 << low) - 1;
    let { at, cache, cached } = this;
    for (let i = from; i < to; i++) {
      let zeros = 0;
      for (;;) {
        const bits = cache & ((1 << cached) - 1);
        if (bits !== 0) {
          const lead = Math.clz32(bits) - (32 - cached);
          zeros += lead;
          cached -= lead + 1;
          break;
        }
        zeros += cached;
        if (at >= bytes.length) throw new FormatError("truncated", at, `the file ends at byte ${at}, inside its audio`);
        cache = bytes[at++] as number;
        cached = 8;
      }
      while (cached < low) {
        if (at >= bytes.length) throw new FormatError("truncated", at, `the file ends at byte ${at}, inside its audio`);
        cache = ((cache << 8) | (bytes[at++] as number)) & 0x7fffffff;
        cached += 8;
      }
      cached -= low;
      const rest = (cache >>> cached) & mask;
      // As whole numbers of 32 bits as long as it fits.
      if (zeros < 512) {
        const folded = (zeros << low) | rest;
        out[i] = (folded >>> 1) ^ -(folded & 1);
      } else out[i] = unfolded(zeros * 2 ** low + rest);
    }
    this.at = at;
    this.cache = cache;
    this.cached = cached;
  }

  /** Goes on at the next whole byte. */
  align(): void {
    this.cached -= this.cached & 7;
  }
}
