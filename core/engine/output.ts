import type { Audio } from "../audio";
import { BUS, CONTROL, Limiter } from "../dsp";
import { SENDS } from "../instrument";
import { addBlock, copyBlock, type Overheard } from "./bus-frames";
import { Chain } from "./chain";
import { LayerBus } from "./layer-bus";
import type { LayerPlan, Plan } from "./plan";
import { Probe, type ProbeSetting } from "./probe";
import { BLOCK, type SharedParts } from "./shared-parts";
import type { Voice } from "./voice";
import { ORPHANS } from "./voice-pool";

/** A layer's sum with the layer as it is now (null: it is gone), its number, and whether the layer's voices are added to it. */
interface HeardBus {
  readonly bus: LayerBus;
  readonly layer: LayerPlan | null;
  readonly index: number;
  used: boolean;
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
  /** The sends' addresses. */
  private sendNames: readonly string[] = [];
  /** Sums of the layers that need one, by the layers' ids; and as a list, with the layers as they are now. */
  private readonly buses = new Map<string, LayerBus>();
  private heard: readonly HeardBus[] = [];
  private watched = false;
  private alone: ReadonlySet<string> = new Set();
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
    this.probe = new Probe(shared.rate);
  }

  /** A test sound that goes through one of the rows. */
  readonly probe: Probe;
  /** The row or unit of which is copied what comes out, and that: silence while nothing does. */
  private tapAddress: string | null = null;
  readonly tapped: Overheard = { left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) };

  /** Lets a test sound go through a row; null: none any more. Allocates. */
  setProbe(setting: ProbeSetting | null): void {
    this.probe.set(setting);
    if (this.shared.plan) this.setPlan(this.shared.plan, false);
  }

  /** Copies to `tapped` from now on what comes out of a row (`layers/<id>`, `sends/<id>`) or of a unit on a bus; null: of nothing. Allocates. */
  setTap(address: string | null): void {
    this.tapAddress = address;
    this.tapped.left.fill(0);
    this.tapped.right.fill(0);
    if (this.shared.plan) this.setPlan(this.shared.plan, false);
  }

  /** Whether a test sound or somebody who listens needs a layer's sum. */
  private isLooked(layer: string): boolean {
    const at = `layers/${layer}`;
    return this.probe.at === at || this.tapAddress === at || (this.tapAddress?.startsWith(`${at}/inserts/`) ?? false);
  }

  /** Takes a plan's chains; call it before voices are moved into the plan. `first`: nothing has been heard yet. */
  setPlan(plan: Plan, first: boolean): void {
    this.still = false;
    for (const sha of this.assets.keys()) if (!plan.impulses.includes(sha)) this.assets.delete(sha);
    this.main.setUnits(plan.effects, first);
    this.sends.forEach((chain, s) => {
      chain.setUnits(plan.sends[s]?.units ?? [], first);
    });
    this.sendNames = plan.sends.map(({ id }) => `sends/${id}`);
    const sending = this.sends.some((chain) => !chain.empty);
    const layers = new Map(plan.layers.map((layer) => [layer.id, layer]));
    const some = plan.layers.some((layer) => this.alone.has(layer.id));
    const chains = [plan.effects, ...plan.sends.map((s) => s.units), ...plan.layers.map((l) => l.inserts)];
    const overheard = new Set(chains.flatMap((units) => units.flatMap((u) => u.from ?? [])));
    const needsSum = (layer: LayerPlan): boolean =>
      some ||
      this.isLooked(layer.id) ||
      overheard.has(layer.id) ||
      sending ||
      this.watched ||
      layer.inserts.length > 0 ||
      (plan.base[layer.mute] as number) >= 0.5;
    for (const layer of plan.layers) {
      if (needsSum(layer)) this.busOf(layer.id).inserts.setUnits(layer.inserts, first);
    }
    const firstGroups = new Map<string, number>();
    let groups = 0;
    for (const layer of plan.layers) {
      firstGroups.set(layer.id, groups);
      groups += layer.groups.length;
    }
    this.shared.ways = new Int32Array(groups);
    this.shared.fresh = new Uint8Array(groups);
    for (const [id, bus] of this.buses) {
      const layer = layers.get(id);
      if (!layer || layer.inserts.length === 0) bus.inserts.setUnits([], first);
      // What is on its way out is heard to its end.
      const wanted = layer !== undefined && needsSum(layer);
      bus.setGroups(wanted && sending ? layer.groups : [], firstGroups.get(id) ?? 0);
      if (!wanted && bus.inserts.empty && bus.whole && bus.plain) {
        this.buses.delete(id);
        bus.release();
      }
    }
    for (const [id, bus] of this.buses) {
      if (!overheard.has(id)) bus.overheard = null;
      else bus.overheard ??= { left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) };
    }
    for (const [id, bus] of this.buses) {
      bus.probe = this.probe.at === `layers/${id}` ? this.probe : null;
      bus.tap = this.tapAddress === `layers/${id}` ? this.tapped : null;
    }
    for (const chain of this.chains()) chain.tap(this.tapAddress, this.tapped);
    for (const chain of this.chains()) chain.connect((id) => this.buses.get(id)?.overheard ?? null);
    for (const [id, bus] of this.buses) bus.alone = some ? this.alone.has(id) : null;
    const used = new Set(this.heard.filter((h) => h.used).map((h) => h.bus));
    this.heard = [...this.buses].map(([id, bus]) => ({
      bus,
      layer: layers.get(id) ?? null,
      index: plan.layers.findIndex((layer) => layer.id === id),
      used: used.has(bus),
    }));
    const place = (h: HeardBus) => (h.index < 0 ? plan.layers.length : plan.busOrder.indexOf(h.index));
    this.heard = this.heard.toSorted((a, b) => place(a) - place(b));
    this.shared.buses = plan.layers.map(() => this.shared.bus);
    for (const { bus, index, used: on } of this.heard) if (on && index >= 0) this.shared.buses[index] = bus.at;
    this.loadAssets(first);
  }

  /** Hears only these layers from now on; none, or none that are there: all. Allocates. */
  solo(layers: readonly string[]): void {
    this.alone = new Set(layers);
    if (this.shared.plan) this.setPlan(this.shared.plan, false);
  }

  /** Takes the peaks between all units from now on, or no longer. Allocates. */
  watch(on: boolean): void {
    this.watched = on;
    this.still = false;
    if (this.shared.plan) this.setPlan(this.shared.plan, false);
    for (const chain of this.chains()) chain.watched = on;
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

  private chains(): Chain[] {
    return [this.main, ...this.sends, ...[...this.buses.values()].map((b) => b.inserts)];
  }

  private busOf(id: string): LayerBus {
    const bus = this.buses.get(id) ?? new LayerBus(this.shared);
    bus.inserts.watched = this.watched;
    this.buses.set(id, bus);
    return bus;
  }

  /** Leads what sounds to its group's or its layer's sum; what belongs to no layer any more stays where it is as long as that is heard. */
  route(): void {
    const { pool, heap, buses, bus } = this.shared;
    for (let v = 0; v < pool.voices.length; v++) {
      const voice = pool.voices[v] as Voice;
      if (!voice.active) continue;
      const at = (voice.pair + BUS) / 4;
      if (voice.layer !== ORPHANS) heap.u32[at] = voice.way || (buses[voice.layer] ?? bus);
      else {
        const other = pool.voices[v ^ 1] as Voice;
        if ((other.active && other.layer !== ORPHANS) || this.takes(heap.u32[at] as number)) continue;
        heap.u32[at] = bus;
      }
    }
  }

  private takes(address: number): boolean {
    for (let b = 0; b < this.heard.length; b++) {
      const { bus, used } = this.heard[b] as HeardBus;
      if (used && bus.takes(address)) return true;
    }
    return false;
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
    this.still = false;
    for (const chain of this.chains()) chain.load(this.assets, now);
  }

  /** Whether a control step in which no value has moved changes nothing of any sum or send; and the tempo of the last. */
  private still = false;
  private tempo = Number.NaN;
  /** Whether the sums know that nothing is added to them. */
  private rested = false;

  /** A control step of the layers' sums and the sends. */
  private controlSums(first: boolean): void {
    const { shared: values, tempo, moved } = this.shared.modulation;
    if (this.still && !moved && tempo === this.tempo && !first) return;
    this.tempo = tempo;
    this.still = this.probe.at === null;
    let routed = true;
    for (let i = 0; i < this.heard.length; i++) {
      const heard = this.heard[i] as HeardBus;
      if (!heard.used && heard.index >= 0 && (this.shared.pool.layerPairs[heard.index] as number) > 0)
        heard.bus.inserts.touch();
      heard.bus.control(heard.layer, first);
      if (!heard.bus.atRest(heard.layer)) this.still = false;
      const { matters } = heard.bus;
      if (matters === heard.used) continue;
      heard.used = matters;
      if (heard.index >= 0) this.shared.buses[heard.index] = matters ? heard.bus.at : this.shared.bus;
      routed = false;
    }
    if (!routed) this.route();
    for (let s = 0; s < this.sends.length; s++) {
      const send = this.sends[s] as Chain;
      send.control(values, tempo, moved);
      if (!send.atRest) this.still = false;
    }
  }

  /** A control step; `first`: level and sends are to stand at their values at once. */
  control(plan: Plan, first: boolean): void {
    const { shared: values, tempo, moved } = this.shared.modulation;
    this.controlSums(first);
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
    const { probe } = this;
    this.shared.takeBus(this.shared.bus, left, right, from, to);
    // It may end within these frames.
    const probed = probe.at;
    probe.make(to - from);
    if (this.tapAddress !== null) {
      this.tapped.left.fill(0, from % BLOCK, (from % BLOCK) + to - from);
      this.tapped.right.fill(0, from % BLOCK, (from % BLOCK) + to - from);
    }
    if (this.heard.length > 0 || probed !== null) this.sum(left, right, from, to, probed);
    if (probed === "effects") addBlock(left, right, probe, from, to);
    this.main.process(left, right, from, to);
    if (!this.applyLevel(left, right, from, to)) {
      // Only the effects can have made it: they begin anew.
      this.resetChains();
      left.fill(0, from, to);
      right.fill(0, from, to);
      this.broken++;
    }
    if (probe.at !== null) {
      const { tapped } = this;
      if (this.tapAddress === null) probe.hear(left, right, from, to);
      else probe.hear(tapped.left, tapped.right, from % BLOCK, (from % BLOCK) + to - from);
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

  /** Brings two channels to the level of the whole; whether all in them are finite numbers. */
  private applyLevel(left: Float32Array, right: Float32Array, from: number, to: number): boolean {
    const step = this.levelStep;
    let { level } = this;
    let sum = 0;
    for (let i = from; i < to; i++) {
      left[i] = (left[i] as number) * level;
      right[i] = (right[i] as number) * level;
      level += step;
      // Whatever isn't finite stays so when it is multiplied by 0.
      sum += (left[i] as number) * 0 + (right[i] as number) * 0;
    }
    this.level = level;
    return sum === 0;
  }

  /** Adds the layers' sums and what comes out of the sends. */
  private sum(left: Float32Array, right: Float32Array, from: number, to: number, probe: string | null): void {
    const { sends, sendsLeft, sendsRight, heard } = this;
    const { layerPairs, pairCount } = this.shared.pool;
    // Where nothing sounds and everything sleeps there is nothing to add up.
    if (this.still && pairCount === 0 && probe === null) {
      if (!this.rested) for (let b = 0; b < heard.length; b++) (heard[b] as HeardBus).bus.rest();
      this.rested = true;
      return;
    }
    this.rested = false;
    const count = to - from;
    const fading = (layerPairs[ORPHANS] as number) > 0;
    let sounding = false;
    for (let b = 0; b < heard.length; b++) {
      const { bus, index, used } = heard[b] as HeardBus;
      // A sum to which nothing was added, of a layer whose units sleep, is nothing.
      const played = index >= 0 && (layerPairs[index] as number) > 0;
      if (!used || !(played || fading || bus.probe || !bus.inserts.silent)) {
        bus.rest();
        continue;
      }
      bus.process(left, right, sendsLeft, sendsRight, from, to);
      if (!bus.inserts.atRest) this.still = false;
      sounding = true;
    }
    for (let s = 0; s < sends.length; s++) {
      const chain = sends[s] as Chain;
      const probed = probe !== null && probe === this.sendNames[s];
      if (!sounding && chain.silent && !probed) continue;
      const l = sendsLeft[s] as Float32Array;
      const r = sendsRight[s] as Float32Array;
      if (probed) addBlock(l, r, this.probe, 0, count);
      // A send of which no unit is on gives nothing: what goes there would be heard twice.
      let through = chain.most;
      chain.process(l, r, 0, count, from);
      if (this.tapAddress !== null && this.tapAddress === this.sendNames[s])
        copyBlock(l, r, this.tapped, 0, count, from);
      if (!chain.atRest) this.still = false;
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
    this.still = false;
    for (let b = 0; b < this.heard.length; b++) (this.heard[b] as HeardBus).bus.inserts.reset();
    for (let s = 0; s < this.sends.length; s++) (this.sends[s] as Chain).reset();
    this.main.reset();
  }

  reset(): void {
    this.resetChains();
    this.limiter.reset();
  }
}
