import { type Hertz, type Random, seededRandom } from "../audio";
import type { Kernels } from "../dsp";
import { EventQueue } from "./events";
import { Heap } from "./heap";
import { MidiInput } from "./midi-input";
import { Modulation } from "./modulation";
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
  /** Addresses of what a voice is computed in, and of the two channels to which all are added. */
  readonly scratch: number;
  readonly bus: number;
  plan: Plan | null = null;
  random: Random;

  constructor(
    readonly kernels: Kernels,
    readonly options: EngineOptions,
  ) {
    const { rate } = options;
    this.rate = rate;
    this.heap = new Heap(kernels.memory, 4096);
    this.scratch = this.heap.allocate(BLOCK * 16);
    this.bus = this.heap.allocate(BLOCK * 8);
    this.heap.f32.fill(0, this.bus / 4, this.bus / 4 + BLOCK * 2);
    this.pool = new VoicePool(this.heap, rate);
    this.store = new SampleStore(this.heap);
    this.table = new ZoneTable(this.heap, this.store, options.arriving ?? false);
    this.modulation = new Modulation(rate, MOST_VOICES);
    this.random = this.seeded();
  }

  /** Randomness from its beginning. */
  seeded(): Random {
    return seededRandom(this.options.seed ?? 1);
  }

  /** Value of a playing parameter, by its id; 0 while there is no plan. */
  setting(id: string): number {
    const at = this.plan?.play[id];
    return at === undefined ? 0 : (this.modulation.shared[at] as number);
  }
}
