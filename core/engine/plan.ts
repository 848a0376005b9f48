import { findParam, type Instrument, type Layer, listParams, listSources, type Zone } from "../instrument";

/** A parameter as the engine knows it: its base value (a choice is its number in the list) and how modulation adds to it. */
export interface Slot {
  readonly address: string;
  readonly octaves: boolean;
  readonly min: number;
  readonly max: number;
  /** Whether it may be smoothed; choices may not. */
  readonly smooth: boolean;
}

/** Where a modulation comes from: a kind and, for LFOs and macros, which. A macro is read from its slot. */
export type SourceCode =
  | { readonly kind: "velocity" | "key" | "random" | "amp" | "wheel" | "pressure" }
  | { readonly kind: "lfo"; readonly index: number }
  | { readonly kind: "macro"; readonly slot: number };

export interface RoutePlan {
  readonly source: SourceCode;
  readonly slot: number;
  readonly amount: number;
}

export interface GroupPlan {
  readonly id: string;
  readonly zones: readonly Zone[];
}

export interface LayerPlan {
  readonly id: string;
  readonly groups: readonly GroupPlan[];
  /** Slots of this layer: `[from, to)`. */
  readonly from: number;
  readonly to: number;
  readonly transpose: number;
  readonly fine: number;
  readonly attack: number;
  readonly decay: number;
  readonly sustain: number;
  readonly release: number;
  readonly level: number;
  readonly pan: number;
  readonly velocity: number;
  readonly stages: readonly { readonly mode: number; readonly cutoff: number; readonly resonance: number }[];
  readonly routes: readonly RoutePlan[];
}

export interface LfoPlan {
  readonly shape: number;
  readonly rate: number;
  readonly fade: number;
}

/** An instrument as flat plain data that the engine plays; `base` may be sent anew alone while `structure` stays. */
export interface Plan {
  readonly slots: readonly Slot[];
  readonly base: readonly number[];
  readonly layers: readonly LayerPlan[];
  readonly lfos: readonly LfoPlan[];
  /** Routes to what is one for the whole instrument. */
  readonly routes: readonly RoutePlan[];
  readonly reverb: {
    readonly mix: number;
    readonly size: number;
    readonly decay: number;
    readonly damping: number;
  } | null;
  readonly voices: number;
  readonly bend: number;
  readonly a4: number;
  readonly level: number;
  readonly samples: readonly string[];
  readonly rules: { readonly script: string; readonly seed: number } | null;
}

/** The base values of all slots of a document, in the order of its parameters. */
export const baseValues = (instrument: Instrument): number[] =>
  listParams(instrument).map(({ spec, value }) =>
    spec.type === "choice" ? spec.choices.findIndex((c) => c.id === value) : Number(value),
  );

/** Whether two documents differ in nothing but the values of parameters, so that sending `base` is enough. */
export const sameStructure = (a: Instrument, b: Instrument): boolean =>
  a.routes === b.routes &&
  a.rules === b.rules &&
  a.samples === b.samples &&
  a.layers.length === b.layers.length &&
  a.layers.every((layer, i) => {
    const other = b.layers[i];
    return (
      other !== undefined &&
      layer.id === other.id &&
      layer.groups === other.groups &&
      sameUnits(layer.stages, other.stages)
    );
  }) &&
  sameUnits(a.lfos, b.lfos) &&
  sameUnits(a.macros, b.macros) &&
  sameUnits(a.effects, b.effects);

const sameUnits = (a: readonly { id: string; kind: string }[], b: readonly { id: string; kind: string }[]): boolean =>
  a.length === b.length && a.every((unit, i) => unit.id === b[i]?.id && unit.kind === b[i]?.kind);

/** Why a route can have no effect; null when it can. */
export function routeProblem(
  instrument: Instrument,
  route: { source: string; target: string; amount: number; on: boolean },
): string | null {
  if (!route.on) return "it is switched off";
  const source = listSources(instrument).find((s) => s.id === route.source);
  if (!source) return "its source is gone";
  const target = findParam(instrument, route.target);
  if (!target) return "its target is gone";
  if (target.spec.type !== "number" || target.spec.mod === "none") return `${target.label} can't be modulated`;
  if (source.perVoice && !target.layer) return `${source.label} belongs to each note, ${target.label} to all of them`;
  if (route.amount === 0) return "its amount is zero";
  if (target.unit.kind === "filter" && target.unit.params.mode === "off") return "the filter is off";
  return null;
}

/** Compiles a document into what the engine plays. Routes that can have no effect are left out. */
export function compile(instrument: Instrument): Plan {
  const params = listParams(instrument);
  const slotAt = new Map(params.map((p, i) => [p.address, i]));
  const slot = (address: string): number => {
    const at = slotAt.get(address);
    if (at === undefined) throw new RangeError(`there is no parameter at ${address}`);
    return at;
  };
  const lfoAt = new Map(instrument.lfos.map((u, i) => [`lfos/${u.id}`, i]));
  const sourceOf = (id: string): SourceCode => {
    const index = lfoAt.get(id);
    if (index !== undefined) return { kind: "lfo", index };
    if (id.startsWith("macros/")) return { kind: "macro", slot: slot(`${id}/value`) };
    return { kind: id as "velocity" };
  };
  const live = instrument.routes.filter((r) => routeProblem(instrument, r) === null);
  const routesTo = (layer: Layer | null): RoutePlan[] =>
    live
      .filter((r) => findParam(instrument, r.target)?.layer === layer)
      .map((r) => ({ source: sourceOf(r.source), slot: slot(r.target), amount: r.amount }));
  const reverb = instrument.effects.find((u) => u.kind === "reverb");
  return {
    slots: params.map(({ address, spec }) =>
      spec.type === "choice"
        ? { address, octaves: false, min: 0, max: spec.choices.length - 1, smooth: false }
        : { address, octaves: spec.mod === "octaves", min: spec.min, max: spec.max, smooth: spec.unit !== "count" },
    ),
    base: baseValues(instrument),
    layers: instrument.layers.map((layer) => {
      const at = `layers/${layer.id}`;
      const from = slot(`${at}/source/transpose`);
      return {
        id: layer.id,
        groups: layer.groups.map((g) => ({ id: g.id, zones: g.zones })),
        from,
        to: slot(`${at}/strip/velocity`) + 1,
        transpose: from,
        fine: slot(`${at}/source/fine`),
        attack: slot(`${at}/amp/attack`),
        decay: slot(`${at}/amp/decay`),
        sustain: slot(`${at}/amp/sustain`),
        release: slot(`${at}/amp/release`),
        level: slot(`${at}/strip/level`),
        pan: slot(`${at}/strip/pan`),
        velocity: slot(`${at}/strip/velocity`),
        stages: layer.stages.map((stage) => ({
          mode: slot(`${at}/stages/${stage.id}/mode`),
          cutoff: slot(`${at}/stages/${stage.id}/cutoff`),
          resonance: slot(`${at}/stages/${stage.id}/resonance`),
        })),
        routes: routesTo(layer),
      };
    }),
    lfos: instrument.lfos.map((u) => ({
      shape: slot(`lfos/${u.id}/shape`),
      rate: slot(`lfos/${u.id}/rate`),
      fade: slot(`lfos/${u.id}/fade`),
    })),
    routes: routesTo(null),
    reverb: reverb
      ? {
          mix: slot(`effects/${reverb.id}/mix`),
          size: slot(`effects/${reverb.id}/size`),
          decay: slot(`effects/${reverb.id}/decay`),
          damping: slot(`effects/${reverb.id}/damping`),
        }
      : null,
    voices: slot("play/voices"),
    bend: slot("play/bend"),
    a4: slot("play/a4"),
    level: slot("play/level"),
    samples: instrument.samples.map((s) => s.sha),
    rules:
      instrument.rules.on && instrument.rules.script.trim() !== ""
        ? { script: instrument.rules.script, seed: instrument.rules.seed }
        : null,
  };
}
