import { EVENT, type EventQueue } from "./events";

/** Frames of a wheel's middle. */
const CENTRE = 8192;

/**
 * Channel messages in, events out, and the state of the 16 channels that voices read: bend, pressure, controller 74. Without MPE
 * all channels are one. With it, notes come on member channels, and the master's bend is added to each.
 */
export class MidiInput {
  /** Semitones that full bend of the master, and of a member channel, means. */
  range = 2;
  noteRange = 48;
  /** 0: off; 1: lower zone (master channel 1); 2: upper zone (master 16). */
  mpe = 0;
  private readonly bends = new Float64Array(16);
  /** What each member channel said last of the note that it has, or is about to get: pressure and controller 74, 0 to 1. */
  readonly pressures = new Float64Array(16);
  readonly slides = new Float64Array(16);

  constructor(private readonly queue: EventQueue) {}

  get master(): number {
    return this.mpe === 2 ? 15 : 0;
  }

  /** The channel whose state a note of a channel reads. */
  channelOf(channel: number): number {
    return this.mpe === 0 ? 0 : channel;
  }

  isMember(channel: number): boolean {
    return this.mpe !== 0 && channel !== this.master;
  }

  setBend(channel: number, value: number): void {
    this.bends[channel] = value;
  }

  /** Semitones by which notes of a channel are bent. */
  bendOf(channel: number): number {
    const { master } = this;
    const all = (this.bends[master] as number) * this.range;
    return channel === master ? all : all + (this.bends[channel] as number) * this.noteRange;
  }

  reset(): void {
    this.pressures.fill(0);
    this.slides.fill(0);
    this.bends.fill(0);
  }

  /** Queues a channel message for a frame. */
  receive(status: number, data1: number, data2: number, frame: number): void {
    const channel = this.channelOf(status & 15);
    const a = data1 & 127;
    const b = data2 & 127;
    switch (status & 0xf0) {
      case 0x90:
        this.queue.push(frame, b > 0 ? EVENT.on : EVENT.off, a, b > 0 ? b : 64, channel);
        return;
      case 0x80:
        this.queue.push(frame, EVENT.off, a, b, channel);
        return;
      case 0xa0:
        this.queue.push(frame, EVENT.notePressure, a, b / 127, channel);
        return;
      case 0xd0:
        this.queue.push(frame, EVENT.pressure, a / 127, 0, channel);
        return;
      case 0xe0:
        this.queue.push(frame, EVENT.bend, ((b << 7) | a) / CENTRE - 1, 0, channel);
        return;
      case 0xb0:
        if (a === 120 || a === 123) this.queue.push(frame, EVENT.silence);
        else this.queue.push(frame, EVENT.controller, a, b / 127, channel);
    }
  }
}
