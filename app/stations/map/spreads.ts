import type { KeyStep, SpreadMode, ZoneSpread } from "../../../core/mapping";

/** How roots cover the keys between them, as people read it. */
export const SPREADS: readonly { readonly id: SpreadMode; readonly label: string }[] = [
  { id: "nearest", label: "To the nearest root" },
  { id: "down", label: "Down from each root" },
  { id: "up", label: "Up from each root" },
  { id: "none", label: "Roots only" },
];

/** Ways that also move roots, or let zones share keys. */
export const ZONE_SPREADS: readonly { readonly id: ZoneSpread; readonly label: string }[] = [
  ...SPREADS,
  { id: "whole", label: "Each over all keys" },
  { id: "each", label: "A key each, as recorded" },
];

/** Which keys are taken where each root gets one. */
export const STEPS: readonly { readonly id: string; readonly label: string; readonly step: KeyStep }[] = [
  { id: "all", label: "every key", step: "all" },
  { id: "white", label: "white keys", step: "white" },
  ...[2, 3, 4, 6, 12].map((n) => ({
    id: String(n),
    label: n === 12 ? "every octave" : `every ${n}${n === 2 ? "nd" : n === 3 ? "rd" : "th"} key`,
    step: n,
  })),
];
