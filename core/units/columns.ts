import { gainOf } from "../audio";
import { number } from "./number";

/** The frequency of a row, as a multiple of the key's. */
export const ratioColumn = (most: number) =>
  number({
    id: "ratio",
    label: "Ratio",
    unit: "ratio",
    min: 0.1,
    max: most,
    default: 1,
    taper: "log",
    mod: "octaves",
    help: "Frequency as a multiple of the note's.",
  });

/** Lowest level of a row: none. */
const OFF = -96;

/** The level of a row. */
export const levelColumn = (help: string) =>
  number({
    id: "level",
    label: "Level",
    unit: "decibels",
    min: OFF,
    max: 0,
    default: 0,
    mod: "linear",
    lowest: "off",
    help,
  });

/** A row's level as a factor; none where it says nothing. */
export const rowGain = (level = OFF): number => (level <= OFF ? 0 : gainOf(level));
