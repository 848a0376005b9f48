import { type LfoShape, lfoAt } from "../dsp";
import type { Plan, RoutePlan, Slot } from "./plan";
import { MOST_LFOS, type Voice } from "./voice";

const SHAPES: readonly LfoShape[] = ["sine", "triangle", "saw", "square"];

/**
 * The parameters' values as they are now: each base value is followed smoothly (5 ms), and routes are added for one voice
 * or for the whole. Allocates only when a plan comes.
 */
export class Modulation {
  wheel = 0;
  pressure = 0;
  private wheelNow = 0;
  private pressureNow = 0;
  private slots: readonly Slot[] = [];
  private base = new Float64Array(0);
  /** Base values, smoothed. */
  current = new Float64Array(0);
  /** Values with modulation: of the voice or the whole that was evaluated last. */
  now = new Float64Array(0);
  private amounts = new Float64Array(0);
  private readonly follow: number;

  constructor(
    private readonly rate: number,
    step: number,
  ) {
    this.follow = 1 - Math.exp(-step / (0.005 * rate));
  }

  /** Takes a plan's slots; parameters that were there before go on from where they are. */
  setPlan(plan: Plan): void {
    const before = new Map(this.slots.map((s, i) => [s.address, this.current[i] as number]));
    this.slots = plan.slots;
    this.base = Float64Array.from(plan.base);
    this.current = Float64Array.from(
      plan.slots,
      (s, i) => (s.smooth ? (before.get(s.address) ?? this.base[i]) : this.base[i]) as number,
    );
    this.now = Float64Array.from(this.current);
    this.amounts = new Float64Array(this.base.length);
  }

  setBase(base: ArrayLike<number>): void {
    if (base.length === this.base.length) this.base.set(base);
  }

  /** Moves everything smoothed on by one control step; `now` then holds what is not routed. */
  advance(): void {
    const { base, current, slots, follow } = this;
    for (let i = 0; i < current.length; i++) {
      const gap = (base[i] as number) - (current[i] as number);
      if (gap === 0) continue;
      const slot = slots[i] as Slot;
      const near = Math.abs(gap) < 1e-6 * (slot.max - slot.min);
      current[i] = near || !slot.smooth ? (base[i] as number) : (current[i] as number) + follow * gap;
    }
    this.now.set(current);
    this.wheelNow += follow * (this.wheel - this.wheelNow);
    this.pressureNow += follow * (this.pressure - this.pressureNow);
  }

  /** Writes the values of the slots that some routes move into `now`; `voice` is null for what is one for all. */
  evaluate(plan: Plan, routes: readonly RoutePlan[], voice: Voice | null): void {
    const { now, current, amounts, slots } = this;
    for (let r = 0; r < routes.length; r++) amounts[(routes[r] as RoutePlan).slot] = 0;
    for (let r = 0; r < routes.length; r++) {
      const route = routes[r] as RoutePlan;
      amounts[route.slot] = (amounts[route.slot] as number) + route.amount * this.source(plan, route, voice);
    }
    for (let r = 0; r < routes.length; r++) {
      const at = (routes[r] as RoutePlan).slot;
      const slot = slots[at] as Slot;
      const amount = amounts[at] as number;
      const value = slot.octaves ? (current[at] as number) * 2 ** amount : (current[at] as number) + amount;
      now[at] = value < slot.min ? slot.min : value > slot.max ? slot.max : value;
    }
  }

  private source(plan: Plan, route: RoutePlan, voice: Voice | null): number {
    const { source } = route;
    switch (source.kind) {
      case "wheel":
        return this.wheelNow;
      case "pressure":
        return this.pressureNow;
      case "macro":
        return this.current[source.slot] as number;
      case "velocity":
        return voice ? voice.velocity / 127 : 0;
      case "key":
        return voice ? (voice.key - 60) / 60 : 0;
      case "random":
        return voice ? voice.random : 0;
      case "amp":
        return voice ? voice.env.level : 0;
      case "lfo":
        return voice ? this.lfo(plan, source.index, voice) : 0;
    }
  }

  private lfo(plan: Plan, index: number, voice: Voice): number {
    const lfo = plan.lfos[index];
    if (!lfo || index >= MOST_LFOS) return 0;
    const fade = this.current[lfo.fade] as number;
    const depth = fade > 0 ? Math.min(1, voice.age / this.rate / fade) : 1;
    return depth * lfoAt(SHAPES[this.current[lfo.shape] as number] ?? "sine", voice.phases[index] as number);
  }

  /** Moves a voice's LFOs on by some frames. */
  turn(plan: Plan, voice: Voice, frames: number): void {
    for (let i = 0; i < plan.lfos.length && i < MOST_LFOS; i++) {
      const lfo = plan.lfos[i];
      if (lfo)
        voice.phases[i] = (voice.phases[i] as number) + ((this.current[lfo.rate] as number) * frames) / this.rate;
    }
  }

  /** Forgets smoothing: everything stands at its base value. */
  settle(): void {
    this.current.set(this.base);
    this.now.set(this.base);
    this.wheelNow = this.wheel;
    this.pressureNow = this.pressure;
  }
}
