import type { ParamSpec } from "../params";

/** What a kind of unit is used as. */
export type UnitRole =
  | "source"
  | "group"
  | "stage"
  | "amp"
  | "strip"
  | "effect"
  | "envelope"
  | "lfo"
  | "macro"
  | "mic"
  | "set"
  | "play"
  | "treatment";

/** One kind of unit with all its parameters: the only place in which they are listed. */
export interface UnitSpec {
  readonly kind: string;
  readonly role: UnitRole;
  readonly label: string;
  readonly help: string;
  readonly params: readonly ParamSpec[];
}
