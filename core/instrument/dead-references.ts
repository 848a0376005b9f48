import { listParams } from "./address";
import { busUnits } from "./chains";
import { faceRenamed } from "./face-items";
import type { Instrument, Layer, Route, Unit, Zone } from "./instrument";
import { controllerOf, SOURCES } from "./sources";

/** Something in a document that names what isn't there. */
export interface DeadReference {
  /** Where: `routes[2].target`. */
  readonly path: string;
  /** What it names. */
  readonly name: string;
}

/** What a document has to name: addresses of parameters, sources of modulation, microphones, sets and samples. */
class Living {
  private readonly params: ReadonlySet<string>;
  private readonly sources: ReadonlySet<string>;
  private readonly mics: ReadonlySet<string>;
  private readonly sets: ReadonlySet<string>;
  private readonly samples: ReadonlySet<string>;
  private readonly layers: ReadonlySet<string>;

  constructor(doc: Instrument) {
    this.params = new Set(listParams(doc).map((p) => p.address));
    this.sources = new Set([
      ...SOURCES.map((s) => s.id),
      ...doc.envelopes.map((u) => `envelopes/${u.id}`),
      ...doc.lfos.map((u) => `lfos/${u.id}`),
      ...doc.macros.map((u) => `macros/${u.id}`),
    ]);
    this.mics = new Set(doc.mics.map((u) => u.id));
    this.sets = new Set(doc.sets.map((u) => u.id));
    this.samples = new Set(doc.samples.map((s) => s.sha));
    this.layers = new Set(doc.layers.map((l) => l.id));
  }

  source = (name: string): boolean => this.sources.has(name) || controllerOf(name) !== null;
  param = (address: string): boolean => this.params.has(address);
  mic = (id: string): boolean => this.mics.has(id);
  set = (id: string): boolean => this.sets.has(id);
  layer = (id: string): boolean => this.layers.has(id);
  sample = (sha: string): boolean => this.samples.has(sha);
}

/** Everything in a document that names what isn't there: routes, dials, microphones of zones, sets of layers, impulses. */
export function deadReferences(doc: Instrument): DeadReference[] {
  const living = new Living(doc);
  const dead: DeadReference[] = [];
  const look = (path: string, name: string | null | undefined, lives: (name: string) => boolean) => {
    if (name !== null && name !== undefined && !lives(name)) dead.push({ path, name });
  };
  doc.routes.forEach((route, i) => {
    look(`routes[${i}].source`, route.source, living.source);
    look(`routes[${i}].target`, route.target, living.param);
    look(`routes[${i}].scale`, route.scale, living.source);
  });
  doc.face.items.forEach((item, i) => {
    item.moves.forEach(({ address }, n) => {
      look(`face.items[${i}].moves[${n}]`, address, living.param);
    });
    item.when.forEach(({ address }, n) => {
      look(`face.items[${i}].when[${n}]`, address, living.param);
    });
  });
  doc.face.pages.forEach(({ when }, i) => {
    look(`face.pages[${i}].when`, when?.address, living.param);
  });
  for (const { list, unit } of busUnits(doc)) look(`${list}/${unit.id}.sample`, unit.sample, living.sample);
  doc.layers.forEach((layer, l) => {
    for (const unit of [layer.source, ...layer.stages]) {
      look(`layers[${l}].${unit.id}.from`, unit.from, living.layer);
      look(`layers[${l}].${unit.id}.sample`, unit.sample, living.sample);
    }
    look(`layers[${l}].set`, layer.set, living.set);
    layer.groups.forEach((group, g) => {
      group.zones.forEach((zone, z) => {
        look(`layers[${l}].groups[${g}].zones[${z}].mic`, zone.mic, living.mic);
      });
    });
  });
  return dead;
}

const same = <T>(list: readonly T[], other: readonly T[]): boolean =>
  list.length === other.length && list.every((x, i) => x === other[i]);

/** `change` of every member, and those of which it makes null left out; the very same list where nothing changes. */
function mapped<T>(list: readonly T[], change: (member: T) => T | null): readonly T[] {
  const next = list.flatMap((member) => change(member) ?? []);
  return same(list, next) ? list : next;
}

const sameIds = (a: readonly { readonly id: string }[], b: readonly { readonly id: string }[]): boolean =>
  a === b || (a.length === b.length && a.every((unit, i) => unit.id === b[i]?.id));

function sameMics(zones: readonly Zone[], before: readonly Zone[]): boolean {
  if (zones === before) return true;
  if (zones.length !== before.length) return false;
  for (let i = 0; i < zones.length; i++) if (zones[i] !== before[i] && zones[i]?.mic !== before[i]?.mic) return false;
  return true;
}

/** Which sound a unit uses, and where it stands. */
const nameOfUse = ({ list, unit }: { readonly list: string; readonly unit: Unit }): string =>
  `${list}/${unit.id} ${unit.kind} ${unit.sample ?? ""}`;

/** What a unit of the voices is, and what it uses. */
const nameOfSource = ({ id, kind, sample, from, table }: Unit): string =>
  `${id} ${kind} ${sample ?? ""} ${from ?? ""} ${table?.length ?? ""}`;

/** Whether a document has the same names in it and names the same things as one in which nothing dead was named: then nothing is dead in it either. A quick look, which may miss that they are the same. */
export function namesTheSame(doc: Instrument, before: Instrument): boolean {
  if (
    doc.routes !== before.routes ||
    doc.face.items !== before.face.items ||
    doc.face.pages !== before.face.pages ||
    doc.samples !== before.samples
  )
    return false;
  const lists = ["envelopes", "lfos", "macros", "mics", "sets", "effects"] as const;
  if (!lists.every((list) => sameIds(doc[list], before[list]))) return false;
  const [units, old] = [busUnits(doc), busUnits(before)];
  if (!same(units.map(nameOfUse), old.map(nameOfUse))) return false;
  // Another kind of unit has other parameters.
  if (!lists.every((list) => doc[list].every((unit, i) => unit.kind === before[list][i]?.kind))) return false;
  if (!sameIds(doc.layers, before.layers)) return false;
  return doc.layers.every((layer, l) => {
    const old = before.layers[l];
    if (layer === old) return true;
    return (
      old !== undefined &&
      layer.set === old.set &&
      same([layer.source, ...layer.stages].map(nameOfSource), [old.source, ...old.stages].map(nameOfSource)) &&
      sameIds(layer.groups, old.groups) &&
      layer.groups.every((g, i) => sameMics(g.zones, old.groups[i]?.zones ?? []))
    );
  });
}

/**
 * The document without what names something that isn't there: such routes are gone, with those that moved them; dials stay, unbound; zones
 * have no microphone, layers no set, convolutions no impulse. Every edit that removes something ends with this.
 */
export function withoutDead(doc: Instrument): Instrument {
  const living = new Living(doc);
  const { mic, set, sample, param, source } = living;
  const routes = mapped(doc.routes, (route: Route) => {
    if (!source(route.source) || !param(route.target)) return null;
    return route.scale !== null && !source(route.scale) ? { ...route, scale: null } : route;
  });
  const face = faceRenamed(doc, (address) => (param(address) ? address : null));
  const fed = (unit: Unit): Unit => {
    if (unit.from === undefined || living.layer(unit.from)) return unit;
    const { from: _gone, ...rest } = unit;
    return rest;
  };
  const kept = (units: readonly Unit[]) =>
    mapped(units, (unit) => {
      if (unit.sample === undefined || sample(unit.sample)) return fed(unit);
      const { sample: _gone, ...rest } = unit;
      return fed(rest);
    });
  const effects = kept(doc.effects);
  const sends = mapped(doc.sends, (send) => {
    const units = kept(send.units);
    return units === send.units ? send : { ...send, units };
  });
  const layers = mapped(doc.layers, (layer: Layer) => {
    const groups = mapped(layer.groups, (group) => {
      const zones = mapped(group.zones, (zone) =>
        zone.mic !== null && !mic(zone.mic) ? { ...zone, mic: null } : zone,
      );
      return zones === group.zones ? group : { ...group, zones };
    });
    const inserts = kept(layer.inserts);
    const stages = kept(layer.stages);
    const source = kept([layer.source])[0] ?? layer.source;
    const chosen = layer.set === null || set(layer.set) ? layer.set : null;
    return groups === layer.groups &&
      chosen === layer.set &&
      inserts === layer.inserts &&
      stages === layer.stages &&
      source === layer.source
      ? layer
      : { ...layer, groups, inserts, stages, source, set: chosen };
  });
  if (
    routes === doc.routes &&
    effects === doc.effects &&
    sends === doc.sends &&
    layers === doc.layers &&
    face === doc.face
  )
    return doc;
  const next: Instrument = {
    ...doc,
    routes,
    effects,
    sends,
    layers,
    face,
  };
  // A route that is gone takes those along that led to its amount.
  return routes.length < doc.routes.length ? withoutDead(next) : next;
}
