import type { Group, Instrument, Layer, Unit, Zone } from "./instrument";
import { settingOf } from "./setting-of";

/** What a zone's level, pan or tuning is made of. */
export type Inherited = "level" | "pan" | "tune";

/** One of the places that add to a zone's level, pan or tuning. */
export interface InheritedPart {
  readonly from: "zone" | "group" | "microphone" | "layer" | "instrument";
  /** Name of the group, the microphone or the layer. */
  readonly name: string;
  /** Address of the parameters that say it; none for the zone's own. */
  readonly addresses: readonly string[];
  /** Decibels, −1 to 1, or cents. */
  readonly value: number;
  /** What it is as long as nobody sets it. */
  readonly usual: number;
}

export interface InheritedSum {
  readonly parts: readonly InheritedPart[];
  /** What is heard of them together, before routes move it: pan no further than its ends. */
  readonly sum: number;
}

const sum = (parts: readonly InheritedPart[], within = Number.POSITIVE_INFINITY): InheritedSum => {
  const all = parts.reduce((x, p) => x + p.value, 0);
  return { parts, sum: Math.min(within, Math.max(-within, all)) };
};

function placeOf(instrument: Instrument, id: string): { layer: Layer; group: Group; zone: Zone } | null {
  for (const layer of instrument.layers) {
    for (const group of layer.groups) {
      const zone = group.zones.find((z) => z.id === id);
      if (zone) return { layer, group, zone };
    }
  }
  return null;
}

const numberOf = (unit: Unit, id: string): number => Number(settingOf(unit, id) ?? 0);

/**
 * Where a zone's level (decibels), pan (−1 left to 1 right) and tuning (cents) come from: its own, its group's, its microphone's, its layer's and the
 * instrument's, nearest first. They are added. null: no zone has the id.
 */
export function inheritedOf(instrument: Instrument, zoneId: string): Readonly<Record<Inherited, InheritedSum>> | null {
  const found = placeOf(instrument, zoneId);
  if (!found) return null;
  const { layer, group, zone } = found;
  const mic = instrument.mics.find((m) => m.id === zone.mic);
  const at = `layers/${layer.id}`;
  const own = (value: number): InheritedPart => ({ from: "zone", name: "", addresses: [], value, usual: 0 });
  const part = (
    from: InheritedPart["from"],
    name: string,
    usual: number,
    addresses: readonly string[],
    value: number,
  ): InheritedPart => ({ from, name, addresses, value, usual });
  const ofGroup = (id: string) =>
    part("group", group.name, 0, [`${at}/groups/${group.id}/${id}`], numberOf(group.settings, id));
  const ofMic = (id: string) =>
    mic ? [part("microphone", mic.name, 0, [`mics/${mic.id}/${id}`], numberOf(mic, id))] : [];
  const ofStrip = (id: string, usual: number) =>
    part("layer", layer.name, usual, [`${at}/strip/${id}`], numberOf(layer.strip, id));
  const { transpose, fine } = layer.source.params;
  const tuned = [
    ...(transpose === undefined ? [] : [`${at}/source/transpose`]),
    ...(fine === undefined ? [] : [`${at}/source/fine`]),
  ];
  const whole = numberOf(instrument.play, "level");
  return {
    level: sum([
      own(zone.gain),
      ofGroup("level"),
      ...ofMic("level"),
      ofStrip("level", -6),
      part("instrument", "", 0, ["play/level"], whole),
    ]),
    pan: sum([own(zone.pan), ofGroup("pan"), ...ofMic("pan"), ofStrip("pan", 0)], 1),
    tune: sum([
      own(zone.tune),
      ofGroup("tuning"),
      part("layer", layer.name, 0, tuned, 100 * Number(transpose ?? 0) + Number(fine ?? 0)),
    ]),
  };
}
