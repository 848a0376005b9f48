import { type Audio, framesOf } from "../audio";
import { type Cut, ImpulseRoom, MOST_STRETCH, SHORT, TAIL } from "./impulse-room";
import type { Kernels } from "./kernels/kernels";

/** Longest impulse and longest pre-delay in seconds. */
const MOST_SECONDS = 12;
const MOST_DELAY = 0.5;
/** In which one room gives way to another: what comes in goes over to the new one in a fifth of it, what still rings in the old one dies away in the whole. */
const CROSS_SECONDS = 0.25;
const INPUT_SHARE = 0.2;

/**
 * A recorded room: its impulse, or a part of that, convolved with what comes in. Another impulse, or another part, is made ready a little in each block, and
 * then takes over from the one before. Splitting a block anywhere gives the same bits. Nothing is allocated but in `load`.
 */
export class Convolver {
  /** The room that is heard, the one that it is fading out of, and the one that is being made ready. */
  private room: ImpulseRoom | null = null;
  private leaving: ImpulseRoom | null = null;
  private next: ImpulseRoom | null = null;
  /** Both rooms of the impulse that was loaded last: while one is heard, the other can become another part of it. */
  private rooms: readonly ImpulseRoom[] = [];
  private length = 0;
  private readonly cut: Cut = { start: 0, frames: 0, rise: 0, fade: 0, reversed: false, stretch: 1 };
  /** What was asked for: where it begins and how much of it is heard (seconds of the impulse; 0: all), over which shares of that it comes in and fades. */
  private start = 0;
  private kept = 0;
  private rise = 0;
  private fade = 0;
  private reversed = false;
  private stretch = 1;
  /** Whether the next impulse is to be there at once. */
  private hurried = false;
  /** Whether the room is to be none at all. */
  private going = false;
  /** How far the change from one room to the other is, 0 to 1, and its step per frame. */
  private changed = 1;
  private readonly changeStep: number;
  private at = 0;
  private readonly lines: readonly [Float32Array, Float32Array];
  private readonly levels = new Float64Array(SHORT);
  private readonly changes = new Float64Array(SHORT);
  private readonly wet = new Float32Array(SHORT);
  private lineAt = 0;
  private delay = 0;
  dry = 1;
  private mix = 0;
  private level = 0;
  private tuned = false;

  constructor(
    private readonly rate: number,
    private readonly kernels: Kernels,
  ) {
    const frames = Math.ceil(rate * MOST_DELAY) + 2;
    this.lines = [new Float32Array(frames), new Float32Array(frames)];
    this.changeStep = 1 / Math.round(CROSS_SECONDS * rate);
  }

  /** Takes an impulse of one or two channels at the engine's rate; null for none. It is made ready a little in each block, and then sounds in place of the one before. */
  load(impulse: Audio | null): void {
    this.next = null;
    this.rooms = [];
    this.going = !impulse || framesOf(impulse) === 0;
    if (!impulse || this.going) {
      this.length = 0;
      return;
    }
    const most = Math.round(this.rate * MOST_SECONDS);
    const [left = new Float32Array(0), right = left] = impulse.channels.map((c) => c.subarray(0, most));
    this.length = left.length;
    const frames = Math.min(most, Math.ceil(left.length * MOST_STRETCH));
    this.rooms = [0, 1].map(() => new ImpulseRoom(this.kernels, [left, right], frames));
    this.measure();
    this.begin();
  }

  /**
   * Says which part of the impulse is to be heard, and how: from where on, how much of it (seconds; 0: all), over which share of that it fades (0 to 1), over
   * which it comes in, whether backwards, and how many times as slow (0.25 to 2): as tape does, with its pitch.
   */
  trim(start: number, kept: number, fade: number, rise = 0, reversed = false, stretch = 1): void {
    this.start = start;
    this.kept = kept;
    this.fade = fade;
    this.rise = rise;
    this.reversed = reversed;
    this.stretch = Math.min(MOST_STRETCH, Math.max(0.25, stretch));
    this.measure();
  }

  private measure(): void {
    const { cut, rate } = this;
    const start = Math.min(Math.max(0, this.length - SHORT), Math.round(this.start * rate));
    const left = this.length - start;
    const kept = this.kept > 0 ? Math.min(left, Math.max(1, Math.round(this.kept * rate))) : left;
    cut.start = start;
    cut.frames = Math.min(Math.round(rate * MOST_SECONDS), Math.max(1, Math.round(kept * this.stretch)));
    cut.rise = Math.round(this.rise * cut.frames);
    cut.fade = Math.round(this.fade * cut.frames);
    cut.reversed = this.reversed;
    cut.stretch = this.stretch;
  }

  /** Begins to make the wanted part ready, if it isn't heard already and there is a room for it. */
  private begin(): void {
    if (this.next || this.length === 0 || (this.rooms.includes(this.room as ImpulseRoom) && this.room?.is(this.cut)))
      return;
    const free = this.rooms.find((r) => r !== this.room && r !== this.leaving);
    if (!free) return;
    free.aim(this.cut);
    this.next = free;
  }

  /** Frames for which nothing may be heard of it although it is not over: its impulse may be silent in between. */
  get ring(): number {
    return this.delay + Math.max(this.room?.frames ?? 0, this.leaving?.frames ?? 0) + TAIL;
  }

  /** Makes a little of a new impulse ready while nothing is heard; whether all is. */
  prepare(): boolean {
    this.change(true);
    return this.next === null && !this.going;
  }

  /** Lets the impulse that was loaded be there at once, however long that takes, as before anything is heard. */
  settle(): void {
    this.hurried = true;
  }

  /** Sets the amount, 0 to 1, and the pre-delay in seconds. */
  tune(mix: number, delay: number): void {
    if (!this.tuned) this.level = mix;
    this.tuned = true;
    this.mix = mix;
    this.delay = Math.min(this.lines[0].length - 2, Math.round(delay * this.rate));
  }

  /** Adds the room to the frames `[from, to)` of a stereo block. */
  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { lines, levels, changes } = this;
    for (let i = from; i < to; ) {
      if (this.at === 0) this.change(false);
      const run = Math.min(to - i, SHORT - this.at);
      for (let k = 0; k < run; k++) {
        this.level += 0.002 * (this.mix - this.level);
        levels[k] = this.level;
        this.changed = Math.min(1, this.changed + this.changeStep);
        changes[k] = this.changed;
      }
      this.channel(0, lines[0], left, i, run);
      this.channel(1, lines[1], right, i, run);
      this.lineAt = (this.lineAt + run) % lines[0].length;
      this.at += run;
      i += run;
      if (this.at < SHORT) continue;
      this.at = 0;
      this.room?.endBlock();
      this.leaving?.endBlock();
    }
  }

  /** A run of frames of one channel that doesn't go past the end of a block. */
  private channel(channel: number, line: Float32Array, out: Float32Array, from: number, run: number): void {
    const { at, lineAt, delay, levels, changes, room, leaving, dry, wet } = this;
    const size = line.length;
    for (let k = 0, l = lineAt; k < run; k++) {
      line[l] = out[from + k] as number;
      if (++l === size) l = 0;
    }
    if (dry !== 1) for (let k = 0; k < run; k++) out[from + k] = dry * (out[from + k] as number);
    if (!room && !leaving) return;
    const read = (lineAt - delay + size) % size;
    // What goes in is shared out between both rooms while one takes over from the other.
    const whole = (changes[0] as number) === 1;
    if (room) {
      room.take(channel, at, line, read, run, whole ? null : changes, 0, 1 / INPUT_SHARE);
      room.give(channel, at, run, wet);
      for (let k = 0; k < run; k++)
        out[from + k] = (out[from + k] as number) + (levels[k] as number) * (wet[k] as number);
    }
    if (!leaving) return;
    leaving.take(channel, at, line, read, run, changes, 1, -1 / INPUT_SHARE);
    leaving.give(channel, at, run, wet);
    for (let k = 0; k < run; k++) {
      const level = (levels[k] as number) * (1 - (changes[k] as number));
      out[from + k] = (out[from + k] as number) + level * (wet[k] as number);
    }
  }

  reset(): void {
    for (const line of this.lines) line.fill(0);
    this.room?.forget();
    this.leaving = null;
    if (this.going) this.room = null;
    this.going = false;
    this.changed = 1;
    this.at = 0;
    this.level = this.mix;
  }

  /** At the beginning of a block: lets the room go that has faded out, makes a new one ready, and changes to it once it is. `silent`: nothing is heard meanwhile. */
  private change(silent: boolean): void {
    if (silent || this.changed >= 1) this.leaving = null;
    if (this.leaving) return;
    if (this.going) this.enter(null, silent);
    this.going = false;
    // What is heard for the first time is what it is set to by now.
    if (!this.next) this.begin();
    else if (!this.room && !this.next.is(this.cut)) this.next.aim(this.cut);
    if (!this.next) return;
    while (!this.next.prepare()) if (!this.hurried) return;
    this.enter(this.next, silent || this.hurried);
    this.next = null;
    this.hurried = false;
  }

  private enter(room: ImpulseRoom | null, silent: boolean): void {
    this.leaving = silent ? null : this.room;
    this.room = room;
    this.changed = silent ? 1 : 0;
  }
}
