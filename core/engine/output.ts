import type { Audio } from "../audio";
import { BUS, CONTROL, Limiter } from "../dsp";
import { SENDS } from "../instrument";
import { Chain } from "./chain";
import { LayerBus } from "./layer-bus";
import type { LayerPlan, Plan } from "./plan";
import { BLOCK, type SharedParts } from "./shared-parts";
import { ORPHANS } from "./voice-pool";

/** A layer's sum with the layer as it is now (null: it is gone), its number, and whether the layer's voices are added to it. */
interface HeardBus {
  readonly bus: LayerBus;
  readonly layer: LayerPlan | null;
  readonly index: number;
  used: boolean;
}

/** Whether everything in two channels is a finite number. */
function allFinite(left: Float32Array, right: Float32Array, from: number, to: number): boolean {
  let sum = 0;
  // Whatever isn't finite stays so when it is multiplied by 0.
  for (let i = from; i < to; i++) sum += (left[i] as number) * 0 + (right[i] as number) * 0;
  return sum === 0;
}

/**
 * What becomes of the voices: each layer's sum goes through its inserts and to the sends, all together through the whole's chain, then level, what is
 * heard beside the instrument, and the limiter. A layer without inserts in an instrument without sends needs no sum of its own.
 */
export class Output {
  /** Two channels that are heard beside the instrument in the next call of `render`; null for none. */
  beside: readonly [Float32Array, Float32Array] | null = null;
  /** How often the effects began anew, because their numbers had left all bounds. */
  broken = 0;
  readonly limiter: Limiter;
  private readonly main: Chain;
  private readonly sends: readonly Chain[];
  private readonly sendsLeft: readonly Float32Array[];
  private readonly sendsRight: readonly Float32Array[];
  /** Sums of the layers that need one, by the layers' ids; and as a list, with the layers as they are now. */
  private readonly buses = new Map<string, LayerBus>();
  private heard: readonly HeardBus[] = [];
  private watched = false;
  private readonly assets = new Map<string, Audio>();
  /** Level of the whole: what was asked for, the same as a factor, and the ramp to it. */
  private decibels = 0;
  private wanted = 1;
  private level = 1;
  private levelStep = 0;

  constructor(private readonly shared: SharedParts) {
    this.main = new Chain(shared.rate, shared.kernels);
    this.sends = Array.from({ length: SENDS }, () => new Chain(shared.rate, shared.kernels, 0));
    this.sendsLeft = this.sends.map(() => new Float32Array(BLOCK));
    this.sendsRight = this.sends.map(() => new Float32Array(BLOCK));
    this.limiter = new Limiter(shared.rate);
  }

  /** Takes a plan's chains; call it before voices are moved into the plan. `first`: nothing has been heard yet. */
  setPlan(plan: Plan, first: boolean): void {
    for (const sha of this.assets.keys()) if (!plan.impulses.includes(sha)) this.assets.delete(sha);
    this.main.setUnits(plan.effects, first);
    this.sends.forEach((chain, s) => {
      chain.setUnits(plan.sends[s]?.units ?? [], first);
    });
    const sending = this.sends.some((chain) => !chain.empty);
    const layers = new Map(plan.layers.map((layer) => [layer.id, layer]));
    for (const layer of plan.layers) {
      if (sending || this.watched || layer.inserts.length > 0)
        this.busOf(layer.id).inserts.setUnits(layer.inserts, first);
    }
    for (const [id, bus] of this.buses) {
      const layer = layers.get(id);
      if (!layer || layer.inserts.length === 0) bus.inserts.setUnits([], first);
      // What is on its way out is heard to its end.
      const wanted = layer !== undefined && (sending || this.watched || layer.inserts.length > 0);
      if (!wanted && bus.inserts.empty) {
        this.buses.delete(id);
        this.shared.freeBus(bus.at);
      }
    }
    const used = new Set(this.heard.filter((h) => h.used).map((h) => h.bus));
    this.heard = [...this.buses].map(([id, bus]) => ({
      bus,
      layer: layers.get(id) ?? null,
      index: plan.layers.findIndex((layer) => layer.id === id),
      used: used.has(bus),
    }));
    this.shared.buses = plan.layers.map(() => this.shared.bus);
    for (const { bus, index, used: on } of this.heard) if (on && index >= 0) this.shared.buses[index] = bus.at;
    this.loadAssets(first);
  }

  /** Takes the peaks between all units from now on, or no longer. Allocates. */
  watch(on: boolean): void {
    this.watched = on;
    if (this.shared.plan) this.setPlan(this.shared.plan, false);
    for (const chain of [this.main, ...this.sends, ...[...this.buses.values()].map((b) => b.inserts)])
      chain.watched = on;
  }

  /** The peaks since this was asked last, by the names of the rows and the addresses of the units; null where nobody watches. Allocates. */
  takePeaks(): Record<string, number> | null {
    if (!this.watched) return null;
    const peaks: Record<string, number> = {};
    for (const [id, bus] of this.buses) bus.inserts.takePeaks(`layers/${id}`, peaks);
    this.shared.plan?.sends.forEach(({ id }, s) => {
      this.sends[s]?.takePeaks(`sends/${id}`, peaks);
    });
    this.main.takePeaks("effects", peaks);
    return peaks;
  }

  private busOf(id: string): LayerBus {
    const bus = this.buses.get(id) ?? new LayerBus(this.shared, SENDS);
    bus.inserts.watched = this.watched;
    this.buses.set(id, bus);
    return bus;
  }

  /** Leads what sounds to its layer's sum; what belongs to no layer any more goes straight to the whole. */
  route(): void {
    const { pool, heap, buses, bus } = this.shared;
    for (const voice of pool.voices)
      if (voice.active && voice.layer !== ORPHANS) heap.u32[(voice.pair + BUS) / 4] = buses[voice.layer] ?? bus;
    for (const voice of pool.voices) {
      const other = pool.voices[voice.index ^ 1];
      if (voice.active && voice.layer === ORPHANS && (!other?.active || other.layer === ORPHANS))
        heap.u32[(voice.pair + BUS) / 4] = bus;
    }
  }

  /** Takes a sound that effects use, at the engine's rate; `now`: nobody waits for it. */
  addAsset(sha: string, audio: Audio, now: boolean): void {
    const { rate } = this.shared;
    if (audio.rate !== rate) throw new RangeError(`an impulse at ${audio.rate} Hz can't be used at ${rate} Hz`);
    // What isn't finite in it would never end.
    const finite = audio.channels.map((c) => c.map((x) => (Number.isFinite(x) ? x : 0)));
    this.assets.set(sha, { ...audio, channels: finite });
    this.loadAssets(now);
  }

  private loadAssets(now: boolean): void {
    for (const chain of [this.main, ...this.sends, ...[...this.buses.values()].map((b) => b.inserts)])
      chain.load(this.assets, now);
  }

  /** A control step; `first`: level and sends are to stand at their values at once. */
  control(plan: Plan, first: boolean): void {
    const { shared: values, tempo, moved } = this.shared.modulation;
    let routed = true;
    for (let i = 0; i < this.heard.length; i++) {
      const heard = this.heard[i] as HeardBus;
      if (!heard.used && heard.index >= 0 && (this.shared.pool.layerPairs[heard.index] as number) > 0)
        heard.bus.inserts.touch();
      heard.bus.control(heard.layer, first);
      const { matters } = heard.bus;
      if (matters === heard.used) continue;
      heard.used = matters;
      if (heard.index >= 0) this.shared.buses[heard.index] = matters ? heard.bus.at : this.shared.bus;
      routed = false;
    }
    if (!routed) this.route();
    for (let s = 0; s < this.sends.length; s++) (this.sends[s] as Chain).control(values, tempo, moved);
    this.main.control(values, tempo, moved);
    const decibels = values[plan.play.level as number] as number;
    if (decibels !== this.decibels) {
      this.decibels = decibels;
      this.wanted = 10 ** (decibels / 20);
    }
    if (first) this.level = this.wanted;
    this.levelStep = (this.wanted - this.level) / CONTROL;
  }

  /** Takes what the voices have added to the buses into the frames `[from, to)` of two channels, at most 128; the buses are empty afterwards. */
  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    this.shared.takeBus(this.shared.bus, left, right, from, to);
    if (this.heard.length > 0) this.sum(left, right, from, to);
    this.main.process(left, right, from, to);
    const step = this.levelStep;
    let { level } = this;
    for (let i = from; i < to; i++) {
      left[i] = (left[i] as number) * level;
      right[i] = (right[i] as number) * level;
      level += step;
    }
    this.level = level;
    if (!allFinite(left, right, from, to)) {
      // Only the effects can have made it: they begin anew.
      this.resetChains();
      left.fill(0, from, to);
      right.fill(0, from, to);
      this.broken++;
    }
    const { beside } = this;
    if (beside) {
      for (let i = from; i < to; i++) {
        left[i] = (left[i] as number) + (beside[0][i] as number);
        right[i] = (right[i] as number) + (beside[1][i] as number);
      }
    }
    this.limiter.process(left, right, from, to);
  }

  /** Adds the layers' sums and what comes out of the sends. */
  private sum(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { sends, sendsLeft, sendsRight, heard } = this;
    const { layerPairs } = this.shared.pool;
    const count = to - from;
    const fading = (layerPairs[ORPHANS] as number) > 0;
    let sounding = false;
    for (let b = 0; b < heard.length; b++) {
      const { bus, index, used } = heard[b] as HeardBus;
      // A sum to which nothing was added, of a layer whose units sleep, is nothing.
      const played = index >= 0 && (layerPairs[index] as number) > 0;
      if (!used || !(played || fading || !bus.inserts.silent)) continue;
      bus.process(left, right, sendsLeft, sendsRight, from, to);
      sounding = true;
    }
    for (let s = 0; s < sends.length; s++) {
      const chain = sends[s] as Chain;
      if (!sounding && chain.silent) continue;
      const l = sendsLeft[s] as Float32Array;
      const r = sendsRight[s] as Float32Array;
      // A send of which no unit is on gives nothing: what goes there would be heard twice.
      let through = chain.most;
      chain.process(l, r, 0, count);
      const step = (chain.most - through) / count;
      for (let i = 0; i < count; i++) {
        left[from + i] = (left[from + i] as number) + through * (l[i] as number);
        right[from + i] = (right[from + i] as number) + through * (r[i] as number);
        through += step;
      }
      l.fill(0, 0, count);
      r.fill(0, 0, count);
    }
  }

  private resetChains(): void {
    for (let b = 0; b < this.heard.length; b++) (this.heard[b] as HeardBus).bus.inserts.reset();
    for (let s = 0; s < this.sends.length; s++) (this.sends[s] as Chain).reset();
    this.main.reset();
  }

  reset(): void {
    this.resetChains();
    this.limiter.reset();
  }
}
