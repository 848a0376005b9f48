import {
  BUS,
  CORNER_A,
  CORNER_B,
  GAIN,
  GAIN_CORNER,
  GAIN_TARGET,
  IDLE,
  MOVED,
  PAIR_BYTES,
  PLAYING,
  POSITION,
  RATE_STATE,
  RATE_TARGET,
  SEED_A,
  SEED_B,
  SPAN,
  STATE,
  VOICE_A,
  VOICE_B,
} from "../dsp";
import type { Zone } from "../instrument";
import type { Heap } from "./heap";
import type { Path } from "./path-builder";

/** A zone of the plan with where it stands and how it is read; `path` is null while its sample isn't there. */
export interface ZoneRef {
  readonly zone: Zone;
  readonly index: number;
  readonly layer: number;
  /** Number of its group among all groups, and of its microphone; −1 for none. */
  readonly group: number;
  readonly mic: number;
  /** Its layer's sound is computed: it needs no sample. */
  readonly computed: boolean;
  path: Path | null;
}

/** One sounding zone: what is decided about it once, and the addresses of its record in the kernels' memory. */
export class Voice {
  readonly record: number;
  readonly pair: number;
  /** 0 or 1: its place in the pair. */
  readonly side: number;
  active = false;
  ref: ZoneRef | null = null;
  /** What it reads; stays its own when the zone's path is replaced. */
  path: Path | null = null;
  layer = 0;
  serial = 0;
  key = 0;
  velocity = 0;
  channel = 0;
  /** Address of its group's bus; 0: it is added to its layer's. */
  way = 0;
  /** Let go: its envelope falls. */
  released = false;
  /** Letting go of its key does not release it. */
  oneShot = false;
  born = 0;
  /** Whether it is fading out to make room or because its zone is gone. */
  leaving = false;
  /** Its filters stay as they are, for the layer's have become others. */
  frozen = false;

  constructor(
    readonly index: number,
    pairs: number,
  ) {
    this.pair = pairs + (index >> 1) * PAIR_BYTES;
    this.side = index & 1;
    this.record = this.pair + (this.side === 1 ? VOICE_B : VOICE_A);
  }

  /** Lets it read a path from a position (null: its cells compute what it is), silent until its gain is set. */
  begin(heap: Heap, path: Path | null, position: number, bus: number): void {
    const { u32, i32 } = heap;
    const at = this.record / 4;
    this.path = path;
    u32[at + POSITION / 4] = 0;
    u32[at + POSITION / 4 + 1] = position;
    u32[at + SPAN / 4] = path?.first ?? 0;
    i32[at + STATE / 4] = PLAYING;
    u32[(this.pair + BUS) / 4] = bus;
    this.setGain(heap, 0, 0);
  }

  /** Sets the gain now, and where it is to be. */
  setGain(heap: Heap, left: number, right: number): void {
    const { f32, i32 } = heap;
    const at = (this.pair + GAIN) / 4 + this.side * 2;
    const target = at + (GAIN_TARGET - GAIN) / 4;
    f32[at] = left;
    f32[at + 1] = right;
    f32[target] = left;
    f32[target + 1] = right;
    i32[(this.pair + (this.side === 1 ? CORNER_B : CORNER_A)) / 4] = 0;
  }

  /** On the way to its target the gain turns after so many frames. */
  turnGain(heap: Heap, frames: number, left: number, right: number): void {
    const { f32, i32 } = heap;
    const at = (this.pair + GAIN_CORNER) / 4 + this.side * 2;
    f32[at] = left;
    f32[at + 1] = right;
    i32[(this.pair + (this.side === 1 ? CORNER_B : CORNER_A)) / 4] = frames;
  }

  /** Sets the playback rate (frames of the sample for a frame of output, 0 to 128) to be reached at the next control step. */
  aimRate(heap: Heap, rate: number): void {
    heap.f64[(this.record + RATE_TARGET) / 8] = rate;
    heap.i32[(this.record + RATE_STATE) / 4] = MOVED;
  }

  stateOf(heap: Heap): number {
    return heap.i32[(this.record + STATE) / 4] as number;
  }

  /** The span that is being read and the position in it. */
  spanOf(heap: Heap): number {
    return heap.u32[(this.record + SPAN) / 4] as number;
  }
  positionOf(heap: Heap): number {
    return heap.u32[(this.record + POSITION) / 4 + 1] as number;
  }

  /** Lets it stand as far between two frames as another voice. */
  copyFraction(heap: Heap, { record }: Voice): void {
    heap.u32[(this.record + POSITION) / 4] = heap.u32[(record + POSITION) / 4] as number;
  }

  /** Goes over to the spans that lead out of the loop. */
  leaveLoop(heap: Heap): void {
    const { path } = this;
    const span = this.spanOf(heap);
    if (!path || path.twin === 0 || span < path.first || span >= path.twinned) return;
    heap.u32[(this.record + SPAN) / 4] = span + path.twin;
  }

  /** Sets the number by which its noise differs from others'. */
  sow(heap: Heap, seed: number): void {
    heap.u32[(this.pair + (this.side === 1 ? SEED_B : SEED_A)) / 4] = seed >>> 0;
  }

  end(heap: Heap): void {
    this.active = false;
    this.ref = null;
    this.path = null;
    heap.i32[(this.record + STATE) / 4] = IDLE;
    this.setGain(heap, 0, 0);
  }
}

/** Numbers of all voices that control steps work with, by the voices' indices. */
export class VoiceNumbers {
  /** Semitones of the key above the root, as far as the zone follows the keys, with the zone's tuning. */
  readonly keySemitones: Float64Array;
  /** How far the pitch still is from the note (semitones), and by how much that falls with each frame. */
  readonly glide: Float64Array;
  readonly glideStep: Float64Array;
  readonly semitones: Float64Array;
  /** Root of its zone as a note, and log2 of its frequency over the sample rate. */
  readonly root: Float64Array;
  readonly pitch: Float64Array;
  /** Frames for which it has been silent since its source came to an end. */
  readonly quiet: Float64Array;
  readonly rate: Float64Array;
  readonly tuned: Float64Array;
  /** Level and pan that don't change: of the zone, its fades, the time the note was held. */
  readonly ownLevel: Float64Array;
  readonly ownPan: Float64Array;
  /** The part of the level that stays when the zone is edited. */
  readonly extra: Float64Array;
  readonly decibels: Float64Array;
  readonly factor: Float64Array;
  readonly pan: Float64Array;
  readonly panLeft: Float64Array;
  readonly panRight: Float64Array;
  /** Level, place and fade together, as factors: all but the envelope. */
  readonly wholeLeft: Float64Array;
  readonly wholeRight: Float64Array;
  /** The envelope's level at which its gain was aimed last. */
  readonly aimed: Float64Array;
  readonly gainLeft: Float64Array;
  readonly gainRight: Float64Array;
  /** How much of the velocity's range is taken off: 0 at the hardest, 1 at the softest. */
  readonly softness: Float64Array;
  /** Numbers of its group and its microphone; −1 for none. */
  readonly group: Int32Array;
  readonly mic: Int32Array;
  /** Fade in or out, 0 to 1, and its step per frame. */
  readonly fade: Float64Array;
  readonly fadeStep: Float64Array;

  /** Whether any voice may be gliding, or fading in or out. */
  gliding = false;
  fading = false;

  constructor(readonly size: number) {
    const make = (): Float64Array => new Float64Array(size);
    this.keySemitones = make();
    this.glide = make();
    this.glideStep = make();
    this.semitones = make();
    this.root = make();
    this.pitch = make();
    this.quiet = make();
    this.rate = make();
    this.tuned = make();
    this.ownLevel = make();
    this.ownPan = make();
    this.extra = make();
    this.decibels = make();
    this.factor = make();
    this.pan = make();
    this.panLeft = make();
    this.panRight = make();
    this.wholeLeft = make();
    this.wholeRight = make();
    this.aimed = make();
    this.gainLeft = make();
    this.gainRight = make();
    this.softness = make();
    this.group = new Int32Array(size);
    this.mic = new Int32Array(size);
    this.fade = make();
    this.fadeStep = make();
  }

  /** Looks whether any of some voices still glides or fades. */
  settle(order: Int32Array, count: number): void {
    if (!this.gliding && !this.fading) return;
    let glides = false;
    let fades = false;
    for (let i = 0; i < count; i++) {
      const v = order[i] as number;
      if (this.glideStep[v] !== 0) glides = true;
      if (this.fadeStep[v] !== 0) fades = true;
    }
    this.gliding = glides;
    this.fading = fades;
  }

  /** Lets a voice have the numbers of another. */
  copy(from: number, to: number): void {
    this.keySemitones[to] = this.keySemitones[from] as number;
    this.glide[to] = this.glide[from] as number;
    this.glideStep[to] = this.glideStep[from] as number;
    this.extra[to] = this.extra[from] as number;
    this.softness[to] = this.softness[from] as number;
    this.gliding = true;
  }

  /** Forgets what its ramps were computed from, but not where it is in a glide. */
  forgetRamps(v: number): void {
    this.semitones[v] = Number.NaN;
    this.decibels[v] = Number.NaN;
    this.pan[v] = Number.NaN;
    this.fade[v] = 1;
    this.fadeStep[v] = 0;
  }

  /** Forgets all of what a voice was. */
  forget(v: number): void {
    this.forgetRamps(v);
    this.glide[v] = 0;
    this.glideStep[v] = 0;
    this.quiet[v] = 0;
  }
}
