import type { UnitSpec } from "../unit";
import { segments } from "./amp";

/** An envelope for routes: the same segments as the amp envelope has. */
export const envelope = {
  kind: "envelope",
  role: "envelope",
  label: "Envelope",
  help: "Envelope of each note, for whatever is routed from it.",
  params: segments,
} as const satisfies UnitSpec;
