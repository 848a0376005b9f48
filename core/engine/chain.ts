import type { Audio, Hertz } from "../audio";
import { CONTROL, type Kernels } from "../dsp";
import { copyBlock, firstSound, isLoud, move, type Overheard, peakOf } from "./bus-frames";
import { Link } from "./chain-link";
import { Crossing, crossingsIn, key, leave, type Part, present, staying, unitsIn } from "./crossing";
import type { BusUnitPlan } from "./plan";
import { BLOCK } from "./shared-parts";

/** Seconds in which a unit comes in or goes out. */
const RAMP_SECONDS = 0.003;

/**
 * Units in a row over the two channels of a bus. A new row is spliced into the old one: who is in both goes on as it was, who comes or goes does so
 * within 3 ms; where the order is another one, the sound crosses from the old order to the new one within the same time. A unit into which nothing goes
 * and out of which nothing comes any more sleeps, and costs nothing. Only `setUnits` and `load` allocate.
 */
export class Chain {
  /** Whether the peaks between its units are taken. */
  watched = false;
  private peak = 0;
  /** The row; all units in it, those of orders that are left too; and where two orders stand side by side. */
  private parts: readonly Part[] = [];
  private links: readonly Link[] = [];
  private crossings: readonly Crossing[] = [];
  /** Whether all of it sleeps and no route moves it: then a step in which nothing has moved changes nothing; and whether it is passed meanwhile. */
  private resting = false;
  private restsPassed = false;
  private tempo = Number.NaN;
  /** Whether sound, or silence, has been sent through since the last control step; if not, there is nothing to cross. */
  private called = false;
  /** The unit of which is copied what comes out, and where to. */
  private tapped: string | null = null;
  private taps: Overheard | null = null;
  private readonly step: number;
  private readonly dryLeft = new Float32Array(BLOCK);
  private readonly dryRight = new Float32Array(BLOCK);

  constructor(
    private readonly rate: Hertz,
    private readonly kernels: Kernels,
    /** How much of the sound stays beside what units add to it: in a send nothing. */
    private readonly dry = 1,
  ) {
    this.step = 1 / Math.round(RAMP_SECONDS * rate);
  }

  /** Takes a row of units; `first`: nothing has been heard yet, so they stand in it at once. */
  setUnits(units: readonly BusUnitPlan[], first: boolean): void {
    this.parts = first ? units.map((unit) => this.make(unit, true)) : this.arranged(present(this.parts), units);
    this.links = unitsIn(this.parts);
    this.crossings = crossingsIn(this.parts);
    this.resting = false;
  }

  private make(plan: BusUnitPlan, atOnce: boolean): Link {
    return new Link(plan, this.rate, this.kernels, atOnce ? "at once" : "ramp", this.dry);
  }

  /** A row set to other units: where those that stay have another order, the two orders stand side by side. */
  private arranged(parts: readonly Part[], units: readonly BusUnitPlan[]): Part[] {
    const wanted = new Set(units.map(key));
    const old = staying(parts).flatMap((link) => (wanted.has(key(link.plan)) ? [key(link.plan)] : []));
    const places = new Map(units.map((unit, i) => [key(unit), i]));
    const kept = new Set(old);
    const now = units.map(key).filter((name) => kept.has(name));
    const isOther = (name: string, i: number): boolean => name !== now[i];
    const low = old.findIndex(isOther);
    if (low < 0) return this.spliced(parts, units);
    const high = old.findLastIndex(isOther);
    const holds = (name: string | undefined) => (part: Part) => staying([part]).some(({ plan }) => key(plan) === name);
    const from = parts.findIndex(holds(old[low]));
    const to = parts.findIndex(holds(old[high])) + 1;
    // An order that is still on its way in goes along whole.
    const moved = staying(parts.slice(from, to)).flatMap(({ plan }) => places.get(key(plan)) ?? []);
    const [begin, end] = [Math.min(...moved), Math.max(...moved) + 1];
    for (const link of unitsIn(parts.slice(from, to))) link.aside = true;
    return [
      ...this.spliced(parts.slice(0, from), units.slice(0, begin)),
      new Crossing(
        parts.slice(from, to),
        units.slice(begin, end).map((unit) => this.make(unit, true)),
      ),
      ...this.spliced(parts.slice(to), units.slice(end)),
    ];
  }

  /** A row set to other units, in which those that stay have the order that they had: who is new comes in, who isn't named goes out. */
  private spliced(parts: readonly Part[], units: readonly BusUnitPlan[]): Part[] {
    const places = new Map(units.map((unit, i) => [key(unit), i]));
    const next: Part[] = [];
    let taken = 0;
    const takeUntil = (place: number): void => {
      next.push(...units.slice(taken, place).map((unit) => this.make(unit, false)));
      taken = place;
    };
    for (const part of parts) {
      const inside = staying([part]).flatMap(({ plan }) => places.get(key(plan)) ?? []);
      if (inside.length > 0) takeUntil(inside[0] as number);
      if (part instanceof Crossing) {
        const end = inside.length > 0 ? (inside.at(-1) as number) + 1 : taken;
        part.after = this.spliced(part.after, units.slice(taken, end));
        taken = end;
      } else if (inside.length > 0) part.plan = units[taken++] as BusUnitPlan;
      else if (part.stays) leave(part);
      next.push(part);
    }
    takeUntil(units.length);
    return next;
  }

  /** Gives units the sounds that they name; `now`: nobody waits for it. */
  load(assets: ReadonlyMap<string, Audio>, now: boolean): void {
    for (const link of this.links) {
      const audio = link.plan.sample === null ? null : (assets.get(link.plan.sample) ?? null);
      if (!link.stays || audio === link.loaded || !link.block.load) continue;
      link.loaded = audio;
      link.block.load(audio, now);
      this.resting = false;
    }
  }

  /** Lets units listen to the layers that they name. */
  connect(find: (layer: string) => Overheard | null): void {
    for (const link of this.links) {
      const { listen } = link.block.unit;
      if (!link.stays || !listen) continue;
      link.overheard = link.plan.from === null ? null : find(link.plan.from);
      if (!link.overheard) listen(null, null, 0);
    }
  }

  /** Whether a control step in which no value has moved changes nothing of it. */
  get atRest(): boolean {
    return this.resting;
  }

  /** Copies what comes out of the unit at an address from now on; null: of none. */
  tap(address: string | null, into: Overheard): void {
    this.tapped = address !== null && this.links.some((l) => l.stays && l.plan.address === address) ? address : null;
    this.taps = into;
  }

  /** Whether nothing is in it, not even on its way out. */
  get empty(): boolean {
    return this.links.every((l) => l.leaving && l.wet === 0);
  }

  /** How far the sound goes through any unit at all, 0 to 1. */
  get most(): number {
    let most = 0;
    for (let i = 0; i < this.links.length; i++) most = Math.max(most, (this.links[i] as Link).wet);
    return most;
  }

  /** Whether everything in it is passed, so that it changes nothing. */
  get passed(): boolean {
    if (this.resting) return this.restsPassed;
    for (let i = 0; i < this.links.length; i++) if (!(this.links[i] as Link).passed) return false;
    return true;
  }

  /** Whether nothing is to be heard of it unless something comes in. */
  get silent(): boolean {
    if (this.resting) return true;
    for (let i = 0; i < this.links.length; i++) {
      const link = this.links[i] as Link;
      if (!link.asleep && !link.passed) return false;
    }
    return true;
  }

  /** Sound went past it since the last control step, as where nothing in it mattered: what comes in is to be crossed. */
  touch(): void {
    this.called = true;
  }

  /** A control step: takes the values of the plan's slots (`moved`: any of the base values may be another), and lets those sleep that are silent. */
  control(shared: Float64Array, tempo: number, moved: boolean): void {
    const { called } = this;
    this.called = false;
    if (this.resting && !moved && tempo === this.tempo) return;
    this.tempo = tempo;
    this.resting = false;
    let awake = this.controlCrossings(called);
    for (let i = 0; i < this.links.length; i++) {
      const link = this.links[i] as Link;
      if (link.stays && (moved || link.plan.routed || link.tempo !== tempo)) link.tune(shared, tempo);
      if (link.stays && link.plan.routed) awake = true;
      if (link.asleep) {
        if (!called) link.wet = link.target;
        if (link.wet !== link.target) awake = true;
        if (link.block.unit.prepare?.() === false) awake = true;
        continue;
      }
      awake = true;
      const { unit } = link.block;
      unit.control?.();
      link.quiet = link.heard ? 0 : link.quiet + CONTROL;
      link.heard = false;
      if (link.quiet > unit.ring || link.passed) {
        link.asleep = true;
        unit.reset();
      }
    }
    this.restsPassed = this.passed;
    this.resting = !awake;
  }

  /** A control step of the orders that are crossed; whether there are any. */
  private controlCrossings(called: boolean): boolean {
    let some = false;
    for (let i = 0; i < this.crossings.length; i++) {
      const crossing = this.crossings[i] as Crossing;
      if (!called && !crossing.over && !crossing.heard) crossing.drop();
      crossing.ready = true;
      if (!crossing.over) some = true;
    }
    return some;
  }

  /** Sends the frames `[from, to)` of two channels through the row; `shift`: how far they are into the block that is being rendered, beyond `from`. */
  process(left: Float32Array, right: Float32Array, from: number, to: number, shift = 0): void {
    this.called = true;
    if (this.watched) this.peak = Math.max(this.peak, peakOf(left, right, from, to));
    if (this.resting && this.restsPassed && this.tapped === null) return;
    this.through(this.parts, left, right, from, to, shift);
  }

  private through(
    parts: readonly Part[],
    left: Float32Array,
    right: Float32Array,
    from: number,
    to: number,
    shift: number,
  ): void {
    for (let i = 0; i < parts.length; i++) {
      const part = parts[i] as Part;
      if (part instanceof Link) {
        if (!part.passed) this.run(part, left, right, from, to);
        if (part.stays && part.plan.address === this.tapped && this.taps)
          copyBlock(left, right, this.taps, from, to, shift);
      } else if (part.over) this.through(part.after, left, right, from, to, shift);
      else {
        part.part(left, right, from, to, this.step);
        this.through(part.before, part.left, part.right, 0, to - from, shift + from);
        this.through(part.after, left, right, from, to, shift);
        part.join(left, right, from, to, this.step);
      }
    }
  }

  /** Sends the frames through one unit. */
  private run(link: Link, left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { target } = link;
    let at = from;
    if (link.asleep) {
      // It wakes at the very frame at which something comes, so that it doesn't matter how the time is split.
      at = firstSound(left, right, from, to);
      for (let n = from; n < at && link.wet !== target; n++) link.wet = move(link.wet, target, this.step);
      if (at === to) return;
      link.asleep = false;
      this.resting = false;
      link.quiet = 0;
      link.heard = true;
      link.block.unit.control?.();
    }
    if (!link.heard) link.heard = firstSound(left, right, at, to) < to;
    const { overheard } = link;
    if (overheard) link.block.unit.listen?.(overheard.left, overheard.right, at - from);
    if (link.wet === target) link.block.unit.process(left, right, at, to);
    else this.cross(link, left, right, at, to);
    if (!link.heard) link.heard = isLoud(left, at, to) || isLoud(right, at, to);
    if (this.watched) link.peak = Math.max(link.peak, peakOf(left, right, at, to));
  }

  /** On its way in or out: what it makes of the sound and the sound as it was, faded into one another. */
  private cross(link: Link, left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { dryLeft, dryRight, step } = this;
    const { target } = link;
    let share = link.wet;
    for (let i = from; i < to; i++) {
      dryLeft[i - from] = left[i] as number;
      dryRight[i - from] = right[i] as number;
      if (target === 0) continue;
      // Who comes in hears the sound grow: what it remembers comes out later, when it is heard in full.
      share = move(share, target, step);
      left[i] = (left[i] as number) * share;
      right[i] = (right[i] as number) * share;
    }
    link.block.unit.process(left, right, from, to);
    let { wet } = link;
    for (let i = from; i < to; i++) {
      wet = move(wet, target, step);
      const l = dryLeft[i - from] as number;
      const r = dryRight[i - from] as number;
      // What it makes of the sound is what counts: a unit that changes nothing is not heard to come in.
      const given = target === 0 ? 1 : wet;
      left[i] = l + wet * ((left[i] as number) - given * l);
      right[i] = r + wet * ((right[i] as number) - given * r);
    }
    link.wet = wet;
  }

  /**
   * Writes the largest values since this was asked last: of what went in under the row's name, of what came out of each unit under its address. What is
   * passed gives on what it gets. Allocates.
   */
  takePeaks(name: string, into: Record<string, number>): void {
    let last = this.peak;
    into[name] = last;
    this.peak = 0;
    for (const link of this.links) {
      if (!link.stays) continue;
      if (!link.passed) last = link.peak;
      into[link.plan.address] = last;
      link.peak = 0;
    }
  }

  reset(): void {
    this.resting = false;
    for (const link of this.links) {
      link.block.unit.reset();
      link.asleep = true;
      link.quiet = 0;
      link.heard = false;
    }
  }
}
