import { MOST_PAIRS, PAIR_BYTES } from "../dsp";
import type { Heap } from "./heap";
import { Voice, VoiceNumbers } from "./voice";

/** A voice that gives way fades in 3 ms. */
const GIVE_WAY_SECONDS = 0.003;

export const MOST_VOICES = MOST_PAIRS * 2;

/** Most layers that a document may have. */
export const MOST_LAYERS = 64;

/** The layer of voices that only fade out: the one that they belonged to is gone, or has become another. */
export const ORPHANS = MOST_LAYERS;

/** Pairs that are kept for what must go on in another voice; when no more are free, others give way before the last is taken. */
const RESERVE = 16;

/** The layer whose filters a pair has: of a voice that only fades out it is the other's, where there is one. */
const layerOfPair = (a: Voice, b: Voice): number =>
  !a.active ? b.layer : !b.active || a.layer !== ORPHANS ? a.layer : b.layer;

/** All voices there can be: which are free, which gives way. Both voices of a pair belong to one layer. */
export class VoicePool {
  readonly voices: readonly Voice[];
  readonly numbers = new VoiceNumbers(MOST_VOICES);
  /** Address of the list of pairs that sound, by layers, and how many there are; where each layer's begin, and how many it has. */
  readonly list: number;
  pairCount = 0;
  readonly layerStarts = new Int32Array(MOST_LAYERS + 1);
  readonly layerPairs = new Int32Array(MOST_LAYERS + 1);
  private readonly layerOrder = Int32Array.from({ length: MOST_LAYERS + 1 }, (_, l) => l);
  /** Voices that could not begin, for there was none left: others had begun to give way, but were still fading. */
  refused = 0;
  /** The voices that sound, and how many there are, as they were when they were listed last. */
  readonly order = new Int32Array(MOST_VOICES);
  active = 0;
  /** Whether a voice has begun or ended since. */
  changed = false;
  /** How many voices began to give way for the one that was taken last. */
  gaveWay = 0;
  /** Whether another pair of a layer finds room for its cells. */
  hasRoom: (layer: number) => boolean = () => true;
  private readonly giveWayFrames: number;

  constructor(
    private readonly heap: Heap,
    rate: number,
  ) {
    const pairs = heap.allocate(MOST_PAIRS * PAIR_BYTES);
    heap.f32.fill(0, pairs / 4, pairs / 4 + (MOST_PAIRS * PAIR_BYTES) / 4);
    this.list = heap.allocate(MOST_PAIRS * 4);
    this.voices = Array.from({ length: MOST_VOICES }, (_, i) => new Voice(i, pairs));
    this.giveWayFrames = Math.round(GIVE_WAY_SECONDS * rate);
  }

  /**
   * A voice for a layer, silent and unused. `limit`, `layerLimit` and `groupLimit` (0: none) bound how many may sound in all, in
   * the layer and in the group: beyond them another begins to give way, a released and quiet one first, else the oldest;
   * `gaveWay` then says so. `way`: the bus that its group has of its own (0: none); both voices of a pair are added to the same. Voices of the note `sparing` are spared where others can give way.
   */
  take(
    layer: number,
    group: number,
    limit: number,
    layerLimit: number,
    groupLimit: number,
    sparing: number,
    way: number,
  ): Voice | null {
    this.gaveWay = 0;
    if (groupLimit > 0) this.makeRoomFor(groupLimit, layer, group, sparing);
    if (layerLimit > 0) this.makeRoomFor(layerLimit, layer, -1, sparing);
    this.makeRoomFor(limit, -1, -1, sparing);
    if (this.freePairs() <= RESERVE) this.makeRoom(0, -1, -1, sparing);
    const voice = this.free(layer, way);
    if (!voice) this.refused++;
    return voice;
  }

  private freePairs(): number {
    let free = 0;
    for (let v = 0; v < this.voices.length; v += 2) {
      if (!(this.voices[v] as Voice).active && !(this.voices[v + 1] as Voice).active) free++;
    }
    return free;
  }

  /** Lets voices give way until no more sound than may: after the limit has become lower under held keys. */
  keepTo(limit: number): void {
    while (this.makeRoom(limit + 1, -1, -1, -1) > limit);
  }

  /** Lets voices give way until another one finds room. */
  private makeRoomFor(limit: number, layer: number, group: number, sparing: number): void {
    // Where the limit has become lower there may be several too many.
    while (this.makeRoom(limit, layer, group, sparing) > limit);
  }

  /** Lets one voice give way where so many sound already; returns how many sounded before. */
  private makeRoom(limit: number, layer: number, group: number, sparing: number): number {
    let sounding = 0;
    let victim: Voice | null = null;
    for (let v = 0; v < this.voices.length; v++) {
      const voice = this.voices[v] as Voice;
      if (!voice.active || voice.leaving) continue;
      if (layer >= 0 && voice.layer !== layer) continue;
      if (group >= 0 && voice.ref?.group !== group) continue;
      sounding++;
      if (!victim || this.rather(voice, victim, sparing)) victim = voice;
    }
    if (sounding < limit || !victim) return 0;
    this.gaveWay++;
    this.giveUp(victim);
    return sounding;
  }

  /** A free voice beside one of the same layer and way, or in a pair that is free altogether; null when there is none. */
  free(layer: number, way: number): Voice | null {
    let alone: Voice | null = null;
    for (let v = 0; v < this.voices.length; v += 2) {
      const a = this.voices[v] as Voice;
      const b = this.voices[v + 1] as Voice;
      if (a.active && b.active) continue;
      if (!a.active && !b.active) alone ??= a;
      else if (!a.active && b.layer === layer && b.way === way && !b.frozen) return a;
      else if (!b.active && a.layer === layer && a.way === way && !a.frozen) return b;
    }
    return alone && this.hasRoom(layer) ? alone : null;
  }

  /** Whether `a` should give way rather than `b`. */
  private rather(a: Voice, b: Voice, sparing: number): boolean {
    if (a.leaving !== b.leaving) return a.leaving;
    const own = a.serial === sparing;
    if (own !== (b.serial === sparing)) return !own;
    if (a.released !== b.released) return a.released;
    const { gainLeft, gainRight } = this.numbers;
    const level = (v: Voice): number => (gainLeft[v.index] as number) + (gainRight[v.index] as number);
    return a.released ? level(a) < level(b) : a.born < b.born;
  }

  /** Lets a voice fade out, within 3 ms unless said otherwise. */
  giveUp(voice: Voice, frames: number = this.giveWayFrames): void {
    if (!voice.active) return;
    const { fade, fadeStep } = this.numbers;
    const step = -(fade[voice.index] as number) / Math.max(1, frames);
    if (voice.leaving && (fadeStep[voice.index] as number) < step) return;
    voice.leaving = true;
    fadeStep[voice.index] = step;
    this.numbers.fading = true;
  }

  /** Lets a voice fade in within 3 ms. */
  fadeIn(voice: Voice): void {
    this.numbers.fade[voice.index] = 0;
    this.numbers.fadeStep[voice.index] = 1 / this.giveWayFrames;
    this.numbers.fading = true;
  }

  /** Lets so many voices give way, released and quiet ones first; returns how many did. */
  thin(count: number): number {
    let done = 0;
    for (; done < count; done++) {
      let victim: Voice | null = null;
      for (let v = 0; v < this.voices.length; v++) {
        const voice = this.voices[v] as Voice;
        if (voice.active && !voice.leaving && (!victim || this.rather(voice, victim, -1))) victim = voice;
      }
      if (!victim) break;
      this.giveUp(victim);
    }
    return done;
  }

  /** Takes the order in which layers are computed; those of other layers follow. */
  setOrder(order: readonly number[]): void {
    const rest = Array.from({ length: ORPHANS + 1 }, (_, l) => l).filter((l) => !order.includes(l));
    this.layerOrder.set([...order, ...rest].slice(0, ORPHANS + 1));
    this.changed = true;
  }

  /** Lists the voices and pairs that sound, once that has changed. */
  listVoices(): void {
    this.changed = false;
    const { layerStarts, layerPairs } = this;
    layerPairs.fill(0);
    let active = 0;
    for (let v = 0; v < this.voices.length; v += 2) {
      const a = this.voices[v] as Voice;
      const b = this.voices[v + 1] as Voice;
      if (!a.active && !b.active) continue;
      if (a.active) this.order[active++] = v;
      if (b.active) this.order[active++] = v + 1;
      const layer = layerOfPair(a, b);
      layerPairs[layer] = (layerPairs[layer] as number) + 1;
    }
    this.active = active;
    let pairs = 0;
    for (let n = 0; n <= ORPHANS; n++) {
      const l = this.layerOrder[n] as number;
      layerStarts[l] = pairs;
      pairs += layerPairs[l] as number;
    }
    this.pairCount = pairs;
    layerPairs.fill(0);
    const { u32 } = this.heap;
    for (let i = 0; i < active; i++) {
      const v = this.order[i] as number;
      const { pair } = this.voices[v] as Voice;
      const layer = layerOfPair(this.voices[v & ~1] as Voice, this.voices[v | 1] as Voice);
      // The other voice of the pair has listed it already.
      if (i > 0 && this.order[i - 1] === v - 1 && v % 2 === 1) continue;
      const place = (layerStarts[layer] as number) + (layerPairs[layer] as number);
      layerPairs[layer] = (layerPairs[layer] as number) + 1;
      u32[this.list / 4 + place] = pair;
    }
  }

  /** Ends every note within 3 ms. */
  silence(): void {
    for (let v = 0; v < this.voices.length; v++) this.giveUp(this.voices[v] as Voice);
  }

  /** Ends every note at once. */
  reset(): void {
    for (const voice of this.voices) if (voice.active) voice.end(this.heap);
    this.listVoices();
  }
}
