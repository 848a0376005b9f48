import type { Hertz } from "../audio";
import {
  BANK,
  BANK_ROWS,
  BANK_TAPS,
  banksOf,
  ENDED,
  GAIN_TARGET,
  type Kernels,
  PEAK,
  PLAYING,
  type Quality,
  SEGMENT,
} from "../dsp";
import { choiceAt } from "../units";
import type { Heap } from "./heap";
import type { MidiInput } from "./midi-input";
import type { Modulation } from "./modulation";
import type { GroupPlan, LayerPlan, Plan } from "./plan";
import { COLUMN } from "./plan-modulation";
import type { SharedParts } from "./shared-parts";
import type { Voice, VoiceNumbers } from "./voice";
import type { VoiceCells } from "./voice-cells";
import { MOST_VOICES } from "./voice-pool";
import { Watch } from "./watch";

const ECONOMY = choiceAt("play", "quality", "economy");
const NOWHERE = Number.MAX_SAFE_INTEGER;
/** What stays below this (−100 dB) is over. */
const SILENT = 1e-5;
/** Fastest playback: seven octaves up. */
const FASTEST = 128;

/** A bank of interpolation tables in memory, and the fastest reading for which it is made. */
interface StoredBank {
  readonly at: number;
  readonly upTo: number;
}

const storeBanks = (heap: Heap, quality: Quality): StoredBank[] =>
  banksOf(quality).map((bank) => {
    const at = heap.allocate(BANK_ROWS + bank.rows.byteLength);
    heap.i32[(at + BANK_TAPS) / 4] = bank.taps;
    heap.f32.set(bank.rows, (at + BANK_ROWS) / 4);
    return { at, upTo: bank.upTo };
  });

/** Turns parameters into the voices' ramps at each control step: rate, filters, gain. Works on lists of voices of one layer. */
export class VoiceTuner {
  /** Operands of the groups' tuning, level and pan, by the groups' numbers. */
  private tunes = new Int32Array(0);
  private levels = new Int32Array(0);
  private pans = new Int32Array(0);
  /** Where each voice's gain is aimed, in the heap's floats. */
  private readonly targets: Int32Array;

  private readonly heap: Heap;
  private readonly modulation: Modulation;
  private readonly numbers: VoiceNumbers;
  private readonly voices: readonly Voice[];
  private readonly input: MidiInput;
  private readonly rate: Hertz;
  private readonly kernels: Kernels;
  /** The interpolation banks of each quality. */
  private readonly banks: readonly (readonly StoredBank[])[];

  constructor(
    { heap, modulation, pool, input, rate, kernels, options }: SharedParts,
    private readonly cells: VoiceCells,
  ) {
    this.heap = heap;
    this.modulation = modulation;
    this.numbers = pool.numbers;
    this.voices = pool.voices;
    this.input = input;
    this.rate = rate;
    this.kernels = kernels;
    this.targets = Int32Array.from(pool.voices, (v) => (v.pair + GAIN_TARGET) / 4 + v.side * 2);
    const qualities: Quality[] = options.quality === "best" ? ["best"] : ["full", "economy"];
    this.banks = qualities.map((q) => storeBanks(heap, q));
  }

  /** What each layer's pitches and levels are made of, where all its voices share it, and the wheel's bend then. */
  private readonly watches = new Map<string, { pitch: Watch; level: Watch; bend: number }>();

  setPlan(plan: Plan, groups: readonly GroupPlan[]): void {
    const operand = (g: GroupPlan, id: keyof GroupPlan["params"]): number => g.params[id];
    this.watches.clear();
    for (const layer of plan.layers) {
      const each = (id: keyof GroupPlan["params"]): number[] => layer.groups.map((g) => operand(g, id));
      this.watches.set(layer.id, {
        pitch: new Watch(
          Int32Array.of(
            plan.play.a4 as number,
            ...[layer.transpose, layer.fine].filter((o) => o !== null),
            ...each("tuning"),
          ),
        ),
        level: new Watch(
          Int32Array.of(
            ...[layer.velocity, layer.level, layer.pan, ...each("level"), ...each("pan")],
            ...plan.mics.flatMap((m) => [m.level, m.pan]),
          ),
        ),
        bend: 0,
      });
    }
    this.tunes = Int32Array.from(groups, (g) => operand(g, "tuning"));
    this.levels = Int32Array.from(groups, (g) => operand(g, "level"));
    this.pans = Int32Array.from(groups, (g) => operand(g, "pan"));
  }

  /** Whether any voice may have come to its end since this was asked last. */
  anyFinished(): boolean {
    const { amp } = this.modulation;
    const ended = this.heap.i32[ENDED / 4] as number;
    const any = ended !== this.ended || amp.ended || this.numbers.fading || this.ringing;
    this.ended = ended;
    this.ringing = false;
    amp.ended = false;
    return any;
  }
  private ended = 0;

  /** Whether a voice has come to its end: its envelope or its fade is over, or its sample is and its cells have rung out. `frames`: since this was asked last. */
  finished(voice: Voice, frames: number): boolean {
    const { modulation, numbers, heap } = this;
    const v = voice.index;
    if (modulation.amp.stage[v] === SEGMENT.done) return true;
    if (voice.leaving && (numbers.fade[v] as number) <= 0) return true;
    if (voice.stateOf(heap) === PLAYING) return false;
    const { f32 } = heap;
    const peak = (voice.pair + PEAK) / 4 + voice.side * 2;
    const loud = (f32[peak] as number) > SILENT || (f32[peak + 1] as number) > SILENT;
    const quiet = loud ? 0 : (numbers.quiet[v] as number) + frames;
    numbers.quiet[v] = quiet;
    if (quiet > this.cells.ringOf(voice.layer)) return true;
    this.ringing = true;
    return false;
  }
  /** Whether a voice may still ring, so that it is to be looked at at the next step. */
  private ringing = false;

  /** Sets the ramps of some voices of a layer for the next `frames` frames; with 0 they are to stand at their values. */
  tune(plan: Plan, layer: LayerPlan, list: Int32Array, count: number, frames: number): void {
    this.modulation.run(layer.program, layer.amp, list, count, frames);
    this.pitches(plan, layer, list, count, frames);
    this.cells.tune(layer, this.voices, list, count, frames);
    const moved = frames === 0 || (this.watches.get(layer.id)?.level.moved(this.modulation.shared) ?? true);
    this.gains(plan, layer, list, count, frames, moved);
  }

  /** Lets voices that belong to no layer any more fade from where they were. */
  fadeOut(list: Int32Array, count: number, frames: number): void {
    const { fade, fadeStep, gainLeft, gainRight } = this.numbers;
    const { f32 } = this.heap;
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      const before = fade[v] as number;
      const next = Math.max(0, before + (fadeStep[v] as number) * frames);
      const share = before > 0 ? next / before : 0;
      fade[v] = next;
      gainLeft[v] = (gainLeft[v] as number) * share;
      gainRight[v] = (gainRight[v] as number) * share;
      const at = this.targets[v] as number;
      f32[at] = gainLeft[v] as number;
      f32[at + 1] = gainRight[v] as number;
    }
  }

  /** The rest of the step in which a voice began: its envelopes and LFOs run and its gain moves, pitch and filters wait for the next. */
  lead(plan: Plan, layer: LayerPlan, list: Int32Array, frames: number): void {
    this.modulation.run(layer.program, layer.amp, list, 1, frames);
    this.gains(plan, layer, list, 1, frames, true);
    this.kernels.aimGains((this.voices[list[0] as number] as Voice).pair, frames);
  }

  private bankFor(plan: Plan, rate: number): number {
    const economy = this.banks.length > 1 && this.modulation.shared[plan.play.quality as number] === ECONOMY;
    const banks = this.banks[economy ? 1 : 0] as readonly StoredBank[];
    for (let i = 0; i < banks.length; i++) {
      const bank = banks[i] as StoredBank;
      if (rate <= bank.upTo) return bank.at;
    }
    return 0;
  }

  private pitches(plan: Plan, layer: LayerPlan, list: Int32Array, count: number, frames: number): void {
    const { modulation, numbers, heap, tunes, input } = this;
    const { shared, columns } = modulation;
    const { glide, glideStep, keySemitones, group } = numbers;
    const a4 = (shared[plan.play.a4 as number] as number) / 440;
    // What has no pitch of its own reads a place at which there is nothing.
    const transpose = layer.transpose ?? NOWHERE;
    const fine = layer.fine ?? NOWHERE;
    const tuned = Math.log2((440 * a4) / this.rate);
    const bend = input.mpe === 0 ? input.bendOf(0) : 0;
    if (frames > 0 && this.pitchSteady(layer, bend)) return;
    // What is the same for all is read once; a note's own comes on top.
    const common = (transpose >= 0 ? (shared[transpose] ?? 0) : 0) + (fine >= 0 ? (shared[fine] ?? 0) / 100 : 0) + bend;
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      let semitones = (keySemitones[v] as number) + common;
      if (glideStep[v] !== 0) {
        if (frames > 0) {
          const left = (glide[v] as number) + (glideStep[v] as number) * frames;
          const over = left === 0 || left > 0 === (glideStep[v] as number) > 0;
          glide[v] = over ? 0 : left;
          if (over) glideStep[v] = 0;
        }
        semitones += glide[v] as number;
      }
      if (transpose < 0) semitones += columns[(-1 - transpose) * MOST_VOICES + v] as number;
      if (fine < 0) semitones += (columns[(-1 - fine) * MOST_VOICES + v] as number) / 100;
      const g = group[v] as number;
      if (g >= 0) semitones += modulation.read(tunes[g] as number, v) / 100;
      const voice = this.voices[v] as Voice;
      if (input.mpe !== 0) semitones += input.bendOf(voice.channel);
      if (semitones === numbers.semitones[v] && a4 === numbers.tuned[v]) continue;
      numbers.semitones[v] = semitones;
      numbers.tuned[v] = a4;
      numbers.pitch[v] = ((numbers.root[v] as number) + semitones - 69) / 12 + tuned;
      const { path } = voice;
      if (!path) continue;
      const wanted = (path.rate / this.rate) * a4 * 2 ** (semitones / 12);
      const rate = wanted < FASTEST ? wanted : FASTEST;
      const before = numbers.rate[v] as number;
      numbers.rate[v] = rate;
      voice.aimRate(heap, rate);
      heap.u32[(voice.record + BANK) / 4] = this.bankFor(plan, rate > before ? rate : before);
    }
  }

  /** Whether nothing can have moved a layer's pitches since the last step: no wheel, no route, no glide, no tuning of a group. */
  private pitchSteady(layer: LayerPlan, bend: number): boolean {
    const watch = this.watches.get(layer.id);
    if (!watch) return false;
    const moved = watch.pitch.moved(this.modulation.shared) || watch.bend !== bend;
    watch.bend = bend;
    return !moved && this.input.mpe === 0 && !this.numbers.gliding;
  }

  /** Aims the gains of some voices; `moved`: levels and pans may be others than at the last step. */
  private gains(plan: Plan, layer: LayerPlan, list: Int32Array, count: number, frames: number, moved: boolean): void {
    const { modulation, numbers, heap, targets } = this;
    const { columns, amp } = modulation;
    const { cornerAt } = amp;
    const { fadeStep, wholeLeft, wholeRight, aimed, gainLeft, gainRight } = numbers;
    const { f32 } = heap;
    const ampAt = COLUMN.amp * MOST_VOICES;
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      const corner = cornerAt[v] as number;
      const gain = columns[ampAt + v] as number;
      if (moved || fadeStep[v] !== 0) this.level(plan, layer, v, frames);
      else if (gain === aimed[v] && corner < 0) continue;
      aimed[v] = gain;
      const left = gain * (wholeLeft[v] as number);
      const right = gain * (wholeRight[v] as number);
      gainLeft[v] = left;
      gainRight[v] = right;
      const at = targets[v] as number;
      f32[at] = left;
      f32[at + 1] = right;
      if (frames === 0) {
        (this.voices[v] as Voice).setGain(heap, left, right);
        continue;
      }
      if (corner < 0) continue;
      const turn = Math.round(corner * this.rate);
      if (turn <= 0 || turn >= frames) continue;
      const top = amp.cornerLevel[v] as number;
      const voice = this.voices[v] as Voice;
      voice.turnGain(heap, turn, top * (wholeLeft[v] as number), top * (wholeRight[v] as number));
    }
  }

  /** Computes a voice's level and place, all but its envelope, `frames` frames further on in its fade. */
  private level(plan: Plan, layer: LayerPlan, v: number, frames: number): void {
    const { modulation, numbers, levels, pans } = this;
    const { shared } = modulation;
    const { fade, fadeStep, decibels, factor, pan, panLeft, panRight } = numbers;
    const softness = numbers.softness[v] as number;
    let level =
      (numbers.ownLevel[v] as number) + modulation.read(layer.level, v) - (shared[layer.velocity] as number) * softness;
    let place = (numbers.ownPan[v] as number) + modulation.read(layer.pan, v);
    const g = numbers.group[v] as number;
    if (g >= 0) {
      level += modulation.read(levels[g] as number, v);
      place += modulation.read(pans[g] as number, v);
    }
    const m = numbers.mic[v] as number;
    const fader = m >= 0 ? plan.mics[m] : undefined;
    if (fader) {
      level += shared[fader.level] as number;
      place += shared[fader.pan] as number;
    }
    if (level !== decibels[v]) {
      decibels[v] = level;
      factor[v] = 10 ** (level / 20);
    }
    if (place !== pan[v]) {
      pan[v] = place;
      const angle = ((Math.min(1, Math.max(-1, place)) + 1) * Math.PI) / 4;
      panLeft[v] = Math.SQRT2 * Math.cos(angle);
      panRight[v] = Math.SQRT2 * Math.sin(angle);
    }
    let whole = factor[v] as number;
    if (fadeStep[v] !== 0 || fade[v] !== 1) {
      const next = (fade[v] as number) + (fadeStep[v] as number) * frames;
      fade[v] = next < 0 ? 0 : next > 1 ? 1 : next;
      if (next >= 1) fadeStep[v] = 0;
      whole *= fade[v] as number;
    }
    numbers.wholeLeft[v] = whole * (panLeft[v] as number);
    numbers.wholeRight[v] = whole * (panRight[v] as number);
  }

  /** Lets a voice's gain go from where it is now to its envelope's new course, `frames` frames before the next control step. */
  turn(plan: Plan, layer: LayerPlan, voice: Voice, list: Int32Array, frames: number): void {
    const { modulation } = this;
    const v = voice.index;
    list[0] = v;
    const level = modulation.amp.advance(v, frames / this.rate, modulation.segmentsOf(layer.amp, v));
    modulation.setColumn(COLUMN.amp, v, level);
    this.gains(plan, layer, list, 1, frames, true);
    this.kernels.aimGains(voice.pair, frames);
  }
}
