/** What can be sent to the engine, by number, so that the queue needs no objects. */
export const EVENT = {
  on: 1,
  off: 2,
  controller: 3,
  pressure: 4,
  bend: 5,
  notePressure: 6,
  silence: 7,
  soundingOn: 8,
  soundingOff: 9,
} as const;
type EventKind = (typeof EVENT)[keyof typeof EVENT];

/**
 * Events by frame, earliest first, those of one frame in the order they came. Holds a fixed number; what is too much, or has
 * no time, is dropped and counted. Nothing is allocated after construction.
 */
export class EventQueue {
  private readonly frames: Float64Array;
  private readonly kinds: Uint8Array;
  private readonly values: Float64Array;
  private head = 0;
  private count = 0;
  dropped = 0;

  constructor(private readonly capacity = 16384) {
    this.frames = new Float64Array(capacity);
    this.kinds = new Uint8Array(capacity);
    this.values = new Float64Array(capacity * 4);
  }

  get size(): number {
    return this.count;
  }
  /** Frame of the next event; Infinity when there is none. */
  get nextFrame(): number {
    return this.count === 0 ? Number.POSITIVE_INFINITY : (this.frames[this.head] as number);
  }
  get kind(): EventKind {
    return this.kinds[this.head] as EventKind;
  }
  /** Value 0 to 3 of the next event. */
  value(index: number): number {
    return this.values[this.head * 4 + index] as number;
  }

  push(frame: number, kind: EventKind, a = 0, b = 0, c = 0, d = 0): void {
    if (this.count === this.capacity || Number.isNaN(frame)) {
      this.dropped++;
      return;
    }
    let at = (this.head + this.count) % this.capacity;
    for (let moved = this.count; moved > 0; moved--) {
      const before = (at + this.capacity - 1) % this.capacity;
      if ((this.frames[before] as number) <= frame) break;
      this.frames[at] = this.frames[before] as number;
      this.kinds[at] = this.kinds[before] as number;
      this.values.copyWithin(at * 4, before * 4, before * 4 + 4);
      at = before;
    }
    this.frames[at] = frame;
    this.kinds[at] = kind;
    this.values[at * 4] = a;
    this.values[at * 4 + 1] = b;
    this.values[at * 4 + 2] = c;
    this.values[at * 4 + 3] = d;
    this.count++;
  }

  shift(): void {
    if (this.count === 0) return;
    this.head = (this.head + 1) % this.capacity;
    this.count--;
  }

  /** Forgets the events of two kinds; the others keep their order. */
  remove(kind: EventKind, other: EventKind): void {
    let kept = 0;
    for (let i = 0; i < this.count; i++) {
      const from = (this.head + i) % this.capacity;
      if (this.kinds[from] === kind || this.kinds[from] === other) continue;
      const to = (this.head + kept++) % this.capacity;
      if (to === from) continue;
      this.frames[to] = this.frames[from] as number;
      this.kinds[to] = this.kinds[from] as number;
      this.values.copyWithin(to * 4, from * 4, from * 4 + 4);
    }
    this.count = kept;
  }

  clear(): void {
    this.count = 0;
  }
}
