import type { NumberParam } from "../params";

type Given<I extends string> = Partial<Omit<NumberParam, "id">> &
  Pick<NumberParam, "label" | "unit" | "min" | "max" | "default" | "help"> & { readonly id: I };

/** A parameter that is a number: linear travel, and no target of modulation unless said otherwise. */
export const number = <const I extends string>(given: Given<I>): NumberParam & { readonly id: I } => ({
  type: "number",
  taper: "linear",
  mod: "none",
  ...given,
});

/** A time, with more travel for the short ones; a target of modulation. */
export const time = <const I extends string>(id: I, label: string, value: number, max: number, help: string) =>
  number({ id, label, unit: "seconds", min: 0, max, default: value, taper: "square", mod: "linear", help });

/** How much of an effect is heard; a target of modulation. */
export const mix = (value: number, help: string) =>
  number({ id: "mix", label: "Mix", unit: "percent", min: 0, max: 1, default: value, mod: "linear", help });

/** Cycles per second of something that swings. */
export const rate = (value: number) =>
  number({
    id: "rate",
    label: "Rate",
    unit: "hertz",
    min: 0.02,
    max: 20,
    default: value,
    taper: "log",
    mod: "octaves",
    help: "Speed in cycles per second, with sync off.",
  });

/** How far apart in their cycle the channels are. */
export const spread = (value: number) =>
  number({
    id: "spread",
    label: "Spread",
    unit: "degrees",
    min: 0,
    max: 180,
    default: value,
    mod: "linear",
    help: "Phase offset between left and right.",
  });

/** Lowest level of a send: off. */
const SEND_OFF = -60;

/** How much of something goes to one of the sends. */
export const sendLevel = <const I extends string>(id: I, n: number, help: string) =>
  number({
    id,
    label: `To send ${n}`,
    unit: "decibels",
    min: SEND_OFF,
    max: 12,
    default: SEND_OFF,
    mod: "linear",
    lowest: "off",
    shared: true,
    help,
  });

/** How much of what comes out goes in again, either way up. */
export const feedback = (value: number, help: string) =>
  number({
    id: "feedback",
    label: "Feedback",
    unit: "percent",
    min: -0.95,
    max: 0.95,
    default: value,
    mod: "linear",
    help,
  });
