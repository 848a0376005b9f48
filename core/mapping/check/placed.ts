import { SURE } from "../../analysis";
import { type Cents, nameOfNote } from "../../audio";
import type { Group, Instrument, Layer, Sample, Zone } from "../../instrument";
import type { Finding } from "./finding";

/** A zone with what it stands in, and its sample. */
export interface Placed {
  readonly zone: Zone;
  readonly sample: Sample;
  readonly layer: Layer;
  readonly group: Group;
}

/** Keys by name, one with its number. */
export const keyText = (low: number, high: number): string =>
  low === high ? `${nameOfNote(low)} · ${low}` : `${nameOfNote(low)}–${nameOfNote(high)}`;

/** The middle of some values; of an even number the lower. */
export const medianOf = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor((sorted.length - 1) / 2)] ?? 0;
};

/** How loud a zone is, and at which pitch it sounds on its root. */
export const levelOf = ({ zone, sample }: Placed): number => sample.loudness + zone.gain;
export const tuningOf = ({ zone, sample }: Placed): Cents | null =>
  sample.pitch === null || sample.confidence < SURE || zone.track < 0.5
    ? null
    : (sample.pitch - zone.root) * 100 + zone.tune;

/** Something doubtful about some zones; what isn't given follows from them. */
export const finding = (
  kind: Finding["kind"],
  placed: readonly Placed[],
  text: string,
  more: Partial<Finding> = {},
): Finding => {
  const zones = placed.map((p) => p.zone);
  const [first] = placed;
  return {
    kind,
    text,
    zones: zones.map((z) => z.id),
    group: first ? `${first.layer.id}/${first.group.id}` : null,
    keys: [Math.min(...zones.map((z) => z.keyLow)), Math.max(...zones.map((z) => z.keyHigh))],
    velocity: zones[0] ? Math.round((zones[0].velLow + zones[0].velHigh) / 2) : 100,
    repair: null,
    way: "",
    ...more,
  };
};

/** Every zone that plays a sample. */
export function placedOf(instrument: Instrument): Placed[] {
  const samples = new Map(instrument.samples.map((s) => [s.sha, s]));
  return instrument.layers.flatMap((layer) =>
    layer.groups.flatMap((group) =>
      group.zones.flatMap((zone) => {
        const sample = zone.sample === null ? undefined : samples.get(zone.sample);
        return sample ? [{ zone, sample, layer, group }] : [];
      }),
    ),
  );
}

/** Members by a key, in their order. */
export function groupedBy<T>(all: readonly T[], keyOf: (member: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const member of all) {
    const key = keyOf(member);
    const group = groups.get(key);
    if (group) group.push(member);
    else groups.set(key, [member]);
  }
  return [...groups.values()];
}
