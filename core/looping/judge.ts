import { type Audio, framesOf, type Hertz, hertzOf, type Note } from "../audio";
import { type Flattening, type Loop, newLoop } from "../instrument";
import { type Bars, beatFrames } from "./bars";
import { evened } from "./flatten";
import { alikeAt, type Joint, refineJoint } from "./joints";
import type { LoopCandidate, LoopKind, LoopParts, LoopWish } from "./loop-candidate";
import { Movement } from "./movement";
import { reasonOf } from "./reason";
import { type LoopRegion, levelTrack, regionOf, SILENT, STEP } from "./region";
import { scoreOf } from "./score";
import { measureSeam, OwnChange } from "./seam";
import { Spectra } from "./spectra";
import { pitchOf, type Taken, takenFor } from "./taken-for";

const LONGEST = 8;
/** Of a beat: whole bars are longer than notes. */
const LONGEST_BARS = 30;
/** Seconds of a sound in which loops are looked for: what comes after that is no part of a note. */
const LONGEST_LOOK = 180;
/** Seconds on either side of a loop that are looked at where it is judged by itself. */
const BESIDE = 0.3;
/** With a change below that a seam is as the rest of the sound. */
const UNHEARD = 1.15;
/** With a click below that nothing is left of a step, in decibels. */
const SMOOTH = 1;
/** Shares of a loop over which it may be crossfaded beside not at all and as little as mends a step, and the longest crossfade in seconds. */
const FADES = [0.1, 0.25, 0.5] as const;
const LONGEST_FADE = 0.5;
const TURN_FADES = [0.05, 0.25] as const;
/** Seconds of the crossfade that mends a step and takes nothing else. */
const MENDING = 0.004;

/** What is measured of a loop but its seam. */
type Measured = Omit<LoopParts, "change" | "click" | "swing">;

/** A sound, between which frames it is looked at, and where loops may lie in it. */
interface Judged {
  readonly channels: readonly Float32Array[];
  readonly rate: Hertz;
  readonly start: number;
  readonly end: number;
  readonly region: LoopRegion;
}

/** By what a sound was evened out, and how it moved before. */
interface Evened {
  readonly flat: Flattening;
  readonly life: readonly number[];
}

/** Judges loops of one sound; what it needs for that is measured once. */
export class LoopJudge {
  readonly channels: readonly Float32Array[];
  readonly rate: Hertz;
  readonly start: number;
  readonly end: number;
  readonly region: LoopRegion;
  readonly kind: LoopKind;
  readonly note: Note | null;
  readonly beat: Taken["beat"];
  readonly period: number | null;
  /** Lengths of a loop, and half of the stretch around a joint that is compared, in frames. */
  readonly shortest: number;
  readonly longest: number;
  readonly reach: number;
  private readonly spectra: Spectra;
  private readonly own: OwnChange;
  private readonly movement: Movement;
  /** By what its sound was evened out. */
  private readonly flat: Flattening | null;
  /** How the sound moves by itself, before anything was evened out. */
  private readonly life: readonly number[];

  private constructor(
    { channels, rate, start, end, region }: Judged,
    taken: Taken,
    private readonly wish: LoopWish,
    evened: Evened | null = null,
  ) {
    this.channels = channels;
    this.rate = rate;
    this.start = start;
    this.end = end;
    this.region = region;
    this.flat = evened?.flat ?? null;
    const { kind, note, beat } = taken;
    this.kind = kind;
    this.note = note;
    this.beat = beat;
    this.period = note === null || kind !== "tone" ? null : rate / hertzOf(note);
    const { period } = this;
    const usual = period === null ? 0.08 * rate : 2 * period;
    this.shortest = Math.round(Math.max((wish.shortest ?? 0) * rate, usual, 32));
    this.longest = Math.round((wish.longest ?? (kind === "beat" ? LONGEST_BARS : LONGEST)) * rate);
    this.reach = Math.round(period === null ? 0.02 * rate : Math.min(0.05 * rate, Math.max(2 * period, 0.006 * rate)));
    const { from, to } = region;
    this.spectra = new Spectra(channels, rate, from, to, Math.max(64, Math.round(rate * 0.02)));
    // In a beat it is usual that something begins.
    this.own = new OwnChange(channels, from, to, kind === "beat" ? 0.02 : 0.1);
    this.movement = new Movement(channels, rate, from, to);
    this.life = evened?.life ?? this.movement.own;
  }

  /** A judge of a sound, or why there can be no loop in it. With `flat` it is one of the sound evened out by that, as loud as where its attack is over. */
  static of(audio: Audio, wish: LoopWish = {}): LoopJudge | string {
    const { rate, channels } = audio;
    const start = Math.max(0, wish.start ?? 0);
    const end = Math.min(framesOf(audio), wish.end ?? framesOf(audio), start + Math.round(LONGEST_LOOK * rate));
    if (end - start < 64) return `it is ${end - start} frames long: too short for a loop`;
    const region = regionOf(channels, rate, start, end);
    if (!region) return "it is silent, or over as soon as its attack is";
    const taken = takenFor(audio, region, wish, start, end);
    return new LoopJudge({ channels, rate, start, end, region }, taken, wish);
  }

  /** A judge of one loop: what lies further from it isn't looked at. null where there is nothing to be heard. */
  static around(audio: Audio, loop: Loop, wish: LoopWish): LoopJudge | null {
    const { rate, channels } = audio;
    const beside = loop.fade + Math.round(BESIDE * rate);
    const from = Math.max(0, wish.start ?? 0, loop.start - beside);
    const to = Math.min(framesOf(audio), wish.end ?? framesOf(audio), loop.end + beside);
    if (to - from < 64) return null;
    const region = { from, to, levels: levelTrack(channels, rate, from, to) };
    if (!region.levels.some((level) => level > SILENT)) return null;
    const note = wish.note ?? pitchOf(audio, region);
    const kind = wish.kind ?? (wish.beat ? "beat" : note === null ? "texture" : "tone");
    const taken = { kind, note, beat: wish.beat ?? null };
    return new LoopJudge({ channels, rate, start: from, end: to, region }, taken, wish);
  }

  /** A judge of the same sound evened out by a curve, as far as `to`. */
  evened(flat: Flattening, to: number): LoopJudge {
    const { rate, start, end, kind, note, beat, region, wish, life } = this;
    const { channels } = evened({ rate, channels: [...this.channels] }, flat, region.from);
    const levels = levelTrack(channels, rate, start, end);
    const sound = { channels, rate, start, end, region: { ...region, to, levels } };
    return new LoopJudge(sound, { kind, note, beat }, wish, { flat, life });
  }

  /** Levels of the steps around a frame, in decibels. */
  private levelAt(frame: number): number {
    const { levels } = this.region;
    const at = Math.floor((frame - this.start) / Math.max(1, Math.round(this.rate * STEP)));
    let sum = 0;
    for (let i = at - 2; i <= at + 1; i++)
      sum += 10 ** ((levels[Math.min(levels.length - 1, Math.max(0, i))] as number) / 10);
    return 10 * Math.log10(sum / 4 + 1e-14);
  }

  /** How far the level moves from the start to the end of a stretch. */
  private pulseOf(from: number, to: number): number {
    let low = Number.POSITIVE_INFINITY;
    let high = Number.NEGATIVE_INFINITY;
    const steps = Math.max(2, Math.min(400, Math.round((to - from) / (this.rate * 0.02))));
    for (let i = 0; i <= steps; i++) {
      const level = this.levelAt(from + ((to - from) * i) / steps);
      low = Math.min(low, level);
      high = Math.max(high, level);
    }
    return high - low;
  }

  /** By how much the sound moves less between two frames than it does in all. */
  private lostBetween(start: number, end: number): number {
    const here = this.movement.between(start, end);
    return Math.max(0, ...this.life.map((own, i) => own - (here[i] as number)));
  }

  /** What is measured of a loop but its seam. */
  private measure(start: number, end: number, alike: number): Measured {
    return {
      lost: this.lostBetween(start, end),
      life: this.life[0] as number,
      alike,
      level: this.levelAt(end) - this.levelAt(start),
      colour: this.spectra.distance(start, end),
      pulse: this.pulseOf(start, end),
      periods: this.period === null ? null : (end - start) / this.period,
      bars:
        this.kind === "beat" && this.beat ? (end - start) / (beatFrames(this.beat, this.rate) * this.beat.bar) : null,
    };
  }

  private scoreOf(parts: LoopParts, frames: number): number {
    return scoreOf(parts, this.kind, frames / this.rate, this.wish.prefer);
  }

  /** The score that a joint promises before its seam is heard: as much is changed there as its sides are unlike, where it is crossfaded. */
  promise({ start, end, alike }: Joint): number {
    const seam = { change: 1 + 0.8 * (1 - Math.max(0, alike)), click: 0, swing: 0 };
    const parts = { ...this.measure(start, end, alike), ...seam };
    return this.scoreOf(parts, end - start);
  }

  /** A joint with its start moved a little, to where both sides are most alike; it stays inside the region and long enough. */
  fit(joint: Pick<Joint, "start" | "end">): Joint {
    const { channels, rate, region, period, reach, shortest } = this;
    const by = Math.round(Math.max(period ?? 0, rate * 0.002));
    const near = { ...joint, alike: 0 };
    return refineJoint(channels, near, by, reach, region.from + 1, joint.end - shortest);
  }

  /** A loop at a joint with the crossfade that is heard least. `start` and `end` lie inside the region. */
  judge({ start, end }: Pick<Joint, "start" | "end">): LoopCandidate {
    const alike = alikeAt(this.channels, start, end, this.reach);
    const measured = this.measure(start, end, alike);
    const room = start - this.region.from;
    return this.best(
      { start, end, mode: "forward" },
      measured,
      alike >= 0.5 ? "gain" : "power",
      this.fadesOf(end - start),
      room,
      1,
    );
  }

  /** A loop that goes there and back between two places at which the sound may turn. */
  judgeTurns(start: number, end: number, alike: number): LoopCandidate {
    // Where it turns both sides are the same, whatever lies elsewhere: neither level nor colour can step.
    const measured = { ...this.measure(start, end, alike), level: 0, colour: 0 };
    const room = Math.min(start - this.region.from, this.region.to - end);
    const fades = [0, MENDING * this.rate, ...TURN_FADES.map((share) => share * (end - start))];
    return this.best({ start, end, mode: "alternating" }, measured, "gain", fades, room, BACKWARD);
  }

  /** A loop of whole bars: what follows it sounds as its beginning does, as far as there is anything. */
  judgeBars(whole: Bars): LoopCandidate {
    const { start, end } = whole;
    const { rate, region } = this;
    const again = Math.min(end - start, region.to - end);
    const alike = again > 0.1 * rate ? this.courseAlike(start, end, again) : 1;
    const measured = { ...this.measure(start, end, alike), level: 0, colour: 0 };
    const room = Math.min(start - this.start, Math.round(0.004 * rate));
    return this.best({ start, end, mode: "forward" }, measured, "power", [0, end - start], room, 1);
  }

  /** How alike the courses of the level are behind two places. */
  private courseAlike(a: number, b: number, length: number): number {
    const step = Math.max(1, Math.round(this.rate * STEP));
    const course = (at: number) =>
      Float32Array.from({ length: Math.floor(length / step) }, (_, i) => this.levelAt(at + (i + 0.5) * step));
    const [x, y] = [course(a), course(b)];
    const mean = (values: Float32Array) => values.reduce((s, v) => s + v, 0) / values.length;
    const [mx, my] = [mean(x), mean(y)];
    let [xy, xx, yy] = [0, 0, 0];
    for (let i = 0; i < x.length; i++) {
      const [p, q] = [(x[i] as number) - mx, (y[i] as number) - my];
      xy += p * q;
      xx += p * p;
      yy += q * q;
    }
    return xx > 0 && yy > 0 ? xy / Math.sqrt(xx * yy) : 1;
  }

  /** A loop as it is, with its own direction and crossfade. */
  judgeAs(loop: Loop): LoopCandidate {
    const { start, end, mode, law } = loop;
    const alike = alikeAt(this.channels, start, end, this.reach);
    const measured = this.measure(start, end, alike);
    const parts = mode === "alternating" ? { ...measured, level: 0, colour: 0 } : measured;
    const whole: LoopParts = { ...parts, ...this.seamOf({ ...loop, flat: null }) };
    const score = this.scoreOf(whole, end - start) * (mode === "forward" ? 1 : BACKWARD);
    return this.candidate({ start, end, mode, crossfade: loop.fade, law, flat: loop.flat }, whole, score);
  }

  private seamOf(loop: Loop): Pick<LoopParts, "change" | "click" | "swing"> {
    const { change, click, swing } = measureSeam(this.channels, loop, this.own);
    return { change, click, swing };
  }

  /** Crossfades that are tried for a loop of so many frames, shortest first. */
  private fadesOf(frames: number): readonly number[] {
    const mending = MENDING * this.rate;
    return [0, ...(mending < frames / 4 ? [mending] : []), ...FADES.map((share) => share * frames)];
  }

  /** The loop with that of some crossfades (in frames) which is heard least. */
  private best(
    place: Pick<Loop, "start" | "end" | "mode">,
    measured: Measured,
    law: "gain" | "power",
    fades: readonly number[],
    room: number,
    worth: number,
  ): LoopCandidate {
    const { rate } = this;
    const { start, end } = place;
    let best: { loop: Loop; parts: LoopParts; score: number } | null = null;
    for (const wanted of fades) {
      const fade = Math.min(Math.round(wanted), room, Math.round(LONGEST_FADE * rate));
      if (wanted > 0 && fade < 16) continue;
      const loop = newLoop({ ...place, fade: Math.max(0, fade), law });
      const parts: LoopParts = { ...measured, ...this.seamOf(loop) };
      // Of crossfades that sound the same the shorter one leaves more of the sound as it is.
      const score = worth * this.scoreOf(parts, end - start) - (2 * loop.fade) / (end - start);
      if (!best || score > best.score) best = { loop, parts, score };
      // Nobody hears a seam like that: longer crossfades would only take from the sound.
      if (parts.change <= UNHEARD && parts.click <= SMOOTH && parts.swing <= SMOOTH) break;
    }
    const { loop, parts, score } = best as NonNullable<typeof best>;
    const { flat } = this;
    return this.candidate({ ...place, crossfade: loop.fade, law, flat }, parts, score * (flat ? EVENED : 1));
  }

  private candidate(
    loop: Omit<LoopCandidate, "score" | "parts" | "reason">,
    parts: LoopParts,
    score: number,
  ): LoopCandidate {
    const made = { ...loop, score: Math.round(Math.max(0, Math.min(100, score))), parts };
    return { ...made, reason: reasonOf(made, this.rate, this.period) };
  }
}

/** What a loop is worth that somebody made, whatever it is; null where nothing can be said. */
export function judgeLoop(audio: Audio, loop: Loop, wish: LoopWish = {}): LoopCandidate | null {
  const judge = LoopJudge.around(audio, loop, wish);
  if (!judge) return null;
  return (loop.flat ? judge.evened(loop.flat, judge.region.to) : judge).judgeAs(loop);
}

/** Of equally good loops one that never goes backward is better, and one whose sound is as it was recorded. */
const BACKWARD = 0.94;
const EVENED = 0.97;
