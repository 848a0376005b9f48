import { type Audio, framesOf } from "../audio";
import { ImpulseRoom, type Lane, LONG, SHORT, SHORTS, STEPS, TAIL } from "./impulse-room";
import type { Kernels } from "./kernels/kernels";
import { Workbench } from "./spectra";

/** Longest impulse and longest pre-delay in seconds. */
const MOST_SECONDS = 12;
const MOST_DELAY = 0.5;

/** Bytes of memory that a room of so many frames may take: 16 for each frame and channel, and as much again for what is rounded up. */
const bytesFor = (frames: number): number => 4 * 2 ** 20 + frames * 2 * 32;

/**
 * A recorded room by convolution without delay: the first 128 frames directly, then partitions of 128 and of 2048 frames by
 * Fourier transforms (W. G. Gardner, "Efficient convolution without input-output delay", 1995), the work of the long ones spread
 * over the blocks between. Splitting a block anywhere gives the same bits. Nothing is allocated but in `load`.
 */
export class Convolver {
  private readonly short = new Workbench(2 * SHORT);
  private readonly long = new Workbench(2 * LONG);
  private room: ImpulseRoom | null = null;
  private next: ImpulseRoom | null = null;
  private at = 0;
  private step = 0;
  private shortTurn = 0;
  private longTurn = 0;
  private readonly lines: readonly Float32Array[];
  private readonly levels = new Float64Array(SHORT);
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
    this.lines = [0, 1].map(() => new Float32Array(Math.ceil(rate * MOST_DELAY) + 2));
  }

  /** Takes an impulse of one or two channels at the engine's rate; null for none. It is made ready a little in each block, and then sounds in place of the one before. */
  load(impulse: Audio | null): void {
    this.next = null;
    if (!impulse || framesOf(impulse) === 0) {
      this.room = null;
      for (const line of this.lines) line.fill(0);
      return;
    }
    const most = Math.round(this.rate * MOST_SECONDS);
    const [left = new Float32Array(0), right = left] = impulse.channels.map((c) => c.subarray(0, most));
    this.next = new ImpulseRoom(this.kernels.twin(bytesFor(left.length)), [left, right]);
  }

  /** Frames for which nothing may be heard of it although it is not over: its impulse may be silent in between. */
  get ring(): number {
    return this.delay + (this.room?.lanes[0]?.channel.length ?? 0) + TAIL;
  }

  /** Makes a little of a new impulse ready while nothing is heard; whether all is. */
  prepare(): boolean {
    if (this.next) this.change();
    return this.next === null;
  }

  /** Makes all of a new impulse ready at once, where nobody waits. */
  settle(): void {
    while (this.next && !this.next.prepare(this.short, this.long));
  }

  /** Sets the amount, 0 to 1, and the pre-delay in seconds. */
  tune(mix: number, delay: number): void {
    if (!this.tuned) this.level = mix;
    this.tuned = true;
    this.mix = mix;
    this.delay = Math.min((this.lines[0] as Float32Array).length - 2, Math.round(delay * this.rate));
  }

  /** Adds the room to the frames `[from, to)` of a stereo block. */
  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    for (let i = from; i < to; ) {
      if (this.at === 0 && this.next) this.change();
      const run = Math.min(to - i, SHORT - this.at);
      const { room } = this;
      for (let k = 0; k < run; k++) {
        this.level += 0.002 * (this.mix - this.level);
        this.levels[k] = this.level;
      }
      this.channel(room?.lanes[0] ?? null, this.lines[0] as Float32Array, left, i, run);
      this.channel(room?.lanes[1] ?? null, this.lines[1] as Float32Array, right, i, run);
      this.lineAt = (this.lineAt + run) % (this.lines[0] as Float32Array).length;
      this.at += run;
      i += run;
      if (this.at < SHORT) continue;
      this.at = 0;
      if (room) this.block(room);
    }
  }

  /** A run of frames of one channel that doesn't go past the end of a block. */
  private channel(lane: Lane | null, line: Float32Array, out: Float32Array, from: number, run: number): void {
    const { at, lineAt, delay, levels, room, dry } = this;
    const size = line.length;
    for (let k = 0; k < run; k++) line[(lineAt + k) % size] = out[from + k] as number;
    if (!lane || !room) return;
    const { f32, kernels } = room;
    const { coming } = lane;
    const recent = lane.recent / 4 + SHORT + at;
    const straight = lane.straight / 4;
    for (let k = 0; k < run; k++) f32[recent + k] = line[(lineAt + k - delay + size) % size] as number;
    kernels.direct(lane.straight, lane.head, lane.recent + (at + 1) * 4, run);
    for (let k = 0; k < run; k++) {
      const y = (coming[at + k] as number) + (f32[straight + k] as number);
      out[from + k] = dry * (out[from + k] as number) + (levels[k] as number) * y;
    }
  }

  reset(): void {
    for (const line of this.lines) line.fill(0);
    this.room?.forget();
    this.step = 0;
    this.shortTurn = 0;
    this.longTurn = 0;
    this.at = 0;
    this.level = this.mix;
  }

  /** At the beginning of a block: makes a new impulse ready, and changes to it once it is. */
  private change(): void {
    if (!this.next?.prepare(this.short, this.long)) return;
    this.room = this.next;
    this.next = null;
    this.step = 0;
    this.shortTurn = 0;
    this.longTurn = 0;
  }

  /** At the end of a block: what it and those before it give to the next. */
  private block(room: ImpulseRoom): void {
    this.shortTurn = (this.shortTurn + 1) % SHORTS;
    for (let c = 0; c < 2; c++) {
      const lane = room.lanes[c] as Lane;
      if (room.longCount > 0) this.longPart(room, lane, c);
      this.shortPart(room, lane);
    }
    this.step = (this.step + 1) % STEPS;
    if (this.step === 0 && room.longCount > 0) this.longTurn = (this.longTurn + 1) % room.longCount;
  }

  private shortPart(room: ImpulseRoom, lane: Lane): void {
    const { short, shortTurn } = this;
    const { f32 } = room;
    const { past, shorts, sum, coming, overlap, tail } = lane;
    const recent = lane.recent / 4;
    short.forward(f32, recent + SHORT, SHORT);
    past.put(f32, shortTurn, short.re, short.im);
    f32.copyWithin(recent, recent + SHORT, recent + 2 * SHORT);
    room.clear(sum);
    for (let p = 0; p < SHORTS; p++) room.addProduct(sum, past, (shortTurn - p + SHORTS) % SHORTS, shorts, p);
    sum.get(f32, 0, short.re, short.im);
    short.inverse();
    const from = ((this.step + 1) % STEPS) * SHORT;
    const { re } = short;
    for (let i = 0; i < SHORT; i++) {
      coming[i] = (re[i] as number) + (overlap[i] as number) + (tail[from + i] as number);
      overlap[i] = re[SHORT + i] as number;
    }
  }

  /** One step of the long partitions' work: the transform of the long block before, its products little by little, the way back. */
  private longPart(room: ImpulseRoom, lane: Lane, channel: number): void {
    const { step, long, longTurn } = this;
    const { f32, longCount: count } = room;
    const { longInput, longWhole, longPast, longs, longSum, nextTail, longOverlap } = lane;
    const recent = lane.recent / 4 + SHORT;
    for (let i = 0; i < SHORT; i++) longInput[step * SHORT + i] = f32[recent + i] as number;
    if (step === channel) {
      long.forward(longWhole, 0, LONG);
      longPast.put(f32, longTurn, long.re, long.im);
      room.clear(longSum);
    }
    if (step >= 2 && step < 14) {
      const to = Math.floor(((step - 1) * count) / 12);
      for (let q = Math.floor(((step - 2) * count) / 12); q < to; q++)
        room.addProduct(longSum, longPast, (longTurn - q + count) % count, longs, q);
    }
    if (step === 14 + channel) {
      longSum.get(f32, 0, long.re, long.im);
      long.inverse();
      for (let i = 0; i < LONG; i++) {
        nextTail[i] = (long.re[i] as number) + (longOverlap[i] as number);
        longOverlap[i] = long.re[LONG + i] as number;
      }
    }
    if (step === STEPS - 1) {
      lane.tail.set(nextTail);
      longWhole.set(longInput);
    }
  }
}
