import type { Group, Instrument, Layer, Zone } from "../../instrument";
import { digits, type Settings } from "./written-moves";

interface ZoneFile {
  readonly name: string;
  readonly rate: number;
  readonly frames: number;
}

const n = (value: unknown): number => Number(value);

/** Which repeat a zone is of how many that answer with it. */
interface Turn {
  readonly position: number;
  readonly count: number;
}

/** Whether two zones ever answer one note. */
const meet = (a: Zone, b: Zone): boolean =>
  a.keyLow <= b.keyHigh && b.keyLow <= a.keyHigh && a.velLow <= b.velHigh && b.velLow <= a.velHigh;

/** The turns of a group's zones, by zone: repeats are numbered anew where some are missing. */
function turnsOf(zones: readonly Zone[]): Map<Zone, Turn> {
  const byKey: Zone[][] = Array.from({ length: 128 }, () => []);
  for (const zone of zones) for (let k = zone.keyLow; k <= zone.keyHigh; k++) byKey[k]?.push(zone);
  const turns = new Map<Zone, Turn>();
  for (const zone of zones) {
    const repeats = new Set([zone.repeat]);
    for (let k = zone.keyLow; k <= zone.keyHigh; k++)
      for (const other of byKey[k] ?? [])
        if (other.repeat !== zone.repeat && meet(zone, other)) repeats.add(other.repeat);
    const order = [...repeats].sort((a, b) => a - b);
    turns.set(zone, { position: order.indexOf(zone.repeat) + 1, count: order.length });
  }
  return turns;
}

/** The settings of every zone of a group, and what of them can't be written. */
export function zoneSettings(
  instrument: Instrument,
  layer: Layer,
  group: Group,
  fileOf: (zone: Zone) => ZoneFile | null,
): { readonly list: readonly Settings[]; readonly lost: readonly string[] } {
  const lost: string[] = [];
  const turns = turnsOf(group.zones);
  const { params } = group.settings;
  const random = params.roundRobin !== "cycle";
  const list = group.zones.flatMap((zone): Settings | [] => {
    const file = fileOf(zone);
    if (!file) {
      lost.push("a zone whose sample is gone");
      return [];
    }
    const settings: Settings = new Map([["sample", file.name]]);
    range(zone, settings);
    pitch(zone, layer, group, settings);
    level(zone, layer, group, instrument, settings);
    course(zone, file, settings, lost);
    const turn = turns.get(zone);
    if (turn && turn.count > 1) {
      if (random) {
        settings.set("lorand", digits((turn.position - 1) / turn.count));
        settings.set("hirand", digits(turn.position / turn.count));
        if (params.roundRobin === "noRepeats") settings.set("vise_repeats", "no_repeats");
      } else {
        settings.set("seq_length", String(turn.count));
        settings.set("seq_position", String(turn.position));
      }
    }
    if (n(params.probability) < 1) {
      if (settings.has("lorand")) lost.push(`the chance of ${group.name}`);
      else {
        settings.set("lorand", "0");
        settings.set("hirand", digits(n(params.probability)));
      }
    }
    if (zone.mic !== null) settings.set("vise_mic", zone.mic);
    for (const line of zone.kept.split("\n")) {
      const at = line.indexOf("=");
      if (at > 0 && !settings.has(line.slice(0, at))) settings.set(line.slice(0, at), line.slice(at + 1));
    }
    return settings;
  });
  return { list, lost };
}

function range(zone: Zone, settings: Settings): void {
  const { keyLow, keyHigh, velLow, velHigh } = zone;
  settings.set("lokey", String(keyLow));
  settings.set("hikey", String(keyHigh));
  if (velLow > 1 || velHigh < 127) {
    settings.set("lovel", String(velLow));
    settings.set("hivel", String(velHigh));
  }
  const fade = (name: string, low: number, high: number, fadeLow: number, fadeHigh: number): void => {
    if (fadeLow > 0) {
      settings.set(`xfin_lo${name}`, String(low));
      settings.set(`xfin_hi${name}`, String(low + fadeLow));
    }
    if (fadeHigh > 0) {
      settings.set(`xfout_lo${name}`, String(high - fadeHigh));
      settings.set(`xfout_hi${name}`, String(high));
    }
  };
  fade("key", keyLow, keyHigh, zone.keyFadeLow, zone.keyFadeHigh);
  fade("vel", velLow, velHigh, zone.velFadeLow, zone.velFadeHigh);
}

function pitch(zone: Zone, layer: Layer, group: Group, settings: Settings): void {
  settings.set("pitch_keycenter", String(zone.root));
  if (zone.track !== 1) settings.set("pitch_keytrack", digits(zone.track * 100));
  const { transpose = 0, fine = 0 } = layer.source.params;
  const cents = zone.tune + n(group.settings.params.tuning) + n(transpose) * 100 + n(fine);
  if (cents !== 0) settings.set("tune", digits(cents));
}

function level(zone: Zone, layer: Layer, group: Group, instrument: Instrument, settings: Settings): void {
  const mic = instrument.mics.find((m) => m.id === zone.mic)?.params;
  const gain = zone.gain + n(mic?.level ?? 0);
  if (gain !== 0) settings.set("volume", digits(gain));
  const pan = zone.pan + n(group.settings.params.pan) + n(layer.strip.params.pan) + n(mic?.pan ?? 0);
  if (pan !== 0) settings.set("pan", digits(Math.max(-1, Math.min(1, pan)) * 100));
}

function course(zone: Zone, { rate, frames }: ZoneFile, settings: Settings, lost: string[]): void {
  if (zone.start > 0) settings.set("offset", String(zone.start));
  if (zone.end < frames) settings.set("end", String(zone.end - 1));
  if (zone.reverse) settings.set("direction", "reverse");
  if (zone.releaseLoop) lost.push("a release loop");
  if (zone.loop?.flat) lost.push("that its loop is levelled out");
  if (zone.variants.length > 1) lost.push("the variants of its loop");
  const { loop } = zone;
  if (zone.oneShot && loop) lost.push("the loop of a zone that plays to its end");
  if (zone.oneShot || !loop) {
    settings.set("loop_mode", zone.oneShot ? "one_shot" : "no_loop");
    return;
  }
  settings.set("loop_mode", loop.until === "release" ? "loop_sustain" : "loop_continuous");
  settings.set("loop_start", String(loop.start));
  settings.set("loop_end", String(loop.end - 1));
  if (loop.mode !== "forward") settings.set("loop_type", loop.mode === "alternating" ? "alternate" : "backward");
  if (loop.fade > 0) settings.set("loop_crossfade", (loop.fade / rate).toFixed(9));
  if (loop.times > 0) settings.set("loop_count", String(loop.times));
  if (loop.law !== "match") settings.set("vise_loop_law", loop.law);
}
