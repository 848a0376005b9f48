import { decibelsOf, type Hertz } from "../audio";
import { CONTROL } from "../dsp";
import type { Heap } from "./heap";
import type { Modulation } from "./modulation";
import type { GroupPlan, LayerPlan, Plan } from "./plan";
import { COLUMN } from "./plan-modulation";
import type { SharedParts } from "./shared-parts";
import { REASON, type TraceLog } from "./trace";
import type { Voice, ZoneRef } from "./voice";
import type { VoiceCells } from "./voice-cells";
import type { VoicePool } from "./voice-pool";
import type { VoiceTuner } from "./voice-tuner";
import { MOMENT, type ZoneChooser } from "./zone-chooser";
import type { ZoneTable } from "./zone-table";

/** A note as it is to sound. */
export interface SoundingNote {
  readonly serial: number;
  readonly key: number;
  readonly velocity: number;
  readonly channel: number;
}

/** How a note begins: whether no other key is held, and how far above (semitones) and for how long (frames) it glides from. */
export interface Beginning {
  first: boolean;
  glide: number;
  glideFrames: number;
  /** A voice of the note before whose envelopes go on; null for a fresh beginning. */
  from: Voice | null;
}

/** Frames in which a note that hands over to another dies away: 8 ms. */
const HAND_OVER_SECONDS = 0.008;

/** Lets notes sound: starts, binds and releases their voices, each on its exact frame. */
export class NotePlayer {
  /** Most voices that may sound now, when the computer can't keep up; Infinity otherwise. */
  ceiling = Number.POSITIVE_INFINITY;
  private readonly list = new Int32Array(1);
  private frame = 0;
  private readonly fresh: Beginning = { first: true, glide: 0, glideFrames: 0, from: null };

  private readonly heap: Heap;
  private readonly pool: VoicePool;
  private readonly table: ZoneTable;
  private readonly modulation: Modulation;
  private readonly trace: TraceLog;
  private readonly rate: Hertz;

  constructor(
    private readonly shared: SharedParts,
    private readonly chooser: ZoneChooser,
    private readonly tuner: VoiceTuner,
    private readonly cells: VoiceCells,
  ) {
    this.heap = shared.heap;
    this.pool = shared.pool;
    this.table = shared.table;
    this.modulation = shared.modulation;
    this.trace = shared.trace;
    this.rate = shared.rate;
  }

  at(frame: number): void {
    this.frame = frame;
  }

  /** Pitch of a key as a note with fraction, in the plan's tuning; null where the tuning leaves it silent. */
  pitchOf(key: number): number | null {
    const tuning = this.shared.plan?.tuning;
    return tuning ? (tuning[key] ?? null) : key;
  }

  /** Lets a note sound; `moment` says which groups may. The trace must be open. */
  start(note: SoundingNote, moment: number, beginning: Beginning): void {
    const { chooser } = this;
    const { plan, random } = this.shared;
    if (!plan) return;
    const chance = random() * 2 - 1;
    chooser.choose(plan, note.key, note.velocity, moment, beginning.first, random);
    for (let i = 0; i < chooser.count; i++) {
      const ref = chooser.chosen[i] as ZoneRef;
      this.chokeOthers(ref, note.serial);
      this.startVoice(plan, ref, note, chooser.weights[i] as number, chooser.keys[i] as number, chance, beginning, 0);
    }
  }

  /** The sounds of a note that was let go after so many seconds. Returns whether there were any. */
  startRelease(note: SoundingNote, held: number): boolean {
    const { chooser } = this;
    const { plan } = this.shared;
    if (!plan || !this.hasReleases()) return false;
    this.trace.begin(note.key, note.velocity, this.frame, note.key, note.velocity, 0, 0, true);
    chooser.choose(plan, note.key, note.velocity, MOMENT.release, true, this.shared.random);
    for (let i = 0; i < chooser.count; i++) {
      const ref = chooser.chosen[i] as ZoneRef;
      const group = this.table.groups[ref.group] as GroupPlan;
      const fall = this.modulation.read(group.params.releaseDecay as number, 0) * held;
      this.startVoice(plan, ref, note, chooser.weights[i] as number, chooser.keys[i] as number, 0, this.fresh, fall);
    }
    if (chooser.count === 0) this.trace.forget();
    return chooser.count > 0;
  }

  private hasReleases(): boolean {
    const { groups } = this.table;
    for (let g = 0; g < groups.length; g++) {
      if (this.modulation.read((groups[g] as GroupPlan).params.trigger as number, 0) === MOMENT.release) return true;
    }
    return false;
  }

  private chokeOthers(ref: ZoneRef, serial: number): void {
    const { groups } = this.table;
    const own = groups[ref.group] as GroupPlan;
    const number = this.modulation.read(own.params.chokeGroup as number, 0);
    if (number < 1) return;
    const frames = Math.max(16, this.modulation.read(own.params.chokeFade as number, 0) * this.rate);
    for (let v = 0; v < this.pool.voices.length; v++) {
      const voice = this.pool.voices[v] as Voice;
      if (!voice.active || voice.serial === serial || !voice.ref) continue;
      const group = groups[voice.ref.group];
      if (group && this.modulation.read(group.params.chokeGroup as number, 0) === number)
        this.pool.giveUp(voice, frames);
    }
  }

  private startVoice(
    plan: Plan,
    ref: ZoneRef,
    note: SoundingNote,
    weight: number,
    source: number,
    chance: number,
    beginning: Beginning,
    fall: number,
  ): void {
    const { modulation, pool, trace, tuner, heap } = this;
    const layer = plan.layers[ref.layer] as LayerPlan;
    const path = layer.source ? null : ref.path;
    const pitch = this.pitchOf(note.key);
    if (!path && !layer.source) return;
    if (pitch === null) {
      trace.zone(ref.layer, ref.index, REASON.untuned, 0, 0, source);
      return;
    }
    const group = this.table.groups[ref.group] as GroupPlan;
    const limit = Math.min(this.ceiling, modulation.shared[plan.play.voices as number] as number);
    const layerLimit = modulation.shared[layer.voices] as number;
    const groupLimit = modulation.read(group.params.voices as number, 0);
    const way = this.shared.ways[ref.group] as number;
    const voice = pool.take(ref.layer, ref.group, limit, layerLimit, groupLimit, note.serial, way);
    if (!voice) {
      trace.zone(ref.layer, ref.index, REASON.crowded, 0, 0, source);
      return;
    }
    if (pool.gaveWay > 0) trace.stole(pool.gaveWay);
    voice.way = way;
    this.fill(voice, ref, note, fall > 0 || this.isRelease(group));
    const v = voice.index;
    pool.numbers.forget(v);
    if (beginning.from) modulation.copy(beginning.from.index, v);
    else modulation.start(v, note.serial * 64);
    modulation.setColumn(COLUMN.velocity, v, note.velocity / 127);
    modulation.setColumn(COLUMN.key, v, (note.key - 60) / 60);
    modulation.setColumn(COLUMN.random, v, chance);
    modulation.setColumn(COLUMN.repeat, v, (ref.zone.repeat - 1) / 15);
    if (!beginning.from) {
      // A keyboard that says more of each note says it before the note.
      const { input } = this.shared;
      const member = input.isMember(note.channel);
      modulation.setColumn(COLUMN.notePressure, v, member ? (input.pressures[note.channel] as number) : 0);
      modulation.setColumn(COLUMN.slide, v, member ? (input.slides[note.channel] as number) : 0);
    }
    this.setOwn(v, ref, pitch, decibelsOf(weight) - fall);
    pool.numbers.softness[v] = (127 - note.velocity) / 126;
    const { numbers } = pool;
    if (beginning.glideFrames > 0 && beginning.glide !== 0) {
      numbers.glide[v] = beginning.glide;
      numbers.glideStep[v] = -beginning.glide / beginning.glideFrames;
      numbers.gliding = true;
    }
    this.list[0] = v;
    voice.active = true;
    this.cells.begin(voice, layer, !(pool.voices[v ^ 1] as Voice).active);
    const bus = way || (this.shared.buses[ref.layer] ?? this.shared.bus);
    voice.begin(heap, path, path?.start ?? 0, bus);
    voice.sow(heap, note.serial * 64 + v);
    tuner.tune(plan, layer, this.list, 1, 0);
    if (path && layer.start !== null) {
      // Where it begins is a parameter like others: routes have moved it by now.
      const skipped = Math.min(path.length - 1, Math.round(modulation.read(layer.start, v) * path.rate));
      if (skipped > 0) voice.begin(heap, path, path.start + path.direction * skipped, bus);
    }
    this.shared.kernels.beginVoice(voice.pair, voice.side);
    if (beginning.from) pool.fadeIn(voice);
    voice.setGain(
      heap,
      beginning.from ? 0 : (numbers.gainLeft[v] as number),
      beginning.from ? 0 : (numbers.gainRight[v] as number),
    );
    if (beginning.from) {
      numbers.gainLeft[v] = 0;
      numbers.gainRight[v] = 0;
    }
    const left = CONTROL - (this.frame % CONTROL);
    tuner.lead(plan, layer, this.list, left);
    pool.changed = true;
    if (voice.oneShot && (path?.endless ?? true)) this.letGo(voice);
    trace.zone(ref.layer, ref.index, REASON.played, numbers.rate[v] as number, numbers.decibels[v] as number, source);
  }

  private isRelease(group: GroupPlan): boolean {
    return this.modulation.read(group.params.trigger as number, 0) === MOMENT.release;
  }

  private fill(voice: Voice, ref: ZoneRef, note: SoundingNote, after: boolean): void {
    voice.ref = ref;
    voice.layer = ref.layer;
    voice.serial = after ? 0 : note.serial;
    voice.key = note.key;
    voice.velocity = note.velocity;
    voice.channel = note.channel;
    voice.released = false;
    voice.oneShot = after || ref.zone.oneShot;
    voice.born = this.frame;
    voice.leaving = false;
    voice.frozen = false;
  }

  /** What is fixed for a voice: the key's distance from the root, level and pan of its zone. */
  setOwn(v: number, ref: ZoneRef, pitch: number, level: number): void {
    const { numbers } = this.pool;
    const { zone } = ref;
    numbers.group[v] = ref.group;
    numbers.mic[v] = ref.mic;
    numbers.root[v] = zone.root;
    numbers.keySemitones[v] = (pitch - zone.root) * zone.track + zone.tune / 100;
    numbers.ownLevel[v] = zone.gain + level;
    numbers.ownPan[v] = zone.pan;
    numbers.extra[v] = level;
  }

  /** Lets a note's voices go; `velocity` is how fast the key rose (0–127). */
  release(serial: number, velocity: number): void {
    for (let v = 0; v < this.pool.voices.length; v++) {
      const voice = this.pool.voices[v] as Voice;
      if (!voice.active || voice.serial !== serial || voice.released) continue;
      this.modulation.setColumn(COLUMN.release, v, velocity / 127);
      if (!voice.oneShot) this.letGo(voice);
    }
  }

  private letGo(voice: Voice): void {
    const { plan } = this.shared;
    const layer = plan?.layers[voice.layer];
    if (!plan || !layer) return;
    voice.released = true;
    voice.leaveLoop(this.heap);
    // Envelopes were advanced to the next control step already.
    const left = (CONTROL - (this.frame % CONTROL)) % CONTROL;
    this.modulation.release(voice.index, layer.amp, left / this.rate);
    if (left > 0) this.tuner.turn(plan, layer, voice, this.list, left);
  }

  /** A voice of a note that hasn't been let go; null when there is none. */
  voiceOf(serial: number): Voice | null {
    let found: Voice | null = null;
    for (let v = 0; v < this.pool.voices.length; v++) {
      const voice = this.pool.voices[v] as Voice;
      if (voice.active && !voice.leaving && voice.serial === serial) found ??= voice;
    }
    return found;
  }

  /** How far (semitones) a note's pitch is from its key's, while it glides. */
  glideOf(serial: number): number {
    const voice = this.voiceOf(serial);
    return voice ? (this.pool.numbers.glide[voice.index] as number) : 0;
  }

  /**
   * Lets a note's voices go on as another note, gliding from where they are. False when some of their zones don't answer the new
   * key: then the new note must begin with voices of its own.
   */
  bind(serial: number, note: SoundingNote, glide: number, glideFrames: number): boolean {
    const { voices, numbers } = this.pool;
    const pitch = this.pitchOf(note.key);
    let any = false;
    for (let v = 0; v < voices.length; v++) {
      const voice = voices[v] as Voice;
      if (!voice.active || voice.leaving || voice.released || voice.serial !== serial || !voice.ref) continue;
      const { zone } = voice.ref;
      if (pitch === null || note.key < zone.keyLow || note.key > zone.keyHigh) return false;
      any = true;
    }
    if (!any || pitch === null) return false;
    for (let v = 0; v < voices.length; v++) {
      const voice = voices[v] as Voice;
      if (!voice.active || voice.leaving || voice.released || voice.serial !== serial || !voice.ref) continue;
      voice.serial = note.serial;
      voice.key = note.key;
      voice.channel = note.channel;
      this.modulation.setColumn(COLUMN.key, v, (note.key - 60) / 60);
      this.setOwn(v, voice.ref, pitch, numbers.extra[v] as number);
      numbers.glide[v] = glideFrames > 0 ? glide : 0;
      numbers.glideStep[v] = glideFrames > 0 ? -glide / glideFrames : 0;
      numbers.gliding = true;
      this.trace.zone(
        voice.layer,
        voice.ref.index,
        REASON.played,
        numbers.rate[v] as number,
        numbers.decibels[v] as number,
        note.key,
      );
    }
    return true;
  }

  /** Lets a note's voices die away quickly, to make way for the next of a line. */
  giveWay(serial: number, slowly: boolean): void {
    for (let v = 0; v < this.pool.voices.length; v++) {
      const voice = this.pool.voices[v] as Voice;
      if (!voice.active || voice.serial !== serial || voice.oneShot) continue;
      if (slowly) this.pool.giveUp(voice, HAND_OVER_SECONDS * this.rate);
      else this.pool.giveUp(voice);
    }
  }

  /** Sets a value of its own for the voices of a key or channel: pressure, slide. */
  setExpression(column: number, key: number | null, channel: number, value: number): void {
    for (let v = 0; v < this.pool.voices.length; v++) {
      const voice = this.pool.voices[v] as Voice;
      if (!voice.active || voice.channel !== this.shared.input.channelOf(channel)) continue;
      if (key === null || voice.key === key) this.modulation.setColumn(column, v, value);
    }
  }
}
