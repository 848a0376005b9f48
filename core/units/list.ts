import type { ParamSpec, ParamValue } from "../params";
import { compressor } from "./effects/compressor";
import { convolution } from "./effects/convolution";
import { crusher } from "./effects/crusher";
import { delay } from "./effects/delay";
import { drive } from "./effects/drive";
import { equaliser } from "./effects/equaliser";
import { gate } from "./effects/gate";
import { hall } from "./effects/hall";
import { limiter } from "./effects/limiter";
import { phaser } from "./effects/phaser";
import { reverb } from "./effects/reverb";
import { rotary } from "./effects/rotary";
import { stereo } from "./effects/stereo";
import { chorus, flanger } from "./effects/swept";
import { tremolo } from "./effects/tremolo";
import { amp } from "./settings/amp";
import { envelope } from "./settings/envelope";
import { group } from "./settings/group";
import { lfo } from "./settings/lfo";
import { macro } from "./settings/macro";
import { mic } from "./settings/mic";
import { path } from "./settings/path";
import { play } from "./settings/play";
import { sends } from "./settings/sends";
import { set } from "./settings/set";
import { strip } from "./settings/strip";
import { denoise, fadeIn, fadeOut, gain, offset, reverse, stretch } from "./settings/treatments";
import { grains } from "./sources/grains";
import { impulses } from "./sources/impulses";
import { noise } from "./sources/noise";
import { oscillator } from "./sources/oscillator";
import { partials } from "./sources/partials";
import { samples } from "./sources/samples";
import { strike } from "./sources/strike";
import { wavetable } from "./sources/wavetable";
import { allpass } from "./stages/allpass";
import { coarse } from "./stages/coarse";
import { comb } from "./stages/comb";
import { feed } from "./stages/feed";
import { filter } from "./stages/filter";
import { level } from "./stages/level";
import { place } from "./stages/place";
import { resonator } from "./stages/resonator";
import { ring } from "./stages/ring";
import { shaper } from "./stages/shaper";
import { transient } from "./stages/transient";
import { vowel } from "./stages/vowel";
import type { Place, UnitSpec } from "./unit";

/** Every kind of unit there is. A new kind is one file in units/ and one entry here. */
export const UNITS = {
  samples,
  oscillator,
  wavetable,
  partials,
  grains,
  noise,
  impulses,
  strike,
  group,
  filter,
  resonator,
  comb,
  shaper,
  vowel,
  allpass,
  ring,
  coarse,
  transient,
  level,
  feed,
  place,
  amp,
  strip,
  envelope,
  path,
  lfo,
  equaliser,
  compressor,
  gate,
  limiter,
  stereo,
  drive,
  crusher,
  chorus,
  flanger,
  phaser,
  tremolo,
  rotary,
  delay,
  hall,
  reverb,
  convolution,
  macro,
  mic,
  set,
  sends,
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

type AnyParam = (typeof UNITS)[UnitKind]["params"][number];
/** The id of a parameter of some kind of unit. */
export type ParamId = AnyParam["id"];

/** What parameters are set to, by their ids: each id has the values that the kinds with such a parameter know; a kind has only its own ids. */
export type ParamValues = { readonly [I in ParamId]?: ValueOf<Extract<AnyParam, { id: I }>> };

/** The kinds that may stand at a place, as menus list them. */
export const kindsAt = (place: Place): readonly UnitKind[] =>
  (Object.keys(UNITS) as UnitKind[]).filter((kind) => unitSpec(kind).places?.includes(place));

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
