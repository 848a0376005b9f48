import { plural } from "../params";
import { withoutDead } from "./dead-references";
import type { Edit } from "./edit";
import type { Beat, Instrument, Loop, Sample, Zone } from "./instrument";
import { loopMirrored } from "./loop-edits";
import { listZones, mapZones, settleZone } from "./zone-edits";

/**
 * Where the frames of one sample lie in another: frame `f` at `f × scale + shift`, where it isn't mirrored; a mirrored one is read from the other's last
 * frame: `frames − (f × scale + shift)`. `sure`: both were made of the same sound; else places are only kept by time.
 */
export interface FrameMap {
  readonly scale: number;
  readonly shift: number;
  readonly mirrored: boolean;
  readonly sure: boolean;
}

const SAME: FrameMap = { scale: 1, shift: 0, mirrored: false, sure: true };

/** How the frames of a sample lie in what takes its place: by where both were cut of one slice, by their lengths, else by time alone. */
export function frameMapOf(from: Sample, to: Sample): FrameMap {
  if (from.sha === to.sha) return SAME;
  const [old, now] = [from.from, to.from];
  if (old && now && old.take === now.take && old.slice === now.slice && old.cut && now.cut) {
    const [a, b] = [old.cut, now.cut];
    // From a frame to its place in the take, and from there into the new one; a mirrored sound is counted from its end.
    const scale = b.ratio / a.ratio;
    const begin = a.reversed ? a.end : a.start;
    const shift = a.reversed ? b.ratio * (b.end - begin) : b.ratio * (begin - b.start);
    // Both read one way, or the other: then the place is counted from the end of either.
    if (a.reversed && b.reversed) return { scale, shift, mirrored: false, sure: true };
    if (!a.reversed && !b.reversed) return { scale, shift, mirrored: false, sure: true };
    const mirror = a.reversed ? b.ratio * (b.end - a.end) : b.ratio * (a.start - b.start);
    return { scale, shift: mirror, mirrored: true, sure: true };
  }
  const scale = to.rate / from.rate;
  const asLong = Math.abs(from.frames * scale - to.frames) <= Math.max(2, scale);
  return { scale, shift: 0, mirrored: false, sure: asLong };
}

const placed = (map: FrameMap, frames: number, frame: number): number => {
  const at = frame * map.scale + map.shift;
  return Math.round(map.mirrored ? frames - at : at);
};

/** A loop at its places in another sample; null where these aren't in it. */
function followLoop(loop: Loop, map: FrameMap, to: Sample): Loop | null {
  const ends = [placed(map, to.frames, loop.start), placed(map, to.frames, loop.end)];
  const [start = 0, end = 0] = ends.sort((a, b) => a - b);
  if (start < 0 || end > to.frames || end - start < 2) return null;
  const length = to.frames;
  // The mirror is taken of the loop as it lies in a sound of the new length that isn't mirrored yet.
  const unmirrored = map.mirrored ? { start: length - end, end: length - start } : { start, end };
  const flat = loop.flat && {
    ...loop.flat,
    from: Math.round(loop.flat.from * map.scale + map.shift),
    step: Math.max(1, Math.round(loop.flat.step * map.scale)),
  };
  const moved: Loop = { ...loop, ...unmirrored, fade: Math.round(loop.fade * map.scale), flat };
  return map.mirrored ? loopMirrored(moved, length) : moved;
}

/** Cents by which a sound is off its note; a pitch that was heard in another octave tells them too, any other says nothing of this note. */
export function tuneOf(note: number, pitch: number | null): number {
  if (pitch === null) return 0;
  const off = note - pitch;
  const inOctave = off - 12 * Math.round(off / 12);
  return Math.abs(inOctave) <= 1 ? Math.round(inOctave * 1000) / 10 : 0;
}

/** Root and tuning for the pitch that the new sample has, where they were those of the old one's; what somebody set otherwise stays. */
function followPitch(zone: Zone, from: Sample, to: Sample): Pick<Zone, "root" | "tune"> {
  const { root, tune } = zone;
  if (from.pitch === null || to.pitch === null || from.pitch === to.pitch) return { root, tune };
  if (Math.abs(tune - tuneOf(root, from.pitch)) > 0.11) return { root, tune };
  const next = root === Math.round(from.pitch) ? Math.min(127, Math.max(0, Math.round(to.pitch))) : root;
  return { root: next, tune: tuneOf(next, to.pitch) };
}

/** A zone that plays another sample in place of its own, with what was built on it at its places. */
export function followZone(zone: Zone, from: Sample, to: Sample): Zone {
  const map = frameMapOf(from, to);
  const [first, last] = map.mirrored ? [zone.end, zone.start] : [zone.start, zone.end];
  const within = (frame: number) => Math.min(to.frames, Math.max(0, frame));
  // What was played from the first or to the last frame is so again.
  const fromStart = map.mirrored ? zone.end >= from.frames : zone.start === 0;
  const toEnd = map.mirrored ? zone.start === 0 : zone.end >= from.frames;
  const loops = zone.variants.map((loop) => followLoop(loop, map, to));
  const variants = loops.flatMap((loop) => loop ?? []);
  const moved: Zone = {
    ...zone,
    ...followPitch(zone, from, to),
    sample: to.sha,
    start: fromStart ? 0 : within(placed(map, to.frames, first)),
    end: toEnd ? to.frames : within(placed(map, to.frames, last)),
    loop: zone.loop && followLoop(zone.loop, map, to),
    releaseLoop: zone.releaseLoop && followLoop(zone.releaseLoop, map, to),
    variants,
    variant: Math.max(0, zone.variant - loops.slice(0, zone.variant).filter((loop) => loop === null).length),
  };
  return settleZone(moved, to.frames);
}

/** What can't go along, or may not fit, where samples take the place of others; by zones. */
export interface FollowLoss {
  /** Loops (release loops and variants among them) that lie outside the new sound and are gone. */
  readonly loops: number;
  /** Zones of another sound: their loops and ends stand at the same times, and may not fit. */
  readonly unsure: number;
}

const countLoops = (zone: Zone): number =>
  (zone.loop ? 1 : 0) + (zone.releaseLoop ? 1 : 0) + zone.variants.filter((_, n) => n !== zone.variant).length;

/** What of the zones of a document doesn't go along where samples, by the content of the old ones, take the place of others. */
export function followLoss(doc: Instrument, pairs: ReadonlyMap<string, Sample>): FollowLoss {
  const samples = new Map(doc.samples.map((s) => [s.sha, s]));
  let [loops, unsure] = [0, 0];
  for (const zone of listZones(doc)) {
    const [from, to] = [samples.get(zone.sample ?? ""), pairs.get(zone.sample ?? "")];
    if (!from || !to) continue;
    const next = followZone(zone, from, to);
    loops += Math.max(0, countLoops(zone) - countLoops(next));
    if (!frameMapOf(from, to).sure && countLoops(next) > 0) unsure++;
  }
  return { loops, unsure };
}

/** What doesn't go along, as a sentence; empty where all does. */
export function followLossText({ loops, unsure }: FollowLoss): string {
  const parts = [
    loops > 0
      ? `${plural(loops, "loop lies", "loops lie")} outside the new sound and ${loops === 1 ? "is" : "are"} gone`
      : "",
    unsure > 0
      ? `the loops of ${plural(unsure, "zone")} stand where they stood in another sound: look at their seams`
      : "",
  ].filter((p) => p !== "");
  const text = parts.join("; ");
  return text === "" ? "" : `${text[0]?.toUpperCase()}${text.slice(1)}.`;
}

/** The beat of a sample at its place in another. */
function followBeat(beat: Beat | null, from: Sample, to: Sample): Beat | null {
  if (!beat) return null;
  const map = frameMapOf(from, to);
  if (!map.sure || map.mirrored) return null;
  const seconds = map.scale * (from.rate / to.rate);
  return { ...beat, tempo: beat.tempo / seconds, downbeat: Math.max(0, placed(map, to.frames, beat.downbeat)) };
}

/** The new sample with what somebody had said of the old one: what it is for, its beat, and its name where `keepName`. */
const inheriting = (from: Sample, to: Sample, keepName: boolean): Sample => ({
  ...to,
  use: from.use,
  beat: to.beat ?? followBeat(from.beat, from, to),
  strength: to.strength ?? from.strength,
  repeat: to.repeat ?? from.repeat,
  name: keepName ? from.name : to.name,
});

/** A value with some texts in it replaced by others; the very same where none is in it. */
function renamed<T>(value: T, names: ReadonlyMap<string, string>): T {
  if (typeof value === "string") return (names.get(value) ?? value) as T;
  if (typeof value !== "object" || value === null) return value;
  if (Array.isArray(value)) {
    const next = value.map((each) => renamed(each, names));
    return next.every((each, i) => each === value[i]) ? value : (next as T);
  }
  let changed = false;
  const next: Record<string, unknown> = {};
  for (const [key, each] of Object.entries(value)) {
    next[key] = renamed(each, names);
    changed ||= next[key] !== each;
  }
  return changed ? (next as T) : value;
}

/**
 * Puts samples in the place of others, by the content of the old ones, as after a new cut: zones play the new ones, with their starts, ends, loops,
 * level curves and tuning at their places (`followZone`), and whatever else names one — sources, grains, wavetables, rooms, drawn waves — names the new
 * one. `keepNames`: the new ones are called as the old ones were.
 */
export const replaceSamples = (pairs: ReadonlyMap<string, Sample>, keepNames = false): Edit => ({
  name: `Update ${plural(pairs.size, "sample")}`,
  apply: (doc) => {
    const old = new Map(doc.samples.map((s) => [s.sha, s]));
    const fresh = new Map<string, Sample>();
    for (const [sha, to] of pairs) {
      const from = old.get(sha);
      if (!fresh.has(to.sha)) fresh.set(to.sha, from ? inheriting(from, to, keepNames) : to);
    }
    const kept = doc.samples.filter((s) => !pairs.has(s.sha) && !fresh.has(s.sha));
    const zoned = mapZones(doc, (zone) => {
      const [from, to] = [old.get(zone.sample ?? ""), pairs.get(zone.sample ?? "")];
      return from && to ? followZone(zone, from, to) : zone;
    });
    const names = new Map([...pairs].map(([sha, to]) => [sha, to.sha]));
    const { layers, sends, effects, face } = zoned;
    return withoutDead({
      ...zoned,
      samples: [...kept, ...fresh.values()],
      layers: renamed(layers, names),
      sends: renamed(sends, names),
      effects: renamed(effects, names),
      face: renamed(face, names),
    });
  },
});
