import type { NumberParam } from "../params";

type Given<I extends string> = Partial<Omit<NumberParam, "id">> &
  Pick<NumberParam, "label" | "unit" | "min" | "max" | "default" | "help"> & { readonly id: I };

/** A parameter that is a number: linear travel, and no target of modulation unless said otherwise. */
export const number = <I extends string>(given: Given<I>): NumberParam & { readonly id: I } => ({
  type: "number",
  taper: "linear",
  mod: "none",
  ...given,
});

/** A time, with more travel for the short ones; a target of modulation. */
export const time = <I extends string>(id: I, label: string, value: number, max: number, help: string) =>
  number({ id, label, unit: "seconds", min: 0, max, default: value, taper: "square", mod: "linear", help });
