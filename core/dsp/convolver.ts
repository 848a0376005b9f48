import { type Audio, Fft, framesOf } from "../audio";
import type { Kernels } from "./kernels/kernels";

/** Frames of the first partitions, and of the direct part before them. */
const SHORT = 128;
/** Frames of the later partitions; their work is spread over as many short blocks. */
const LONG = 2048;
const STEPS = LONG / SHORT;
/** Where the long partitions begin: two of their lengths, so that there is time for their work. */
const TAIL = 2 * LONG;
const SHORTS = TAIL / SHORT - 1;
/** Longest impulse in seconds. */
const MOST_SECONDS = 12;
const MOST_DELAY = 0.5;
/** Short partitions of a new impulse that are made ready in one block; of the long ones it is one. */
const READY = 4;

/** Hands out places in the memory of some kernels, one after another. */
class Ground {
  private top = 64;
  constructor(readonly kernels: Kernels) {}

  /** The address of so many floats, at a multiple of 16 bytes. */
  floats(count: number): number {
    const at = this.top;
    this.top = (at + count * 4 + 15) & ~15;
    const { memory } = this.kernels;
    const missing = this.top - memory.buffer.byteLength;
    if (missing > 0) memory.grow(Math.ceil(missing / 65536));
    return at;
  }
}

/**
 * Spectra of real sounds of one size, one after another: real and imaginary parts apart, and only the half up to the middle, for
 * the other mirrors it; a few silent bins fill up the last vector.
 */
class Spectra {
  readonly stride: number;
  private readonly re: number;
  private readonly im: number;
  constructor(ground: Ground, count: number, size: number) {
    this.stride = (size / 2 + 4) & ~3;
    this.re = ground.floats(count * this.stride);
    this.im = ground.floats(count * this.stride);
  }

  /** Addresses of the parts of one spectrum. */
  reAt(index: number): number {
    return this.re + index * this.stride * 4;
  }
  imAt(index: number): number {
    return this.im + index * this.stride * 4;
  }

  put(f32: Float32Array, index: number, re: Float64Array, im: Float64Array): void {
    const [r, i] = [this.reAt(index) / 4, this.imAt(index) / 4];
    for (let k = 0; k <= re.length / 2; k++) {
      f32[r + k] = re[k] as number;
      f32[i + k] = im[k] as number;
    }
  }

  /** Puts one spectrum into the first half of two longer arrays. */
  get(f32: Float32Array, index: number, re: Float64Array, im: Float64Array): void {
    const [r, i] = [this.reAt(index) / 4, this.imAt(index) / 4];
    for (let k = 0; k <= re.length / 2; k++) {
      re[k] = f32[r + k] as number;
      im[k] = f32[i + k] as number;
    }
  }
}

/** A transform with room to work in. */
class Workbench {
  readonly fft: Fft;
  readonly re: Float64Array;
  readonly im: Float64Array;
  constructor(readonly size: number) {
    this.fft = new Fft(size);
    this.re = new Float64Array(size);
    this.im = new Float64Array(size);
  }

  /** The spectrum of `count` values from `at`, the rest silent. */
  forward(values: Float32Array | Float64Array, at: number, count: number): void {
    const { re, im } = this;
    re.fill(0);
    im.fill(0);
    for (let i = 0; i < count; i++) re[i] = values[at + i] as number;
    this.fft.forward(re, im);
  }

  /** The real sound of the half spectrum that stands in `re` and `im`, by a forward transform of its conjugate; left in `re`. */
  inverse(): void {
    const { re, im, size } = this;
    const half = size / 2;
    im[0] = 0;
    im[half] = 0;
    for (let k = 1; k < half; k++) {
      re[size - k] = re[k] as number;
      im[size - k] = im[k] as number;
      im[k] = -(im[k] as number);
    }
    this.fft.forward(re, im);
    const scale = 1 / size;
    for (let k = 0; k < size; k++) re[k] = (re[k] as number) * scale;
  }
}

/** One channel of an impulse in partitions, with what has gone into it and what is still to come out. */
class Lane {
  /** Addresses: the reversed first taps, this block and the one before it, and what the taps give. */
  readonly head: number;
  readonly recent: number;
  readonly straight: number;
  readonly shorts: Spectra;
  readonly longs: Spectra;
  readonly past: Spectra;
  readonly longPast: Spectra;
  readonly sum: Spectra;
  readonly longSum: Spectra;
  /** What the partitions give in this block, and the overlap into the next. */
  readonly coming = new Float64Array(SHORT);
  readonly overlap = new Float64Array(SHORT);
  readonly longInput = new Float64Array(LONG);
  readonly longWhole = new Float64Array(LONG);
  readonly tail = new Float64Array(LONG);
  readonly nextTail = new Float64Array(LONG);
  readonly longOverlap = new Float64Array(LONG);

  constructor(
    ground: Ground,
    readonly channel: Float32Array,
    longCount: number,
  ) {
    this.head = ground.floats(SHORT);
    this.recent = ground.floats(2 * SHORT);
    this.straight = ground.floats(SHORT);
    this.shorts = new Spectra(ground, SHORTS, 2 * SHORT);
    this.past = new Spectra(ground, SHORTS, 2 * SHORT);
    this.sum = new Spectra(ground, 1, 2 * SHORT);
    this.longs = new Spectra(ground, longCount, 2 * LONG);
    this.longPast = new Spectra(ground, longCount, 2 * LONG);
    this.longSum = new Spectra(ground, 1, 2 * LONG);
  }
}

/** An impulse of two channels in a memory of its own, of whose partitions some are ready. */
class Room {
  readonly kernels: Kernels;
  readonly f32: Float32Array;
  readonly lanes: readonly Lane[];
  readonly longCount: number;
  private ready = 0;

  constructor(kernels: Kernels, channels: readonly Float32Array[]) {
    const frames = channels[0]?.length ?? 0;
    const ground = new Ground(kernels);
    this.kernels = kernels;
    this.longCount = Math.max(0, Math.ceil((frames - TAIL) / LONG));
    this.lanes = channels.map((c) => new Lane(ground, c, this.longCount));
    // The memory grows no more from here on.
    this.f32 = new Float32Array(kernels.memory.buffer);
    for (const { head, channel } of this.lanes)
      for (let i = 0; i < SHORT; i++) this.f32[head / 4 + i] = channel[SHORT - 1 - i] ?? 0;
  }

  /** Transforms a few more partitions; true once all are there. */
  prepare(short: Workbench, long: Workbench): boolean {
    for (let n = 0; n < READY && this.ready < SHORTS + this.longCount; n++) {
      const late = this.ready - SHORTS;
      const at = late < 0 ? (this.ready + 1) * SHORT : TAIL + late * LONG;
      const bench = late < 0 ? short : long;
      for (let c = 0; c < this.lanes.length; c++) {
        const { channel, shorts, longs } = this.lanes[c] as Lane;
        bench.forward(channel, at, Math.max(0, Math.min(bench.size / 2, channel.length - at)));
        if (late < 0) shorts.put(this.f32, this.ready, bench.re, bench.im);
        else longs.put(this.f32, late, bench.re, bench.im);
      }
      this.ready++;
      if (late >= 0) break;
    }
    return this.ready >= SHORTS + this.longCount;
  }

  /** Adds the product of two spectra to a sum. */
  addProduct(sum: Spectra, x: Spectra, i: number, h: Spectra, j: number): void {
    this.kernels.multiplyAdd(sum.reAt(0), sum.imAt(0), x.reAt(i), x.imAt(i), h.reAt(j), h.imAt(j), sum.stride);
  }

  clear(sum: Spectra): void {
    this.f32.fill(0, sum.reAt(0) / 4, sum.reAt(0) / 4 + sum.stride);
    this.f32.fill(0, sum.imAt(0) / 4, sum.imAt(0) / 4 + sum.stride);
  }
}

/** Wet sound below −80 dB can be left out without a step. */
const INAUDIBLE = 1e-4;

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
  private room: Room | null = null;
  private next: Room | null = null;
  private at = 0;
  private step = 0;
  private shortTurn = 0;
  private longTurn = 0;
  private readonly lines: readonly Float32Array[];
  private readonly levels = new Float64Array(SHORT);
  private lineAt = 0;
  private delay = 0;
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
    this.next = new Room(this.kernels.twin(bytesFor(left.length)), [left, right]);
  }

  /** Lets the wet sound die away, as when the room is taken away; `quiet` says when it has. */
  fade(): void {
    this.mix = 0;
  }
  get quiet(): boolean {
    return this.level < INAUDIBLE;
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
    const { at, lineAt, delay, levels, room } = this;
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
      out[from + k] = (out[from + k] as number) + (levels[k] as number) * y;
    }
  }

  reset(): void {
    for (const line of this.lines) line.fill(0);
    const { room } = this;
    if (room)
      this.next = new Room(
        room.kernels.twin(bytesFor(room.lanes[0]?.channel.length ?? 0)),
        room.lanes.map((l) => l.channel),
      );
    this.settle();
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
  private block(room: Room): void {
    this.shortTurn = (this.shortTurn + 1) % SHORTS;
    for (let c = 0; c < 2; c++) {
      const lane = room.lanes[c] as Lane;
      if (room.longCount > 0) this.longPart(room, lane, c);
      this.shortPart(room, lane);
    }
    this.step = (this.step + 1) % STEPS;
    if (this.step === 0 && room.longCount > 0) this.longTurn = (this.longTurn + 1) % room.longCount;
  }

  private shortPart(room: Room, lane: Lane): void {
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
  private longPart(room: Room, lane: Lane, channel: number): void {
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
