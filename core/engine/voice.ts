import {
  Adsr,
  BUS,
  GAIN,
  IDLE,
  MAX_STAGES,
  PAIR_BYTES,
  PLAYING,
  POSITION,
  RATE,
  SPAN,
  STAGE_0,
  STAGE_BYTES,
  STAGE_M0,
  STAGE_S1,
  STAGE_S2,
  STATE,
  VOICE_A,
  VOICE_B,
} from "../dsp";
import type { Zone } from "../instrument";
import type { Heap } from "./heap";
import type { Path } from "./sample-store";

export const MOST_LFOS = 8;

/** A zone of the plan with where it stands and how it is read; `path` is null while its sample isn't there. */
export interface ZoneRef {
  readonly zone: Zone;
  readonly index: number;
  readonly layer: number;
  readonly group: number;
  path: Path | null;
}

/** One sounding zone: its state on the TypeScript side, and the addresses of its record in the kernels' memory. */
export class Voice {
  readonly record: number;
  /** Address of the first of its two lanes within the pair's vectors. */
  readonly lane: number;
  readonly pair: number;
  readonly env = new Adsr();
  readonly phases = new Float64Array(MOST_LFOS);
  active = false;
  ref: ZoneRef | null = null;
  layer = 0;
  serial = 0;
  key = 0;
  velocity = 0;
  random = 0;
  released = false;
  sustained = false;
  age = 0;
  born = 0;
  /** Frames of the fade that ends it, and how many are left; 0 while it isn't given up. */
  fadeFrames = 0;
  fadeLeft = 0;
  rate = 0;
  /** What the ramps were last computed from, so that a steady voice costs next to nothing; NaN asks for a fresh start. */
  semitones = Number.NaN;
  pitchFactor = 1;
  decibels = Number.NaN;
  level = 0;
  pan = Number.NaN;
  panLeft = 1;
  panRight = 1;
  rateMoves = true;
  readonly cutoffs = new Float64Array(MAX_STAGES).fill(Number.NaN);
  readonly resonances = new Float64Array(MAX_STAGES);
  readonly modes = new Int8Array(MAX_STAGES);
  readonly stageMoves = new Uint8Array(MAX_STAGES);
  gainLeft = 0;
  gainRight = 0;

  constructor(
    readonly index: number,
    pairs: number,
  ) {
    this.pair = pairs + (index >> 1) * PAIR_BYTES;
    this.record = this.pair + (index & 1 ? VOICE_B : VOICE_A);
    this.lane = this.pair + (index & 1) * 8;
  }

  begin(heap: Heap, start: number, path: Path, bus: number): void {
    const { u32, i32 } = heap;
    const at = this.record / 4;
    u32[at + POSITION / 4] = 0;
    u32[at + POSITION / 4 + 1] = start;
    u32[at + SPAN / 4] = path.first;
    u32[at + BUS / 4] = bus;
    i32[at + STATE / 4] = PLAYING;
    this.setRate(heap, 0, 0);
    this.cutoffs.fill(Number.NaN);
    this.rateMoves = true;
    this.rest(heap);
  }

  /** Its filters pass on what comes and stand still, its gain is 0: a lane nobody uses must not drift, for it is summed with its neighbour. */
  private rest(heap: Heap): void {
    const { f32 } = heap;
    for (let s = 0; s < MAX_STAGES; s++) {
      const stage = STAGE_0 + s * STAGE_BYTES;
      for (let ramp = 0; ramp < STAGE_S1; ramp += 32) this.setRamp(heap, stage + ramp, ramp === STAGE_M0 ? 1 : 0, 0);
      f32.fill(0, (this.lane + stage + STAGE_S1) / 4, (this.lane + stage + STAGE_S1) / 4 + 2);
      f32.fill(0, (this.lane + stage + STAGE_S2) / 4, (this.lane + stage + STAGE_S2) / 4 + 2);
    }
    this.setGain(heap, 0, 0, 0, 0);
  }

  /** Sets a ramp that both channels share: its value now and its step per frame. */
  setRamp(heap: Heap, offset: number, value: number, step: number): void {
    const at = (this.lane + offset) / 4;
    const { f32 } = heap;
    f32[at] = value;
    f32[at + 1] = value;
    f32[at + 4] = step;
    f32[at + 5] = step;
  }

  setGain(heap: Heap, left: number, right: number, leftStep: number, rightStep: number): void {
    const at = (this.lane + GAIN) / 4;
    const { f32 } = heap;
    f32[at] = left;
    f32[at + 1] = right;
    f32[at + 4] = leftStep;
    f32[at + 5] = rightStep;
  }

  /** Sets the playback rate (frames of the sample for a frame of output, 0 to 1024) and its step per frame. */
  setRate(heap: Heap, rate: number, step: number): void {
    const { u32, i32 } = heap;
    const at = (this.record + RATE) / 4;
    u32[at + 1] = Math.floor(rate);
    u32[at] = (rate - Math.floor(rate)) * 4294967296;
    const fixed = Math.round(step * 4294967296);
    u32[at + 2] = fixed >>> 0;
    i32[at + 3] = Math.floor(fixed / 4294967296);
  }

  stateOf(heap: Heap): number {
    return heap.i32[(this.record + STATE) / 4] as number;
  }

  /** The frame being read. */
  frameOf(heap: Heap): number {
    return heap.u32[(this.record + POSITION) / 4 + 1] as number;
  }

  /** Lets it die away by its envelope. */
  letGo(): void {
    this.released = true;
    this.env.release();
  }

  end(heap: Heap): void {
    this.active = false;
    this.ref = null;
    this.env.reset();
    heap.i32[(this.record + STATE) / 4] = IDLE;
    this.rest(heap);
  }

  /** Whether its filters hold finite numbers. */
  sane(heap: Heap, stages: number): boolean {
    for (let s = 0; s < stages; s++) {
      const at = (this.lane + STAGE_0 + s * STAGE_BYTES + STAGE_S2) / 4;
      if (!Number.isFinite((heap.f32[at] as number) + (heap.f32[at + 1] as number))) return false;
    }
    return true;
  }
}
