import { deadReferences, namesTheSame, withoutDead } from "./dead-references";
import { documentShape, MOST_ZONES } from "./document-shape";
import type { Edit } from "./edit";
import type { Group, Instrument, Zone } from "./instrument";
import { type Fault, GONE, Settler } from "./settle";

/** A document put right as far as it could be; null where nothing could be made of it. */
export interface Settled {
  readonly instrument: Instrument | null;
  readonly faults: readonly Fault[];
}

/** A fault as a sentence without its full stop. */
export const faultText = ({ path, problem }: Pick<Fault, "path" | "problem">): string => `${path || "it"} ${problem}`;

const allZones = (doc: Instrument): Zone[] => doc.layers.flatMap((l) => l.groups.flatMap((g) => g.zones));

/** Whether a document's zones are those of another, place for place, with the same ids and samples, so that what holds of all of them together still holds. */
function sameZones(doc: Instrument, before: Instrument): boolean {
  if (doc.samples !== before.samples || doc.layers.length !== before.layers.length) return false;
  return doc.layers.every((layer, l) => {
    const old = before.layers[l]?.groups ?? [];
    return layer.groups.length === old.length && layer.groups.every((g, i) => sameIds(g.zones, old[i]?.zones ?? []));
  });
}

function sameIds(zones: readonly Zone[], before: readonly Zone[]): boolean {
  if (zones === before) return true;
  if (zones.length !== before.length) return false;
  for (let i = 0; i < zones.length; i++) {
    const [zone, old] = [zones[i] as Zone, before[i] as Zone];
    if (zone !== old && (zone.id !== old.id || zone.sample !== old.sample)) return false;
  }
  return true;
}

/** What zones must be besides each being right: with a sample that is there, an id of their own, and not too many. */
function settleZones(doc: Instrument, settler: Settler): Instrument {
  const known = new Set(doc.samples.map((s) => s.sha));
  const taken = new Set<string>();
  const every = new Set(allZones(doc).map((z) => z.id));
  let count = 0;
  let same = true;
  const settled = (group: Group, place: (string | number)[]): Group => {
    const zones: Zone[] = [];
    group.zones.forEach((zone, z) => {
      const at = [...place, "zones", z];
      if (zone.sample !== null && !known.has(zone.sample)) {
        settler.report("names a sample that isn't in the list", "Remove the zone", true, [...at, "sample"]);
        return;
      }
      if (++count > MOST_ZONES) {
        if (count === MOST_ZONES + 1)
          settler.report(`has too many zones: there can be no more than ${MOST_ZONES}`, "Remove the rest", true, at);
        return;
      }
      let { id } = zone;
      if (taken.has(id)) {
        for (let n = 2; taken.has(id) || every.has(id); n++) id = `${zone.id.slice(0, 56)}-${n}`;
        settler.report(`is “${zone.id}”, which another zone has`, `Make it “${id}”`, false, [...at, "id"]);
      }
      taken.add(id);
      zones.push(id === zone.id ? zone : { ...zone, id });
    });
    if (zones.length === group.zones.length && zones.every((z, i) => z === group.zones[i])) return group;
    same = false;
    return { ...group, zones };
  };
  const layers = doc.layers.map((layer, l) => ({
    ...layer,
    groups: layer.groups.map((group, g) => settled(group, ["layers", l, "groups", g])),
  }));
  return same ? doc : { ...doc, layers };
}

/** Puts a document of this version right, as far as that can be done; what is right stays as it is. */
export function settleInstrument(raw: unknown): Settled {
  const settler = new Settler();
  const settled = settler.settle(documentShape, raw);
  if (settled === GONE) return { instrument: null, faults: settler.faults };
  const whole = settleZones(settled as Instrument, settler);
  const dead = deadReferences(whole);
  for (const { path, name } of dead)
    settler.faults.push({
      path,
      problem: `names ${name}, which isn't there`,
      repair: /^routes.*(source|target)$/.test(path) ? "Remove the route" : "Let it name nothing",
      loses: false,
    });
  return { instrument: dead.length > 0 ? withoutDead(whole) : whole, faults: settler.faults };
}

/** What an edit makes of a document: settled, or refused with the faults that can't be put right without loss. */
export function settleEdit(
  before: Instrument,
  edit: Edit,
): { readonly instrument: Instrument; readonly refused: readonly Fault[] } {
  const after = edit.apply(before);
  if (after === before) return { instrument: before, refused: [] };
  // What was part of a document already is frozen, and was settled then.
  const settler = new Settler(Object.isFrozen, true);
  const settled = settler.settle(documentShape, after, before);
  if (settled === GONE) return { instrument: before, refused: settler.faults.filter((f) => f.loses) };
  const doc = settled as Instrument;
  const whole = sameZones(doc, before) ? doc : settleZones(doc, settler);
  const refused = settler.faults.filter((f) => f.loses);
  if (refused.length > 0) return { instrument: before, refused };
  return { instrument: namesTheSame(whole, before) ? whole : withoutDead(whole), refused };
}
