import { KernelMemory } from "./kernel-memory";
import type { Kernels } from "./kernels/kernels";
import { Spectra, type Workbench } from "./spectra";

/** Frames of the first partitions, and of the direct part before them. */
export const SHORT = 128;
/** Frames of the later partitions; their work is spread over as many short blocks. */
export const LONG = 2048;
export const STEPS = LONG / SHORT;
/** Where the long partitions begin: two of their lengths, so that there is time for their work. */
export const TAIL = 2 * LONG;
export const SHORTS = TAIL / SHORT - 1;
/** Short partitions of a new impulse that are made ready in one block; of the long ones it is one. */
const READY = 4;

/** One channel of an impulse in partitions, with what has gone into it and what is still to come out. */
export class Lane {
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
    memory: KernelMemory,
    readonly channel: Float32Array,
    longCount: number,
  ) {
    this.head = memory.floats(SHORT);
    this.recent = memory.floats(2 * SHORT);
    this.straight = memory.floats(SHORT);
    this.shorts = new Spectra(memory, SHORTS, 2 * SHORT);
    this.past = new Spectra(memory, SHORTS, 2 * SHORT);
    this.sum = new Spectra(memory, 1, 2 * SHORT);
    this.longs = new Spectra(memory, longCount, 2 * LONG);
    this.longPast = new Spectra(memory, longCount, 2 * LONG);
    this.longSum = new Spectra(memory, 1, 2 * LONG);
  }
}

/** An impulse of two channels in a memory of its own, of whose partitions some are ready. */
export class ImpulseRoom {
  readonly kernels: Kernels;
  readonly f32: Float32Array;
  readonly lanes: readonly Lane[];
  readonly longCount: number;
  private ready = 0;

  constructor(kernels: Kernels, channels: readonly Float32Array[]) {
    const frames = channels[0]?.length ?? 0;
    const memory = new KernelMemory(kernels);
    this.kernels = kernels;
    this.longCount = Math.max(0, Math.ceil((frames - TAIL) / LONG));
    this.lanes = channels.map((c) => new Lane(memory, c, this.longCount));
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

  /** Forgets what has gone in; the impulse stays. */
  forget(): void {
    const { f32 } = this;
    for (let c = 0; c < this.lanes.length; c++) {
      const lane = this.lanes[c] as Lane;
      f32.fill(0, lane.recent / 4, lane.recent / 4 + 2 * SHORT);
      for (const spectra of [lane.past, lane.longPast, lane.sum, lane.longSum]) spectra.clear(f32);
      lane.coming.fill(0);
      lane.overlap.fill(0);
      lane.longInput.fill(0);
      lane.longWhole.fill(0);
      lane.tail.fill(0);
      lane.nextTail.fill(0);
      lane.longOverlap.fill(0);
    }
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
