import {
  assetsOf,
  curveOf,
  type Instrument,
  type Layer,
  type LayerLink,
  listParams,
  liveLinks,
  placeInTable,
  playedSamples,
  settingOf,
  type Unit,
} from "../instrument";
import { UNITS, unitSpec } from "../units";
import type { BusUnitPlan, CellPlan, FilterPlan, GroupPlan, LayerPlan, LinePlan, Plan } from "./plan";
import { ModulationPlanner } from "./plan-modulation";
import { routeProblem } from "./route-problem";
import { sameButZones } from "./same-structure";

const ENVELOPE_PARAMS = UNITS.amp.params.map((p) => p.id);
const SEND_IDS = UNITS.sends.params.map((p) => p.id);
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

const lineOf = (curve: readonly { x: number; y: number; bend: number }[] | null | undefined): LinePlan | null =>
  curve && curve.length > 0
    ? { x: curve.map((p) => p.x), y: curve.map((p) => p.y), bend: curve.map((p) => p.bend) }
    : null;

/** The layers' numbers so that each comes behind those that it hears; links make no ring. */
function orderOf(ids: readonly string[], links: readonly LayerLink[]): number[] {
  const order: number[] = [];
  const visit = (id: string): void => {
    const place = ids.indexOf(id);
    if (place < 0 || order.includes(place)) return;
    for (const link of links) if (link.to === id) visit(link.from);
    order.push(place);
  };
  ids.forEach(visit);
  return order;
}

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
  if (!whole && [...playedSamples(instrument)].some((sha) => !known.has(sha))) return compile(instrument);
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
    instrument.lfos.map((u) => ({ id: u.id, perVoice: u.params.retrigger === "note" })),
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
    return { chosen: slot(`sets/${layer.set}/selected`), own: members.indexOf(layer) + 1, count: members.length };
  };
  const routed = new Set(live.map((r) => r.target));
  const targets = new Set(live.map((r) => r.target.slice(0, r.target.lastIndexOf("/"))));
  const links = liveLinks(instrument);
  const noteLinks = links.filter((l) => l.as === "notes");
  const listensTo = (address: string, { kind, from }: Unit): string | null => {
    if (from === undefined || unitSpec(kind).links !== "sum") return null;
    const inLayer = address.startsWith("layers/");
    return !inLayer || links.some((l) => l.address === address) ? from : null;
  };
  const onBus = (list: string, units: readonly Unit[]): BusUnitPlan[] =>
    units.map((unit) => ({
      address: `${list}/${unit.id}`,
      kind: unit.kind,
      params: unitSpec(unit.kind).params.map((spec) => ({
        id: spec.id,
        slot: slot(`${list}/${unit.id}/${spec.id}`),
        octaves: spec.type === "number" && spec.mod === "octaves",
      })),
      sample: unit.sample ?? null,
      from: listensTo(`${list}/${unit.id}`, unit),
      routed: targets.has(`${list}/${unit.id}`),
    }));
  const movedCells = params.flatMap((found) => {
    const place = placeInTable(found.address);
    return place && found.spec.type === "number" ? [{ ...place, mod: found.spec.mod, address: found.address }] : [];
  });
  const inVoice = (at: string, unit: Unit): CellPlan => {
    const { params: specs, table, cell } = unitSpec(unit.kind);
    const moved = movedCells.flatMap(({ unit: of, row, column, mod, address }) =>
      of === at ? [{ row, column, operand: operand(address), octaves: mod === "octaves" }] : [],
    );
    const rows = table ? (unit.table ?? table.default) : null;
    const used = (table?.columns ?? []).filter(
      ({ id }) => rows?.some((row) => row[id]) || moved.some((m) => m.column === id),
    );
    return {
      kind: "cell",
      id: unit.id,
      unit: unit.kind,
      on: specs.some((p) => p.id === "on") ? slot(`${at}/on`) : null,
      params: specs
        .filter((p) => p.id !== "on")
        .map((spec) => ({
          id: spec.id,
          slot: slot(`${at}/${spec.id}`),
          operand: operand(`${at}/${spec.id}`),
          octaves: spec.type === "number" && spec.mod === "octaves",
        })),
      rows,
      columns: used.map((c) => c.id),
      moved,
      mostRows: table?.most ?? 0,
      sample: cell?.sampled ? (unit.sample ?? null) : null,
      from: noteLinks.find((l) => l.address === at)?.from ?? null,
    };
  };
  const filterPlan = (own: string, { id }: Unit): FilterPlan => ({
    kind: "filter",
    id,
    mode: slot(`${own}/type`),
    slope: slot(`${own}/slope`),
    character: slot(`${own}/model`),
    on: slot(`${own}/on`),
    cutoff: operand(`${own}/cutoff`),
    follow: slot(`${own}/keyTracking`),
    resonance: operand(`${own}/resonance`),
    drive: operand(`${own}/drive`),
    lift: operand(`${own}/gain`),
    rings: slot(`${own}/resonanceWidth`),
  });
  const layers = instrument.layers.map((layer): LayerPlan => {
    const at = `layers/${layer.id}`;
    const ofSource = (id: string): number | null =>
      settingOf(layer.source, id) === undefined ? null : operand(`${at}/source/${id}`);
    return {
      id: layer.id,
      groups: layer.groups.map((g) => ({
        id: g.id,
        zones: g.zones,
        params: Object.fromEntries(
          Object.keys(g.settings.params).map((id) => [id, operand(`${at}/groups/${g.id}/${id}`)]),
        ) as GroupPlan["params"],
        sends: SEND_IDS.map((id) => slot(`${at}/groups/${g.id}/${id}`)),
        sendsRouted: SEND_IDS.some((id) => routed.has(`${at}/groups/${g.id}/${id}`)),
      })),
      set: setOf(layer),
      source: layer.source.kind === "samples" ? null : inVoice(`${at}/source`, layer.source),
      transpose: ofSource("transpose"),
      fine: ofSource("fine"),
      start: ofSource("start"),
      level: operand(`${at}/strip/level`),
      pan: operand(`${at}/strip/pan`),
      mute: slot(`${at}/strip/mute`),
      feeds: noteLinks.some((l) => l.from === layer.id),
      velocity: slot(`${at}/strip/velocity`),
      voices: slot(`${at}/strip/voices`),
      amp: { id: "amp", kind: "amp", operands: ENVELOPE_PARAMS.map((id) => operand(`${at}/amp/${id}`)), line: null },
      stages: layer.stages.map((stage) => {
        const own = `${at}/stages/${stage.id}`;
        return stage.kind === "filter" ? filterPlan(own, stage) : inVoice(own, stage);
      }),
      inserts: onBus(`${at}/inserts`, layer.inserts),
      sends: SEND_IDS.map((id) => slot(`${at}/sends/${id}`)),
      sendsRouted: targets.has(`${at}/sends`),
      program: planner.layerProgram(layer),
    };
  });
  const ids = layers.map((l) => l.id);
  return {
    slots: params.map(({ address, spec }) =>
      spec.type === "choice"
        ? { address, octaves: false, min: 0, max: spec.choices.length - 1, smooth: false }
        : {
            address,
            octaves: spec.mod === "octaves",
            min: spec.mod === "octaves" ? Math.log2(spec.min) : spec.min,
            max: spec.mod === "octaves" ? Math.log2(spec.max) : spec.max,
            smooth: !["count", "optional", "note", "controller", "switch"].includes(spec.unit),
          },
    ),
    base: baseValues(instrument),
    layers,
    order: orderOf(ids, noteLinks),
    busOrder: orderOf(
      ids,
      links.filter((l) => l.as === "sum"),
    ),
    envelopes: instrument.envelopes.map((u) => ({
      id: u.id,
      kind: u.kind as "envelope" | "path",
      operands: (u.kind === "path" ? PATH_PARAMS : ENVELOPE_PARAMS).map((id) => operand(`envelopes/${u.id}/${id}`)),
      line: lineOf(curveOf(u)),
    })),
    lfos: instrument.lfos.map((u) => ({
      id: u.id,
      scope: u.params.retrigger ?? "note",
      shape: slot(`lfos/${u.id}/shape`),
      rate: operand(`lfos/${u.id}/rate`),
      beat: slot(`lfos/${u.id}/sync`),
      phase: operand(`lfos/${u.id}/phase`),
      delay: operand(`lfos/${u.id}/delay`),
      fade: operand(`lfos/${u.id}/fadeIn`),
      line: lineOf(curveOf(u)),
    })),
    lines,
    program: planner.sharedProgram(),
    columns: planner.columnNames,
    memories: planner.memoryNames,
    mics: instrument.mics.map((u) => ({ id: u.id, level: slot(`mics/${u.id}/level`), pan: slot(`mics/${u.id}/pan`) })),
    sends: instrument.sends.map(({ id, units }) => ({ id, units: onBus(`sends/${id}`, units) })),
    effects: onBus("effects", instrument.effects),
    play: Object.fromEntries(Object.keys(instrument.play.params).map((id) => [id, slot(`play/${id}`)])) as Plan["play"],
    tuning: instrument.tuning?.keys ?? null,
    samples: [
      ...new Set([
        ...instrument.samples.filter((s) => s.use === "note").map((s) => s.sha),
        ...playedSamples(instrument),
      ]),
    ],
    // Whatever a room names is its impulse, also a sound that is played as well.
    impulses: assetsOf(instrument),
    holding: (instrument.play.params.sampleMemory ?? "asRecorded") as Plan["holding"],
    rules:
      instrument.rules.on && instrument.rules.script.trim() !== ""
        ? { script: instrument.rules.script, seed: instrument.rules.seed }
        : null,
  };
}
