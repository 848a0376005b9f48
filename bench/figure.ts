/** One measured figure. `ratio` is against what `against` names, measured in the same run. */
export interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly ratio?: number;
  readonly against?: string;
  /** What it must reach, in words. */
  readonly hold: string;
  readonly pass: boolean;
}

export const round = (x: number, digits = 2): number => Number(x.toFixed(digits));
