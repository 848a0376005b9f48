import { PAIR_BYTES } from "../dsp";
import type { Heap } from "./heap";
import { Voice } from "./voice";

/** Voices that may fade out beside those that an instrument allows. */
const SPARE = 64;
const MOST = 256 + SPARE;
/** A voice that gives way fades in 3 ms. */
const GIVE_WAY_SECONDS = 0.003;

/** All voices there can be: which are free, which gives way, which are released. */
export class VoicePool {
  readonly voices: readonly Voice[];
  /** Address of the first pair's record, and pairs up to the last that sounds. */
  readonly pairs: number;
  pairCount = 0;
  active = 0;
  /** Whether another voice began to give way for the one that was taken last. */
  gaveWay = false;
  private sustain = false;
  private readonly fade: number;

  constructor(
    private readonly heap: Heap,
    rate: number,
  ) {
    this.pairs = heap.allocate((MOST / 2) * PAIR_BYTES);
    heap.f32.fill(0, this.pairs / 4, (this.pairs + (MOST / 2) * PAIR_BYTES) / 4);
    this.voices = Array.from({ length: MOST }, (_, i) => new Voice(i, this.pairs));
    this.fade = Math.round(GIVE_WAY_SECONDS * rate);
  }

  /**
   * A voice for a new note, silent and unused. Beyond the limit another begins to give way: a released and quiet one first,
   * else the oldest; `gaveWay` then says whether one did.
   */
  take(limit: number): Voice | null {
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
      if (!victim || rather(voice, victim)) victim = voice;
    }
    this.gaveWay = sounding >= limit && victim !== null;
    if (this.gaveWay && victim) this.giveUp(victim);
    if (free) return free;
    const last = dying ?? victim;
    last?.end(this.heap);
    return last;
  }

  /** Lets a voice fade out within 3 ms. */
  giveUp(voice: Voice): void {
    if (voice.fadeFrames > 0) return;
    voice.fadeFrames = this.fade;
    voice.fadeLeft = this.fade;
  }

  /** Counts a voice that has just begun. */
  began(voice: Voice): void {
    this.active++;
    this.pairCount = Math.max(this.pairCount, (voice.index >> 1) + 1);
  }

  release(serial: number): void {
    for (let v = 0; v < this.voices.length; v++) {
      const voice = this.voices[v] as Voice;
      if (!voice.active || voice.serial !== serial || voice.released) continue;
      if (this.sustain) voice.sustained = true;
      else voice.letGo();
    }
  }

  setSustain(down: boolean): void {
    this.sustain = down;
    if (down) return;
    for (let v = 0; v < this.voices.length; v++) {
      const voice = this.voices[v] as Voice;
      if (voice.active && voice.sustained && !voice.released) voice.letGo();
    }
  }

  /** Ends every note within 3 ms. */
  silence(): void {
    this.sustain = false;
    for (let v = 0; v < this.voices.length; v++) {
      const voice = this.voices[v] as Voice;
      if (voice.active) this.giveUp(voice);
    }
  }

  /** Ends every note at once. */
  reset(): void {
    for (const voice of this.voices) if (voice.active) voice.end(this.heap);
    this.sustain = false;
    this.active = 0;
    this.pairCount = 0;
  }
}

/** Whether `a` should give way rather than `b`. */
function rather(a: Voice, b: Voice): boolean {
  if (a.released !== b.released) return a.released;
  if (a.released) return a.gainLeft + a.gainRight < b.gainLeft + b.gainRight;
  return a.born < b.born;
}
