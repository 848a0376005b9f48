import { number } from "./number";

/** How fine the steps are in which a level is told. */
export const bits = (help: string) =>
  number({ id: "bits", label: "Bits", unit: "count", min: 1, max: 16, default: 8, mod: "linear", help });

/** How often a value is taken. */
export const taken = (help: string) =>
  number({
    id: "rate",
    label: "Rate",
    unit: "hertz",
    min: 200,
    max: 48000,
    default: 12000,
    taper: "log",
    mod: "octaves",
    help,
  });
