import type { Search } from "../../../core/instrument";
import type { NumberParam } from "../../../core/params";
import { number } from "../../../core/units";

/** The ways to find a take's sounds. */
export const WAYS = [
  { id: "level", label: "By level" },
  { id: "attack", label: "By transient" },
  { id: "grid", label: "On a grid" },
  { id: "markers", label: "At markers" },
] as const;

/** What can be set of a search. */
export type SearchField = NumberParam & { readonly id: Exclude<keyof Search, "by"> };
const seconds = (id: SearchField["id"], label: string, max: number, help: string): SearchField =>
  number({ id, label, unit: "seconds", min: 0, max, default: 0, taper: "square", help });

export const FIELDS: Readonly<Record<SearchField["id"], SearchField>> = {
  threshold: number({
    id: "threshold",
    label: "Threshold",
    unit: "decibels",
    min: 6,
    max: 60,
    default: 18,
    help: "How far above the take's own noise floor a sound must rise to count",
  }),
  hysteresis: number({
    id: "hysteresis",
    label: "Hysteresis",
    unit: "decibels",
    min: 0,
    max: 60,
    default: 12,
    help: "How far below the threshold it must fall to have ended; its tail is kept down to the floor",
  }),
  hold: seconds("hold", "Hold", 5, "How long it must stay quiet to have ended"),
  minGap: seconds("minGap", "Least gap", 5, "Least time from one attack to the next"),
  minLength: seconds("minLength", "Least length", 5, "Shorter sounds are excluded"),
  preRoll: seconds("preRoll", "Pre-roll", 0.5, "What is kept before the attack"),
  tail: seconds("tail", "Tail", 5, "What is kept after the sound has reached the floor"),
  sensitivity: number({
    id: "sensitivity",
    label: "Sensitivity",
    unit: "percent",
    min: 0,
    max: 1,
    default: 0.5,
    help: "0 % finds only the clearest attacks, 100 % nearly any change",
  }),
  tempo: number({
    id: "tempo",
    label: "Tempo",
    unit: "count",
    min: 20,
    max: 400,
    default: 120,
    help: "Beats a minute",
  }),
  beats: number({
    id: "beats",
    label: "Beats",
    unit: "ratio",
    min: 1 / 16,
    max: 64,
    default: 1,
    taper: "log",
    help: "Beats in a part",
  }),
  origin: seconds("origin", "First at", 100000, "Where the first part begins"),
};

/** What of it stands in the strip, and what behind “Details”, for each way. */
export const MAIN = {
  level: ["threshold"],
  attack: ["sensitivity"],
  grid: ["tempo", "beats", "origin"],
  markers: [],
} as const;
export const DETAILS = {
  level: ["hysteresis", "hold", "minGap", "minLength", "preRoll", "tail"],
  attack: ["minGap", "minLength", "preRoll", "hold", "tail"],
  grid: [],
  markers: [],
} as const;
