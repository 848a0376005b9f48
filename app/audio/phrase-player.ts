import type { TimedMidi } from "./protocol";

/** Where its messages go: as `Engine.midi`. */
type Send = (status: number, data1: number, data2: number, frame?: number) => void;

const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;
const CONTROLLER = 0xb0;
const PRESSURE = 0xd0;
const BEND = 0xe0;
const CENTRE = 64;

/** By what a message that stands is known: its channel, and its controller where it is one; null for what doesn't stand. */
function standingKey(status: number, data1: number): number | null {
  const kind = status & 0xf0;
  if (kind === CONTROLLER) return data1 >= 120 ? null : status * 128 + data1;
  return kind === PRESSURE || kind === BEND ? status * 128 : null;
}

/**
 * Plays a phrase in a loop, each message on its frame. When it ends, its notes end, and pedals, wheels, bend and pressure that it has moved are where hands
 * have set them, or at rest: nothing of it stays.
 */
export class PhrasePlayer {
  private events: readonly TimedMidi[] = [];
  private frames = 0;
  private start = 0;
  private next = 0;
  /** What hands have set, by `standingKey`. */
  private readonly hands = new Map<number, readonly [number, number, number]>();

  constructor(
    private readonly rate: number,
    private readonly send: Send,
  ) {}

  /** Takes note of what a hand does, which isn't the phrase's. */
  takeHand(status: number, data1: number, data2: number): void {
    const key = standingKey(status, data1);
    if (key !== null) this.hands.set(key, [status, data1, data2]);
    // Reset all controllers, of this channel.
    if ((status & 0xf0) === CONTROLLER && data1 === 121)
      for (const [k, [s]] of this.hands) if ((s & 15) === (status & 15)) this.hands.delete(k);
  }

  /** Plays a phrase of so many seconds from a frame on, in place of another. */
  play(events: readonly TimedMidi[], seconds: number, from: number): void {
    this.stop();
    this.events = events;
    this.frames = Math.max(1, Math.round(seconds * this.rate));
    this.start = from;
    this.next = 0;
  }

  /** Ends it. */
  stop(): void {
    const { events, hands, send } = this;
    this.events = [];
    const moved = new Map<number, readonly [number, number]>();
    for (const { status, data1 } of events) {
      if ((status & 0xf0) === NOTE_ON) send(NOTE_OFF | (status & 15), data1, 0);
      const key = standingKey(status, data1);
      if (key !== null) moved.set(key, [status, data1]);
    }
    for (const [key, [status, data1]] of moved) {
      const hand = hands.get(key);
      if (hand) send(...hand);
      else if ((status & 0xf0) === BEND) send(status, 0, CENTRE);
      else send(status, (status & 0xf0) === PRESSURE ? 0 : data1, 0);
    }
  }

  /** Sends what is due before a frame. */
  queue(until: number): void {
    if (this.events.length === 0) return;
    for (;;) {
      const event = this.events[this.next];
      if (!event) {
        if (this.start + this.frames >= until) return;
        this.start += this.frames;
        this.next = 0;
        continue;
      }
      const frame = this.start + Math.round(event.seconds * this.rate);
      if (frame >= until) return;
      this.send(event.status, event.data1, event.data2, frame);
      this.next++;
    }
  }
}
