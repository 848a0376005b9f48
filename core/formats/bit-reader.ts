import { FormatError } from "./format-error";

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

  /** Goes on at the next whole byte. */
  align(): void {
    this.cached -= this.cached & 7;
  }
}
