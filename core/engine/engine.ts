import { type Audio, decibelsOf, type Hertz, type Random, seededRandom } from "../audio";
import { BANK_ROWS, BANK_TAPS, type Kernels, Limiter, makeBanks, PAIR_BYTES, Reverb } from "../dsp";
import { EVENT, EventQueue } from "./events";
import { Heap } from "./heap";
import { Modulation } from "./modulation";
import type { NoteRules } from "./note-rules";
import type { Plan } from "./plan";
import { type Path, SampleStore } from "./sample-store";
import { REASON, TraceLog } from "./trace";
import { Voice, type ZoneRef } from "./voice";
import { VoiceTuner } from "./voice-tuner";

/** Frames between two control steps. */
export const CONTROL = 32;
const BLOCK = 128;
/** Voices that may fade out beside those that the instrument allows. */
const SPARE = 64;
const MOST_VOICES = 256 + SPARE;
/** A voice that gives way fades in 3 ms. */
const STEAL_SECONDS = 0.003;
const HELD = 16;

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
  rules: NoteRules | null = null;
  /** Frames rendered so far. */
  frame = 0;
  private readonly heap: Heap;
  private readonly store: SampleStore;
  private readonly voices: Voice[] = [];
  private readonly queue = new EventQueue();
  private readonly modulation: Modulation;
  private readonly tuner: VoiceTuner;
  private readonly reverb: Reverb;
  private readonly limiter: Limiter;
  private random: Random;
  private plan: Plan | null = null;
  private zones: ZoneRef[] = [];
  private counters = new Uint16Array(0);
  private groups: number[] = [];
  private readonly pairs: number;
  private readonly scratch: number;
  private readonly bus: number;
  private readonly heldSerials = new Int32Array(128 * HELD);
  private readonly heldDelays = new Float64Array(128 * HELD);
  private readonly heldCounts = new Uint8Array(128);
  private readonly repeats = new Int32Array(64);
  private serial = 0;
  private sustain = false;
  private level = 1;
  private levelStep = 0;
  private activeCount = 0;
  private pairCount = 0;
  private peakLeft = 0;
  private peakRight = 0;
  private broken = 0;
  // What a rule emits is read by these, so that a note needs no closure.
  private ruleKey = 0;
  private ruleVelocity = 0;
  private ruleEmits = 0;
  private ending = false;

  constructor(
    private readonly kernels: Kernels,
    private readonly options: EngineOptions,
  ) {
    this.heap = new Heap(kernels.memory, 4096);
    this.pairs = this.heap.allocate((MOST_VOICES / 2) * PAIR_BYTES);
    this.heap.f32.fill(0, this.pairs / 4, (this.pairs + (MOST_VOICES / 2) * PAIR_BYTES) / 4);
    this.scratch = this.heap.allocate(BLOCK * 16);
    this.bus = this.heap.allocate(BLOCK * 8);
    for (let i = 0; i < MOST_VOICES; i++) this.voices.push(new Voice(i, this.pairs));
    this.store = new SampleStore(this.heap);
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
    const before = new Map(this.zones.map((ref) => [ref.zone.id, ref]));
    const groupsBefore = this.groups.length;
    this.plan = plan;
    this.zones = [];
    this.groups = [];
    plan.layers.forEach((layer, l) => {
      layer.groups.forEach((group) => {
        const g = this.groups.length;
        this.groups.push(l);
        for (const zone of group.zones) {
          const old = before.get(zone.id);
          const keep = old?.path && old.path.key === SampleStore.keyOf(zone) ? old.path : null;
          this.zones.push({ zone, index: this.zones.length, layer: l, group: g, path: keep ?? this.store.path(zone) });
        }
      });
    });
    if (groupsBefore !== this.groups.length) this.counters = new Uint16Array(this.groups.length * 128);
    this.modulation.setPlan(plan);
    this.moveVoices(plan);
    const kept = new Set(this.zones.map((ref) => ref.path));
    for (const old of before.values()) if (old.path && !kept.has(old.path)) this.store.release(old.path);
    const wanted = new Set(plan.samples);
    const unused = this.store.shas().filter((sha) => !wanted.has(sha));
    for (const sha of unused) if (!this.zones.some((ref) => ref.zone.sample === sha)) this.dropSample(sha);
    if (this.frame === 0) this.modulation.settle();
  }

  private moveVoices(plan: Plan): void {
    const after = new Map(this.zones.map((ref) => [ref.zone.id, ref]));
    for (const voice of this.voices) {
      if (!voice.active || !voice.ref) continue;
      const next = after.get(voice.ref.zone.id);
      if (!next?.path || next.zone.sample !== voice.ref.zone.sample || !plan.layers[next.layer]) {
        voice.end(this.heap);
        continue;
      }
      if (next.path !== voice.ref.path) this.tuner.repath(voice, next.zone, next.path);
      voice.ref = next;
      voice.layer = next.layer;
    }
  }

  /** Takes new base values of the plan's slots. */
  setBase(base: ArrayLike<number>): void {
    this.modulation.setBase(base);
  }

  /** Puts a sample into the engine's memory; zones that waited for it can sound from now on. */
  addSample(sha: string, audio: Audio): void {
    this.store.add(sha, audio);
    for (const ref of this.zones) if (ref.zone.sample === sha) ref.path ??= this.store.path(ref.zone);
  }

  hasSample(sha: string): boolean {
    return this.store.has(sha);
  }

  private dropSample(sha: string): void {
    for (const voice of this.voices) if (voice.active && voice.ref?.zone.sample === sha) voice.end(this.heap);
    this.store.remove(sha);
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

  /** Sets a slot's base value at a frame. */
  setValue(slot: number, value: number, frame = this.frame): void {
    this.queue.push(frame, EVENT.macro, slot, value);
  }

  /** Forgets everything that was to come. */
  clearEvents(): void {
    this.queue.clear();
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
    if (this.pairCount > 0) this.kernels.renderPairs(this.pairs, this.pairCount, this.scratch, 0, frames);
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
    const { plan, modulation } = this;
    if (!plan) return;
    modulation.advance();
    let active = 0;
    let last = -1;
    for (let v = 0; v < this.voices.length; v++) {
      const voice = this.voices[v] as Voice;
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
    this.activeCount = active;
    this.pairCount = (last >> 1) + 1;
    modulation.evaluate(plan, plan.routes, 0, modulation.current.length, null);
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
        this.press(a, b);
        return;
      case EVENT.off:
        this.lift(a);
        return;
      case EVENT.soundingOn:
        this.startNote(a, b, c, Math.floor(d / 128) % 128, d % 128, Math.floor(d / 16384), 2);
        return;
      case EVENT.soundingOff:
        this.releaseSerial(a);
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
        this.setSustain(a === 1);
        return;
      case EVENT.silence:
        this.silence();
        return;
      case EVENT.macro:
        this.modulation.setBaseAt(a, b);
    }
  }

  /** A key went down: the rules say what sounds. */
  private press(key: number, velocity: number): void {
    this.lift(key);
    if (!this.rules) {
      this.sound(key, velocity, key, velocity, 0, 0, 0);
      return;
    }
    this.ruleKey = key;
    this.ruleVelocity = velocity;
    this.ruleEmits = 0;
    this.ending = false;
    const fine = this.rules.start(key, velocity, this.frame / this.options.rate, this.emit);
    if (!fine) this.sound(key, velocity, key, velocity, 0, 0, 4);
    else if (this.ruleEmits === 0) this.trace.begin(key, velocity, this.frame, key, velocity, 0, 3);
  }

  private readonly emit = (key: number, velocity: number, delay: number, length: number): void => {
    if (this.ruleEmits >= HELD) return;
    this.ruleEmits++;
    const k = Math.round(Math.min(127, Math.max(0, key)));
    const v = Math.min(127, Math.max(1, velocity));
    const changed = k !== this.ruleKey || v !== this.ruleVelocity || delay > 0 || this.ruleEmits > 1;
    this.sound(
      k,
      v,
      this.ruleKey,
      this.ruleVelocity,
      delay,
      this.ending && length <= 0 ? 0.5 : length,
      changed ? 2 : 1,
    );
  };

  /** Lets a note sound now or later; `length` 0 ties it to its key. */
  private sound(
    key: number,
    velocity: number,
    playedKey: number,
    playedVelocity: number,
    delay: number,
    length: number,
    rules: number,
  ): void {
    const serial = ++this.serial;
    const frames = Math.round(Math.max(0, delay) * this.options.rate);
    if (length > 0)
      this.queue.push(this.frame + frames + Math.round(length * this.options.rate), EVENT.soundingOff, serial);
    else {
      const count = this.heldCounts[playedKey] as number;
      if (count < HELD) {
        this.heldSerials[playedKey * HELD + count] = serial;
        this.heldDelays[playedKey * HELD + count] = frames;
        this.heldCounts[playedKey] = count + 1;
      }
    }
    if (frames > 0)
      this.queue.push(
        this.frame + frames,
        EVENT.soundingOn,
        key,
        velocity,
        serial,
        frames * 16384 + playedVelocity * 128 + playedKey,
      );
    else this.startNote(key, velocity, serial, playedVelocity, playedKey, 0, rules);
  }

  /** A key went up: whatever it holds is released, each note as much later as it began. */
  private lift(key: number): void {
    const count = this.heldCounts[key] as number;
    if (count === 0) return;
    this.heldCounts[key] = 0;
    for (let i = 0; i < count; i++) {
      const serial = this.heldSerials[key * HELD + i] as number;
      const delay = this.heldDelays[key * HELD + i] as number;
      if (delay > 0) this.queue.push(this.frame + delay, EVENT.soundingOff, serial);
      else this.releaseSerial(serial);
    }
    if (!this.rules) return;
    this.ruleKey = key;
    this.ruleVelocity = 0;
    this.ruleEmits = 0;
    this.ending = true;
    this.rules.end(key, this.frame / this.options.rate, this.emit);
  }

  private startNote(
    key: number,
    velocity: number,
    serial: number,
    playedVelocity: number,
    playedKey: number,
    delay: number,
    rules: number,
  ): void {
    const { plan, zones, trace } = this;
    trace.begin(key, velocity, this.frame, playedKey, playedVelocity, delay / this.options.rate, rules);
    if (!plan) return;
    const random = this.random() * 2 - 1;
    for (let g = 0; g < this.groups.length; g++) {
      const repeat = this.chooseRepeat(g, key, velocity);
      for (let z = 0; z < zones.length; z++) {
        const ref = zones[z] as ZoneRef;
        if (ref.group !== g) continue;
        const { zone } = ref;
        if (key < zone.keyLow || key > zone.keyHigh) trace.skip();
        else if (velocity < zone.velLow || velocity >= zone.velHigh + 1)
          trace.zone(ref.layer, z, REASON.velocity, 0, 0);
        else if (!ref.path) trace.zone(ref.layer, z, REASON.missing, 0, 0);
        else if (zone.repeat !== repeat) trace.zone(ref.layer, z, REASON.repeat, 0, 0);
        else this.startVoice(plan, ref, ref.path, key, velocity, serial, random);
      }
    }
  }

  /** The next of the round robins that answer a key at a velocity; each key of a group counts for itself. */
  private chooseRepeat(group: number, key: number, velocity: number): number {
    const { repeats } = this;
    let count = 0;
    for (let z = 0; z < this.zones.length; z++) {
      const ref = this.zones[z] as ZoneRef;
      const { zone } = ref;
      if (ref.group !== group || !ref.path || key < zone.keyLow || key > zone.keyHigh) continue;
      if (velocity < zone.velLow || velocity >= zone.velHigh + 1) continue;
      let at = 0;
      while (at < count && (repeats[at] as number) < zone.repeat) at++;
      if ((at < count && repeats[at] === zone.repeat) || count === repeats.length) continue;
      repeats.copyWithin(at + 1, at, count);
      repeats[at] = zone.repeat;
      count++;
    }
    if (count === 0) return 0;
    const counter = group * 128 + key;
    const turn = this.counters[counter] as number;
    this.counters[counter] = turn + 1;
    return repeats[turn % count] as number;
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
    const voice = this.freeVoice(plan);
    if (!voice) return;
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
    this.activeCount++;
    this.pairCount = Math.max(this.pairCount, (voice.index >> 1) + 1);
    this.trace.zone(ref.layer, ref.index, REASON.played, voice.rate, decibelsOf(this.tuner.lastLevel));
  }

  /** A voice for a new note; beyond the limit, a released and quiet one gives way, else the oldest. */
  private freeVoice(plan: Plan): Voice | null {
    const limit = this.modulation.current[plan.voices] as number;
    let sounding = 0;
    let free: Voice | null = null;
    let victim: Voice | null = null;
    let dying: Voice | null = null;
    for (let v = 0; v < this.voices.length; v++) {
      const voice = this.voices[v] as Voice;
      if (!voice.active) {
        free ??= voice;
        continue;
      }
      if (voice.fadeFrames > 0) {
        if (!dying || voice.fadeLeft < dying.fadeLeft) dying = voice;
        continue;
      }
      sounding++;
      if (!victim || this.rather(voice, victim)) victim = voice;
    }
    if (sounding >= limit && victim) {
      this.trace.stole();
      victim.fadeFrames = Math.round(STEAL_SECONDS * this.options.rate);
      victim.fadeLeft = victim.fadeFrames;
    }
    if (free) return free;
    const last = dying ?? victim;
    last?.end(this.heap);
    return last;
  }

  /** Whether `a` should give way rather than `b`. */
  private rather(a: Voice, b: Voice): boolean {
    if (a.released !== b.released) return a.released;
    if (a.released) return a.gainLeft + a.gainRight < b.gainLeft + b.gainRight;
    return a.born < b.born;
  }

  private releaseSerial(serial: number): void {
    for (let v = 0; v < this.voices.length; v++) {
      const voice = this.voices[v] as Voice;
      if (!voice.active || voice.serial !== serial || voice.released) continue;
      if (this.sustain) voice.sustained = true;
      else this.releaseVoice(voice);
    }
  }

  private releaseVoice(voice: Voice): void {
    voice.released = true;
    voice.env.release();
  }

  private setSustain(down: boolean): void {
    this.sustain = down;
    if (down) return;
    for (const voice of this.voices) if (voice.active && voice.sustained && !voice.released) this.releaseVoice(voice);
  }

  /** Ends every note within 3 ms and forgets notes to come. */
  private silence(): void {
    this.queue.clear();
    this.heldCounts.fill(0);
    this.sustain = false;
    for (const voice of this.voices) {
      if (!voice.active || voice.fadeFrames > 0) continue;
      voice.fadeFrames = Math.round(STEAL_SECONDS * this.options.rate);
      voice.fadeLeft = voice.fadeFrames;
    }
  }

  /** Sets playing back to the beginning: no notes, no echoes, repeats and randomness anew. Frame 0 is next. */
  reset(): void {
    for (const voice of this.voices) if (voice.active) voice.end(this.heap);
    this.queue.clear();
    this.counters.fill(0);
    this.heldCounts.fill(0);
    this.sustain = false;
    this.tuner.bend = 0;
    this.modulation.wheel = 0;
    this.modulation.pressure = 0;
    this.modulation.settle();
    this.reverb.reset();
    this.limiter.reset();
    this.random = seededRandom(this.options.seed ?? 1);
    this.serial = 0;
    this.frame = 0;
    this.activeCount = 0;
    this.pairCount = 0;
  }

  /** Meters since the last call; allocates, so it is for outside the render call. */
  status(): EngineStatus {
    const status = {
      voices: this.activeCount,
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
    return this.voices
      .filter((v) => v.active && v.ref)
      .map((v) => ({ zone: v.ref?.index ?? 0, frame: v.frameOf(this.heap) }));
  }

  get sampleRate(): Hertz {
    return this.options.rate;
  }
}
