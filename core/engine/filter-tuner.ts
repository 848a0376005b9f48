import {
  ABSENT,
  CELL_COUNT,
  CELL_KIND,
  CELL_STATE,
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
  MIDDLE_C,
  MOVED,
  ONE_POLE,
  poleShift,
  SECTION_BYTES,
  SECTION_MEMORY,
  type SectionDesign,
  STEADY,
  SVF,
  steadyResonance,
  WEIGHT_STATE,
} from "../dsp";
import { choiceAt, choiceIds } from "../units";
import { type CellLayout, SECTIONS_OF_FILTER } from "./cell-layout";
import type { Heap } from "./heap";
import type { Modulation } from "./modulation";
import type { FilterPlan, LayerPlan, Plan } from "./plan";
import type { SharedParts } from "./shared-parts";
import type { Voice } from "./voice";
import { MOST_VOICES, type VoicePool } from "./voice-pool";
import { Watch } from "./watch";

const MODES: readonly FilterMode[] = choiceIds("filter", "type");
const SLOPES: readonly FilterSlope[] = choiceIds("filter", "slope");
/** A filter that is switched off lets everything pass. */
const OFF = choiceAt("filter", "type", "off");
const SHELVES: readonly number[] = [choiceAt("filter", "type", "lowShelf"), choiceAt("filter", "type", "highShelf")];
const STEADY_RING = choiceAt("filter", "resonanceWidth", "constantDecay");
const MAX_STAGES = 8;
/** A sound at full level reaches this far into the ladder's saturation. */
const LADDER_LEVEL = 0.3;

/** A filter of a layer's voices: where its sections lie, and what it is made of where all voices share it. */
interface TunedFilter {
  readonly plan: FilterPlan;
  readonly offset: number;
  /** How many cells stand before its two. */
  readonly before: number;
  readonly shape: Watch;
  readonly cutoff: Watch;
  /** Whether its cutoffs were moved all together, so that what is known of each voice's is out of date. */
  together: boolean;
}

const NONE: readonly TunedFilter[] = [];

/**
 * Passes the filters' settings to the kernels: a stage is two sections. Cutoffs go there as logarithms; what is designed here
 * (damping and weights) only when mode, slope, resonance or drive have moved.
 */
export class FilterTuner {
  private readonly cutoffs = new Float64Array(MAX_STAGES * MOST_VOICES);
  private readonly resonances = new Float64Array(MAX_STAGES * MOST_VOICES);
  private readonly drives = new Float64Array(MAX_STAGES * MOST_VOICES);
  private readonly lifts = new Float64Array(MAX_STAGES * MOST_VOICES);
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

  private layers = new Map<string, readonly TunedFilter[]>();

  setPlan(plan: Plan, layouts: readonly CellLayout[]): void {
    this.cutoffs.fill(Number.NaN);
    this.layers = new Map(
      plan.layers.map((layer, l) => [
        layer.id,
        (layouts[l] as CellLayout).units.flatMap((unit): TunedFilter[] => {
          if (unit.kind !== "filter") return [];
          const { on, mode, slope, character, resonance, drive, lift, rings, cutoff, follow } = unit.plan;
          return [
            {
              plan: unit.plan,
              offset: unit.offset,
              before: unit.before,
              shape: new Watch(Int32Array.of(on, mode, slope, character, resonance, drive, lift, rings)),
              cutoff: new Watch(Int32Array.of(cutoff, follow)),
              together: false,
            },
          ];
        }),
      ]),
    );
  }

  /** A fresh voice: its filters have heard nothing. `block`: address of its pair's cells. */
  begin(voice: Voice, layer: LayerPlan, block: number): void {
    const filters = this.layers.get(layer.id) ?? NONE;
    this.chains[voice.index] = block;
    for (let s = 0; s < filters.length; s++) {
      this.shapes[s * MOST_VOICES + voice.index] = -1;
      this.clear(voice, block + (filters[s] as TunedFilter).offset);
    }
  }

  /** A voice's filters stay as they are from now on: its layer's have become others. */
  freeze(voice: Voice): void {
    this.chains[voice.index] = 0;
  }

  /** The sections at an address forget what they have heard of a voice. */
  clear(voice: Voice, section: number): void {
    const { f32 } = this.heap;
    for (let s = 0; s < SECTIONS_OF_FILTER; s++) {
      const at = (section + s * SECTION_BYTES + SECTION_MEMORY) / 4 + voice.side * 2;
      for (let m = 0; m < 16; m += 4) {
        f32[at + m] = 0;
        f32[at + m + 1] = 0;
      }
    }
  }

  /** Kind of a filter's sections, as a number: a voice whose number changes can't go on in the same sections. */
  codeOf(plan: FilterPlan): number {
    return (this.modulation.shared[plan.character] as number) > 0.5 ? 1 : 0;
  }

  /** Sets the targets of the filters of some voices of a layer; with 0 frames they are fresh, else these are all that it has. */
  tune(layer: LayerPlan, voices: readonly Voice[], list: Int32Array, count: number, frames: number): void {
    const { shared } = this.modulation;
    const filters = this.layers.get(layer.id) ?? NONE;
    for (let s = 0; s < filters.length; s++) {
      const filter = filters[s] as TunedFilter;
      // Fresh voices don't use up that something has moved, which the others are still to hear of.
      const reshaped = frames === 0 || filter.shape.moved(shared);
      // One that follows the keys follows glides and bends, too.
      const moved = frames === 0 || filter.cutoff.moved(shared) || shared[filter.plan.follow] !== 0;
      // What is designed for a cutoff is designed anew with it.
      const designed = moved && this.followsCutoff(filter.plan);
      if (frames > 0 && filter.together && (reshaped || designed)) this.forgetCutoffs(s, filter, list, count);
      if (reshaped || designed) this.reshape(filter, s, voices, list, count);
      else if (moved) this.moveCutoffs(filter, s, voices, list, count, frames);
    }
  }

  /** Whether more of a filter depends on its cutoff than where its poles stand. */
  private followsCutoff({ mode, rings }: FilterPlan): boolean {
    const { shared } = this.modulation;
    return shared[rings] === STEADY_RING || SHELVES.includes(shared[mode] as number);
  }

  /** Sets a stage's cutoffs, and designs anew what has become of another shape. */
  private reshape(
    { plan: stage, offset, before }: TunedFilter,
    s: number,
    voices: readonly Voice[],
    list: Int32Array,
    count: number,
  ): void {
    const { modulation } = this;
    const { shared } = modulation;
    const mode = (shared[stage.on] as number) < 0.5 ? OFF : (shared[stage.mode] as number);
    const ladder = (shared[stage.character] as number) > 0.5;
    const shape = mode * 8 + (shared[stage.slope] as number) * 2 + (ladder ? 1 : 0);
    const steady = !ladder && shared[stage.rings] === STEADY_RING;
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      const own = s * MOST_VOICES + v;
      const cutoff = this.cutoffOf(stage, v);
      const asked = modulation.read(stage.resonance, v);
      const r = steady ? steadyResonance(asked, cutoff) : asked;
      const lift = modulation.read(stage.lift, v);
      const d = ladder ? modulation.read(stage.drive, v) : 0;
      const chain = this.chains[v] as number;
      if (chain === 0) continue;
      const at = chain + offset;
      if (
        r !== this.resonances[own] ||
        shape !== this.shapes[own] ||
        d !== this.drives[own] ||
        lift !== this.lifts[own]
      ) {
        this.resonances[own] = r;
        this.drives[own] = d;
        this.lifts[own] = lift;
        this.shapes[own] = shape;
        this.cutoffs[own] = Number.NaN;
        this.design(voices[v] as Voice, at, shape, r, d, lift);
        this.reach((voices[v] as Voice).pair, at, before);
      }
      this.setCutoff(at, own, cutoff + poleShift(MODES[mode] ?? "off", ladder ? "ladder" : "clean", lift));
    }
  }

  /** The pair's cells are run as far as the last section that is there. */
  private reach(pair: number, at: number, before: number): void {
    const { i32 } = this.heap;
    const upTo = before + (i32[(at + SECTION_BYTES + CELL_KIND) / 4] === ABSENT ? 1 : 2);
    if ((i32[(pair + CELL_COUNT) / 4] as number) < upTo) i32[(pair + CELL_COUNT) / 4] = upTo;
  }

  /** Sets the cutoffs of all voices of a layer: by one call where all have the same and none is on its way out with an older filter. */
  private moveCutoffs(
    filter: TunedFilter,
    s: number,
    voices: readonly Voice[],
    list: Int32Array,
    count: number,
    frames: number,
  ): void {
    const { modulation, pool, chains } = this;
    const { offset, before } = filter;
    const { cutoff } = filter.plan;
    if (cutoff >= 0 && modulation.shared[filter.plan.follow] === 0 && !pool.numbers.fading) {
      const { layer } = voices[list[0] as number] as Voice;
      const pairs = pool.list + (pool.layerStarts[layer] as number) * 4;
      const pitch = (modulation.shared[cutoff] as number) - this.logRate;
      const many = pool.layerPairs[layer] as number;
      this.kernels.moveSections(pairs, many, before, offset, pitch, frames);
      this.kernels.moveSections(pairs, many, before + 1, offset + SECTION_BYTES, pitch, frames);
      filter.together = true;
      return;
    }
    if (filter.together) this.forgetCutoffs(s, filter, list, count);
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      const own = s * MOST_VOICES + v;
      const chain = chains[v] as number;
      if (chain !== 0) this.setCutoff(chain + offset, own, this.cutoffOf(filter.plan, v));
    }
  }

  /** A voice's cutoff in octaves: as far as it follows the keys it moves with the note, from middle C on. */
  private cutoffOf({ cutoff, follow }: FilterPlan, v: number): number {
    const share = this.modulation.shared[follow] as number;
    const octaves = this.modulation.read(cutoff, v);
    return share === 0 ? octaves : octaves + share * ((this.pool.numbers.pitch[v] as number) + this.logRate - MIDDLE_C);
  }

  private forgetCutoffs(s: number, filter: TunedFilter, list: Int32Array, count: number): void {
    for (let i = 0; i < count; i++) this.cutoffs[s * MOST_VOICES + (list[i] as number)] = Number.NaN;
    filter.together = false;
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
    i32[(at + CELL_STATE) / 4] = MOVED;
    if (i32[(at + SECTION_BYTES + CELL_KIND) / 4] === ABSENT) return;
    const second = first + SECTION_BYTES / 4;
    f32[second] = pitch;
    f32[second + 1] = pitch;
    i32[(at + SECTION_BYTES + CELL_STATE) / 4] = MOVED;
  }

  private design(voice: Voice, at: number, shape: number, resonance: number, drive: number, lift: number): void {
    const mode = MODES[shape >> 3] ?? "off";
    const slope = SLOPES[(shape >> 1) & 3] ?? "12";
    const { heap } = this;
    if ((shape & 1) === 1) {
      const { weights } = this;
      this.become(at, LADDER);
      this.become(at + SECTION_BYTES, ABSENT);
      ladderWeights(mode, slope, lift, weights);
      const gain = 10 ** (drive / 20) * LADDER_LEVEL;
      const makeUp = 1 / LADDER_LEVEL / 10 ** (drive / 40);
      this.put(voice, at + IN_K, mode === "off" ? 0 : feedbackOf(resonance));
      this.put(voice, at + IN_DRIVE, gain);
      for (let w = 0; w < 5; w++) this.put(voice, at + IN_WEIGHT + w * 16, (weights[w] as number) * makeUp);
      heap.i32[(at + WEIGHT_STATE) / 4] = MOVED;
      return;
    }
    const { first, second } = this;
    designFilter(first, second, mode, slope, resonance, lift);
    this.write(voice, at, first);
    if (second.poles === 0 && heap.i32[(at + SECTION_BYTES + CELL_KIND) / 4] === ABSENT) return;
    if (second.poles === 0) {
      // It was there for a held note: from now on it passes on what it gets.
      second.k = 1;
      second.m0 = 1;
      second.m1 = 0;
      second.m2 = 0;
      second.poles = 2;
    }
    this.write(voice, at + SECTION_BYTES, second);
  }

  private write(voice: Voice, at: number, { poles, k, m0, m1, m2 }: SectionDesign): void {
    this.become(at, poles === 1 ? ONE_POLE : SVF);
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
  private become(at: number, kind: number): void {
    const { f32, i32 } = this.heap;
    const before = i32[(at + CELL_KIND) / 4] as number;
    if (before === kind) return;
    i32[(at + CELL_KIND) / 4] = kind;
    i32[(at + CELL_STATE) / 4] = kind === ABSENT ? STEADY : MOVED;
    if (before === LADDER || before === ABSENT || kind === LADDER) {
      f32.fill(0, (at + COEFFICIENTS) / 4, (at + SECTION_MEMORY + 64) / 4);
      if (kind !== LADDER) f32.fill(1, (at + COEFFICIENTS + 96) / 4, (at + COEFFICIENTS + 112) / 4);
      // The other voice of the pair keeps its own settings, which its next design writes.
      for (let lane = 0; lane < 4; lane++) if (kind !== LADDER) f32[(at + IN_WEIGHT) / 4 + lane] = 1;
    }
  }
}
