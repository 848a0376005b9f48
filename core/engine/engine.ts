import { type Audio, decibelsOf, type Hertz, type Random, seededRandom } from "../audio";
import {
  BANK_ROWS,
  BANK_TAPS,
  BREAKS,
  BROKEN_LANES,
  CONTROL,
  type Kernels,
  Limiter,
  makeBanks,
  type Quality,
} from "../dsp";
import { Arrivals, type ReadyPath } from "./arrivals";
import { EffectChain } from "./effect-chain";
import { EVENT, EventQueue } from "./events";
import { HandOver } from "./hand-over";
import { Heap } from "./heap";
import { MidiInput } from "./midi-input";
import { Modulation } from "./modulation";
import { NoteGate } from "./note-gate";
import { NotePlayer } from "./note-player";
import type { NoteRules } from "./note-rules";
import { Performer } from "./performer";
import type { LayerPlan, Plan } from "./plan";
import { COLUMN, GLOBAL } from "./plan-modulation";
import { SampleStore } from "./sample-store";
import { StageTuner } from "./stage-tuner";
import type { PackedSample } from "./stored-sample";
import { TraceLog } from "./trace";
import type { Voice } from "./voice";
import { MOST_LAYERS, MOST_VOICES, ORPHANS, VoicePool } from "./voice-pool";
import { VoiceTuner } from "./voice-tuner";
import { ZoneChooser } from "./zone-chooser";
import { ZoneTable } from "./zone-table";

const BLOCK = 128;
/** Cursors that are told: more can't be told apart. */
const MOST_CURSORS = 48;
/** Notes that may begin in one call of render: what is more is dropped, and told. */
const MOST_STARTS = 512;

export interface EngineOptions {
  readonly rate: Hertz;
  /** Decides all randomness. */
  readonly seed?: number;
  /** `best` is for rendering that needn't keep up with time. */
  readonly quality?: "live" | "best";
  /** Samples and paths are made ready elsewhere and come by `takeSample` and `takePaths`; otherwise they are made here, at once. */
  readonly arriving?: boolean;
}

/** Whether everything in two channels is a finite number. */
function allFinite(left: Float32Array, right: Float32Array, from: number, to: number): boolean {
  let sum = 0;
  // Whatever isn't finite stays so when it is multiplied by 0.
  for (let i = from; i < to; i++) sum += (left[i] as number) * 0 + (right[i] as number) * 0;
  return sum === 0;
}

/** How the engine is doing, for meters. */
export interface EngineStatus {
  readonly voices: number;
  /** Peaks since the last status, as factors. */
  readonly left: number;
  readonly right: number;
  /** Largest reduction by the limiter since the last status, in decibels (0 or less). */
  readonly limiter: number;
  /** Voices that were dropped, and effects that began anew, because their numbers had left all bounds. */
  readonly broken: number;
  /** Voices that gave way because the computer couldn't keep up, and notes and messages that came too many at once. */
  readonly thinned: number;
  readonly dropped: number;
}

/**
 * Plays a plan: the same class renders in the worklet, in workers and in Node. Everything that `render` needs is allocated
 * beforehand; the same plan, samples, events and seed give the same output, however the time is split into calls.
 */
export class Engine {
  readonly trace = new TraceLog();
  /** Frames rendered so far. */
  frame = 0;
  /** Two channels that are heard beside the instrument in the next call of `render`, through the limiter and the meter; null for none. */
  beside: readonly [Float32Array, Float32Array] | null = null;
  private readonly heap: Heap;
  private readonly table: ZoneTable;
  private readonly arrivals: Arrivals;
  private readonly chooser: ZoneChooser;
  private readonly pool: VoicePool;
  private readonly queue = new EventQueue();
  private readonly input = new MidiInput(this.queue);
  private readonly gate: NoteGate;
  private readonly player: NotePlayer;
  private readonly performer: Performer;
  private readonly handOver: HandOver;
  private readonly modulation: Modulation;
  private readonly tuner: VoiceTuner;
  private readonly stages: StageTuner;
  private readonly effects: EffectChain;
  private readonly limiter: Limiter;
  private random: Random;
  private plan: Plan | null = null;
  private readonly scratch: number;
  private readonly bus: number;
  private readonly lists: Int32Array[] = [];
  private readonly counts = new Int32Array(MOST_LAYERS + 1);
  private readonly orphans = new Int32Array(MOST_VOICES);
  /** Level of the whole: what was asked for, the same as a factor, and the ramp to it. */
  private decibels = 0;
  private wanted = 1;
  private level = 1;
  private levelStep = 0;
  private broken = 0;
  /** How many breaks of the kernels have been dealt with. */
  private breaks = 0;
  private thinned = 0;
  private dropped = 0;
  private starts = 0;
  private overloads = 0;

  constructor(
    private readonly kernels: Kernels,
    private readonly options: EngineOptions,
  ) {
    const { rate } = options;
    this.heap = new Heap(kernels.memory, 4096);
    this.scratch = this.heap.allocate(BLOCK * 16);
    this.bus = this.heap.allocate(BLOCK * 8);
    this.heap.f32.fill(0, this.bus / 4, this.bus / 4 + BLOCK * 2);
    this.random = seededRandom(options.seed ?? 1);
    this.pool = new VoicePool(this.heap, rate);
    const store = new SampleStore(this.heap);
    this.table = new ZoneTable(this.heap, store, options.arriving ?? false);
    this.arrivals = new Arrivals(store, this.table);
    this.modulation = new Modulation(rate, MOST_VOICES);
    this.chooser = new ZoneChooser(this.table, this.modulation, this.trace);
    this.stages = new StageTuner(this.heap, this.modulation, this.pool, kernels, rate);
    const qualities: Quality[] = options.quality === "best" ? ["best"] : ["full", "economy"];
    this.tuner = new VoiceTuner(
      this.heap,
      this.modulation,
      this.pool.numbers,
      this.pool.voices,
      this.stages,
      this.input,
      rate,
      qualities.map((q) => this.storeBanks(q)),
      kernels,
    );
    this.player = new NotePlayer(
      this.heap,
      kernels,
      this.pool,
      this.table,
      this.chooser,
      this.modulation,
      this.tuner,
      this.stages,
      this.input,
      this.trace,
      rate,
      () => this.random,
    );
    this.player.bus = this.bus;
    this.handOver = new HandOver(
      this.heap,
      kernels,
      this.pool,
      this.table,
      this.modulation,
      this.tuner,
      this.stages,
      this.player,
    );
    this.performer = new Performer(this.player, this.modulation, this.trace, rate);
    this.gate = new NoteGate(
      this.queue,
      rate,
      () => this.startNote(),
      (serial, velocity) => this.performer.lift(serial, velocity, this.frame),
      () => this.beginTrace(),
    );
    this.effects = new EffectChain(rate, kernels);
    this.limiter = new Limiter(rate);
  }

  private storeBanks(quality: Quality): { at: number; upTo: number }[] {
    return makeBanks(quality).map((bank) => {
      const at = this.heap.allocate(BANK_ROWS + bank.rows.byteLength);
      this.heap.i32[(at + BANK_TAPS) / 4] = bank.taps;
      this.heap.f32.set(bank.rows, (at + BANK_ROWS) / 4);
      return { at, upTo: bank.upTo };
    });
  }

  /** Takes a new plan. Held notes go on, changed in place by their zones' ids; those whose zone is gone fade out. */
  setPlan(plan: Plan): void {
    const before = this.plan;
    this.plan = plan;
    this.player.plan = plan;
    this.performer.plan = plan;
    this.table.setPlan(plan);
    this.chooser.setPlan();
    this.tuner.setPlan(plan, this.table.groups);
    this.stages.setPlan(plan);
    this.modulation.setPlan(plan);
    this.effects.setPlan(plan);
    while (this.lists.length < plan.layers.length) this.lists.push(new Int32Array(MOST_VOICES));
    if (this.frame === 0) this.modulation.settle();
    this.handOver.moveVoices(plan, before, this.frame);
    this.table.collect(this.pool.voices);
  }

  /** Takes new base values of the plan's slots. */
  setBase(base: ArrayLike<number>): void {
    this.modulation.setBase(base);
  }

  /** Beats per minute, for LFOs that follow them. */
  setTempo(tempo: number): void {
    if (tempo > 0) this.modulation.tempo = tempo;
  }

  /** Puts a sample into the engine's memory; zones that waited for it can sound from now on. */
  addSample(sha: string, audio: Audio): void {
    this.table.addSample(sha, audio);
  }

  /** Takes a sample that was made ready elsewhere; `arrive` copies it in. */
  takeSample(sha: string, packed: PackedSample): void {
    this.arrivals.add(sha, packed);
  }

  /** Takes paths that were made ready elsewhere; `arrive` lays them out. */
  takePaths(paths: readonly ReadyPath[]): void {
    this.arrivals.addPaths(paths);
  }

  /** Whether there is something for `arrive` to do. */
  get hasArrivals(): boolean {
    return this.arrivals.waiting;
  }

  /** Takes in about so many bytes of what has come; held notes follow. Call it between calls of `render`. Throws RangeError where a sample finds no room. */
  arrive(bytes: number): void {
    if (this.arrivals.work(bytes) && this.plan) this.handOver.followPaths(this.plan, this.frame);
  }

  /** Takes the impulse of a room, at the engine's rate; before the first frame it is made ready at once. */
  addImpulse(sha: string, audio: Audio): void {
    this.effects.addImpulse(sha, audio);
    if (this.frame === 0) this.effects.settle();
  }

  /** Takes a sample away, as when its file has vanished: what plays it fades out, and the trace says that it is missing. */
  dropSample(sha: string): void {
    for (const voice of this.pool.voices) if (voice.active && voice.ref?.zone.sample === sha) this.pool.giveUp(voice);
    this.table.dropSample(sha);
  }

  /** Gives back what nobody reads any more, a little at a time. It allocates: call it between calls of `render`, now and then. */
  tidy(): void {
    this.table.collect(this.pool.voices);
  }

  /** Bytes of samples and tables held. */
  get memoryUsed(): number {
    return this.heap.used;
  }

  /** Queues a MIDI channel message for a frame; one in the past is played at once. */
  midi(status: number, data1: number, data2: number, frame = this.frame): void {
    this.input.receive(status, data1, data2, frame);
  }

  /** Renders the frames `[from, to)` of two channels, replacing what they hold. */
  render(left: Float32Array, right: Float32Array, from = 0, to = left.length): void {
    let at = from;
    this.starts = 0;
    while (at < to) {
      const phase = this.frame % CONTROL;
      if (phase === 0) this.controlStep();
      while (this.queue.nextFrame <= this.frame) this.handleNext();
      const count = Math.min(to - at, CONTROL - phase, this.queue.nextFrame - this.frame);
      this.segment(left, right, at, at + count);
      this.frame += count;
      at += count;
    }
  }

  private segment(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { f32 } = this.heap;
    if (this.pool.changed) this.listVoices();
    const { list, pairCount } = this.pool;
    if (pairCount > 0) this.kernels.renderPairs(list, pairCount, this.scratch, 0, to - from);
    const step = this.levelStep;
    let { level } = this;
    let at = this.bus / 4;
    for (let i = from; i < to; i++) {
      left[i] = (f32[at] as number) * level;
      right[i] = (f32[at + 1] as number) * level;
      level += step;
      // For the next segment, which adds to it.
      f32[at] = 0;
      f32[at + 1] = 0;
      at += 2;
    }
    this.level = level;
    this.effects.process(left, right, from, to);
    if (!allFinite(left, right, from, to)) {
      // Only the effects can have made it: they begin anew.
      this.effects.reset();
      left.fill(0, from, to);
      right.fill(0, from, to);
      this.broken++;
    }
    const { beside } = this;
    if (beside) {
      for (let i = from; i < to; i++) {
        left[i] = (left[i] as number) + (beside[0][i] as number);
        right[i] = (right[i] as number) + (beside[1][i] as number);
      }
    }
    this.limiter.process(left, right, from, to);
  }

  private controlStep(): void {
    const { plan, modulation, pool } = this;
    if (!plan) return;
    const { play } = plan;
    modulation.advance(CONTROL);
    this.input.range = modulation.shared[play.bend as number] as number;
    this.input.noteRange = modulation.shared[play.noteBend as number] as number;
    this.input.mpe = modulation.shared[play.mpe as number] as number;
    this.handOver.changeChains(plan, this.frame);
    const finished = this.tuner.anyFinished();
    if (finished) this.endFinished();
    if (this.heap.i32[BREAKS / 4] !== this.breaks) this.endBroken();
    if (pool.changed) this.listVoices();
    this.tuner.fadeOut(this.orphans, this.counts[ORPHANS] as number, CONTROL);
    for (let l = 0; l < plan.layers.length; l++) {
      const count = this.counts[l] as number;
      if (count === 0) continue;
      const layer = plan.layers[l] as LayerPlan;
      this.tuner.tune(plan, layer, this.lists[l] as Int32Array, count, CONTROL);
    }
    // Only now: what events have set in motion was to be seen by this step.
    pool.numbers.settle(pool.order, pool.active);
    if (pool.pairCount > 0) this.kernels.controlPairs(pool.list, pool.pairCount, CONTROL);
    const decibels = modulation.shared[play.level as number] as number;
    if (decibels !== this.decibels) {
      this.decibels = decibels;
      this.wanted = 10 ** (decibels / 20);
    }
    if (this.frame === 0) this.level = this.wanted;
    this.levelStep = (this.wanted - this.level) / CONTROL;
    this.effects.tune(modulation.shared);
  }

  private endFinished(): void {
    const { pool } = this;
    for (let i = 0; i < pool.active; i++) {
      const voice = pool.voices[pool.order[i] as number] as Voice;
      if (!voice.active || !this.tuner.finished(voice)) continue;
      voice.end(this.heap);
      pool.changed = true;
    }
  }

  /** Drops voices whose numbers have left all bounds: they added nothing any more, and nothing else is touched. */
  private endBroken(): void {
    const { pool, heap } = this;
    const { i32 } = heap;
    this.breaks = i32[BREAKS / 4] as number;
    for (let v = 0; v < pool.voices.length; v++) {
      const voice = pool.voices[v] as Voice;
      const lanes = (i32[(voice.pair + BROKEN_LANES) / 4] as number) & (voice.side === 1 ? 12 : 3);
      if (lanes === 0) continue;
      i32[(voice.pair + BROKEN_LANES) / 4] = (i32[(voice.pair + BROKEN_LANES) / 4] as number) - lanes;
      if (!voice.active) continue;
      this.stages.forget(voice);
      voice.end(heap);
      this.broken++;
      pool.changed = true;
    }
  }

  /** Sorts the voices that sound by layers. */
  private listVoices(): void {
    const { pool, counts } = this;
    pool.listVoices();
    counts.fill(0);
    for (let i = 0; i < pool.active; i++) {
      const v = pool.order[i] as number;
      const { layer } = pool.voices[v] as Voice;
      const count = counts[layer] as number;
      (layer === ORPHANS ? this.orphans : (this.lists[layer] as Int32Array))[count] = v;
      counts[layer] = count + 1;
    }
  }

  private handleNext(): void {
    const { queue, modulation } = this;
    const kind = queue.kind;
    const a = queue.value(0);
    const b = queue.value(1);
    const c = queue.value(2);
    const d = queue.value(3);
    queue.shift();
    this.player.at(this.frame);
    switch (kind) {
      case EVENT.on:
        if (this.starts++ >= MOST_STARTS) {
          this.dropped++;
          return;
        }
        this.chooser.key(a, true);
        this.gate.press(a, b, c, this.frame);
        return;
      case EVENT.off:
        this.chooser.key(a, false);
        this.gate.lift(a, b, this.frame);
        return;
      case EVENT.soundingOn:
        this.gate.resume(a, b, c, d);
        return;
      case EVENT.soundingOff:
        this.performer.lift(a, 64, this.frame);
        return;
      case EVENT.notePressure:
        this.player.setExpression(COLUMN.notePressure, a, c, b);
        return;
      case EVENT.pressure:
        if (this.input.isMember(c)) this.player.setExpression(COLUMN.notePressure, null, c, a);
        else modulation.setInput(GLOBAL.pressure, a);
        return;
      case EVENT.bend:
        this.input.setBend(c, a);
        if (!this.input.isMember(c)) modulation.setInput(GLOBAL.bend, a);
        return;
      case EVENT.controller:
        this.controller(a, b, c);
        return;
      case EVENT.silence:
        this.silence();
    }
  }

  private controller(number: number, value: number, channel: number): void {
    if (number === 64) this.performer.setSustain(value >= 0.5, this.frame);
    else if (number === 66) this.performer.setSostenuto(value >= 0.5, this.frame);
    if (this.input.isMember(channel)) {
      if (number === 74) this.player.setExpression(COLUMN.slide, null, channel, value);
      return;
    }
    if (number === 1) this.modulation.setInput(GLOBAL.wheel, value);
    this.modulation.setInput(GLOBAL.controllers + number, value);
  }

  /** A script that sees notes before zones are chosen; null for none. */
  get rules(): NoteRules | null {
    return this.gate.rules;
  }
  set rules(rules: NoteRules | null) {
    this.gate.rules = rules;
  }

  private beginTrace(): void {
    const { key, velocity, playedKey, playedVelocity, delay, ruled } = this.gate.note;
    this.trace.begin(key, velocity, this.frame, playedKey, playedVelocity, delay / this.options.rate, ruled, false);
  }

  private startNote(): void {
    const { key, velocity, serial, channel } = this.gate.note;
    this.beginTrace();
    this.performer.begin(serial, key, velocity, channel, this.frame);
  }

  /** Ends every note within 3 ms and forgets what rules have put off; what was sent after it still comes. */
  private silence(): void {
    this.queue.remove(EVENT.soundingOn, EVENT.soundingOff);
    this.gate.clear();
    this.performer.clear();
    this.pool.silence();
  }

  /**
   * Takes load off when rendering takes `load` of the time that it has: above 0.8 three times in a row a fifth of the voices gives way, released and
   * quiet ones first, and no more may sound than are left, until the load has been low for a while.
   */
  relieve(load: number): void {
    const { player, pool } = this;
    // One stretch may be another program's doing; several in a row are ours.
    this.overloads = load > 0.8 ? this.overloads + 1 : 0;
    if (this.overloads >= 3 && pool.active > 4) {
      const keep = Math.floor(pool.active * 0.8);
      this.thinned += pool.thin(pool.active - keep);
      player.ceiling = keep;
    } else if (load < 0.6 && player.ceiling < MOST_VOICES) {
      player.ceiling = Math.ceil(player.ceiling * 1.1);
    }
    if (player.ceiling >= MOST_VOICES) player.ceiling = Number.POSITIVE_INFINITY;
  }

  /** Sets playing back to the beginning: no notes, no echoes, repeats and randomness anew. Frame 0 is next. */
  reset(): void {
    this.pool.reset();
    this.queue.clear();
    this.chooser.reset();
    this.gate.reset();
    this.performer.reset();
    this.input.reset();
    this.modulation.reset();
    this.effects.reset();
    this.limiter.reset();
    this.random = seededRandom(this.options.seed ?? 1);
    this.frame = 0;
  }

  /** Meters since the last call; allocates, so it is for outside the render call. */
  status(): EngineStatus {
    const { limiter } = this;
    const status = {
      voices: this.pool.active,
      left: limiter.peakLeft,
      right: limiter.peakRight,
      limiter: decibelsOf(limiter.lowest),
      broken: this.broken,
      thinned: this.thinned,
      dropped: this.dropped + this.queue.dropped + this.pool.refused,
    };
    limiter.peakLeft = 0;
    limiter.peakRight = 0;
    limiter.lowest = 1;
    return status;
  }

  /** Where sounding voices read: zone number and frame, for cursors. Allocates. */
  cursors(): { zone: number; frame: number }[] {
    return this.pool.voices
      .filter((v) => v.active && v.ref && !v.leaving)
      .slice(0, MOST_CURSORS)
      .map((v) => ({
        zone: v.ref?.index ?? 0,
        frame: v.path?.frameAt(v.spanOf(this.heap), v.positionOf(this.heap)) ?? 0,
      }));
  }

  get sampleRate(): Hertz {
    return this.options.rate;
  }
}
