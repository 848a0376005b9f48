import type { Cents, Decibels } from "../../audio";

/** What a check of the map looks for. */
export const FINDING_KINDS = [
  "missing",
  "silent",
  "velocity-gap",
  "together",
  "tuning",
  "level",
  "softer",
  "repeat-level",
  "repeat-tuning",
  "no-loop",
  "clipped",
  "silence-first",
  "offset",
  "mixed-ends",
  "switch-sounds",
  "never",
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

/** How each kind is called, many of them together. */
export const FINDING_TITLES: Readonly<Record<FindingKind, string>> = {
  missing: "Zones whose sample isn't here",
  silent: "Silent keys",
  "velocity-gap": "Velocities at which a key is silent",
  together: "Zones that overlap without a reason",
  tuning: "Roots off the measured pitch",
  level: "Levels that jump from key to key",
  softer: "Velocity layers no louder than the one below",
  "repeat-level": "Repeats louder or softer than their siblings",
  "repeat-tuning": "Repeats tuned unlike their siblings",
  "no-loop": "Missing loops",
  clipped: "Samples that may clip",
  "silence-first": "Silence before the sound",
  offset: "Samples with DC offset",
  "mixed-ends": "One-shots beside sustained sounds",
  "switch-sounds": "Keyswitches on keys that sound",
  never: "Zones that no note reaches",
};

/** How something that was found is put right. */
export type Repair =
  | { readonly kind: "tune"; readonly root: number; readonly tune: Cents }
  | { readonly kind: "gain"; readonly by: Decibels }
  | { readonly kind: "swap" }
  | { readonly kind: "reach"; readonly keyLow: number; readonly keyHigh: number }
  | { readonly kind: "velocities"; readonly velLow: number; readonly velHigh: number }
  | { readonly kind: "start"; readonly by: number }
  | { readonly kind: "one-shot"; readonly oneShot: boolean }
  | { readonly kind: "renumber" }
  | { readonly kind: "switch-key"; readonly key: number };

/** Something about a map that is doubtful: what, where, and how it is put right where there is a way. */
export interface Finding {
  readonly kind: FindingKind;
  /** A sentence with figures. */
  readonly text: string;
  /** The zones that it is about; the first is the one that a repair changes, unless it says otherwise. */
  readonly zones: readonly string[];
  /** The group that it is about, as `layer/group`. */
  readonly group: string | null;
  /** Lowest and highest key. */
  readonly keys: readonly [number, number];
  readonly velocity: number;
  readonly repair: Repair | null;
  /** What the repair does, in a few words. */
  readonly way: string;
}
