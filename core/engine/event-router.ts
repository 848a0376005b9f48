import { EVENT } from "./events";
import { NoteGate } from "./note-gate";
import type { NotePlayer } from "./note-player";
import type { Performer } from "./performer";
import { COLUMN, GLOBAL } from "./plan-modulation";
import type { SharedParts } from "./shared-parts";
import type { ZoneChooser } from "./zone-chooser";

/** Notes that may begin in one call of render: what is more is dropped, and told. */
const MOST_STARTS = 512;

/** Takes events to whom they concern: keys through the rules to the performer, wheels and controllers to modulation. */
export class EventRouter {
  readonly gate: NoteGate;
  /** Notes that were dropped, for too many came at once. */
  dropped = 0;
  private starts = 0;
  private frame = 0;

  constructor(
    private readonly shared: SharedParts,
    private readonly chooser: ZoneChooser,
    private readonly player: NotePlayer,
    private readonly performer: Performer,
  ) {
    this.gate = new NoteGate(shared.queue, shared.rate, {
      begin: () => this.startNote(),
      release: (serial, velocity) => performer.lift(serial, velocity, this.frame),
      drop: () => this.beginTrace(),
    });
  }

  /** A call of render begins. */
  beginCall(): void {
    this.starts = 0;
  }

  /** Takes the events that are due at a frame. */
  handle(frame: number): void {
    const { queue } = this.shared;
    this.frame = frame;
    while (queue.nextFrame <= frame) this.next();
  }

  private next(): void {
    const { queue, modulation, input } = this.shared;
    const { kind } = queue;
    const a = queue.value(0);
    const b = queue.value(1);
    const c = queue.value(2);
    const d = queue.value(3);
    queue.shift();
    this.player.at(this.frame);
    switch (kind) {
      case EVENT.on:
        if (this.starts++ >= MOST_STARTS) {
          this.dropped++;
          return;
        }
        this.chooser.key(a, true);
        this.gate.press(a, b, c, this.frame);
        return;
      case EVENT.off:
        this.chooser.key(a, false);
        this.gate.lift(a, b, c, this.frame);
        return;
      case EVENT.soundingOn:
        this.gate.resume(a, b, c, d);
        return;
      case EVENT.soundingOff:
        this.performer.lift(a, 64, this.frame);
        return;
      case EVENT.notePressure:
        this.player.setExpression(COLUMN.notePressure, a, c, b);
        return;
      case EVENT.pressure:
        if (input.isMember(c)) {
          input.pressures[c] = a;
          this.player.setExpression(COLUMN.notePressure, null, c, a);
        } else modulation.setInput(GLOBAL.pressure, a);
        return;
      case EVENT.bend:
        input.setBend(c, a);
        if (!input.isMember(c)) modulation.setInput(GLOBAL.bend, a);
        return;
      case EVENT.controller:
        this.controller(a, b, c);
        return;
      case EVENT.silence:
        this.silence();
    }
  }

  private controller(number: number, value: number, channel: number): void {
    const { modulation, input } = this.shared;
    if (number === 64) this.performer.setSustain(value >= 0.5, this.frame);
    else if (number === 66) this.performer.setSostenuto(value >= 0.5, this.frame);
    if (input.isMember(channel)) {
      if (number === 74) {
        input.slides[channel] = value;
        this.player.setExpression(COLUMN.slide, null, channel, value);
      }
      return;
    }
    if (number === 1) modulation.setInput(GLOBAL.wheel, value);
    modulation.setInput(GLOBAL.controllers + number, value);
  }

  private beginTrace(): void {
    const { key, velocity, playedKey, playedVelocity, delay, ruled } = this.gate.note;
    const seconds = delay / this.shared.rate;
    this.shared.trace.begin(key, velocity, this.frame, playedKey, playedVelocity, seconds, ruled, false);
  }

  private startNote(): void {
    const { key, velocity, serial, channel } = this.gate.note;
    this.beginTrace();
    this.performer.begin(serial, key, velocity, channel, this.frame);
  }

  /** Ends every note within 3 ms and forgets what rules have put off; what was sent after it still comes. */
  private silence(): void {
    this.shared.queue.remove(EVENT.soundingOn, EVENT.soundingOff);
    this.gate.clear();
    this.performer.clear();
    this.shared.pool.silence();
  }

  reset(): void {
    this.shared.queue.clear();
    this.chooser.reset();
    this.gate.reset();
    this.performer.reset();
    this.shared.input.reset();
  }
}
