import { newLoop, newZone, type Sample, settleZone, type Zone } from "../../instrument";
import { decibelsOfPercent } from "./gate";
import type { RegionReader } from "./region-reader";

const LOOP_MODES = ["no_loop", "one_shot", "loop_continuous", "loop_sustain"] as const;
/** What a zone's tuning may be at the most, in cents. */
const MOST_TUNE = 1200;

/** Ends of a range with the keys or strengths over which it fades: in SFZ a fade begins at silence, as here. */
function fadedRange(
  low: number,
  high: number,
  fadeIn: { low: number | null; high: number | null },
  fadeOut: { low: number | null; high: number | null },
): { low: number; high: number; fadeLow: number; fadeHigh: number } {
  const from = Math.max(low, fadeIn.low ?? low);
  const to = Math.min(high, fadeOut.high ?? high);
  return {
    low: from,
    high: Math.max(from, to),
    fadeLow: fadeIn.high === null ? 0 : Math.max(0, fadeIn.high - from),
    fadeHigh: fadeOut.low === null ? 0 : Math.max(0, to - fadeOut.low),
  };
}

/** The loop of a region: as it says, else as its sample's file does. */
function loopOf(reader: RegionReader, sample: Sample, mode: (typeof LOOP_MODES)[number]): Zone["loop"] {
  if (mode === "no_loop" || mode === "one_shot") {
    reader.pass("loop_crossfade");
    return null;
  }
  const start = reader.number("loop_start", 0, 2 ** 31) ?? sample.file?.loop?.start ?? 0;
  const last = reader.number("loop_end", 0, 2 ** 31) ?? (sample.file?.loop?.end ?? sample.frames) - 1;
  if (last <= start) return null;
  const way = reader.word("loop_type", ["forward", "backward", "alternate"]) ?? "forward";
  return newLoop({
    start: Math.round(start),
    end: Math.round(last) + 1,
    mode: way === "alternate" ? "alternating" : way,
    fade: Math.round((reader.number("loop_crossfade", 0, 60) ?? 0) * sample.rate),
    law: reader.word("vise_loop_law", ["match", "gain", "power"]) ?? "match",
    times: Math.round(reader.number("loop_count", 0, 1000) ?? 0),
    until: mode === "loop_sustain" ? "release" : "end",
  });
}

/** Level of a region in decibels, all its settings together. */
function gainOfRegion(reader: RegionReader): number {
  let gain = 0;
  for (const name of ["volume", "global_volume", "master_volume", "group_volume"])
    gain += reader.number(name, -144, 144) ?? 0;
  const amplitude = reader.number("amplitude", 0, 10000);
  if (amplitude !== null) gain += decibelsOfPercent(amplitude);
  const center = reader.key("amp_keycenter") ?? 60;
  gain += (60 - center) * (reader.number("amp_keytrack", -96, 96) ?? 0);
  return Math.max(-96, Math.min(48, gain));
}

/** The root and the tuning of a region; what is beyond an octave is taken by the root. */
function pitchOf(reader: RegionReader, sample: Sample | null): { root: number; tune: number } {
  let root = reader.key("pitch_keycenter") ?? 60;
  let cents = 0;
  const own = reader.region.opcodes.get("pitch_keycenter")?.value.toLowerCase() === "sample";
  if (own && sample?.file?.root !== null && sample?.file?.root !== undefined) {
    reader.pass("pitch_keycenter");
    root = Math.round(sample.file.root);
    cents = (root - sample.file.root) * 100;
  }
  const tune = (reader.number("tune", -9600, 9600) ?? 0) + (reader.number("transpose", -127, 127) ?? 0) * 100 + cents;
  if (Math.abs(tune) <= MOST_TUNE) return { root: Math.max(0, root), tune };
  const moved = Math.max(0, Math.min(127, root - Math.trunc(tune / 100)));
  return { root: moved, tune: Math.max(-MOST_TUNE, Math.min(MOST_TUNE, tune - (root - moved) * 100)) };
}

/** The zone of a region, or why it can't sound. `sample` is null where its sound is computed. */
export function zoneOf(reader: RegionReader, id: string, sample: Sample | null, repeat: number): Zone | string {
  const lowKey = reader.key("lokey") ?? 0;
  const highKey = reader.key("hikey") ?? 127;
  if (highKey < 0 || lowKey > highKey || lowKey < 0) return "it answers no key";
  const lowVel = Math.max(1, Math.round(reader.number("lovel", 0, 127) ?? 1));
  const highVel = Math.round(reader.number("hivel", 0, 127) ?? 127);
  if (lowVel > highVel) return "it answers no velocity";
  const last = reader.number("end", -1, 2 ** 31);
  if (last === -1) return "it is switched off by end=-1";
  const keys = fadedRange(
    lowKey,
    highKey,
    { low: reader.key("xfin_lokey"), high: reader.key("xfin_hikey") },
    { low: reader.key("xfout_lokey"), high: reader.key("xfout_hikey") },
  );
  const velocity = (name: string): number | null => {
    const value = reader.number(name, 0, 127);
    return value === null ? null : Math.max(1, Math.round(value));
  };
  const vels = fadedRange(
    lowVel,
    highVel,
    { low: velocity("xfin_lovel"), high: velocity("xfin_hivel") },
    { low: velocity("xfout_lovel"), high: velocity("xfout_hivel") },
  );
  for (const name of ["xf_keycurve", "xf_velcurve"])
    if (reader.word(name, ["power", "gain"]) === "gain") reader.giveBack(name);
  const mode = reader.word("loop_mode", LOOP_MODES) ?? (sample?.file?.loop ? "loop_continuous" : "no_loop");
  const center = reader.key("pan_keycenter") ?? 60;
  const pan = (reader.number("pan", -100, 100) ?? 0) + (60 - center) * (reader.number("pan_keytrack", -100, 100) ?? 0);
  const track = reader.number("pitch_keytrack", -1200, 1200);
  const zone = newZone({
    id,
    sample: sample?.sha ?? null,
    end: sample ? (last === null ? sample.frames : Math.min(sample.frames, Math.round(last) + 1)) : 1,
    start: Math.round(reader.number("offset", 0, 2 ** 31) ?? 0),
    keyLow: keys.low,
    keyHigh: keys.high,
    keyFadeLow: keys.fadeLow,
    keyFadeHigh: keys.fadeHigh,
    velLow: vels.low,
    velHigh: vels.high,
    velFadeLow: vels.fadeLow,
    velFadeHigh: vels.fadeHigh,
    ...pitchOf(reader, sample),
    track: track === null ? 1 : Math.max(-2, Math.min(2, track / 100)),
    gain: gainOfRegion(reader),
    pan: Math.max(-1, Math.min(1, pan / 100)),
    reverse: reader.word("direction", ["forward", "reverse"]) === "reverse",
    oneShot: mode === "one_shot",
    loop: sample ? loopOf(reader, sample, mode) : null,
    repeat,
  });
  return settleZone(zone, sample?.frames ?? 1);
}
