import { type Hertz, type Random, seededRandom } from "../audio";
import { BENCH_BYTES, type Kernels } from "../dsp";
import { EventQueue } from "./events";
import { Heap } from "./heap";
import { MidiInput } from "./midi-input";
import { Modulation } from "./modulation";
import { Mutes } from "./mutes";
import type { Plan } from "./plan";
import { SampleStore } from "./sample-store";
import { TraceLog } from "./trace";
import { MOST_VOICES, VoicePool } from "./voice-pool";
import { ZoneTable } from "./zone-table";

/** Frames that are computed at once at the most. */
export const BLOCK = 128;

export interface EngineOptions {
  readonly rate: Hertz;
  /** Decides all randomness. */
  readonly seed?: number;
  /** `best` is for rendering that needn't keep up with time. */
  readonly quality?: "live" | "best";
  /** Samples and paths are made ready elsewhere and come by `takeSample` and `takePaths`; otherwise they are made here, at once. */
  readonly arriving?: boolean;
}

/** What all parts of an engine work with: its memory, voices, zones and values, and the plan that it plays. */
export class SharedParts {
  readonly rate: Hertz;
  readonly heap: Heap;
  readonly pool: VoicePool;
  readonly store: SampleStore;
  readonly table: ZoneTable;
  readonly modulation: Modulation;
  readonly queue = new EventQueue();
  readonly input = new MidiInput(this.queue);
  readonly trace = new TraceLog();
  readonly mutes = new Mutes();
  /** Addresses of what a voice is computed in, and of the two channels to which all are added. */
  readonly scratch: number;
  readonly bus: number;
  /** Address of the bus to which each layer's pairs are added. */
  buses: number[] = [];
  /** Address of the bus to which the pairs of each group are added instead, by the groups' numbers; 0: to the layer's. */
  ways = new Int32Array(0);
  /** 1 where that bus sends nothing yet. */
  fresh = new Uint8Array(0);
  /** Whether voices are to go another way than they do. */
  astray = false;
  /** Whether there may be voices whose units read tables that have become others. */
  recast = false;
  plan: Plan | null = null;
  random: Random;

  constructor(
    readonly kernels: Kernels,
    readonly options: EngineOptions,
  ) {
    const { rate } = options;
    this.rate = rate;
    this.heap = new Heap(kernels.memory, 4096);
    this.scratch = this.heap.allocate(BENCH_BYTES);
    this.bus = this.allocateBus();
    this.pool = new VoicePool(this.heap, rate);
    this.store = new SampleStore(this.heap);
    this.table = new ZoneTable(this.heap, this.store, options.arriving ?? false);
    this.modulation = new Modulation(rate, MOST_VOICES);
    this.random = this.seeded();
  }

  /** Room for two channels to which voices are added, silent. */
  allocateBus(): number {
    const at = this.heap.allocate(BLOCK * 8);
    this.heap.f32.fill(0, at / 4, at / 4 + BLOCK * 2);
    return at;
  }
  /** From now on a group's voices are to be added to a bus; 0: to the layer's. */
  lead(group: number, bus: number): void {
    this.ways[group] = bus;
    this.fresh[group] = bus > 0 ? 1 : 0;
    this.astray = true;
  }
  freeBus(at: number): void {
    this.heap.release(at);
  }

  /** Takes what stands on a bus into the frames `[from, to)` of two channels; it is empty afterwards. */
  takeBus(bus: number, left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { f32 } = this.heap;
    let at = bus / 4;
    for (let i = from; i < to; i++) {
      left[i] = f32[at] as number;
      right[i] = f32[at + 1] as number;
      f32[at] = 0;
      f32[at + 1] = 0;
      at += 2;
    }
  }

  /** Randomness from its beginning. */
  seeded(): Random {
    return seededRandom(this.options.seed ?? 1);
  }

  /** Value of a playing parameter, by its id; 0 while there is no plan. */
  setting(id: keyof Plan["play"]): number {
    const at = this.plan?.play[id];
    return at === undefined ? 0 : (this.modulation.shared[at] as number);
  }
}
