import { type LfoShape, lfoAt } from "../dsp";
import { BEATS, choiceIds } from "../units";
import type { LfoPlan } from "./plan";
import { COLUMN } from "./plan-modulation";
import type { ValueTable } from "./value-table";

const SHAPES: readonly LfoShape[] = choiceIds("lfo", "shape");

/** Where the LFOs of a plan stand: those that all voices share, and those of which each voice has its own. */
export class LfoBank {
  private lfos: readonly LfoPlan[] = [];
  private phases: readonly Float64Array[] = [];
  private sharedPhases = new Float64Array(0);
  private sharedTimes = new Float64Array(0);
  private readonly seeds: Int32Array;

  constructor(
    private readonly rate: number,
    private readonly values: ValueTable,
  ) {
    this.seeds = new Int32Array(values.voices);
  }

  /** Takes a plan's LFOs; those that were there before go on from where they are. */
  setLfos(lfos: readonly LfoPlan[]): void {
    const places = lfos.map((u) => this.lfos.findIndex((old) => old.id === u.id));
    this.phases = places.map((i) => this.phases[i] ?? new Float64Array(this.values.voices));
    this.sharedPhases = Float64Array.from(places, (i) => this.sharedPhases[i] ?? 0);
    this.sharedTimes = Float64Array.from(places, (i) => this.sharedTimes[i] ?? 0);
    this.lfos = lfos;
  }

  private rateOf(lfo: LfoPlan, v: number): number {
    const { values } = this;
    const beats = BEATS[values.shared[lfo.beat] as number] ?? 0;
    return beats > 0 ? values.tempo / 60 / beats : 2 ** values.read(lfo.rate, v);
  }

  private valueAt(lfo: LfoPlan, phase: number, v: number, time: number, seed: number): number {
    const { values } = this;
    const since = time - values.read(lfo.delay, v);
    if (since < 0) return 0;
    const fade = values.read(lfo.fade, v);
    const depth = fade > since ? since / fade : 1;
    const shape = SHAPES[values.shared[lfo.shape] as number] ?? "sine";
    return depth * lfoAt(shape, phase + values.read(lfo.phase, v) / 360, seed, lfo.line);
  }

  /** Moves one that all voices share on by some frames, into the shared place `at`. */
  advance(index: number, at: number, frames: number): void {
    const lfo = this.lfos[index] as LfoPlan;
    const seconds = frames / this.rate;
    const phase = (this.sharedPhases[index] as number) + this.rateOf(lfo, 0) * seconds;
    const time = (this.sharedTimes[index] as number) + seconds;
    this.sharedPhases[index] = phase;
    this.sharedTimes[index] = time;
    this.values.shared[at] = this.valueAt(lfo, phase, 0, time, index + 1);
  }

  /** Moves some voices' own on by so many seconds, into a column. */
  run(index: number, column: number, list: Int32Array, count: number, seconds: number): void {
    const { values } = this;
    const lfo = this.lfos[index] as LfoPlan;
    const { columns, voices, shared } = values;
    const phases = this.phases[index] as Float64Array;
    const at = column * voices;
    const time = COLUMN.time * voices;
    const steady = lfo.rate >= 0;
    let rate = this.rateOf(lfo, list[0] as number);
    const plain =
      shared[lfo.shape] === 0 && lfo.phase >= 0 && shared[lfo.phase] === 0 && lfo.delay >= 0 && lfo.fade >= 0;
    const quick = plain && shared[lfo.delay] === 0 && shared[lfo.fade] === 0;
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      if (!steady) rate = this.rateOf(lfo, v);
      const phase = (phases[v] as number) + rate * seconds;
      phases[v] = phase;
      columns[at + v] = quick
        ? Math.sin(2 * Math.PI * phase)
        : this.valueAt(lfo, phase, v, columns[time + v] as number, (this.seeds[v] as number) + index);
    }
  }

  /** The first note of a phrase: those that run from there begin anew. */
  beginPhrase(): void {
    for (let i = 0; i < this.lfos.length; i++) {
      if ((this.lfos[i] as LfoPlan).scope !== "firstNote") continue;
      this.sharedPhases[i] = 0;
      this.sharedTimes[i] = 0;
    }
  }

  /** A voice begins. */
  start(v: number, seed: number): void {
    this.seeds[v] = seed;
    for (const phases of this.phases) phases[v] = 0;
  }

  /** A voice goes on where another stands. */
  copy(from: number, to: number): void {
    this.seeds[to] = this.seeds[from] as number;
    for (const phases of this.phases) phases[to] = phases[from] as number;
  }

  reset(): void {
    this.sharedPhases.fill(0);
    this.sharedTimes.fill(0);
  }
}
