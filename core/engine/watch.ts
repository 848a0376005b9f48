/** Remembers some of the values that all voices share and says whether any of them has moved. */
export class Watch {
  private readonly known: Float64Array;
  /** Whether every voice has the same: none of the operands is a voice's own. */
  private readonly shared: boolean;

  /** `operands`: places among the shared values; below 0 a voice's own, which may always have moved. */
  constructor(private readonly operands: Int32Array) {
    this.known = new Float64Array(operands.length).fill(Number.NaN);
    this.shared = operands.every((o) => o >= 0);
  }

  /** Whether anything has moved since this was asked last; true the first time. */
  moved(values: Float64Array): boolean {
    if (!this.shared) return true;
    const { operands, known } = this;
    let moved = false;
    for (let i = 0; i < operands.length; i++) {
      const value = values[operands[i] as number] as number;
      if (value === known[i]) continue;
      known[i] = value;
      moved = true;
    }
    return moved;
  }
}
