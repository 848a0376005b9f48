import type { Hertz } from "../audio";
import { OWN_ROWS, ROW_BYTES, TABLE_EVEN, TABLE_ROWS } from "../dsp";
import type { CellRows, TableRow } from "../units";
import type { Heap } from "./heap";

/** The rows of a unit's table as all voices of a layer read them, and of which rows each has numbers of its own. */
export class RowTable {
  readonly at: number;
  private count = 0;

  /** Throws RangeError where there is no memory. */
  constructor(
    private readonly heap: Heap,
    private readonly cell: CellRows,
    private readonly most: number,
    private readonly rate: Hertz,
  ) {
    this.at = heap.allocate(this.bytes);
    this.write([], []);
  }

  /** One row more than there may be: kernels read them by twos. */
  private get bytes(): number {
    return TABLE_ROWS + (this.most + 1) * ROW_BYTES;
  }

  /** Writes all rows; `own`: the numbers of those that voices have of their own. */
  write(rows: readonly TableRow[], own: readonly number[]): void {
    const { f32, i32 } = this.heap;
    f32.fill(0, this.at / 4, (this.at + this.bytes) / 4);
    for (let s = 0; s < OWN_ROWS; s++) i32[this.at / 4 + s] = own[s] ?? -1;
    this.count = Math.min(this.most, rows.length);
    for (let r = 0; r < this.count; r++) this.put(r, rows[r] as TableRow);
    this.even();
  }

  /** Writes one row. */
  set(row: number, values: TableRow): void {
    if (row >= this.count) return;
    this.put(row, values);
    this.even();
  }

  private put(row: number, values: TableRow): void {
    this.cell.put(values, this.rate, this.heap.f32, (this.at + TABLE_ROWS + row * ROW_BYTES) / 4);
  }

  /** How much less than one all levels together leave, as a factor. */
  private even(): void {
    const { f32 } = this.heap;
    let sum = 0;
    for (let r = 0; r < this.count; r++)
      sum += (f32[(this.at + TABLE_ROWS + r * ROW_BYTES) / 4 + this.cell.loud] as number) ** 2;
    f32[(this.at + TABLE_EVEN) / 4] = sum > 1 ? 1 / Math.sqrt(sum) : 1;
  }

  release(): void {
    this.heap.release(this.at);
  }
}
