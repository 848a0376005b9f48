import type { Curve } from "../../instrument";
import type { ParamValues, UnitKind } from "../../units";

type Params = ParamValues;

/** An envelope or LFO that doesn't stand anywhere yet. */
export interface UnitDraft {
  readonly kind: "envelope" | "path" | "lfo";
  readonly name: string;
  readonly params: Params;
  readonly curve: Curve | null;
  readonly routes: readonly RouteDraft[];
}

/** A route whose ends have no address yet: `place` says of what the parameter is. */
export interface RouteDraft {
  readonly source: string | UnitDraft;
  readonly place: "group" | "strip" | "amp" | "filter" | "filter2" | "unit";
  readonly param: string;
  readonly amount: number;
  readonly scale: string | null;
  readonly curve: Curve | null;
  readonly smooth: number | null;
}

/** What the voices of a layer have in common. */
export interface SoundDraft {
  readonly source: { readonly kind: UnitKind; readonly params: Params };
  readonly amp: Params;
  /** One or two filters. */
  readonly filters: readonly Params[];
  /** Of an equaliser and of the width; null for none. */
  readonly equaliser: Params | null;
  readonly width: number | null;
  /** How much softer the softest velocity is than the hardest, in decibels. */
  readonly velocity: number;
  readonly routes: readonly RouteDraft[];
}

/** What the zones of a group have in common. */
export interface GateDraft {
  readonly params: Params;
  readonly routes: readonly RouteDraft[];
  readonly label: string | null;
}

/** A route from the fields that differ. */
export const draftRoute = (
  given: Partial<RouteDraft> & Pick<RouteDraft, "source" | "place" | "param" | "amount">,
): RouteDraft => ({ scale: null, curve: null, smooth: null, ...given });
