import type { Seconds } from "../audio";
import type { Slot } from "./plan";

/** Time constant of each of the two followers through which base values reach what was set: the course has no corner. */
const FOLLOW: Seconds = 0.003;

/** The base values of the slots, which follow smoothly what was set. Allocates only when a plan comes; what rests costs nothing. */
export class FollowedValues {
  /** As they are now, without what routes make of them. */
  current = new Float64Array(0);
  private slots: readonly Slot[] = [];
  private base = new Float64Array(0);
  /** Half-way between what was set and what is heard. */
  private middle = new Float64Array(0);
  /** Slots that are on their way to what was set: the first `movers` of `moving`. */
  private moving = new Int32Array(0);
  private isMoving = new Uint8Array(0);
  private movers = 0;

  constructor(private readonly rate: number) {}

  /** Takes a plan's slots; those that were there before go on from where they are. */
  setSlots(slots: readonly Slot[], base: readonly number[]): void {
    if (this.hasSame(slots)) {
      this.slots = slots;
      this.set(base);
      for (let i = 0; i < slots.length; i++) {
        if ((slots[i] as Slot).smooth) continue;
        this.current[i] = this.base[i] as number;
        this.middle[i] = this.base[i] as number;
      }
      return;
    }
    const before = new Map(this.slots.map((s, i) => [s.address, this.current[i] as number]));
    this.slots = slots;
    this.base = Float64Array.from(base);
    this.current = Float64Array.from(
      slots,
      (s, i) => (s.smooth ? (before.get(s.address) ?? this.base[i]) : this.base[i]) as number,
    );
    this.middle = this.current.slice();
    this.moving = new Int32Array(slots.length);
    this.isMoving = new Uint8Array(slots.length);
    this.movers = 0;
    for (let i = 0; i < this.base.length; i++) if (this.current[i] !== this.base[i]) this.move(i);
  }

  /** Whether some slots are those that it has, in the same order: then nothing is to be looked for. */
  private hasSame(slots: readonly Slot[]): boolean {
    if (slots.length !== this.slots.length) return false;
    for (let i = 0; i < slots.length; i++) {
      const [a, b] = [slots[i] as Slot, this.slots[i] as Slot];
      if (a.address !== b.address || a.smooth !== b.smooth) return false;
    }
    return true;
  }

  /** Sets all base values; those of another plan are passed over. */
  set(base: ArrayLike<number>): void {
    if (base.length !== this.base.length) return;
    for (let i = 0; i < base.length; i++) {
      if (base[i] === this.base[i]) continue;
      this.base[i] = base[i] as number;
      this.move(i);
    }
  }

  private move(slot: number): void {
    if (this.isMoving[slot] === 1) return;
    this.isMoving[slot] = 1;
    this.moving[this.movers++] = slot;
  }

  /** Moves them on by some frames; those that have moved are written to `shared` too. Returns whether any has. */
  advance(frames: number, shared: Float64Array): boolean {
    if (this.movers === 0) return false;
    const { base, current, middle, moving } = this;
    const share = 1 - Math.exp(-frames / (FOLLOW * this.rate));
    let left = 0;
    for (let m = 0; m < this.movers; m++) {
      const i = moving[m] as number;
      const slot = this.slots[i] as Slot;
      const wanted = base[i] as number;
      const half = (middle[i] as number) + share * (wanted - (middle[i] as number));
      const next = (current[i] as number) + share * (half - (current[i] as number));
      const there = !slot.smooth || Math.abs(wanted - next) + Math.abs(wanted - half) < 1e-6 * (slot.max - slot.min);
      middle[i] = there ? wanted : half;
      current[i] = there ? wanted : next;
      shared[i] = current[i] as number;
      if (there) this.isMoving[i] = 0;
      else moving[left++] = i;
    }
    this.movers = left;
    return true;
  }

  /** Everything stands at once where it was set. */
  settle(shared: Float64Array): void {
    this.current.set(this.base);
    this.middle.set(this.base);
    shared.set(this.base);
    this.isMoving.fill(0);
    this.movers = 0;
  }
}
