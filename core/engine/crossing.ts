import { move } from "./bus-frames";
import { Link } from "./chain-link";
import type { BusUnitPlan } from "./plan";
import { BLOCK } from "./shared-parts";

/**
 * Two orders of the same units, side by side, the sound going from the one over into the other. One after another they can't be had: where a unit fades
 * out at its old place while it fades in at its new one, some of the sound gets past it at both.
 */
export class Crossing {
  /** How much of the new order is heard. */
  share = 0;
  /** Whether the units of the new order know what they are set to. */
  ready = false;
  readonly left = new Float32Array(BLOCK);
  readonly right = new Float32Array(BLOCK);

  constructor(
    readonly before: readonly Part[],
    public after: readonly Part[],
  ) {}

  get over(): boolean {
    return this.share === 1;
  }

  /** Whether anything in the order that is left is awake. */
  get heard(): boolean {
    for (let i = 0; i < this.before.length; i++) {
      const part = this.before[i] as Part;
      if (part instanceof Link ? !part.asleep : part.heard) return true;
    }
    return false;
  }

  /** Keeps frames of the sound for the old order, and lets it grow into the new one: what that remembers comes out later, when it is heard in full. */
  part(left: Float32Array, right: Float32Array, from: number, to: number, step: number): void {
    let { share } = this;
    for (let i = from; i < to; i++) {
      this.left[i - from] = left[i] as number;
      this.right[i - from] = right[i] as number;
      if (this.ready) share = move(share, 1, step);
      left[i] = (left[i] as number) * share;
      right[i] = (right[i] as number) * share;
    }
  }

  /** Fades what the old order has made of the frames into what the new one has made of them. */
  join(left: Float32Array, right: Float32Array, from: number, to: number, step: number): void {
    for (let i = from; i < to; i++) {
      if (this.ready) this.share = move(this.share, 1, step);
      // The new order heard the sound at its share already: that way the same order twice is not heard to be crossed.
      const rest = 1 - this.share * this.share;
      left[i] = rest * (this.left[i - from] as number) + this.share * (left[i] as number);
      right[i] = rest * (this.right[i - from] as number) + this.share * (right[i] as number);
    }
    if (this.over) this.drop();
  }

  /** The old order is heard no more. */
  drop(): void {
    this.share = 1;
    for (let i = 0; i < this.before.length; i++) dropPart(this.before[i] as Part);
  }
}

/** What stands in a row: a unit, or two orders of units. */
export type Part = Link | Crossing;

/** The units of a row one after another, those of orders that are left too. */
export const unitsIn = (parts: readonly Part[]): Link[] =>
  parts.flatMap((part) => (part instanceof Link ? [part] : [...unitsIn(part.before), ...unitsIn(part.after)]));

/** A row without what has gone and without orders that aren't heard any more. */
export const present = (parts: readonly Part[]): Part[] =>
  parts.flatMap((part): Part[] => {
    if (part instanceof Link) return part.leaving && part.wet === 0 ? [] : [part];
    return part.over ? present(part.after) : [part];
  });

/** The pairs of orders in a row. */
export const crossingsIn = (parts: readonly Part[]): Crossing[] =>
  parts.flatMap((part) =>
    part instanceof Link ? [] : [part, ...crossingsIn(part.before), ...crossingsIn(part.after)],
  );

/** A unit goes out of the row. */
export function leave(link: Link): void {
  link.leaving = true;
  // Of what sleeps there is nothing to fade.
  if (link.asleep) link.wet = 0;
}

/** The units to which a row is set. */
export const staying = (parts: readonly Part[]): Link[] => unitsIn(parts).filter((link) => link.stays);

function dropPart(part: Part): void {
  if (part instanceof Crossing) {
    part.drop();
    for (let i = 0; i < part.after.length; i++) dropPart(part.after[i] as Part);
    return;
  }
  part.leaving = true;
  part.wet = 0;
}

/** Tells units apart. */
export const key = ({ address, kind }: BusUnitPlan): string => `${address} ${kind}`;
