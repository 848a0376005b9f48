import { FIXED_COLUMNS, GLOBALS } from "./plan-modulation";

/**
 * What modulation computes with: values that all voices share (the slots with their routes, then wheels, pressure, controllers and shared LFOs), and
 * columns of which each voice has its own (column × voices + voice). An operand of 0 and above is a shared place, one below 0 a column.
 */
export class ValueTable {
  shared = new Float64Array(GLOBALS);
  columns: Float64Array;
  /** Beats per minute. */
  tempo = 120;

  constructor(readonly voices: number) {
    this.columns = new Float64Array(FIXED_COLUMNS * voices);
  }

  /** Value that all voices share, or a voice's own, in the domain of modulation. */
  read(operand: number, v: number): number {
    return operand >= 0 ? (this.shared[operand] as number) : (this.columns[(-1 - operand) * this.voices + v] as number);
  }

  setColumn(column: number, v: number, value: number): void {
    this.columns[column * this.voices + v] = value;
  }
}
