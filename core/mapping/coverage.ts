import { type Group, type Instrument, type Layer, listZones, type Zone } from "../instrument";
import { unitSpec } from "../units";

/** How a key answers: at every velocity, at some only, only if something else is so, or not at all. */
export interface KeyAnswer {
  readonly kind: "sounds" | "some" | "conditional" | "silent";
  /** Velocities at which nothing sounds, as ranges with both ends; of `some`. */
  readonly gaps: readonly (readonly [number, number])[];
}

/** Whether a group sounds whenever a key goes down, or only under some condition. */
function conditionOf({ settings: { params } }: Group): "always" | "conditional" | "never" {
  if (params.trigger === "noteOff" || params.probability === 0) return "never";
  const plain =
    params.trigger === "noteOn" &&
    params.keyswitch === "none" &&
    Number(params.controller) < 0 &&
    Number(params.probability) >= 1;
  return plain ? "always" : "conditional";
}

/**
 * Whether a layer can be heard as it is set: it isn't muted, or something moves that; its level isn't at nothing, or something moves it; what it computes
 * its sound from is there. What others make of it, and what its units do to it, isn't looked at.
 */
function mayBeHeard({ routes }: Instrument, { id, source, strip }: Layer): boolean {
  const moved = (param: string) => routes.some((r) => r.on && r.target === `layers/${id}/strip/${param}`);
  const { mute, level } = strip.params;
  if (Number(mute) >= 0.5 && !moved("mute")) return false;
  const silent = unitSpec("strip").params.find((p) => p.id === "level");
  if (silent?.type === "number" && Number(level) <= silent.min && !moved("level")) return false;
  return source.kind === "samples" || !unitSpec(source.kind).sample || source.sample !== undefined;
}

function mark(velocities: Uint8Array, { velLow, velHigh }: Zone, value: number): void {
  for (let v = velLow; v <= velHigh; v++) velocities[v] = Math.max(velocities[v] as number, value);
}

function gapsOf(velocities: Uint8Array, wanted: number): [number, number][] {
  const gaps: [number, number][] = [];
  for (let v = 1; v <= 127; v++) {
    if ((velocities[v] as number) >= wanted) continue;
    const last = gaps.at(-1);
    if (last && last[1] === v - 1) last[1] = v;
    else gaps.push([v, v]);
  }
  return gaps;
}

/** What each of the 128 keys answers, at which velocities, with the groups' conditions considered. */
export function keyAnswers(instrument: Instrument): readonly KeyAnswer[] {
  const known = new Set(instrument.samples.map((s) => s.sha));
  // 2: always, 1: under a condition.
  const table = Array.from({ length: 128 }, () => new Uint8Array(128));
  for (const { group, computed } of instrument.layers
    .filter((l) => mayBeHeard(instrument, l))
    .flatMap((l) => l.groups.map((g) => ({ group: g, computed: l.source.kind !== "samples" })))) {
    const condition = conditionOf(group);
    if (condition === "never") continue;
    for (const zone of group.zones) {
      if (!computed && !known.has(zone.sample ?? "")) continue;
      for (let key = zone.keyLow; key <= zone.keyHigh; key++)
        mark(table[key] as Uint8Array, zone, condition === "always" ? 2 : 1);
    }
  }
  return table.map((velocities) => {
    const always = gapsOf(velocities, 2);
    if (always.length === 0) return { kind: "sounds", gaps: [] };
    const ever = gapsOf(velocities, 1);
    if (ever.length === 0) return { kind: "conditional", gaps: [] };
    return ever[0]?.[0] === 1 && ever[0][1] === 127 ? { kind: "silent", gaps: ever } : { kind: "some", gaps: ever };
  });
}

/** The lowest and the highest key that any zone covers; null where there is none. */
export function mappedKeys(instrument: Instrument): { readonly low: number; readonly high: number } | null {
  let low = 128;
  let high = -1;
  for (const zone of listZones(instrument)) {
    if (zone.keyLow < low) low = zone.keyLow;
    if (zone.keyHigh > high) high = zone.keyHigh;
  }
  return high < 0 ? null : { low, high };
}

/** The keys that sound, from the lowest on: at every velocity, or at some, or, where there are none such, under some condition. */
export function soundingKeys(instrument: Instrument): readonly number[] {
  const answers = keyAnswers(instrument);
  const keys = (...kinds: readonly KeyAnswer["kind"][]) =>
    answers.flatMap(({ kind }, key) => (kinds.includes(kind) ? [key] : []));
  const plain = keys("sounds", "some");
  return plain.length > 0 ? plain : keys("conditional");
}
