/** Writes bits into bytes, the highest first; grows as needed. */
export class BitWriter {
  bytes = new Uint8Array(65536);
  length = 0;
  private cache = 0;
  private cached = 0;

  /** The lowest `count` bits (0 to 48) of a non-negative number. */
  write(value: number, count: number): void {
    if (count > 24) {
      this.write(Math.floor(value / 2 ** 24), count - 24);
      this.write(value % 2 ** 24, 24);
      return;
    }
    this.cache = (this.cache << count) | value;
    this.cached += count;
    while (this.cached >= 8) {
      this.cached -= 8;
      this.push((this.cache >>> this.cached) & 255);
    }
    // At most 7 bits wait: 24 more fit beside them.
    this.cache &= (1 << this.cached) - 1;
  }

  /** A number in two's complement. */
  signed(value: number, count: number): void {
    this.write(value < 0 ? value + 2 ** count : value, count);
  }

  /** A non-negative number below 2³²: its high part in unary, its low bits as they are (R. F. Rice, 1979). */
  rice(folded: number, bits: number): void {
    const scale = 2 ** bits;
    let zeros = Math.floor(folded / scale);
    const low = folded - zeros * scale;
    if (zeros + 1 + bits <= 24) {
      this.write((1 << bits) | low, zeros + 1 + bits);
      return;
    }
    for (; zeros >= 24; zeros -= 24) this.write(0, 24);
    this.write(1, zeros + 1);
    this.write(low, bits);
  }

  /** Fills the byte that was begun with zeros. */
  align(): void {
    if (this.cached > 0) this.write(0, 8 - this.cached);
  }

  private push(byte: number): void {
    if (this.length === this.bytes.length) {
      const more = new Uint8Array(this.bytes.length * 2);
      more.set(this.bytes);
      this.bytes = more;
    }
    this.bytes[this.length++] = byte;
  }
}
