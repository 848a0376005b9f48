/** How a number is shown and typed. */
export type ParamUnit =
  | "hertz"
  | "seconds"
  | "decibels"
  | "percent"
  | "semitones"
  | "cents"
  | "pan"
  | "count"
  | "ratio"
  | "octaves"
  | "degrees"
  /** A MIDI note. */
  | "note"
  /** A controller's number; −1 is none. */
  | "controller"
  /** A count of which 0 is none. */
  | "optional"
  /** On from the middle of its range, else off. */
  | "switch";

/** How a control's travel maps to the range: evenly, or with equal factors (the range must be above 0), or with the square root. */
type Taper = "linear" | "log" | "square";

/** How modulation adds to a value: in the value's own unit, or by octaves (value × 2^amount). `none`: not a target. */
export type ModKind = "linear" | "octaves" | "none";

export interface NumberParam {
  readonly type: "number";
  readonly id: string;
  readonly label: string;
  readonly unit: ParamUnit;
  readonly min: number;
  readonly max: number;
  readonly default: number;
  readonly taper: Taper;
  readonly mod: ModKind;
  readonly help: string;
  /** What its lowest value is called, where that means none at all. */
  readonly lowest?: string;
  /** One value for all notes, although its unit is in each of them. */
  readonly shared?: true;
}

export interface ChoiceParam {
  readonly type: "choice";
  readonly id: string;
  readonly label: string;
  readonly choices: readonly { readonly id: string; readonly label: string }[];
  readonly default: string;
  readonly help: string;
}

export type ParamSpec = NumberParam | ChoiceParam;
export type ParamValue = number | string;

/** The value at a place on a control's travel (0 to 1). */
export function valueAt(spec: NumberParam, travel: number): number {
  const t = Math.min(1, Math.max(0, travel));
  switch (spec.taper) {
    case "linear":
      return spec.min + t * (spec.max - spec.min);
    case "log":
      return spec.min * (spec.max / spec.min) ** t;
    case "square":
      return spec.min + t * t * (spec.max - spec.min);
  }
}

/** The place on a control's travel (0 to 1) of a value; the inverse of valueAt. */
export function travelOf(spec: NumberParam, value: number): number {
  const v = clampValue(spec, value);
  switch (spec.taper) {
    case "linear":
      return (v - spec.min) / (spec.max - spec.min);
    case "log":
      return Math.log(v / spec.min) / Math.log(spec.max / spec.min);
    case "square":
      return Math.sqrt((v - spec.min) / (spec.max - spec.min));
  }
}

export const clampValue = (spec: NumberParam, value: number): number => Math.min(spec.max, Math.max(spec.min, value));

/** The value moved by a modulation amount in the unit that `mod` says, kept in range. */
export function modulated(spec: Pick<NumberParam, "mod" | "min" | "max">, base: number, amount: number): number {
  const value = spec.mod === "octaves" ? base * 2 ** amount : base + amount;
  return value < spec.min ? spec.min : value > spec.max ? spec.max : value;
}
