import { PitchFinder, SURE } from "../analysis";
import { type Audio, framesOf, type Hertz, hertzOf, monoOf, type Note } from "../audio";
import { type Loop, newLoop } from "../instrument";
import { alikeAt, type Joint, refineJoint } from "./joints";
import type { LoopCandidate, LoopKind, LoopParts, LoopWish } from "./loop-candidate";
import { reasonOf } from "./reason";
import { type LoopRegion, regionOf, STEP } from "./region";
import { measureSeam, OwnChange } from "./seam";
import { Spectra } from "./spectra";

const LONGEST = 8;
/** Seconds of a sound in which loops are looked for: what comes after that is no part of a note. */
const LONGEST_LOOK = 180;
/** With a change below that a seam is as the rest of the sound. */
const UNHEARD = 1.15;
/** Shares of a loop over which it may be crossfaded, and the longest crossfade in seconds. */
const FADES = [0, 0.1, 0.25, 0.5] as const;
const LONGEST_FADE = 0.5;

/** The pitch of what lies behind the attack; null where none is sure. */
function pitchOf(audio: Audio, { from, to }: LoopRegion): Note | null {
  const { rate } = audio;
  const found = new PitchFinder(rate, 32, Math.min(4200, rate / 5)).find(monoOf(audio), from, to);
  return found.note !== null && found.confidence >= SURE ? found.note : null;
}

/** Judges loops of one sound; what it needs for that is measured once. */
export class LoopJudge {
  readonly kind: LoopKind;
  readonly period: number | null;
  /** Lengths of a loop, and half of the stretch around a joint that is compared, in frames. */
  readonly shortest: number;
  readonly longest: number;
  readonly reach: number;
  private readonly spectra: Spectra;
  private readonly own: OwnChange;

  private constructor(
    readonly channels: readonly Float32Array[],
    readonly rate: Hertz,
    private readonly start: number,
    readonly region: LoopRegion,
    readonly note: Note | null,
    wish: LoopWish,
  ) {
    this.period = note === null ? null : rate / hertzOf(note);
    this.kind = note === null ? "texture" : "tone";
    const { period } = this;
    const usual = period === null ? 0.08 * rate : 2 * period;
    this.shortest = Math.round(Math.max((wish.shortest ?? 0) * rate, usual, 32));
    this.longest = Math.round((wish.longest ?? LONGEST) * rate);
    this.reach = Math.round(period === null ? 0.02 * rate : Math.min(0.05 * rate, Math.max(2 * period, 0.006 * rate)));
    const { from, to } = region;
    this.spectra = new Spectra(channels, rate, from, to, Math.max(64, Math.round(rate * 0.02)));
    this.own = new OwnChange(channels, from, to);
  }

  /** A judge of a sound, or why there can be no loop in it. */
  static of(audio: Audio, wish: LoopWish = {}): LoopJudge | string {
    const { rate, channels } = audio;
    const start = Math.max(0, wish.start ?? 0);
    const end = Math.min(framesOf(audio), wish.end ?? framesOf(audio), start + Math.round(LONGEST_LOOK * rate));
    if (end - start < 64) return `it is ${end - start} frames long: too short for a loop`;
    const region = regionOf(channels, rate, start, end);
    if (!region) return "it is silent, or over as soon as its attack is";
    return new LoopJudge(channels, rate, start, region, wish.note ?? pitchOf(audio, region), wish);
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

  /** What is measured of a loop but its seam. */
  private measure(start: number, end: number, alike: number): Omit<LoopParts, "change"> {
    return {
      alike,
      level: this.levelAt(end) - this.levelAt(start),
      colour: this.spectra.distance(start, end),
      pulse: this.pulseOf(start, end),
      periods: this.period === null ? null : (end - start) / this.period,
    };
  }

  /** The score that a joint promises before its seam is heard: as much is changed there as its sides are unlike, where it is crossfaded. */
  promise({ start, end, alike }: Joint): number {
    const parts = { ...this.measure(start, end, alike), change: 1 + 0.8 * (1 - Math.max(0, alike)) };
    return scoreOf(parts, this.kind, (end - start) / this.rate);
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
    const { channels, rate, region, period } = this;
    const alike = alikeAt(channels, start, end, this.reach);
    const measured = this.measure(start, end, alike);
    const law = alike >= 0.5 ? "gain" : "power";
    let best: { loop: Loop; parts: LoopParts; score: number } | null = null;
    for (const share of FADES) {
      const fade = Math.min(Math.round(share * (end - start)), start - region.from, Math.round(LONGEST_FADE * rate));
      if (share > 0 && fade < 16) continue;
      const loop = newLoop({ start, end, fade: Math.max(0, fade), law });
      const { change } = measureSeam(channels, loop, this.own);
      const parts: LoopParts = { ...measured, change };
      // Of crossfades that sound the same the shorter one leaves more of the sound as it is.
      const score = scoreOf(parts, this.kind, (end - start) / rate) - share * 2;
      if (!best || score > best.score) best = { loop, parts, score };
      // Nobody hears a seam like that: longer crossfades would only take from the sound.
      if (change <= UNHEARD) break;
    }
    const { loop, parts, score } = best as NonNullable<typeof best>;
    const made = {
      ...{ start, end, mode: "forward" as const, crossfade: loop.fade, law: law as "gain" | "power" },
      score: Math.round(Math.max(0, Math.min(100, score))),
      parts,
    };
    return { ...made, reason: reasonOf(made, rate, period) };
  }
}

const share = (x: number): number => Math.max(0.01, Math.min(1, x));

/** A score from 0 to 100: the geometric mean of what was measured, so that what is worst counts most. */
function scoreOf(parts: LoopParts, kind: LoopKind, seconds: number): number {
  // Noise is never alike: there it counts that nothing happens at the seam.
  const alike = kind === "texture" && parts.change < 1.5 ? Math.max(parts.alike, 0.8) : parts.alike;
  const logs =
    0.34 * Math.log(share(1.6 - 0.5 * parts.change)) +
    0.2 * Math.log(share(alike)) +
    0.14 * Math.log(share(1 - Math.abs(parts.level) / 9)) +
    0.12 * Math.log(share(1 - parts.colour / 14)) +
    0.14 * Math.log(share(1 - parts.pulse / 14)) +
    // A loop of a few periods is without a seam and without life.
    0.22 * Math.log(share(0.25 + 0.24 * Math.log2(1 + 8 * seconds)));
  return 100 * Math.exp(logs);
}
