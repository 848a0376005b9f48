import { type Decibels, decibelsOf, type Hertz, type Seconds } from "../audio";
import { HANDS_FREE, type HandsFree } from "./hands-free";

/** What the follower is doing: getting to know the room, ignoring a cue, waiting for a sound, hearing it, or standing still. */
export type FollowState = "room" | "cue" | "waiting" | "sounding" | "judging" | "paused";

/** A sound that came in while an entry was waited for: where it lies in the recording, in frames, and its samples. */
export interface Captured {
  readonly start: number;
  readonly end: number;
  readonly onset: number;
  readonly samples: Float32Array;
}

interface FollowerOptions extends Partial<Pick<HandsFree, "threshold" | "quiet" | "longest">> {
  readonly rate: Hertz;
}

const STEP = 0.01;
/** How long the room is listened to at first. */
const ROOM = 0.6;
const PRE_ROLL = 0.02;
/** How far a level must rise within so long over what still rings, so that it is another sound. */
const RISE: Decibels = 9;
const RISE_TIME: Seconds = 0.08;

/**
 * Follows a recording as it comes in and cuts it into the sounds that were asked for: learns the level of the room, waits until
 * a sound rises out of it, and hears it out. It says nothing of whose sound it is; `listen` begins anew after each.
 */
export class ShotFollower {
  state: FollowState = "room";
  /** Level of the room in dBFS (peaks of 10 ms); null until it is known. */
  floor: Decibels | null = null;
  /** Level of the last step. */
  level: Decibels = -120;
  /** Frames that came in. */
  frames = 0;
  private readonly step: number;
  private readonly threshold: Decibels;
  private readonly quietSteps: number;
  private readonly mostFrames: number;
  private pending = new Float32Array(0);
  private room: number[] = [];
  private onset = 0;
  private quiet = 0;
  private cueLeft = 0;
  /** The last levels while it waits: of what still rings, too, until that is over. */
  private levels: number[] = [];
  private ringing = false;
  private recent: Float32Array[] = [];
  private sound: Float32Array[] = [];

  constructor({
    rate,
    threshold = HANDS_FREE.threshold,
    quiet = HANDS_FREE.quiet,
    longest = HANDS_FREE.longest,
  }: FollowerOptions) {
    this.step = Math.max(1, Math.round(rate * STEP));
    this.threshold = threshold;
    this.quietSteps = Math.round(quiet / STEP);
    this.mostFrames = longest * rate;
  }

  /** Waits for the next sound; `cue` is how many seconds are ignored first, while a tone or a count-in sounds. */
  listen(cue: Seconds = 0): void {
    if (this.floor === null) {
      this.cueLeft = Math.round(cue / STEP);
      return;
    }
    this.cueLeft = Math.round(cue / STEP);
    this.state = this.cueLeft > 0 ? "cue" : "waiting";
    this.recent = [];
    this.levels = [];
    // What rings on from before isn't the sound that is waited for.
    this.ringing = this.level >= this.floor + this.threshold;
  }

  pause(): void {
    if (this.floor !== null) this.state = "paused";
  }

  /** Takes the next stretch of one channel; gives the sound that ended in it, if one did. */
  take(chunk: Float32Array): Captured | null {
    let captured: Captured | null = null;
    const all = new Float32Array(this.pending.length + chunk.length);
    all.set(this.pending);
    all.set(chunk, this.pending.length);
    let at = 0;
    for (; at + this.step <= all.length; at += this.step) {
      const found = this.oneStep(all.slice(at, at + this.step));
      if (found) captured = found;
    }
    this.pending = all.slice(at);
    return captured;
  }

  private oneStep(samples: Float32Array): Captured | null {
    let high = 0;
    for (const x of samples) if (Math.abs(x) > high) high = Math.abs(x);
    this.level = Math.max(-120, decibelsOf(high));
    const began = this.frames;
    this.frames += samples.length;
    switch (this.state) {
      case "room":
        this.room.push(this.level);
        if (this.room.length * STEP >= ROOM) {
          const sorted = [...this.room].sort((a, b) => a - b);
          this.floor = sorted[Math.floor(sorted.length / 2)] ?? -120;
          this.state = this.cueLeft > 0 ? "cue" : "waiting";
        }
        return null;
      case "cue":
        if (--this.cueLeft <= 0) this.state = "waiting";
        return null;
      case "waiting":
        return this.wait(samples, began);
      case "sounding":
        return this.hear(samples);
      default:
        return null;
    }
  }

  private wait(samples: Float32Array, began: number): null {
    const floor = this.floor ?? -120;
    const loud = this.level >= floor + this.threshold;
    // Clearly below it, so that what hovers about the threshold isn't taken for two.
    if (this.level < floor + this.threshold / 2) this.ringing = false;
    const rises = this.level >= Math.min(Number.POSITIVE_INFINITY, ...this.levels) + RISE;
    this.levels.push(this.level);
    if (this.levels.length > RISE_TIME / STEP) this.levels.shift();
    if (loud && this.ringing && !rises) return this.wander(samples);
    if (loud) {
      this.state = "sounding";
      this.quiet = 0;
      this.onset = began;
      this.sound = [...this.recent, samples];
      return null;
    }
    // The room may change slowly; what stays below the threshold is the room.
    this.floor = floor + (this.level - floor) * 0.01;
    return this.wander(samples);
  }

  /** Keeps what comes just before a sound. */
  private wander(samples: Float32Array): null {
    this.recent.push(samples);
    if (this.recent.length > PRE_ROLL / STEP) this.recent.shift();
    return null;
  }

  private hear(samples: Float32Array): Captured | null {
    this.sound.push(samples);
    const floor = this.floor ?? -120;
    this.quiet = this.level < floor + Math.min(6, this.threshold / 2) ? this.quiet + 1 : 0;
    const length = this.frames - this.onset;
    if (this.quiet < this.quietSteps && length < this.mostFrames) return null;
    const joined = new Float32Array(this.sound.reduce((sum, s) => sum + s.length, 0));
    let at = 0;
    for (const part of this.sound) {
      joined.set(part, at);
      at += part.length;
    }
    this.sound = [];
    this.state = "judging";
    const end = this.frames - Math.max(0, this.quiet - 3) * this.step;
    const start = Math.max(0, this.frames - joined.length);
    return { start, end: Math.max(end, this.onset + this.step), onset: this.onset, samples: joined };
  }
}
