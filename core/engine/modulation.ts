import type { Seconds } from "../audio";
import { EnvelopeBank, lineAt, PathBank, type Segments } from "../dsp";
import { FollowedValues } from "./followed-values";
import { LfoBank } from "./lfo-bank";
import type { EnvelopePlan, Plan, Slot } from "./plan";
import type { RoutePlan, Step, TargetPlan } from "./plan-modulation";
import { COLUMN, FIXED_COLUMNS, GLOBALS, SMOOTHING } from "./plan-modulation";
import { ValueTable } from "./value-table";

/**
 * The parameters' values as they are now: what was set, moved by routes, for all voices or for each. A step is computed for many voices at once, column
 * by column. Allocates only when a plan comes.
 */
export class Modulation extends ValueTable {
  readonly amp: EnvelopeBank;
  private readonly base: FollowedValues;
  private readonly lfos: LfoBank;
  private slots: readonly Slot[] = [];
  private memories = new Float64Array(0);
  private envelopes: (EnvelopeBank | null)[] = [];
  private paths: (PathBank | null)[] = [];
  private readonly sum: Float64Array;
  private readonly segments: Segments = {
    delay: 0,
    attack: 0,
    attackBend: 0,
    hold: 0,
    decay: 0,
    decayBend: 0,
    sustain: 0,
    release: 0,
    releaseBend: 0,
  };
  private plan: Plan | null = null;
  /** Whether a base value may be another than at the step before; what routes move may always be. */
  moved = true;
  private fresh = true;

  constructor(
    private readonly rate: number,
    voices: number,
  ) {
    super(voices);
    this.amp = new EnvelopeBank(voices);
    this.base = new FollowedValues(rate);
    this.lfos = new LfoBank(rate, this);
    this.sum = new Float64Array(voices);
  }

  /** Takes a plan's slots; parameters, envelopes and LFOs that were there before go on from where they are. */
  setPlan(plan: Plan): void {
    const { voices } = this;
    const old = this.plan;
    const controllers = this.shared.slice(this.slots.length, this.slots.length + GLOBALS);
    this.slots = plan.slots;
    this.base.setSlots(plan.slots, plan.base);
    this.shared = new Float64Array(plan.slots.length + GLOBALS + plan.lfos.length);
    this.shared.set(this.base.current);
    this.shared.set(controllers, plan.slots.length);
    // A column goes on from what stood in the one of its name. Smoothing that is new begins where its source is.
    const columns = new Float64Array((FIXED_COLUMNS + plan.columns.length) * voices).fill(Number.NaN);
    const held = new Map(old?.columns.map((name, c) => [name, FIXED_COLUMNS + c]));
    columns.set(this.columns.subarray(0, FIXED_COLUMNS * voices));
    plan.columns.forEach((name, c) => {
      const from = held.get(name);
      const to = (FIXED_COLUMNS + c) * voices;
      if (from !== undefined) columns.set(this.columns.subarray(from * voices, (from + 1) * voices), to);
      else if (!name.startsWith(SMOOTHING)) columns.fill(0, to, to + voices);
    });
    this.columns = columns;
    const placeOf = (id: string): number => old?.envelopes.findIndex((u) => u.id === id) ?? -1;
    this.envelopes = plan.envelopes.map((u) =>
      u.kind === "path" ? null : (this.envelopes[placeOf(u.id)] ?? new EnvelopeBank(voices)),
    );
    this.paths = plan.envelopes.map((u) =>
      u.kind === "path" ? (this.paths[placeOf(u.id)] ?? new PathBank(voices)) : null,
    );
    this.lfos.setLfos(plan.lfos);
    const { memories } = this;
    this.memories = Float64Array.from(
      plan.memories,
      (name) => memories[old?.memories.indexOf(name) ?? -1] ?? Number.NaN,
    );
    this.plan = plan;
    this.fresh = true;
    // What routes make of the slots is known at once, so that whoever begins before the next step begins by it.
    this.advance(0);
  }

  setBase(base: ArrayLike<number>): void {
    this.base.set(base);
  }

  /** Sets a wheel, pressure (0–1, bend ±1) or a controller, by its place in GLOBAL. */
  setInput(index: number, value: number): void {
    this.shared[this.slots.length + index] = value;
  }
  input(index: number): number {
    return this.shared[this.slots.length + index] as number;
  }

  /** Moves everything that voices share on by some frames. */
  advance(frames: number): void {
    const { plan } = this;
    if (!plan) return;
    const moving = this.base.advance(frames, this.shared);
    if (frames > 0) {
      this.moved = moving || this.fresh;
      this.fresh = false;
    }
    const { program } = plan;
    for (let s = 0; s < program.length; s++) {
      const step = program[s] as Step;
      if (step.kind === "lfo") this.lfos.advance(step.index, step.column, frames);
      else if (step.kind === "target") this.sharedTarget(step.target, frames);
    }
  }

  private sharedTarget(target: TargetPlan, frames: number): void {
    const { shared } = this;
    let sum = this.base.current[target.slot] as number;
    for (let r = 0; r < target.routes.length; r++) {
      const route = target.routes[r] as RoutePlan;
      let x = this.shaped(route, shared[route.source] as number);
      if (route.scale !== null) x *= shared[route.scale] as number;
      if (route.memory >= 0) {
        const held = this.memories[route.memory] as number;
        if (!Number.isNaN(held)) x = held + (x - held) * (1 - Math.exp(-frames / (route.smooth * this.rate)));
        this.memories[route.memory] = x;
      }
      sum += x * (shared[route.amount] as number);
    }
    const slot = this.slots[target.slot] as Slot;
    shared[target.slot] = sum < slot.min ? slot.min : sum > slot.max ? slot.max : sum;
  }

  private shaped(route: RoutePlan, x: number): number {
    if (route.line < 0) return x;
    const line = this.plan?.lines[route.line];
    return line ? (x < 0 ? -lineAt(line, -x) : lineAt(line, x)) : x;
  }

  /** The first note of a phrase: the LFOs that run from there begin anew. */
  beginPhrase(): void {
    this.lfos.beginPhrase();
  }

  /** Runs a layer's program for some of its voices, `frames` frames on; with 0 frames it gives the values at the beginning. */
  run(program: readonly Step[], amp: EnvelopePlan, list: Int32Array, count: number, frames: number): void {
    const { plan, columns, voices } = this;
    if (!plan) return;
    const seconds = frames / this.rate;
    const time = COLUMN.time * voices;
    for (let i = 0; i < count; i++) {
      const at = time + (list[i] as number);
      columns[at] = (columns[at] as number) + seconds;
    }
    for (let s = 0; s < program.length; s++) {
      const step = program[s] as Step;
      switch (step.kind) {
        case "amp":
          this.runEnvelope(amp, this.amp, COLUMN.amp, list, count, seconds);
          break;
        case "envelope": {
          const unit = plan.envelopes[step.index] as EnvelopePlan;
          const bank = this.envelopes[step.index];
          if (bank) this.runEnvelope(unit, bank, step.column, list, count, seconds);
          else this.runPath(unit, this.paths[step.index] as PathBank, step.column, list, count, seconds);
          break;
        }
        case "lfo":
          this.lfos.run(step.index, step.column, list, count, seconds);
          break;
        case "target":
          this.runTarget(step.target, list, count, frames);
      }
    }
  }

  /** Reads an envelope's operands for a voice. */
  segmentsOf(unit: EnvelopePlan, v: number): Segments {
    const { segments: t } = this;
    const o = unit.operands;
    t.delay = this.read(o[0] as number, v);
    t.attack = this.read(o[1] as number, v);
    t.attackBend = this.read(o[2] as number, v);
    t.hold = this.read(o[3] as number, v);
    t.decay = this.read(o[4] as number, v);
    t.decayBend = this.read(o[5] as number, v);
    t.sustain = this.read(o[6] as number, v);
    t.release = this.read(o[7] as number, v);
    t.releaseBend = this.read(o[8] as number, v);
    return t;
  }

  private runEnvelope(
    unit: EnvelopePlan,
    bank: EnvelopeBank,
    column: number,
    list: Int32Array,
    count: number,
    seconds: number,
  ): void {
    const { columns } = this;
    const at = column * this.voices;
    let own = false;
    for (let i = 0; i < unit.operands.length; i++) if ((unit.operands[i] as number) < 0) own = true;
    let t = this.segmentsOf(unit, list[0] as number);
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      if (own) t = this.segmentsOf(unit, v);
      else if (bank.rests(v, t)) continue;
      columns[at + v] = bank.advance(v, seconds, t);
    }
  }

  private runPath(
    unit: EnvelopePlan,
    bank: PathBank,
    column: number,
    list: Int32Array,
    count: number,
    seconds: number,
  ): void {
    const at = column * this.voices;
    const [speed = 0, from = 0, to = 0] = unit.operands;
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      const first = this.read(from, v);
      const last = this.read(to, v);
      this.columns[at + v] = unit.line ? bank.advance(v, seconds, unit.line, 2 ** this.read(speed, v), first, last) : 0;
    }
  }

  private runTarget(target: TargetPlan, list: Int32Array, count: number, frames: number): void {
    const { columns, shared, sum, voices } = this;
    const slot = this.slots[target.slot] as Slot;
    const start = shared[target.slot] as number;
    for (let i = 0; i < count; i++) sum[i] = start;
    for (let r = 0; r < target.routes.length; r++) {
      const route = target.routes[r] as RoutePlan;
      if (route.source < 0 && route.amount >= 0 && route.scale === null && route.line < 0 && route.memory < 0) {
        const amount = shared[route.amount] as number;
        const at = (-1 - route.source) * voices;
        for (let i = 0; i < count; i++) {
          sum[i] = (sum[i] as number) + amount * (columns[at + (list[i] as number)] as number);
        }
        continue;
      }
      const follow = route.memory < 0 ? 1 : frames === 0 ? 1 : 1 - Math.exp(-frames / (route.smooth * this.rate));
      for (let i = 0; i < count; i++) {
        const v = list[i] as number;
        let x = this.shaped(route, this.read(route.source, v));
        if (route.scale !== null) x *= this.read(route.scale, v);
        if (route.memory >= 0) {
          const at = route.memory * voices + v;
          const held = columns[at] as number;
          if (!Number.isNaN(held)) x = held + (x - held) * follow;
          columns[at] = x;
        }
        sum[i] = (sum[i] as number) + x * this.read(route.amount, v);
      }
    }
    const at = target.column * voices;
    const { min, max } = slot;
    for (let i = 0; i < count; i++) {
      const x = sum[i] as number;
      columns[at + (list[i] as number)] = x < min ? min : x > max ? max : x;
    }
  }

  /** A voice begins: its envelopes and LFOs start anew. */
  start(v: number, seed: number): void {
    this.setColumn(COLUMN.time, v, 0);
    this.setColumn(COLUMN.release, v, 0);
    this.amp.start(v);
    for (const bank of this.envelopes) bank?.start(v);
    for (const bank of this.paths) bank?.start(v);
    this.lfos.start(v, seed);
  }

  /** A voice goes on where another stands: same envelopes, same LFOs. */
  copy(from: number, to: number): void {
    const { columns, voices } = this;
    for (let at = 0; at < columns.length; at += voices) columns[at + to] = columns[at + from] as number;
    this.amp.copy(from, to);
    for (const bank of this.envelopes) bank?.copy(from, to);
    for (const bank of this.paths) bank?.copy(from, to);
    this.lfos.copy(from, to);
  }

  /** A voice is let go `back` seconds before the time to which its envelopes were advanced. */
  release(v: number, amp: EnvelopePlan, back: Seconds): void {
    const { plan } = this;
    if (!plan) return;
    this.amp.release(v, back, this.segmentsOf(amp, v));
    for (let i = 0; i < this.envelopes.length; i++) {
      this.envelopes[i]?.release(v, back, this.segmentsOf(plan.envelopes[i] as EnvelopePlan, v));
      this.paths[i]?.release(v);
    }
  }

  /** Forgets smoothing: everything stands at its base value. */
  settle(): void {
    this.base.settle(this.shared);
    this.fresh = true;
    this.memories.fill(Number.NaN);
  }

  reset(): void {
    this.shared.fill(0, this.slots.length);
    this.lfos.reset();
    this.settle();
  }
}
