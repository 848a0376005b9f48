import type { Seconds } from "../audio";
import { bent } from "./bend";

/** Times in seconds, levels 0 to 1, bends −1 to 1 (see `bent`). */
export interface Segments {
  delay: Seconds;
  attack: Seconds;
  attackBend: number;
  hold: Seconds;
  decay: Seconds;
  decayBend: number;
  sustain: number;
  release: Seconds;
  releaseBend: number;
}

export const SEGMENT = { done: 0, delay: 1, attack: 2, hold: 3, decay: 4, sustain: 5, release: 6 } as const;

/**
 * Envelopes of many voices: delay, attack, hold, decay, sustain, release, advanced by whole stretches of time. Their times may
 * change at any moment: each goes on from its place in the segment. Nothing is allocated after construction.
 */
export class EnvelopeBank {
  readonly stage: Uint8Array;
  readonly level: Float64Array;
  /** Where within the last stretch (seconds from its beginning) the course turned, and the level there; −1 where it did not. */
  readonly cornerAt: Float64Array;
  readonly cornerLevel: Float64Array;
  /** Set when one has come to its end; whoever looks sets it back. */
  ended = false;
  private readonly place: Float64Array;
  private readonly from: Float64Array;

  constructor(size: number) {
    this.stage = new Uint8Array(size);
    this.level = new Float64Array(size);
    this.cornerAt = new Float64Array(size).fill(-1);
    this.cornerLevel = new Float64Array(size);
    this.place = new Float64Array(size);
    this.from = new Float64Array(size);
  }

  start(v: number): void {
    this.level[v] = 0;
    this.enter(v, SEGMENT.delay);
  }

  /** Lets go `back` seconds before the time to which it was advanced last, and returns to that moment. */
  release(v: number, back: Seconds, t: Segments): void {
    const stage = this.stage[v] as number;
    if (stage === SEGMENT.done || stage === SEGMENT.release) return;
    if (back > 0 && stage !== SEGMENT.sustain) {
      const duration = durationOf(stage, t);
      const place = (this.place[v] as number) - (duration > 0 ? back / duration : 1);
      this.level[v] = place > 0 ? this.levelAt(v, stage, place, t) : (this.from[v] as number);
    }
    this.enter(v, SEGMENT.release);
  }

  reset(v: number): void {
    this.level[v] = 0;
    this.stage[v] = SEGMENT.done;
    this.cornerAt[v] = -1;
  }

  /** Lets a voice stand where another does. */
  copy(from: number, to: number): void {
    this.stage[to] = this.stage[from] as number;
    this.level[to] = this.level[from] as number;
    this.place[to] = this.place[from] as number;
    this.from[to] = this.from[from] as number;
    this.cornerAt[to] = -1;
  }

  /** Whether it has stood at the sustain level for a whole stretch, so that advancing it would change nothing. */
  rests(v: number, t: Segments): boolean {
    return this.stage[v] === SEGMENT.sustain && this.level[v] === t.sustain && (this.cornerAt[v] as number) < 0;
  }

  /** Advances one voice by a stretch of time and returns the level at its end. */
  advance(v: number, time: Seconds, t: Segments): number {
    let left = time;
    this.cornerAt[v] = -1;
    for (;;) {
      const stage = this.stage[v] as number;
      if (stage === SEGMENT.done) return 0;
      if (stage === SEGMENT.sustain) {
        this.level[v] = t.sustain;
        return t.sustain;
      }
      const duration = durationOf(stage, t);
      const rest = (1 - (this.place[v] as number)) * duration;
      if (left < rest) {
        const place = (this.place[v] as number) + left / duration;
        this.place[v] = place;
        const level = this.levelAt(v, stage, place, t);
        this.level[v] = level;
        return level;
      }
      left -= rest;
      this.level[v] = targetOf(stage, this.from[v] as number, t);
      const at = time - left;
      // The top of the attack is the corner that is heard; else the first.
      const known = this.cornerAt[v] as number;
      if (at > 0 && at < time && (known < 0 || (stage === SEGMENT.attack && at > known))) {
        this.cornerAt[v] = at;
        this.cornerLevel[v] = this.level[v] as number;
      }
      if (stage === SEGMENT.release) {
        this.level[v] = 0;
        this.stage[v] = SEGMENT.done;
        this.ended = true;
        return 0;
      }
      this.enter(v, stage + 1);
    }
  }

  private enter(v: number, stage: number): void {
    this.stage[v] = stage;
    this.place[v] = 0;
    this.from[v] = this.level[v] as number;
  }

  private levelAt(v: number, stage: number, place: number, t: Segments): number {
    const from = this.from[v] as number;
    const bend =
      stage === SEGMENT.attack
        ? t.attackBend
        : stage === SEGMENT.decay
          ? t.decayBend
          : stage === SEGMENT.release
            ? t.releaseBend
            : 0;
    return from + (targetOf(stage, from, t) - from) * bent(place, bend);
  }
}

function durationOf(stage: number, t: Segments): Seconds {
  switch (stage) {
    case SEGMENT.delay:
      return t.delay;
    case SEGMENT.attack:
      return t.attack;
    case SEGMENT.hold:
      return t.hold;
    case SEGMENT.decay:
      return t.decay;
    default:
      return t.release;
  }
}

function targetOf(stage: number, from: number, t: Segments): number {
  switch (stage) {
    case SEGMENT.delay:
      return from;
    case SEGMENT.attack:
    case SEGMENT.hold:
      return 1;
    case SEGMENT.decay:
      return t.sustain;
    default:
      return 0;
  }
}
