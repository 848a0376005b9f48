import type { Group, Instrument, Sample, Zone } from "../../instrument";

/** What zones are chosen by. */
export const RULE_FIELDS = {
  layer: { label: "velocity layer", kind: "number" },
  root: { label: "root", kind: "note" },
  low: { label: "lowest key", kind: "note" },
  high: { label: "highest key", kind: "note" },
  velocity: { label: "highest velocity", kind: "number" },
  repeat: { label: "repeat", kind: "number" },
  off: { label: "cents off the pitch", kind: "number" },
  tune: { label: "tuning in cents", kind: "number" },
  level: { label: "level in dB", kind: "number" },
  seconds: { label: "length in seconds", kind: "number" },
  loops: { label: "loops", kind: "number" },
  name: { label: "name", kind: "text" },
  group: { label: "group", kind: "text" },
  mic: { label: "microphone", kind: "text" },
} as const satisfies Readonly<Record<string, { label: string; kind: "number" | "note" | "text" }>>;

export type RuleField = keyof typeof RULE_FIELDS;

/** How a value is compared. Text is compared without its case; `is` means that it holds the words. */
export const RULE_TESTS = ["is", "isn't", "above", "below"] as const;
export type RuleTest = (typeof RULE_TESTS)[number];

export interface ChoosingRule {
  readonly field: RuleField;
  readonly test: RuleTest;
  readonly value: number | string;
}

/** Which velocity layer of its keys each zone of a group is, from 1 for the softest. */
export function velocityLayers(zones: readonly Zone[]): Map<string, number> {
  /** Lowest velocities at each key. */
  const starts: Set<number>[] = Array.from({ length: 128 }, () => new Set<number>());
  for (const zone of zones) for (let key = zone.keyLow; key <= zone.keyHigh; key++) starts[key]?.add(zone.velLow);
  const sorted = starts.map((s) => [...s].sort((a, b) => a - b));
  return new Map(
    zones.map((zone) => {
      const key = Math.min(zone.keyHigh, Math.max(zone.keyLow, zone.root));
      return [zone.id, (sorted[key]?.indexOf(zone.velLow) ?? 0) + 1];
    }),
  );
}

interface Looked {
  readonly zone: Zone;
  readonly group: Group;
  readonly sample: Sample | undefined;
  readonly layer: number;
}

/** The value of a zone's field; null where it has none. */
function fieldOf({ zone, group, sample, layer }: Looked, field: RuleField): number | string | null {
  switch (field) {
    case "layer":
      return layer;
    case "root":
      return zone.root;
    case "low":
      return zone.keyLow;
    case "high":
      return zone.keyHigh;
    case "velocity":
      return zone.velHigh;
    case "repeat":
      return zone.repeat;
    case "off":
      return sample?.pitch == null ? null : Math.abs((sample.pitch - zone.root) * 100 + zone.tune);
    case "tune":
      return zone.tune;
    case "level":
      return zone.gain;
    case "seconds":
      return sample ? (zone.end - zone.start) / sample.rate : null;
    case "loops":
      return (zone.loop ? 1 : 0) + (zone.releaseLoop ? 1 : 0);
    case "name":
      return sample?.name ?? null;
    case "group":
      return group.name;
    case "mic":
      return zone.mic ?? "";
  }
}

function passes(own: number | string | null, { test, value }: ChoosingRule): boolean {
  if (own === null) return false;
  if (typeof own === "string") {
    const holds = own.toLowerCase().includes(String(value).toLowerCase());
    return test === "isn't" ? !holds : test === "is" && holds;
  }
  const wanted = Number(value);
  switch (test) {
    case "is":
      return Math.abs(own - wanted) < 1e-6;
    case "isn't":
      return Math.abs(own - wanted) >= 1e-6;
    case "above":
      return own > wanted;
    case "below":
      return own < wanted;
  }
}

/** The zones for which a rule holds. */
export function zonesWhere(instrument: Instrument, rule: ChoosingRule): Set<string> {
  const samples = new Map(instrument.samples.map((s) => [s.sha, s]));
  const found = new Set<string>();
  for (const layer of instrument.layers) {
    for (const group of layer.groups) {
      const layers = velocityLayers(group.zones);
      for (const zone of group.zones) {
        const looked = { zone, group, sample: samples.get(zone.sample ?? ""), layer: layers.get(zone.id) ?? 1 };
        if (passes(fieldOf(looked, rule.field), rule)) found.add(zone.id);
      }
    }
  }
  return found;
}
