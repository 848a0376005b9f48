import {
  controllerOf,
  curveOf,
  findParam,
  type Instrument,
  type Layer,
  listParams,
  listSources,
  listZones,
  type Unit,
  type Zone,
} from "../instrument";
import { UNITS } from "../params";
import { COLUMN, columnAt, GLOBAL, GLOBALS, globalAt, ModulationPlanner, type Step } from "./plan-modulation";

export type { RoutePlan, Step, TargetPlan } from "./plan-modulation";

/**
 * A parameter as the engine knows it: its range, in the domain in which it is modulated (the logarithm to base 2 where modulation
 * adds octaves; the number in the list for a choice).
 */
export interface Slot {
  readonly address: string;
  readonly octaves: boolean;
  readonly min: number;
  readonly max: number;
  /** Whether it may be smoothed; choices and counts may not. */
  readonly smooth: boolean;
}

/** A line by its points, as three lists. */
interface LinePlan {
  readonly x: readonly number[];
  readonly y: readonly number[];
  readonly bend: readonly number[];
}

/** Operands: 0 and above is a place among the values that all voices share, below 0 a column of which each voice has a value. */
export interface GroupPlan {
  readonly id: string;
  readonly zones: readonly Zone[];
  readonly params: Readonly<Record<string, number>>;
}

export interface StagePlan {
  readonly id: string;
  readonly mode: number;
  readonly slope: number;
  readonly character: number;
  readonly cutoff: number;
  readonly resonance: number;
  readonly drive: number;
}

export interface EnvelopePlan {
  readonly id: string;
  readonly kind: "amp" | "envelope" | "path";
  /** delay, attack, attackBend, hold, decay, decayBend, sustain, release, releaseBend; of a path speed, loopFrom, loopTo. */
  readonly operands: readonly number[];
  readonly line: LinePlan | null;
}

export interface LfoPlan {
  readonly id: string;
  readonly scope: "note" | "phrase" | "free";
  readonly shape: number;
  readonly rate: number;
  readonly beat: number;
  readonly phase: number;
  readonly delay: number;
  readonly fade: number;
  readonly line: LinePlan | null;
}

export interface LayerPlan {
  readonly id: string;
  readonly groups: readonly GroupPlan[];
  /** The set it belongs to: where the chosen number stands, and its own number of how many; null when it always sounds. */
  readonly set: { readonly chosen: number; readonly own: number; readonly count: number } | null;
  readonly transpose: number;
  readonly fine: number;
  readonly start: number;
  readonly level: number;
  readonly pan: number;
  readonly velocity: number;
  readonly voices: number;
  readonly amp: EnvelopePlan;
  readonly stages: readonly StagePlan[];
  /** What is computed for each of its voices at every control step, in this order. */
  readonly program: readonly Step[];
}

/** An instrument as flat plain data that the engine plays; `base` may be sent anew alone while the structure stays. */
export interface Plan {
  readonly slots: readonly Slot[];
  readonly base: readonly number[];
  readonly layers: readonly LayerPlan[];
  readonly envelopes: readonly EnvelopePlan[];
  readonly lfos: readonly LfoPlan[];
  readonly lines: readonly LinePlan[];
  /** What is computed once for all voices. */
  readonly program: readonly Step[];
  /** What stands in each column beyond the fixed ones, and in each shared memory of smoothing. */
  readonly columns: readonly string[];
  readonly memories: readonly string[];
  readonly mics: readonly { readonly id: string; readonly level: number; readonly pan: number }[];
  readonly reverb: {
    readonly mix: number;
    readonly size: number;
    readonly decay: number;
    readonly damping: number;
  } | null;
  /** The recorded room, by the content of its impulse. */
  readonly convolution: { readonly mix: number; readonly delay: number; readonly sample: string } | null;
  /** Places of the playing parameters, by their ids. */
  readonly play: Readonly<Record<string, number>>;
  readonly tuning: readonly (number | null)[] | null;
  readonly samples: readonly string[];
  readonly impulses: readonly string[];
  readonly holding: "exact" | "float" | "half";
  readonly rules: { readonly script: string; readonly seed: number } | null;
}

const ENVELOPE_PARAMS = UNITS.amp.params.map((p) => p.id);
const PATH_PARAMS = UNITS.path.params.map((p) => p.id);

/** The base values of all slots of a document, in the order of its parameters. */
export const baseValues = (instrument: Instrument): number[] =>
  listParams(instrument).map(({ spec, value }) =>
    spec.type === "choice"
      ? spec.choices.findIndex((c) => c.id === value)
      : spec.mod === "octaves"
        ? Math.log2(Number(value))
        : Number(value),
  );

/** Whether two documents differ in nothing but the values of parameters, so that sending `base` is enough. */
export const sameStructure = (a: Instrument, b: Instrument): boolean =>
  sameRoutes(a, b) &&
  a.rules === b.rules &&
  a.samples === b.samples &&
  a.tuning === b.tuning &&
  a.play.params.memory === b.play.params.memory &&
  a.layers.length === b.layers.length &&
  a.layers.every((layer, i) => {
    const other = b.layers[i];
    return (
      other !== undefined &&
      layer.id === other.id &&
      layer.set === other.set &&
      layer.groups.length === other.groups.length &&
      layer.groups.every((g, n) => g.id === other.groups[n]?.id && g.zones === other.groups[n]?.zones) &&
      sameUnits(layer.stages, other.stages)
    );
  }) &&
  (["envelopes", "lfos", "macros", "mics", "sets", "effects"] as const).every((list) => sameUnits(a[list], b[list])) &&
  a.lfos.every((u, i) => u.params.scope === b.lfos[i]?.params.scope);

const sameRoutes = (a: Instrument, b: Instrument): boolean =>
  a.routes === b.routes ||
  (a.routes.length === b.routes.length &&
    a.routes.every((r, i) => {
      const other = b.routes[i];
      return (
        other !== undefined &&
        r.id === other.id &&
        r.source === other.source &&
        r.target === other.target &&
        r.on === other.on &&
        r.curve === other.curve &&
        r.scale === other.scale &&
        r.smooth === other.smooth &&
        (r.amount === 0) === (other.amount === 0)
      );
    }));

const sameUnits = (
  a: readonly { id: string; kind: string; curve?: unknown; sample?: unknown }[],
  b: readonly { id: string; kind: string; curve?: unknown; sample?: unknown }[],
): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every((unit, i) => {
      const other = b[i];
      return (
        unit.id === other?.id && unit.kind === other.kind && unit.curve === other.curve && unit.sample === other.sample
      );
    }));

/** Settings of a group that are read when a note begins, before it has anything of its own. */
const READ_ONCE: ReadonlySet<string> = new Set(["chance", "chokeFade"]);

/** Why a parameter has no effect as the unit's others are set, as a sentence; null where it has. */
export function idleReason({ kind, params }: Unit, id: string): string | null {
  if (kind === "filter" && id === "drive" && params.character === "clean") return "Only the ladder has a drive.";
  if (kind === "lfo" && id === "rate" && params.beat !== "free") return "Its rate follows the tempo.";
  if (kind === "group" && id === "chokeFade" && Number(params.choke) < 1) return "It silences no other group.";
  return null;
}

/** Why a route can have no effect; null when it can. */
export function routeProblem(
  instrument: Instrument,
  route: { id?: string; source: string; target: string; amount: number; on: boolean; scale?: string | null },
): string | null {
  if (!route.on) return "it is switched off";
  const sources = listSources(instrument);
  const sourceOf = (id: string) =>
    sources.find((s) => s.id === id) ??
    (controllerOf(id) === null ? undefined : { label: `CC ${controllerOf(id)}`, perVoice: false });
  const source = sourceOf(route.source);
  if (!source) return "its source is gone";
  const scale = route.scale ? sourceOf(route.scale) : null;
  if (scale === undefined) return "the source that scales it is gone";
  const target = findParam(instrument, route.target);
  if (!target) return "its target is gone";
  if (target.spec.type !== "number" || target.spec.mod === "none") return `${target.label} can't be modulated`;
  if (source.perVoice && !target.perVoice)
    return `${source.label} belongs to each note, ${target.label} to all of them`;
  if (scale?.perVoice && !target.perVoice) return `${scale.label} belongs to each note, ${target.label} to all of them`;
  const moved = instrument.routes.some((r) => r.on && r.target === `routes/${route.id}/amount`);
  if (route.amount === 0 && !moved) return "its amount is zero";
  if (target.unit?.kind === "filter" && target.unit.params.mode === "off") return "the filter is off";
  const own = source.perVoice || scale?.perVoice === true;
  if (own && target.unit?.kind === "group" && READ_ONCE.has(target.spec.id))
    return `${target.label} is read before there is a note that could have a ${source.label.toLowerCase()}`;
  const idle = target.unit && idleReason(target.unit, target.spec.id);
  return idle ? `${idle.charAt(0).toLowerCase()}${idle.slice(1, -1)}` : null;
}

const lineOf = (curve: readonly { x: number; y: number; bend: number }[] | null | undefined): LinePlan | null =>
  curve && curve.length > 0
    ? { x: curve.map((p) => p.x), y: curve.map((p) => p.y), bend: curve.map((p) => p.bend) }
    : null;

/** Whether two documents differ in nothing but their zones. */
const sameButZones = (a: Instrument, b: Instrument): boolean =>
  (Object.keys(a) as (keyof Instrument)[]).every((key) => key === "layers" || a[key] === b[key]) &&
  a.layers.length === b.layers.length &&
  a.layers.every((layer, l) => {
    const other = b.layers[l] as Layer;
    return (
      (Object.keys(layer) as (keyof Layer)[]).every((key) => key === "groups" || layer[key] === other[key]) &&
      layer.groups.length === other.groups.length &&
      layer.groups.every((g, i) => g.id === other.groups[i]?.id && g.settings === other.groups[i]?.settings)
    );
  });

/** The plan of a document, made from that of an earlier one where only zones differ: of thousands, most often one is dragged. */
export function recompile(
  instrument: Instrument,
  before: { readonly instrument: Instrument; readonly plan: Plan },
): Plan {
  if (!sameButZones(instrument, before.instrument)) return compile(instrument);
  const { plan } = before;
  const known = new Set(plan.samples);
  // All samples are known, or at least those that are played.
  const whole = instrument.samples.every((s) => known.has(s.sha));
  if (!whole && listZones(instrument).some((z) => !known.has(z.sample))) return compile(instrument);
  return {
    ...plan,
    layers: plan.layers.map((layer, l) => ({
      ...layer,
      groups: layer.groups.map((g, i) => ({ ...g, zones: instrument.layers[l]?.groups[i]?.zones ?? [] })),
    })),
  };
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
  const live = instrument.routes.filter((r) => routeProblem(instrument, r) === null);
  const lines: LinePlan[] = [];
  const planner = new ModulationPlanner(
    params,
    instrument.envelopes.map((u) => u.id),
    instrument.lfos.map((u) => ({ id: u.id, perVoice: u.params.scope === "note" })),
    live.map((r) => {
      const line = lineOf(r.curve);
      return {
        ...r,
        slot: slot(r.target),
        amountSlot: slot(`routes/${r.id}/amount`),
        line: line ? lines.push(line) - 1 : -1,
      };
    }),
    slot,
  );
  const operand = (address: string): number => planner.operand(slot(address));
  const setOf = (layer: Layer): LayerPlan["set"] => {
    if (!layer.set || !instrument.sets.some((u) => u.id === layer.set)) return null;
    const members = instrument.layers.filter((l) => l.set === layer.set);
    return { chosen: slot(`sets/${layer.set}/chosen`), own: members.indexOf(layer) + 1, count: members.length };
  };
  const reverb = instrument.effects.find((u) => u.kind === "reverb");
  const room = instrument.effects.find((u) => u.kind === "convolution");
  const layers = instrument.layers.map((layer): LayerPlan => {
    const at = `layers/${layer.id}`;
    return {
      id: layer.id,
      groups: layer.groups.map((g) => ({
        id: g.id,
        zones: g.zones,
        params: Object.fromEntries(
          Object.keys(g.settings.params).map((id) => [id, operand(`${at}/groups/${g.id}/${id}`)]),
        ),
      })),
      set: setOf(layer),
      transpose: operand(`${at}/source/transpose`),
      fine: operand(`${at}/source/fine`),
      start: operand(`${at}/source/start`),
      level: operand(`${at}/strip/level`),
      pan: operand(`${at}/strip/pan`),
      velocity: slot(`${at}/strip/velocity`),
      voices: slot(`${at}/strip/voices`),
      amp: { id: "amp", kind: "amp", operands: ENVELOPE_PARAMS.map((id) => operand(`${at}/amp/${id}`)), line: null },
      stages: layer.stages.map((stage) => {
        const own = `${at}/stages/${stage.id}`;
        return {
          id: stage.id,
          mode: slot(`${own}/mode`),
          slope: slot(`${own}/slope`),
          character: slot(`${own}/character`),
          cutoff: operand(`${own}/cutoff`),
          resonance: operand(`${own}/resonance`),
          drive: operand(`${own}/drive`),
        };
      }),
      program: planner.layerProgram(layer),
    };
  });
  return {
    slots: params.map(({ address, spec }) =>
      spec.type === "choice"
        ? { address, octaves: false, min: 0, max: spec.choices.length - 1, smooth: false }
        : {
            address,
            octaves: spec.mod === "octaves",
            min: spec.mod === "octaves" ? Math.log2(spec.min) : spec.min,
            max: spec.mod === "octaves" ? Math.log2(spec.max) : spec.max,
            smooth: !["count", "optional", "note", "controller"].includes(spec.unit),
          },
    ),
    base: baseValues(instrument),
    layers,
    envelopes: instrument.envelopes.map((u) => ({
      id: u.id,
      kind: u.kind as "envelope" | "path",
      operands: (u.kind === "path" ? PATH_PARAMS : ENVELOPE_PARAMS).map((id) => operand(`envelopes/${u.id}/${id}`)),
      line: lineOf(curveOf(u)),
    })),
    lfos: instrument.lfos.map((u) => ({
      id: u.id,
      scope: u.params.scope as "note" | "phrase" | "free",
      shape: slot(`lfos/${u.id}/shape`),
      rate: operand(`lfos/${u.id}/rate`),
      beat: slot(`lfos/${u.id}/beat`),
      phase: operand(`lfos/${u.id}/phase`),
      delay: operand(`lfos/${u.id}/delay`),
      fade: operand(`lfos/${u.id}/fade`),
      line: lineOf(curveOf(u)),
    })),
    lines,
    program: planner.sharedProgram(),
    columns: planner.columnNames,
    memories: planner.memoryNames,
    mics: instrument.mics.map((u) => ({ id: u.id, level: slot(`mics/${u.id}/level`), pan: slot(`mics/${u.id}/pan`) })),
    reverb: reverb
      ? {
          mix: slot(`effects/${reverb.id}/mix`),
          size: slot(`effects/${reverb.id}/size`),
          decay: slot(`effects/${reverb.id}/decay`),
          damping: slot(`effects/${reverb.id}/damping`),
        }
      : null,
    convolution: room?.sample
      ? { mix: slot(`effects/${room.id}/mix`), delay: slot(`effects/${room.id}/delay`), sample: room.sample }
      : null,
    play: Object.fromEntries(Object.keys(instrument.play.params).map((id) => [id, slot(`play/${id}`)])),
    tuning: instrument.tuning?.keys ?? null,
    samples: [
      ...new Set([
        ...instrument.samples.filter((s) => s.use === "note").map((s) => s.sha),
        ...listZones(instrument).map((z) => z.sample),
      ]),
    ],
    // Whatever a room names is its impulse, also a sound that is played as well.
    impulses: [...new Set(instrument.effects.flatMap((u) => u.sample ?? []))],
    holding: (instrument.play.params.memory ?? "exact") as Plan["holding"],
    rules:
      instrument.rules.on && instrument.rules.script.trim() !== ""
        ? { script: instrument.rules.script, seed: instrument.rules.seed }
        : null,
  };
}

export { COLUMN, columnAt, GLOBAL, GLOBALS, globalAt };
