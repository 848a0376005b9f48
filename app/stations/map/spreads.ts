import type { SpreadMode } from "../../../core/mapping";

/** How roots cover the keys between them, as people read it. */
export const SPREADS: readonly { readonly id: SpreadMode; readonly label: string }[] = [
  { id: "nearest", label: "To the nearest root" },
  { id: "down", label: "Down from each root" },
  { id: "up", label: "Up from each root" },
  { id: "none", label: "Roots only" },
];
