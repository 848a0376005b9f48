import type { Hertz } from "../audio";
import {
  BANK,
  dampingOf,
  MAX_STAGES,
  PLAYING,
  POSITION,
  SPAN,
  STAGE_0,
  STAGE_BYTES,
  STAGE_COUNT,
  STAGE_G,
  STAGE_K,
  STAGE_M0,
  STAGE_M1,
  STAGE_M2,
  type SvfCoefficients,
  tuneSvf,
} from "../dsp";
import type { Zone } from "../instrument";
import type { Heap } from "./heap";
import type { Modulation } from "./modulation";
import type { LayerPlan, Plan } from "./plan";
import type { Path } from "./sample-store";
import type { Voice } from "./voice";

const MODES = ["low", "band", "high", "off"] as const;
/** Fastest playback: seven octaves up. */
const FASTEST = 128;

/** Turns parameters into a voice's ramps at each control step: rate, gain, filters. */
export class VoiceTuner {
  /** Pitch wheel, −1 to 1. */
  bend = 0;
  /** Level (a factor) without envelope of the voice that was tuned last. */
  lastLevel = 0;
  private lastResonance = Number.NaN;
  private lastDamping = 0;
  private readonly svf: SvfCoefficients = { g: 0, k: 0, m0: 1, m1: 0, m2: 0 };

  constructor(
    private readonly heap: Heap,
    private readonly modulation: Modulation,
    private readonly banks: readonly { at: number; upTo: number }[],
    private readonly rate: Hertz,
  ) {}

  /** Whether a voice has come to its end: its sample, its envelope or its fade is over. */
  finished(voice: Voice): boolean {
    return (
      voice.env.stage === "done" ||
      (voice.fadeFrames > 0 && voice.fadeLeft <= 0) ||
      voice.stateOf(this.heap) !== PLAYING
    );
  }

  /** Sets a voice's ramps for the next `frames` frames. A fresh voice begins at its values; others go on from theirs. */
  tune(plan: Plan, voice: Voice, frames: number, fresh: boolean): void {
    const layer = plan.layers[voice.layer] as LayerPlan;
    const { now } = this.modulation;
    if (fresh) {
      this.modulation.evaluate(plan, layer.routes, voice);
      voice.env.advance(0, now[layer.attack] as number, 1, 1, 1);
      this.setStages(layer, voice, 0);
      voice.rate = this.rateOf(plan, layer, voice);
      this.gains(layer, voice, 0);
    }
    this.modulation.turn(plan, voice, frames);
    voice.age += frames;
    this.modulation.evaluate(plan, layer.routes, voice);
    voice.env.advance(
      frames / this.rate,
      now[layer.attack] as number,
      now[layer.decay] as number,
      now[layer.sustain] as number,
      now[layer.release] as number,
    );
    const rate = this.rateOf(plan, layer, voice);
    if (rate !== voice.rate || voice.rateMoves) {
      voice.setRate(this.heap, voice.rate, (rate - voice.rate) / frames);
      this.heap.u32[(voice.record + BANK) / 4] = this.bankFor(Math.max(rate, voice.rate));
      voice.rateMoves = rate !== voice.rate;
      voice.rate = rate;
    }
    this.setStages(layer, voice, frames);
    this.gains(layer, voice, frames);
  }

  private bankFor(rate: number): number {
    const { banks } = this;
    for (let i = 0; i < banks.length; i++) {
      const bank = banks[i] as { at: number; upTo: number };
      if (rate <= bank.upTo) return bank.at;
    }
    return 0;
  }

  private rateOf(plan: Plan, layer: LayerPlan, voice: Voice): number {
    const { now, current } = this.modulation;
    const zone = voice.ref?.zone;
    const path = voice.ref?.path;
    if (!zone || !path) return voice.rate;
    const semitones =
      voice.key -
      zone.root +
      zone.tune / 100 +
      (now[layer.transpose] as number) +
      (now[layer.fine] as number) / 100 +
      this.bend * (current[plan.bend] as number);
    if (semitones !== voice.semitones) {
      voice.semitones = semitones;
      voice.pitchFactor = 2 ** (semitones / 12);
    }
    const rate = (path.rate / this.rate) * ((current[plan.a4] as number) / 440) * voice.pitchFactor;
    return rate > FASTEST ? FASTEST : rate;
  }

  /** Sets the gain ramp; with 0 frames only its beginning. */
  private gains(layer: LayerPlan, voice: Voice, frames: number): void {
    const { now } = this.modulation;
    const zone = voice.ref?.zone;
    const soft = ((now[layer.velocity] as number) * (127 - voice.velocity)) / 126;
    const decibels = (now[layer.level] as number) + (zone?.gain ?? 0) - soft;
    if (decibels !== voice.decibels) {
      voice.decibels = decibels;
      voice.level = 10 ** (decibels / 20);
    }
    this.lastLevel = voice.level;
    let gain = voice.level * voice.env.level;
    if (voice.fadeFrames > 0) {
      voice.fadeLeft = Math.max(0, voice.fadeLeft - frames);
      gain *= voice.fadeLeft / voice.fadeFrames;
    }
    const pan = Math.min(1, Math.max(-1, (now[layer.pan] as number) + (zone?.pan ?? 0)));
    if (pan !== voice.pan) {
      voice.pan = pan;
      voice.panLeft = Math.SQRT2 * Math.cos(((pan + 1) * Math.PI) / 4);
      voice.panRight = Math.SQRT2 * Math.sin(((pan + 1) * Math.PI) / 4);
    }
    const left = gain * voice.panLeft;
    const right = gain * voice.panRight;
    if (frames > 0) {
      voice.setGain(
        this.heap,
        voice.gainLeft,
        voice.gainRight,
        (left - voice.gainLeft) / frames,
        (right - voice.gainRight) / frames,
      );
    }
    voice.gainLeft = left;
    voice.gainRight = right;
  }

  /** Sets the filters' ramps towards where they should be; with 0 frames they stand there at once. */
  private setStages(layer: LayerPlan, voice: Voice, frames: number): void {
    const { now } = this.modulation;
    const { svf, heap } = this;
    const count = Math.min(layer.stages.length, MAX_STAGES);
    const counter = (voice.pair + STAGE_COUNT) / 4;
    // Both lanes of a pair run as many stages as the longer chain; unused ones pass the sound on.
    if ((heap.i32[counter] as number) < count) heap.i32[counter] = count;
    for (let s = 0; s < count; s++) {
      const stage = layer.stages[s] as LayerPlan["stages"][number];
      const cutoff = now[stage.cutoff] as number;
      const resonance = now[stage.resonance] as number;
      const mode = now[stage.mode] as number;
      const steady = cutoff === voice.cutoffs[s] && resonance === voice.resonances[s] && mode === voice.modes[s];
      if (steady && voice.stageMoves[s] === 0) continue;
      voice.stageMoves[s] = steady ? 0 : 1;
      voice.cutoffs[s] = cutoff;
      voice.resonances[s] = resonance;
      voice.modes[s] = mode;
      if (resonance !== this.lastResonance) {
        this.lastResonance = resonance;
        this.lastDamping = dampingOf(resonance);
      }
      tuneSvf(svf, MODES[mode] ?? "off", cutoff, this.lastDamping, this.rate);
      const at = STAGE_0 + s * STAGE_BYTES;
      this.ramp(voice, at + STAGE_G, svf.g, frames);
      this.ramp(voice, at + STAGE_K, svf.k, frames);
      this.ramp(voice, at + STAGE_M0, svf.m0, frames);
      this.ramp(voice, at + STAGE_M1, svf.m1, frames);
      this.ramp(voice, at + STAGE_M2, svf.m2, frames);
    }
  }

  private ramp(voice: Voice, offset: number, target: number, frames: number): void {
    if (frames === 0) {
      voice.setRamp(this.heap, offset, target, 0);
      return;
    }
    const { f32 } = this.heap;
    const at = (voice.lane + offset) / 4;
    const value = f32[at] as number;
    const wanted = Math.fround(target);
    if (value === wanted && f32[at + 4] === 0) return;
    if (Math.abs(value - wanted) < 1e-7 * Math.abs(wanted) + 1e-12) voice.setRamp(this.heap, offset, wanted, 0);
    else voice.setRamp(this.heap, offset, value, (wanted - value) / frames);
  }

  /** Lets a voice go on in a zone whose way of being read has changed, from the same place in the sound. */
  repath(voice: Voice, zone: Zone, path: Path): void {
    const { u32 } = this.heap;
    const position = (voice.record + POSITION) / 4 + 1;
    const frame = u32[position] as number;
    const { loop } = zone;
    if (loop && frame >= loop.end) u32[position] = loop.start + ((frame - loop.start) % (loop.end - loop.start));
    u32[(voice.record + SPAN) / 4] = path.first;
  }
}
