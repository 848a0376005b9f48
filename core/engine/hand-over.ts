import { BUS, CONTROL } from "../dsp";
import type { NotePlayer } from "./note-player";
import type { Path } from "./path-builder";
import type { LayerPlan, Plan } from "./plan";
import type { SharedParts } from "./shared-parts";
import type { Voice, ZoneRef } from "./voice";
import { MOST_UNITS, STRUCTURES, type VoiceCells } from "./voice-cells";
import { MOST_LAYERS, ORPHANS, type VoicePool } from "./voice-pool";
import type { VoiceTuner } from "./voice-tuner";

const unitsOf = (layer: LayerPlan | undefined): string =>
  [layer?.source, ...(layer?.stages ?? [])]
    .map((u) => (u?.kind === "cell" ? `${u.id} ${u.unit} ${u.from ?? ""}` : u?.id))
    .join(", ");

const sameUnits = (a: LayerPlan | undefined, b: LayerPlan | undefined): boolean => unitsOf(a) === unitsOf(b);

/** Keeps held notes sounding while the instrument changes under them: in place, or by another voice that takes over. */
export class HandOver {
  private readonly list = new Int32Array(1);
  /** What each layer's voices are made of, by rows, and what they are to be. */
  private readonly known = new Float64Array(STRUCTURES);
  private readonly wanted = new Float64Array(STRUCTURES);

  private readonly pool: VoicePool;

  constructor(
    private readonly shared: SharedParts,
    private readonly tuner: VoiceTuner,
    private readonly cells: VoiceCells,
    private readonly player: NotePlayer,
  ) {
    this.pool = shared.pool;
  }

  /** Lets voices go on in a new plan, by their zones' ids; those whose zone is gone fade out. */
  moveVoices(plan: Plan, before: Plan | null, frame: number): void {
    this.keepStructures(plan, before);
    const places = new Map(plan.layers.map((layer, l) => [layer.id, l]));
    // Those that begin meanwhile, to take over from others, are as they should be.
    this.pool.listVoices();
    for (const v of this.pool.order.slice(0, this.pool.active)) {
      const voice = this.pool.voices[v] as Voice;
      const old = voice.ref;
      if (!old || voice.layer === ORPHANS) continue;
      const from = before?.layers[voice.layer];
      const place = places.get(from?.id ?? "");
      const same = place !== undefined && sameUnits(from, plan.layers[place]);
      const next = this.shared.table.byId.get(old.zone.id);
      if (voice.leaving && same) {
        // It dies away where it is; what its zone has become no longer matters to it.
        voice.layer = place;
        if (next?.layer === place) voice.ref = next;
      } else if (voice.leaving || !next || !canGoOn(plan, old, next)) this.leave(voice);
      else if (!same || next.layer !== place || pathOf(plan, next) !== voice.path) this.pass(plan, voice, next, frame);
      else {
        const pitch = this.player.pitchOf(voice.key);
        voice.layer = place;
        voice.ref = next;
        this.player.setOwn(voice.index, next, pitch ?? voice.key, this.pool.numbers.extra[voice.index] as number);
      }
    }
    this.pool.changed = true;
    this.shared.astray = true;
  }

  /** Lets voices go on by the paths that their zones have got meanwhile. */
  followPaths(plan: Plan, frame: number): void {
    this.pool.listVoices();
    for (const v of this.pool.order.slice(0, this.pool.active)) {
      const voice = this.pool.voices[v] as Voice;
      const { ref } = voice;
      if (voice.leaving || voice.layer === ORPHANS || !ref || !voice.path || !ref.path || ref.path === voice.path)
        continue;
      this.pass(plan, voice, ref, frame);
    }
    this.pool.changed = true;
  }

  /** Layers whose units are the same ones keep what is known of their voices, wherever they stand now. */
  private keepStructures(plan: Plan, before: Plan | null): void {
    const known = this.known.slice();
    plan.layers.forEach((layer, l) => {
      if (l >= MOST_LAYERS) return;
      const from = before?.layers.findIndex((old) => old.id === layer.id) ?? -1;
      const at = l * MOST_UNITS;
      if (from >= 0 && sameUnits(before?.layers[from], layer))
        this.known.set(known.subarray(from * MOST_UNITS, (from + 1) * MOST_UNITS), at);
      else this.cells.structure(layer, this.known, at);
    });
  }

  /** Lets a voice fade out as what it was, whatever its layer has become. */
  private leave(voice: Voice): void {
    this.pool.giveUp(voice);
    voice.frozen = true;
    voice.layer = ORPHANS;
    voice.serial = 0;
    this.cells.freeze(voice);
    this.pool.changed = true;
  }

  /** Lets another voice go on with a sound, from the same place and in the same state, while this one fades out: both read alike, so nothing is heard of it. */
  private pass(plan: Plan, voice: Voice, ref: ZoneRef, now: number): void {
    const { pool } = this;
    const { heap } = this.shared;
    const layer = plan.layers[ref.layer];
    const { serial, key, velocity, channel, released, oneShot, born } = voice;
    const frame = voice.path?.frameAt(voice.spanOf(heap), voice.positionOf(heap)) ?? 0;
    // First of all: a voice beside one that fades out with an older filter would have that filter too.
    this.leave(voice);
    const path = pathOf(plan, ref);
    const way = this.shared.ways[ref.group] as number;
    const next = layer && (path || layer.source) ? pool.free(ref.layer, way) : null;
    if (!layer || !next) return;
    const position = path ? placeIn(path, released ? frame : foldedInto(path, ref, frame)) : 0;
    const [v, n] = [voice.index, next.index];
    const { numbers } = pool;
    next.ref = ref;
    next.layer = ref.layer;
    next.serial = serial;
    next.key = key;
    next.velocity = velocity;
    next.channel = channel;
    next.released = released;
    next.oneShot = oneShot;
    next.born = born;
    next.way = way;
    next.leaving = false;
    next.frozen = false;
    next.active = true;
    numbers.copy(v, n);
    numbers.forgetRamps(n);
    this.shared.modulation.copy(v, n);
    this.player.setOwn(n, ref, this.player.pitchOf(key) ?? key, numbers.extra[n] as number);
    this.cells.begin(next, layer, !(pool.voices[n ^ 1] as Voice).active);
    next.begin(heap, path, position, way || (this.shared.buses[ref.layer] ?? this.shared.bus));
    // The part of a frame goes along, so that both read alike.
    if (path && voice.path) next.copyFraction(heap, voice);
    next.sow(heap, n);
    if (released) next.leaveLoop(heap);
    numbers.fade[n] = 0;
    numbers.quiet[n] = numbers.quiet[v] as number;
    const { list } = this;
    list[0] = n;
    this.tuner.tune(plan, layer, list, 1, 0);
    this.cells.takeOver(voice, next);
    this.shared.kernels.beginVoice(next.pair, next.side);
    next.setGain(heap, 0, 0);
    // Both fades begin with the next control step; at such a step's own frame that is still to come.
    const left = (CONTROL - (now % CONTROL)) % CONTROL;
    if (left > 0) this.tuner.lead(plan, layer, list, left);
    pool.fadeIn(next);
  }

  /** Where a filter has become of another character, or a unit of another size, variant or table, the voices can't go on in the same cells: they are handed over. */
  changeStructures(plan: Plan, frame: number): void {
    if (!this.shared.modulation.moved && !this.shared.recast) return;
    this.shared.recast = false;
    const { known, wanted } = this;
    for (let l = 0; l < plan.layers.length && l < MOST_LAYERS; l++) {
      const at = l * MOST_UNITS;
      this.cells.structure(plan.layers[l] as LayerPlan, wanted, at);
      let same = true;
      for (let u = at; u < at + MOST_UNITS; u++) {
        if (wanted[u] !== known[u]) same = false;
        known[u] = wanted[u] as number;
      }
      if (!same) this.passLayer(plan, l, frame);
    }
  }

  /** Where a group has got a bus of its own, or a zone is of another group now, the voices go there: by themselves where nothing is heard of it yet, else in another voice. */
  changeWays(plan: Plan, frame: number): void {
    const { pool, shared } = this;
    if (!shared.astray) return;
    shared.astray = false;
    for (let i = 0; i < pool.active; i++) {
      const voice = pool.voices[pool.order[i] as number] as Voice;
      if (!voice.active || voice.leaving || voice.layer === ORPHANS || !voice.ref) continue;
      const way = shared.ways[voice.ref.group] as number;
      if (voice.way === way) continue;
      const other = pool.voices[voice.index ^ 1] as Voice;
      const together = !other.active || (other.ref !== null && shared.ways[other.ref.group] === way);
      if (voice.way !== 0 || !together || shared.fresh[voice.ref.group] === 0) this.pass(plan, voice, voice.ref, frame);
      else {
        voice.way = way;
        other.way = way;
        shared.heap.u32[(voice.pair + BUS) / 4] = way;
      }
    }
    shared.fresh.fill(0);
  }

  private passLayer(plan: Plan, layer: number, frame: number): void {
    const { pool } = this;
    for (let i = 0; i < pool.active; i++) {
      const voice = pool.voices[pool.order[i] as number] as Voice;
      if (!voice.active || voice.layer !== layer || !voice.ref) continue;
      if (voice.leaving) this.leave(voice);
      else this.pass(plan, voice, voice.ref, frame);
    }
  }
}

/** What a zone is read by; null where its layer's sound is computed. */
const pathOf = (plan: Plan, ref: ZoneRef): Path | null => (plan.layers[ref.layer]?.source ? null : ref.path);

/** Whether what sounded as one zone can go on as another: the same sample, or none where none is needed. */
const canGoOn = (plan: Plan, old: ZoneRef, next: ZoneRef): boolean =>
  plan.layers[next.layer]?.source ? true : next.path !== null && next.zone.sample === old.zone.sample;

/** A frame of the sample in the loop that goes on for ever from there: one behind it is brought into it by whole rounds. */
function foldedInto(path: Path, { zone }: ZoneRef, frame: number): number {
  const { loop, reverse } = zone;
  if (!path.endless || !loop) return frame;
  const length = loop.end - loop.start;
  const beyond = reverse ? loop.start - 1 - frame : frame - loop.end;
  if (beyond < 0) return frame;
  const into = beyond % length;
  return reverse ? loop.end - 1 - into : loop.start + into;
}

/** The position at which a frame of the sample is read. */
function placeIn(path: Path, frame: number): number {
  const first = path.frameAt(path.first, path.start);
  const into = Math.max(0, (frame - first) * path.direction);
  return path.start + path.direction * Math.min(into, 2 ** 30);
}
