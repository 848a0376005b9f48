import {
  ABSENT,
  COEFFICIENTS,
  designFilter,
  type FilterMode,
  type FilterSlope,
  feedbackOf,
  IN_DRIVE,
  IN_K,
  IN_PITCH,
  IN_WEIGHT,
  type Kernels,
  LADDER,
  ladderWeights,
  MAX_SECTIONS,
  MOVED,
  ONE_POLE,
  SECTION_COUNT,
  SECTION_KIND,
  SECTION_MEMORY,
  SECTION_STATE,
  SECTION_STRIDE,
  SECTIONS,
  type SectionDesign,
  STEADY,
  SVF,
  WEIGHT_STATE,
} from "../dsp";
import { choiceAt, choiceIds } from "../units";
import type { Heap } from "./heap";
import type { Modulation } from "./modulation";
import type { LayerPlan, Plan, StagePlan } from "./plan";
import type { SharedParts } from "./shared-parts";
import type { Voice } from "./voice";
import { MOST_VOICES, type VoicePool } from "./voice-pool";
import { Watch } from "./watch";

const MODES: readonly FilterMode[] = choiceIds("filter", "mode");
const SLOPES: readonly FilterSlope[] = choiceIds("filter", "slope");
/** A filter that is switched off lets everything pass. */
const OFF = choiceAt("filter", "mode", "off");
const MAX_STAGES = MAX_SECTIONS / 2;
/** A sound at full level reaches this far into the ladder's saturation. */
const LADDER_LEVEL = 0.3;

/** What a stage of a layer is made of, where all its voices share it: the shape of its filter, and its cutoff. */
interface StageWatch {
  readonly shape: Watch;
  readonly cutoff: Watch;
  /** Whether its cutoffs were moved all together, so that what is known of each voice's is out of date. */
  together: boolean;
}

/**
 * Passes the filters' settings to the kernels: a stage is two sections. Cutoffs go there as logarithms; what is designed here
 * (damping and weights) only when mode, slope, resonance or drive have moved.
 */
export class StageTuner {
  private readonly cutoffs = new Float64Array(MAX_STAGES * MOST_VOICES);
  private readonly resonances = new Float64Array(MAX_STAGES * MOST_VOICES);
  private readonly drives = new Float64Array(MAX_STAGES * MOST_VOICES);
  private readonly shapes = new Int16Array(MAX_STAGES * MOST_VOICES);
  private readonly first: SectionDesign = { poles: 0, k: 1, m0: 1, m1: 0, m2: 0 };
  private readonly second: SectionDesign = { poles: 0, k: 1, m0: 1, m1: 0, m2: 0 };
  private readonly weights = new Float64Array(5);
  private readonly logRate: number;
  /** Address of each voice's first section. */
  private readonly chains = new Int32Array(MOST_VOICES);

  private readonly heap: Heap;
  private readonly modulation: Modulation;
  private readonly pool: VoicePool;
  private readonly kernels: Kernels;

  constructor({ heap, modulation, pool, kernels, rate }: SharedParts) {
    this.heap = heap;
    this.modulation = modulation;
    this.pool = pool;
    this.kernels = kernels;
    this.logRate = Math.log2(rate);
  }

  private readonly watches = new Map<string, StageWatch[]>();

  setPlan(plan: Plan): void {
    this.watches.clear();
    this.cutoffs.fill(Number.NaN);
    for (const layer of plan.layers) {
      this.watches.set(
        layer.id,
        layer.stages.map(({ on, mode, slope, character, resonance, drive, cutoff }) => ({
          shape: new Watch(Int32Array.of(on, mode, slope, character, resonance, drive)),
          cutoff: new Watch(Int32Array.of(cutoff)),
          together: false,
        })),
      );
    }
  }

  /** A fresh voice: its filters have heard nothing. `alone`: the other voice of its pair is free, so that sections may be left out. */
  begin(voice: Voice, layer: LayerPlan, alone: boolean): void {
    const { f32, i32 } = this.heap;
    const stages = Math.min(MAX_STAGES, layer.stages.length);
    for (let s = 0; s < stages; s++) this.shapes[s * MOST_VOICES + voice.index] = -1;
    if (alone) i32[(voice.pair + SECTION_COUNT) / 4] = 0;
    this.chains[voice.index] = this.section(voice, 0);
    for (let s = 0; s < stages * 2; s++) {
      const at = (this.section(voice, s) + SECTION_MEMORY) / 4 + voice.side * 2;
      if (alone) i32[(this.section(voice, s) + SECTION_KIND) / 4] = ABSENT;
      for (let m = 0; m < 16; m += 4) {
        f32[at + m] = 0;
        f32[at + m + 1] = 0;
      }
    }
  }

  /** A voice's filters stay as they are from now on: its layer's have become others. */
  freeze(voice: Voice): void {
    this.chains[voice.index] = 0;
  }

  /** A voice's filters forget what they have heard, for it was no sound. */
  forget(voice: Voice): void {
    const { f32, i32 } = this.heap;
    const sections = i32[(voice.pair + SECTION_COUNT) / 4] as number;
    for (let s = 0; s < sections; s++) {
      const at = (this.section(voice, s) + SECTION_MEMORY) / 4 + voice.side * 2;
      for (let m = 0; m < 16; m += 4) {
        f32[at + m] = 0;
        f32[at + m + 1] = 0;
      }
    }
  }

  /** Kinds of the two sections of each stage, in one number: a voice whose number changes can't go on in the same sections. */
  chainOf(layer: LayerPlan): number {
    let chain = 0;
    for (let s = 0; s < layer.stages.length && s < MAX_STAGES; s++) {
      const stage = layer.stages[s] as StagePlan;
      chain = chain * 2 + ((this.modulation.shared[stage.character] as number) > 0.5 ? 1 : 0);
    }
    return chain * 16 + layer.stages.length;
  }

  private section(voice: Voice, index: number): number {
    return (this.heap.u32[(voice.pair + SECTIONS) / 4] as number) + index * SECTION_STRIDE;
  }

  /** Sets the targets of the filters of some voices of a layer; with 0 frames they are fresh, else these are all that it has. */
  tune(layer: LayerPlan, voices: readonly Voice[], list: Int32Array, count: number, frames: number): void {
    const { shared } = this.modulation;
    const watches = frames > 0 ? this.watches.get(layer.id) : undefined;
    const stages = Math.min(MAX_STAGES, layer.stages.length);
    for (let s = 0; s < stages; s++) {
      const stage = layer.stages[s] as StagePlan;
      const watch = watches?.[s];
      const reshaped = watch?.shape.moved(shared) ?? true;
      const moved = watch?.cutoff.moved(shared) ?? true;
      if (watch?.together && reshaped) this.forgetCutoffs(s, watch, list, count);
      if (reshaped) this.reshape(stage, s, voices, list, count);
      else if (moved && watch) this.moveCutoffs(stage, s, watch, voices, list, count, frames);
    }
  }

  /** Sets a stage's cutoffs, and designs anew what has become of another shape. */
  private reshape(stage: StagePlan, s: number, voices: readonly Voice[], list: Int32Array, count: number): void {
    const { modulation } = this;
    const { shared } = modulation;
    const mode = (shared[stage.on] as number) < 0.5 ? OFF : (shared[stage.mode] as number);
    const ladder = (shared[stage.character] as number) > 0.5;
    const shape = mode * 8 + (shared[stage.slope] as number) * 2 + (ladder ? 1 : 0);
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      const own = s * MOST_VOICES + v;
      const r = modulation.read(stage.resonance, v);
      const d = ladder ? modulation.read(stage.drive, v) : 0;
      const chain = this.chains[v] as number;
      if (chain === 0) continue;
      const at = chain + s * 2 * SECTION_STRIDE;
      if (r !== this.resonances[own] || shape !== this.shapes[own] || d !== this.drives[own]) {
        this.resonances[own] = r;
        this.drives[own] = d;
        this.shapes[own] = shape;
        this.cutoffs[own] = Number.NaN;
        this.design(voices[v] as Voice, at, shape, r, d);
      }
      this.setCutoff(at, own, modulation.read(stage.cutoff, v));
    }
  }

  /** Sets the cutoffs of all voices of a layer: by one call where all have the same and none is on its way out with an older filter. */
  private moveCutoffs(
    { cutoff }: StagePlan,
    s: number,
    watch: StageWatch,
    voices: readonly Voice[],
    list: Int32Array,
    count: number,
    frames: number,
  ): void {
    const { modulation, pool, chains } = this;
    if (cutoff >= 0 && !pool.numbers.fading) {
      const { layer } = voices[list[0] as number] as Voice;
      const pairs = pool.list + (pool.layerStarts[layer] as number) * 4;
      const pitch = (modulation.shared[cutoff] as number) - this.logRate;
      this.kernels.moveSections(pairs, pool.layerPairs[layer] as number, s * 2, pitch, frames);
      this.kernels.moveSections(pairs, pool.layerPairs[layer] as number, s * 2 + 1, pitch, frames);
      watch.together = true;
      return;
    }
    if (watch.together) this.forgetCutoffs(s, watch, list, count);
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      const own = s * MOST_VOICES + v;
      const chain = chains[v] as number;
      if (chain !== 0) this.setCutoff(chain + s * 2 * SECTION_STRIDE, own, modulation.read(cutoff, v));
    }
  }

  private forgetCutoffs(s: number, watch: StageWatch, list: Int32Array, count: number): void {
    for (let i = 0; i < count; i++) this.cutoffs[s * MOST_VOICES + (list[i] as number)] = Number.NaN;
    watch.together = false;
  }

  /** Tells both sections of a stage (address `at`) a voice's cutoff in octaves, unless they know it; `own`: its place in the tables. */
  private setCutoff(at: number, own: number, cutoff: number): void {
    if (cutoff === this.cutoffs[own]) return;
    this.cutoffs[own] = cutoff;
    const { f32, i32 } = this.heap;
    const pitch = cutoff - this.logRate;
    // The tables' rows are even, so its place tells the side.
    const first = (at + IN_PITCH) / 4 + (own & 1) * 2;
    f32[first] = pitch;
    f32[first + 1] = pitch;
    i32[(at + SECTION_STATE) / 4] = MOVED;
    if (i32[(at + SECTION_STRIDE + SECTION_KIND) / 4] === ABSENT) return;
    const second = first + SECTION_STRIDE / 4;
    f32[second] = pitch;
    f32[second + 1] = pitch;
    i32[(at + SECTION_STRIDE + SECTION_STATE) / 4] = MOVED;
  }

  private design(voice: Voice, at: number, shape: number, resonance: number, drive: number): void {
    const mode = MODES[shape >> 3] ?? "off";
    const slope = SLOPES[(shape >> 1) & 3] ?? "12";
    const { heap } = this;
    if ((shape & 1) === 1) {
      const { weights } = this;
      this.become(voice, at, LADDER);
      this.become(voice, at + SECTION_STRIDE, ABSENT);
      ladderWeights(mode, slope, weights);
      const gain = 10 ** (drive / 20) * LADDER_LEVEL;
      const makeUp = 1 / LADDER_LEVEL / 10 ** (drive / 40);
      this.put(voice, at + IN_K, mode === "off" ? 0 : feedbackOf(resonance));
      this.put(voice, at + IN_DRIVE, gain);
      for (let w = 0; w < 5; w++) this.put(voice, at + IN_WEIGHT + w * 16, (weights[w] as number) * makeUp);
      heap.i32[(at + WEIGHT_STATE) / 4] = MOVED;
      return;
    }
    const { first, second } = this;
    designFilter(first, second, mode, slope, resonance);
    this.write(voice, at, first);
    if (second.poles === 0 && heap.i32[(at + SECTION_STRIDE + SECTION_KIND) / 4] === ABSENT) return;
    if (second.poles === 0) {
      // It was there for a held note: from now on it passes on what it gets.
      second.k = 1;
      second.m0 = 1;
      second.m1 = 0;
      second.m2 = 0;
      second.poles = 2;
    }
    this.write(voice, at + SECTION_STRIDE, second);
  }

  private write(voice: Voice, at: number, { poles, k, m0, m1, m2 }: SectionDesign): void {
    this.become(voice, at, poles === 1 ? ONE_POLE : SVF);
    this.put(voice, at + IN_K, k);
    this.put(voice, at + IN_WEIGHT, m0);
    this.put(voice, at + IN_WEIGHT + 16, m1);
    this.put(voice, at + IN_WEIGHT + 32, m2);
    this.heap.i32[(at + WEIGHT_STATE) / 4] = MOVED;
  }

  private put(voice: Voice, at: number, value: number): void {
    const { f32 } = this.heap;
    const lane = at / 4 + voice.side * 2;
    f32[lane] = value;
    f32[lane + 1] = value;
  }

  /** A section becomes of another kind, for both voices of the pair: from passing everything on, so that nothing steps. */
  private become(voice: Voice, at: number, kind: number): void {
    const { f32, i32 } = this.heap;
    const before = i32[(at + SECTION_KIND) / 4] as number;
    if (before === kind) return;
    i32[(at + SECTION_KIND) / 4] = kind;
    const upTo = (at - this.section(voice, 0)) / SECTION_STRIDE + 1;
    const count = (voice.pair + SECTION_COUNT) / 4;
    if (kind !== ABSENT && (i32[count] as number) < upTo) i32[count] = upTo;
    i32[(at + SECTION_STATE) / 4] = kind === ABSENT ? STEADY : MOVED;
    if (before === LADDER || before === ABSENT || kind === LADDER) {
      f32.fill(0, (at + COEFFICIENTS) / 4, (at + SECTION_MEMORY + 64) / 4);
      if (kind !== LADDER) f32.fill(1, (at + COEFFICIENTS + 96) / 4, (at + COEFFICIENTS + 112) / 4);
      // The other voice of the pair keeps its own settings, which its next design writes.
      for (let lane = 0; lane < 4; lane++) if (kind !== LADDER) f32[(at + IN_WEIGHT) / 4 + lane] = 1;
    }
  }
}
