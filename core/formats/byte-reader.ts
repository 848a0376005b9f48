import { FormatError } from "./format-error";

/** Reads numbers from foreign bytes; any read past the end throws a FormatError `truncated` with the offset. */
export class ByteReader {
  offset = 0;
  private readonly view: DataView;

  constructor(
    readonly bytes: Uint8Array,
    private readonly littleEndian = true,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get left(): number {
    return this.bytes.length - this.offset;
  }

  private take(count: number): number {
    if (count > this.left) {
      throw new FormatError(
        "truncated",
        this.offset,
        `the file ends at byte ${this.bytes.length}, where ${count} more bytes were expected at byte ${this.offset}`,
      );
    }
    const at = this.offset;
    this.offset += count;
    return at;
  }

  u8(): number {
    return this.view.getUint8(this.take(1));
  }
  u16(): number {
    return this.view.getUint16(this.take(2), this.littleEndian);
  }
  u32(): number {
    return this.view.getUint32(this.take(4), this.littleEndian);
  }
  i32(): number {
    return this.view.getInt32(this.take(4), this.littleEndian);
  }
  /** Four bytes as Latin-1 text, such as a chunk's name. */
  tag(): string {
    return this.text(4);
  }
  text(length: number): string {
    const at = this.take(length);
    let out = "";
    for (let i = 0; i < length; i++) out += String.fromCharCode(this.bytes[at + i] ?? 0);
    return out;
  }
  /** A view of the next bytes, not a copy. */
  part(length: number): Uint8Array {
    const at = this.take(length);
    return this.bytes.subarray(at, at + length);
  }
  skip(length: number): void {
    this.take(length);
  }
}
