import { type Audio, decibelsOf, type Hertz, type Random, seededRandom } from "../audio";
import { BANK_ROWS, BANK_TAPS, type Kernels, Limiter, makeBanks, Reverb } from "../dsp";
import { EVENT, EventQueue } from "./events";
import { Heap } from "./heap";
import { Modulation } from "./modulation";
import { NoteGate } from "./note-gate";
import type { NoteRules } from "./note-rules";
import type { Plan } from "./plan";
import { type Path, SampleStore } from "./sample-store";
import { REASON, TraceLog } from "./trace";
import type { Voice, ZoneRef } from "./voice";
import { VoicePool } from "./voice-pool";
import { VoiceTuner } from "./voice-tuner";
import { ZoneTable } from "./zone-table";

/** Frames between two control steps. */
export const CONTROL = 32;
const BLOCK = 128;

export interface EngineOptions {
  readonly rate: Hertz;
  /** Decides all randomness. */
  readonly seed?: number;
}

/** How the engine is doing, for meters. */
export interface EngineStatus {
  readonly voices: number;
  /** Peaks since the last status, as factors. */
  readonly left: number;
  readonly right: number;
  /** Largest reduction by the limiter since the last status, in decibels (0 or less). */
  readonly limiter: number;
  /** Voices dropped because their numbers were no longer finite. */
  readonly broken: number;
}

/**
 * Plays a plan: the same class renders in the worklet, in workers and in Node. Everything that `render` needs is allocated
 * beforehand; the same plan, samples, events and seed give the same output, however the time is split into calls.
 */
export class Engine {
  readonly trace = new TraceLog();
  /** Frames rendered so far. */
  frame = 0;
  private readonly heap: Heap;
  private readonly store: SampleStore;
  private readonly table: ZoneTable;
  private readonly pool: VoicePool;
  private readonly queue = new EventQueue();
  private readonly gate: NoteGate;
  private readonly modulation: Modulation;
  private readonly tuner: VoiceTuner;
  private readonly reverb: Reverb;
  private readonly limiter: Limiter;
  private random: Random;
  private plan: Plan | null = null;
  private readonly scratch: number;
  private readonly bus: number;
  private level = 1;
  private levelStep = 0;
  private peakLeft = 0;
  private peakRight = 0;
  private broken = 0;

  constructor(
    private readonly kernels: Kernels,
    private readonly options: EngineOptions,
  ) {
    this.heap = new Heap(kernels.memory, 4096);
    this.gate = new NoteGate(
      this.queue,
      options.rate,
      () => this.startNote(),
      (serial) => this.pool.release(serial),
      () => this.beginTrace(),
    );
    this.scratch = this.heap.allocate(BLOCK * 16);
    this.bus = this.heap.allocate(BLOCK * 8);
    this.pool = new VoicePool(this.heap, options.rate);
    this.store = new SampleStore(this.heap);
    this.table = new ZoneTable(this.store);
    this.modulation = new Modulation(options.rate, CONTROL);
    this.reverb = new Reverb(options.rate);
    this.limiter = new Limiter(options.rate);
    this.random = seededRandom(options.seed ?? 1);
    const banks = makeBanks().map((bank) => {
      const at = this.heap.allocate(BANK_ROWS + bank.rows.byteLength);
      this.heap.i32[(at + BANK_TAPS) / 4] = bank.taps;
      this.heap.f32.set(bank.rows, (at + BANK_ROWS) / 4);
      return { at, upTo: bank.upTo };
    });
    this.tuner = new VoiceTuner(this.heap, this.modulation, banks, options.rate);
  }

  /** Takes a new plan. Held notes go on, changed in place by their zones' ids; those whose zone is gone fade out. */
  setPlan(plan: Plan): void {
    this.plan = plan;
    this.table.setPlan(plan);
    this.modulation.setPlan(plan);
    this.moveVoices(plan);
    this.table.collect(this.pool.voices);
    if (this.frame === 0) this.modulation.settle();
  }

  private moveVoices(plan: Plan): void {
    const after = new Map(this.table.refs.map((ref) => [ref.zone.id, ref]));
    for (const voice of this.pool.voices) {
      if (!voice.active || !voice.ref) continue;
      const next = after.get(voice.ref.zone.id);
      if (next?.path && next.zone.sample === voice.ref.zone.sample) {
        if (next.path !== voice.ref.path) this.tuner.repath(voice, next.zone, next.path);
        voice.ref = next;
        voice.layer = next.layer;
      } else {
        this.pool.giveUp(voice);
        voice.layer = Math.min(voice.layer, plan.layers.length - 1);
        if (plan.layers.length === 0) voice.end(this.heap);
      }
    }
  }

  /** Takes new base values of the plan's slots. */
  setBase(base: ArrayLike<number>): void {
    this.modulation.setBase(base);
  }

  /** Puts a sample into the engine's memory; zones that waited for it can sound from now on. */
  addSample(sha: string, audio: Audio): void {
    this.table.addSample(sha, audio);
  }

  /** Bytes of samples and tables held. */
  get memoryUsed(): number {
    return this.heap.used;
  }

  /** Queues a MIDI channel message for a frame; one in the past is played at once. */
  midi(status: number, data1: number, data2: number, frame = this.frame): void {
    switch (status & 0xf0) {
      case 0x90:
        this.queue.push(frame, data2 > 0 ? EVENT.on : EVENT.off, data1 & 127, data2 & 127);
        return;
      case 0x80:
        this.queue.push(frame, EVENT.off, data1 & 127);
        return;
      case 0xd0:
        this.queue.push(frame, EVENT.pressure, (data1 & 127) / 127);
        return;
      case 0xe0:
        this.queue.push(frame, EVENT.bend, (((data2 & 127) << 7) | (data1 & 127)) / 8192 - 1);
        return;
      case 0xb0:
        if (data1 === 1) this.queue.push(frame, EVENT.wheel, (data2 & 127) / 127);
        else if (data1 === 64) this.queue.push(frame, EVENT.sustain, data2 >= 64 ? 1 : 0);
        else if (data1 === 120 || data1 === 123) this.queue.push(frame, EVENT.silence);
    }
  }

  /** Renders the frames `[from, to)` of two channels, replacing what they hold. */
  render(left: Float32Array, right: Float32Array, from = 0, to = left.length): void {
    let at = from;
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
    const frames = to - from;
    const { f32 } = this.heap;
    const bus = this.bus / 4;
    f32.fill(0, bus, bus + frames * 2);
    const { pairs, pairCount } = this.pool;
    if (pairCount > 0) this.kernels.renderPairs(pairs, pairCount, this.scratch, 0, frames);
    let { level } = this;
    for (let i = 0; i < frames; i++) {
      left[from + i] = (f32[bus + 2 * i] as number) * level;
      right[from + i] = (f32[bus + 2 * i + 1] as number) * level;
      level += this.levelStep;
    }
    this.level = level;
    if (this.plan?.reverb) this.reverb.process(left, right, from, to);
    this.limiter.process(left, right, from, to);
    for (let i = from; i < to; i++) {
      const l = Math.abs(left[i] as number);
      const r = Math.abs(right[i] as number);
      if (l > this.peakLeft) this.peakLeft = l;
      if (r > this.peakRight) this.peakRight = r;
    }
  }

  private controlStep(): void {
    const { plan, modulation, pool } = this;
    if (!plan) return;
    modulation.advance();
    this.table.collect(pool.voices);
    let active = 0;
    let last = -1;
    for (let v = 0; v < pool.voices.length; v++) {
      const voice = pool.voices[v] as Voice;
      if (!voice.active) continue;
      if (this.tuner.finished(voice)) {
        voice.end(this.heap);
        continue;
      }
      if (!voice.sane(this.heap, plan.layers[voice.layer]?.stages.length ?? 0)) {
        voice.end(this.heap);
        this.broken++;
        continue;
      }
      this.tuner.tune(plan, voice, CONTROL, false);
      active++;
      last = v;
    }
    pool.active = active;
    pool.pairCount = (last >> 1) + 1;
    modulation.evaluate(plan, plan.routes, null);
    const wanted = 10 ** ((modulation.now[plan.level] as number) / 20);
    if (this.frame === 0) this.level = wanted;
    this.levelStep = (wanted - this.level) / CONTROL;
    const { reverb } = plan;
    if (reverb) {
      const { now } = modulation;
      this.reverb.tune(
        now[reverb.mix] as number,
        now[reverb.size] as number,
        now[reverb.decay] as number,
        now[reverb.damping] as number,
      );
    }
  }

  private handleNext(): void {
    const { queue } = this;
    const kind = queue.kind;
    const a = queue.value(0);
    const b = queue.value(1);
    const c = queue.value(2);
    const d = queue.value(3);
    queue.shift();
    switch (kind) {
      case EVENT.on:
        this.gate.press(a, b, this.frame);
        return;
      case EVENT.off:
        this.gate.lift(a, this.frame);
        return;
      case EVENT.soundingOn:
        this.gate.resume(a, b, c, d);
        return;
      case EVENT.soundingOff:
        this.pool.release(a);
        return;
      case EVENT.wheel:
        this.modulation.wheel = a;
        return;
      case EVENT.pressure:
        this.modulation.pressure = a;
        return;
      case EVENT.bend:
        this.tuner.bend = a;
        return;
      case EVENT.sustain:
        this.pool.setSustain(a === 1);
        return;
      case EVENT.silence:
        this.silence();
    }
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
    this.trace.begin(key, velocity, this.frame, playedKey, playedVelocity, delay / this.options.rate, ruled);
  }

  /** The gate's note begins: in each group the zones of one repeat sound. */
  private startNote(): void {
    const { plan, table, trace } = this;
    const { refs } = table;
    const { key, velocity, serial } = this.gate.note;
    this.beginTrace();
    if (!plan) return;
    const random = this.random() * 2 - 1;
    for (let g = 0; g < table.groups; g++) {
      const repeat = table.chooseRepeat(g, key, velocity);
      for (let z = 0; z < refs.length; z++) {
        const ref = refs[z] as ZoneRef;
        if (ref.group !== g) continue;
        const { zone, path } = ref;
        const answers = velocity >= zone.velLow && velocity < zone.velHigh + 1;
        if (key < zone.keyLow || key > zone.keyHigh) trace.skip();
        else if (!answers) trace.zone(ref.layer, z, REASON.velocity, 0, 0);
        else if (!path) trace.zone(ref.layer, z, REASON.missing, 0, 0);
        else if (zone.repeat !== repeat) trace.zone(ref.layer, z, REASON.repeat, 0, 0);
        else this.startVoice(plan, ref, path, key, velocity, serial, random);
      }
    }
  }

  private startVoice(
    plan: Plan,
    ref: ZoneRef,
    path: Path,
    key: number,
    velocity: number,
    serial: number,
    random: number,
  ): void {
    const voice = this.pool.take(this.modulation.current[plan.voices] as number);
    if (!voice) return;
    if (this.pool.gaveWay) this.trace.stole();
    voice.active = true;
    voice.ref = ref;
    voice.layer = ref.layer;
    voice.serial = serial;
    voice.key = key;
    voice.velocity = velocity;
    voice.random = random;
    voice.released = false;
    voice.sustained = false;
    voice.age = 0;
    voice.born = this.frame;
    voice.fadeFrames = 0;
    voice.fadeLeft = 0;
    voice.phases.fill(0);
    voice.begin(this.heap, ref.zone.start, path, this.bus);
    voice.env.start();
    const phase = this.frame % CONTROL;
    this.tuner.tune(plan, voice, CONTROL - phase, true);
    this.pool.began(voice);
    this.trace.zone(ref.layer, ref.index, REASON.played, voice.rate, decibelsOf(this.tuner.lastLevel));
  }

  /** Ends every note within 3 ms and forgets notes to come. */
  private silence(): void {
    this.queue.clear();
    this.gate.clear();
    this.pool.silence();
  }

  /** Sets playing back to the beginning: no notes, no echoes, repeats and randomness anew. Frame 0 is next. */
  reset(): void {
    this.pool.reset();
    this.queue.clear();
    this.table.reset();
    this.gate.reset();
    this.tuner.bend = 0;
    this.modulation.wheel = 0;
    this.modulation.pressure = 0;
    this.modulation.settle();
    this.reverb.reset();
    this.limiter.reset();
    this.random = seededRandom(this.options.seed ?? 1);
    this.frame = 0;
  }

  /** Meters since the last call; allocates, so it is for outside the render call. */
  status(): EngineStatus {
    const status = {
      voices: this.pool.active,
      left: this.peakLeft,
      right: this.peakRight,
      limiter: decibelsOf(this.limiter.lowest),
      broken: this.broken,
    };
    this.peakLeft = 0;
    this.peakRight = 0;
    this.limiter.lowest = 1;
    return status;
  }

  /** Where sounding voices read: zone number and frame, for cursors. Allocates. */
  cursors(): { zone: number; frame: number }[] {
    return this.pool.voices
      .filter((v) => v.active && v.ref)
      .map((v) => ({ zone: v.ref?.index ?? 0, frame: v.frameOf(this.heap) }));
  }

  get sampleRate(): Hertz {
    return this.options.rate;
  }
}
