import { type Audio, decibelsOf, type Hertz } from "../audio";
import { BREAKS, BROKEN_LANES, CONTROL, type Kernels, type ReadyCycles, type ReadyWaves, TIME } from "../dsp";
import { Arrivals, type ReadyPath } from "./arrivals";
import { EventRouter } from "./event-router";
import { HandOver } from "./hand-over";
import { LayerLinks } from "./layer-links";
import { NotePlayer } from "./note-player";
import type { NoteRules } from "./note-rules";
import { Output } from "./output";
import { Performer } from "./performer";
import type { LayerPlan, Plan } from "./plan";
import type { ProbeSetting } from "./probe";
import { type EngineOptions, SharedParts } from "./shared-parts";
import type { PackedSample } from "./stored-sample";
import type { TraceLog } from "./trace";
import type { Voice } from "./voice";
import { type CyclesWanted, VoiceCells } from "./voice-cells";
import { VoiceLists } from "./voice-lists";
import { VoiceMeters } from "./voice-meters";
import { MOST_VOICES } from "./voice-pool";
import { VoiceTuner } from "./voice-tuner";
import { ZoneChooser } from "./zone-chooser";

export type { EngineOptions } from "./shared-parts";

/** Cursors that are told: more can't be told apart. */
const MOST_CURSORS = 48;

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
  readonly trace: TraceLog;
  /** Frames rendered so far. */
  frame = 0;
  private readonly shared: SharedParts;
  private readonly arrivals: Arrivals;
  private readonly chooser: ZoneChooser;
  private readonly player: NotePlayer;
  private readonly router: EventRouter;
  private readonly handOver: HandOver;
  private readonly tuner: VoiceTuner;
  private readonly cells: VoiceCells;
  private readonly lists: VoiceLists;
  private readonly links: LayerLinks;
  private readonly meters: VoiceMeters;
  private readonly output: Output;
  private watched = false;
  private broken = 0;
  /** How many breaks of the kernels have been dealt with. */
  private breaks = 0;
  private thinned = 0;
  private overloads = 0;

  constructor(kernels: Kernels, options: EngineOptions) {
    const shared = new SharedParts(kernels, options);
    this.shared = shared;
    this.trace = shared.trace;
    this.arrivals = new Arrivals(shared.store, shared.table);
    this.chooser = new ZoneChooser(shared);
    this.cells = new VoiceCells(shared);
    this.tuner = new VoiceTuner(shared, this.cells);
    this.player = new NotePlayer(shared, this.chooser, this.tuner, this.cells);
    this.handOver = new HandOver(shared, this.tuner, this.cells, this.player);
    this.router = new EventRouter(shared, this.chooser, this.player, new Performer(shared, this.player));
    this.lists = new VoiceLists(shared);
    this.links = new LayerLinks(shared, this.cells, this.lists);
    this.meters = new VoiceMeters(shared, this.cells);
    this.output = new Output(shared);
  }

  /** Takes a new plan. Held notes go on, changed in place by their zones' ids; those whose zone is gone fade out. */
  setPlan(plan: Plan): void {
    const { shared } = this;
    const before = shared.plan;
    shared.plan = plan;
    shared.table.setPlan(plan);
    this.chooser.setPlan();
    shared.mutes.setPlan(plan);
    this.tuner.setPlan(plan, shared.table.groups);
    this.cells.setPlan(plan);
    shared.modulation.setPlan(plan);
    this.lists.reserve(plan.layers.length);
    shared.pool.setOrder(plan.order);
    if (this.frame === 0) shared.modulation.settle();
    this.output.setPlan(plan, this.frame === 0);
    this.handOver.moveVoices(plan, before, this.frame);
    this.fadeMuted();
    this.output.route();
    this.links.setPlan(plan);
    this.meters.setPlan(plan, this.watched);
    this.tidy();
  }

  /** Takes new base values of the plan's slots. */
  setBase(base: ArrayLike<number>): void {
    this.shared.modulation.setBase(base);
  }

  /** Beats per minute, for LFOs that follow them. */
  setTempo(tempo: number): void {
    if (tempo > 0) this.shared.modulation.tempo = tempo;
  }

  /** Puts a sample into the engine's memory; zones that waited for it can sound from now on. */
  addSample(sha: string, audio: Audio): void {
    this.shared.table.addSample(sha, audio);
    this.cells.followSamples();
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
    return this.arrivals.waiting || this.cells.working;
  }

  /** Takes in about so many bytes of what has come; held notes follow. Call it between calls of `render`. Throws RangeError where a sample finds no room. */
  arrive(bytes: number): void {
    const { plan } = this.shared;
    if (this.arrivals.work(bytes) && plan) this.handOver.followPaths(plan, this.frame);
    this.cells.followSamples();
    this.cells.work(bytes);
  }

  /** The cycles of samples that are to be made elsewhere, since it was asked last. */
  cyclesWanted(): readonly CyclesWanted[] {
    return this.cells.cyclesWanted();
  }

  /** Whether the simple waves' tables are to be made elsewhere, the first time that it is asked. */
  wavesWanted(): boolean {
    return this.cells.wavesWanted();
  }

  /** Takes the simple waves' tables as `bakeWaves` makes them; `arrive` copies them in. */
  takeWaves(ready: ReadyWaves): void {
    this.cells.takeWaves(ready);
  }

  /** Whether such cycles or tables are still to come. */
  get awaitsTables(): boolean {
    return this.cells.awaiting;
  }

  /** Takes the cycles of a sample that were made elsewhere; `arrive` copies them in. */
  takeCycles(sha: string, ready: ReadyCycles): void {
    this.cells.takeCycles(sha, ready);
  }

  /** Takes the impulse of a room, at the engine's rate; before the first frame it is made ready at once. */
  addImpulse(sha: string, audio: Audio): void {
    this.output.addAsset(sha, audio, this.frame === 0);
  }

  /** Takes a sample away, as when its file has vanished: what plays it fades out, and the trace says that it is missing. */
  dropSample(sha: string): void {
    const { pool, table } = this.shared;
    for (const voice of pool.voices) if (voice.active && voice.ref?.zone.sample === sha) pool.giveUp(voice);
    table.dropSample(sha);
    this.cells.followSamples(sha);
  }

  /** Gives back what nobody reads any more, a little at a time. It allocates: call it between calls of `render`, now and then. */
  tidy(): void {
    this.cells.followSamples();
    this.cells.tidy();
    this.shared.table.collect(this.shared.pool.voices);
  }

  /** Bytes of samples and tables held. */
  get memoryUsed(): number {
    return this.shared.heap.used;
  }

  /** Two channels that are heard beside the instrument in the next call of `render`, through the limiter and the meter; null for none. */
  get beside(): Output["beside"] {
    return this.output.beside;
  }
  set beside(channels: Output["beside"]) {
    this.output.beside = channels;
  }

  /** A script that sees notes before zones are chosen; null for none. */
  get rules(): NoteRules | null {
    return this.router.gate.rules;
  }
  set rules(rules: NoteRules | null) {
    this.router.gate.rules = rules;
  }

  /** Queues a MIDI channel message for a frame; one in the past is played at once. */
  midi(status: number, data1: number, data2: number, frame = this.frame): void {
    this.shared.input.receive(status, data1, data2, frame);
  }

  /** Renders the frames `[from, to)` of two channels, replacing what they hold. */
  render(left: Float32Array, right: Float32Array, from = 0, to = left.length): void {
    const { queue } = this.shared;
    let at = from;
    this.router.beginCall();
    while (at < to) {
      const phase = this.frame % CONTROL;
      if (phase === 0) this.controlStep();
      this.shared.heap.u32[TIME / 4] = this.frame;
      this.router.handle(this.frame);
      const count = Math.min(to - at, CONTROL - phase, queue.nextFrame - this.frame);
      this.segment(left, right, at, at + count);
      this.frame += count;
      at += count;
    }
  }

  private segment(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { pool, kernels, scratch } = this.shared;
    this.refresh();
    if (pool.pairCount > 0) kernels.renderPairs(pool.list, pool.pairCount, scratch, 0, to - from);
    if (this.watched) this.meters.collect();
    this.output.process(left, right, from, to);
  }

  private controlStep(): void {
    const { shared, lists, tuner } = this;
    const { plan, modulation, pool, input, kernels } = shared;
    if (!plan) return;
    const { play } = plan;
    modulation.advance(CONTROL);
    input.range = modulation.shared[play.bendRange as number] as number;
    input.noteRange = modulation.shared[play.noteBend as number] as number;
    input.mpe = modulation.shared[play.mpe as number] as number;
    this.handOver.changeStructures(plan, this.frame);
    this.handOver.changeWays(plan, this.frame);
    if (tuner.anyFinished()) this.endFinished();
    if (shared.heap.i32[BREAKS / 4] !== this.breaks) this.endBroken();
    const most = modulation.shared[play.voices as number] as number;
    if (pool.active > most) pool.keepTo(most);
    this.refresh();
    tuner.fadeOut(lists.orphans, lists.orphanCount, CONTROL);
    for (let l = 0; l < plan.layers.length; l++) {
      const count = lists.countOf(l);
      if (count > 0) tuner.tune(plan, plan.layers[l] as LayerPlan, lists.of(l), count, CONTROL);
    }
    // Only now: what events have set in motion was to be seen by this step.
    pool.numbers.settle(pool.order, pool.active);
    if (pool.pairCount > 0) kernels.controlPairs(pool.list, pool.pairCount, CONTROL);
    this.output.control(plan, this.frame === 0);
  }

  private refresh(): void {
    const { plan } = this.shared;
    if (!this.lists.refresh() || !plan) return;
    this.links.update(plan);
    if (this.watched) this.meters.update();
  }

  private endFinished(): void {
    const { pool, heap } = this.shared;
    for (let i = 0; i < pool.active; i++) {
      const voice = pool.voices[pool.order[i] as number] as Voice;
      if (!voice.active || !this.tuner.finished(voice, CONTROL)) continue;
      voice.end(heap);
      pool.changed = true;
    }
  }

  /** Drops voices whose numbers have left all bounds: they added nothing any more, and nothing else is touched. */
  private endBroken(): void {
    const { pool, heap } = this.shared;
    const { i32 } = heap;
    this.breaks = i32[BREAKS / 4] as number;
    for (let v = 0; v < pool.voices.length; v++) {
      const voice = pool.voices[v] as Voice;
      const lanes = (i32[(voice.pair + BROKEN_LANES) / 4] as number) & (voice.side === 1 ? 12 : 3);
      if (lanes === 0) continue;
      i32[(voice.pair + BROKEN_LANES) / 4] = (i32[(voice.pair + BROKEN_LANES) / 4] as number) - lanes;
      if (!voice.active) continue;
      this.cells.forget(voice);
      voice.end(heap);
      this.broken++;
      pool.changed = true;
    }
  }

  /**
   * Takes load off when rendering takes `load` of the time that it has: above 0.8 three times in a row a fifth of the voices gives way, released and
   * quiet ones first, and no more may sound than are left, until the load has been low for a while.
   */
  relieve(load: number): void {
    const { player } = this;
    const { pool } = this.shared;
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
    const { shared } = this;
    shared.pool.reset();
    this.router.reset();
    shared.modulation.reset();
    this.output.reset();
    shared.random = shared.seeded();
    this.frame = 0;
  }

  /** Meters since the last call; allocates, so it is for outside the render call. */
  status(): EngineStatus {
    const { pool, queue } = this.shared;
    const { limiter, broken } = this.output;
    const status = {
      voices: pool.active,
      left: limiter.peakLeft,
      right: limiter.peakRight,
      limiter: decibelsOf(limiter.lowest),
      broken: this.broken + broken,
      thinned: this.thinned,
      dropped: this.router.dropped + queue.dropped + pool.refused,
    };
    limiter.peakLeft = 0;
    limiter.peakRight = 0;
    limiter.lowest = 1;
    return status;
  }

  /** Hears only these layers (by their ids) from now on, whatever the plan says; none: all. Call it between calls of `render`. */
  solo(layers: readonly string[]): void {
    this.output.solo(layers);
    this.output.route();
  }

  /** Doesn't hear these groups and microphones (by address) from now on, and where some are given that are heard alone, only those of their kind; what sounds of others fades out. Call it between calls of `render`. */
  mute(muted: readonly string[], alone: readonly string[]): void {
    const { mutes, plan } = this.shared;
    mutes.set(muted, alone);
    if (plan) mutes.setPlan(plan);
    this.fadeMuted();
  }

  private fadeMuted(): void {
    const { pool, mutes } = this.shared;
    for (const voice of pool.voices)
      if (voice.active && !voice.leaving && voice.ref && mutes.of(voice.ref)) pool.giveUp(voice);
  }

  /** Lets a test sound go through a row, beside the notes; null: none any more. Call it between calls of `render`. */
  setProbe(setting: ProbeSetting | null): void {
    this.output.setProbe(setting);
    this.output.route();
  }

  /** What the sweep that sounds has met so far, or the last one; a sweep is on its way as long as `sweeping`. */
  get response(): Float32Array {
    return this.output.probe.response;
  }
  get sweeping(): boolean {
    return this.output.probe.sweeping;
  }

  /** Copies to `tapped` what comes out of a row or of a unit on a bus, by its address; null: of nothing. Call it between calls of `render`, of at most a block each. */
  setTap(address: string | null): void {
    this.output.setTap(address);
    this.output.route();
  }
  get tapped(): { readonly left: Float32Array; readonly right: Float32Array } {
    return this.output.tapped;
  }

  /** Takes the peaks between all units from now on, or no longer; call it between calls of `render`. */
  watch(on: boolean): void {
    const { plan } = this.shared;
    this.watched = on;
    if (plan) this.meters.setPlan(plan, on);
    this.output.watch(on);
    this.output.route();
  }

  /** Peaks since this was asked last, as factors: what goes into each row (`layers/<id>`, `sends/<id>`, `effects`) and what comes out of each unit, by its address, of those in the voices as far as the voices are heard; of groups and microphones what their voices put out, by power; null while nobody watches. Allocates. */
  peaks(): Record<string, number> | null {
    const peaks = this.output.takePeaks();
    if (peaks && this.shared.plan) this.meters.takePeaks(this.shared.plan, peaks);
    return peaks;
  }

  /** Where sounding voices read: zone number and frame, for cursors. Allocates. */
  cursors(): { zone: number; frame: number }[] {
    const { pool, heap } = this.shared;
    return pool.voices
      .filter((v) => v.active && v.ref && !v.leaving)
      .slice(0, MOST_CURSORS)
      .map((v) => ({ zone: v.ref?.index ?? 0, frame: v.path?.frameAt(v.spanOf(heap), v.positionOf(heap)) ?? 0 }));
  }

  get sampleRate(): Hertz {
    return this.shared.rate;
  }
}
