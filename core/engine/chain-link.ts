import type { Audio, Hertz } from "../audio";
import type { Kernels } from "../dsp";
import { type Block, unitSpec } from "../units";
import type { Overheard } from "./bus-frames";
import type { BusUnitPlan } from "./plan";

/** A unit of a chain: what computes it, how much of its way the sound takes, and whether it sleeps. */
export class Link {
  readonly block: Block;
  readonly values: Float64Array;
  plan: BusUnitPlan;
  /** 0: the sound goes past it; 1: through it. */
  wet: number;
  on = true;
  /** It is no longer in the chain, and goes once it is silent. */
  leaving = false;
  /** It stands in the order that is left: it goes on as it is until the other order is heard alone. */
  aside = false;
  asleep = true;
  /** Frames for which nothing has gone in or come out. */
  quiet = 0;
  /** Whether something has gone in or come out since the last control step. */
  heard = false;
  loaded: Audio | null = null;
  overheard: Overheard | null = null;
  /** Largest value that came out of it since this was read last, while the chain is watched. */
  peak = 0;
  tempo = Number.NaN;
  private readonly places = new Map<string, number>();
  private readonly read = (id: string): number => this.values[this.places.get(id) as number] as number;

  constructor(
    plan: BusUnitPlan,
    rate: Hertz,
    kernels: Kernels,
    /** How it comes in: by itself within the ramp, or at once, with the order in which it stands or since nothing was heard yet. */
    private readonly way: "ramp" | "at once",
    dry: number,
  ) {
    const make = unitSpec(plan.kind).block;
    if (!make) throw new RangeError(`a ${plan.kind} can't stand on a bus`);
    this.block = make(rate, kernels);
    if (this.block.unit.dry !== undefined) this.block.unit.dry = dry;
    this.plan = plan;
    this.wet = way === "ramp" ? 0 : 1;
    this.values = new Float64Array(plan.params.length).fill(Number.NaN);
    plan.params.forEach((p, i) => {
      this.places.set(p.id, i);
    });
  }

  /** Takes the values of its parameters; what computes it hears of them only when one has moved. */
  tune(shared: Float64Array, tempo: number): void {
    const { params } = this.plan;
    let moved = tempo !== this.tempo;
    for (let i = 0; i < params.length; i++) {
      const { slot, octaves } = params[i] as BusUnitPlan["params"][number];
      const value = octaves ? 2 ** (shared[slot] as number) : (shared[slot] as number);
      if (value !== this.values[i]) moved = true;
      this.values[i] = value;
    }
    this.on = this.read("on") >= 0.5;
    if (this.way === "at once" && Number.isNaN(this.tempo)) this.wet = this.target;
    this.tempo = tempo;
    if (moved) this.block.tune(this.read, tempo);
  }

  /** Whether it is one of the units that the chain is set to. */
  get stays(): boolean {
    return !this.leaving && !this.aside;
  }

  get target(): number {
    return this.on && !this.leaving ? 1 : 0;
  }

  /** Whether the sound goes past it, and will; also until the first control step has told it what it is set to. */
  get passed(): boolean {
    return Number.isNaN(this.tempo) || (this.wet === 0 && this.target === 0);
  }
}
