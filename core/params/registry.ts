import type { ParamSpec, ParamValue, UnitSpec } from "./spec";
import { amp } from "./units/amp";
import { convolution } from "./units/convolution";
import { envelope } from "./units/envelope";
import { filter } from "./units/filter";
import { group } from "./units/group";
import { lfo } from "./units/lfo";
import { macro } from "./units/macro";
import { mic } from "./units/mic";
import { path } from "./units/path";
import { play } from "./units/play";
import { reverb } from "./units/reverb";
import { samples } from "./units/samples";
import { set } from "./units/set";
import { strip } from "./units/strip";
import { denoise, fadeIn, fadeOut, gain, offset, reverse, stretch } from "./units/treatments";

/** Every kind of unit there is. A new kind is one file in units/ and one entry here. */
export const UNITS = {
  samples,
  group,
  filter,
  amp,
  strip,
  envelope,
  path,
  lfo,
  reverb,
  convolution,
  macro,
  mic,
  set,
  play,
  gain,
  offset,
  denoise,
  fadeIn,
  fadeOut,
  reverse,
  stretch,
} as const satisfies Record<string, UnitSpec>;

export type UnitKind = keyof typeof UNITS;

type ValueOf<P extends ParamSpec> = P extends { type: "choice"; choices: readonly { id: infer C }[] } ? C : number;
/** The values of one kind of unit, by parameter id. */
export type ParamsOf<K extends UnitKind> = {
  readonly [P in (typeof UNITS)[K]["params"][number] as P["id"]]: ValueOf<P>;
};

export const isUnitKind = (kind: string): kind is UnitKind => Object.hasOwn(UNITS, kind);

/** The declaration of a kind of unit. */
export const unitSpec = (kind: UnitKind): UnitSpec => UNITS[kind];

type ChoicesOf<K extends UnitKind, P extends string> =
  Extract<(typeof UNITS)[K]["params"][number], { type: "choice"; id: P }> extends {
    choices: readonly { id: infer C extends string }[];
  }
    ? C
    : never;
type ChoiceName<K extends UnitKind> = Extract<(typeof UNITS)[K]["params"][number], { type: "choice" }>["id"];

/** The ids of a parameter's choices by their numbers: what the engine computes with are the numbers. */
export function choiceIds<K extends UnitKind, P extends ChoiceName<K>>(kind: K, id: P): readonly ChoicesOf<K, P>[] {
  const spec = unitSpec(kind).params.find((p) => p.id === id);
  return (spec?.type === "choice" ? spec.choices.map((c) => c.id) : []) as ChoicesOf<K, P>[];
}

/** The number of one of a parameter's choices. */
export const choiceAt = <K extends UnitKind, P extends ChoiceName<K>>(
  kind: K,
  id: P,
  choice: ChoicesOf<K, P>,
): number => choiceIds(kind, id).indexOf(choice);

/** All parameters of a kind at their defaults. */
export function defaultParams<K extends UnitKind>(kind: K): ParamsOf<K> {
  const values: Record<string, ParamValue> = {};
  for (const spec of unitSpec(kind).params) values[spec.id] = spec.default;
  return values as ParamsOf<K>;
}
