import { EVENT, type EventQueue } from "./events";
import { HeldNotes } from "./held-notes";
import type { NoteRules } from "./note-rules";

/** What the rules did with a note; the numbers stand in the trace. */
const RULED = { off: 0, unchanged: 1, changed: 2, dropped: 3, failed: 4 } as const;

/** A note that begins to sound: what sounds, what was played, and how late (frames). */
interface NoteStart {
  key: number;
  velocity: number;
  serial: number;
  channel: number;
  playedKey: number;
  playedVelocity: number;
  delay: number;
  ruled: number;
}

/** Notes that a rule adds when a key goes up end after so many seconds, unless it says otherwise. */
const AFTER_LENGTH = 0.5;
/** A rule may put a note off by so many seconds, and let it last so long. */
const MOST_DELAY = 60;
const MOST_LENGTH = 3600;

/** Where notes go. */
interface NoteOutlets {
  /** Lets `note` sound now. */
  readonly begin: () => void;
  readonly release: (serial: number, velocity: number) => void;
  /** Tells that the rules dropped the key in `note`. */
  readonly drop: () => void;
}

/**
 * Between keys and notes: asks the rules what sounds for a key, lets it sound now or later, and knows which notes a key holds.
 * `note` is what begins, filled anew each time so that a note allocates nothing.
 */
export class NoteGate {
  rules: NoteRules | null = null;
  readonly note: NoteStart = {
    key: 0,
    velocity: 0,
    serial: 0,
    channel: 0,
    playedKey: 0,
    playedVelocity: 0,
    delay: 0,
    ruled: 0,
  };
  private readonly held = new HeldNotes();
  private serial = 0;
  private channel = 0;
  private frame = 0;
  private playedKey = 0;
  private playedVelocity = 0;
  private emitted = 0;
  private ending = false;

  constructor(
    private readonly queue: EventQueue,
    private readonly rate: number,
    private readonly to: NoteOutlets,
  ) {}

  /** A key went down: the rules say what sounds. */
  press(key: number, velocity: number, channel: number, frame: number): void {
    this.lift(key, 64, channel, frame);
    this.channel = channel;
    this.expect(key, velocity, frame, false);
    if (!this.rules) {
      this.sound(key, velocity, 0, 0, RULED.off);
      return;
    }
    if (!this.rules.start(key, velocity, frame / this.rate, this.emit)) this.sound(key, velocity, 0, 0, RULED.failed);
    else if (this.emitted === 0) {
      this.fill(key, velocity, 0, 0, RULED.dropped);
      this.to.drop();
    }
  }

  /** A key went up: whatever it holds is released, each note as much later as it began. */
  lift(key: number, velocity: number, channel: number, frame: number): void {
    const { held } = this;
    const slot = channel * 128 + key;
    const count = held.count(slot);
    if (count === 0) return;
    held.forget(slot);
    for (let i = 0; i < count; i++) {
      const delay = held.delay(slot, i);
      if (delay > 0) this.queue.push(frame + delay, EVENT.soundingOff, held.serial(slot, i));
      else this.to.release(held.serial(slot, i), velocity);
    }
    this.channel = channel;
    if (!this.rules) return;
    this.expect(key, 0, frame, true);
    this.rules.end(key, frame / this.rate, this.emit);
  }

  /** A note that was delayed begins now; the values are those that `sound` queued. */
  resume(key: number, velocity: number, serial: number, packed: number): void {
    this.playedKey = packed % 128;
    this.playedVelocity = Math.floor(packed / 128) % 128;
    this.channel = Math.floor(packed / 16384) % 16;
    this.fill(key, velocity, serial, Math.floor(packed / 262144), RULED.changed);
    this.to.begin();
  }

  clear(): void {
    this.held.clear();
  }

  reset(): void {
    this.held.clear();
    this.serial = 0;
  }

  private expect(key: number, velocity: number, frame: number, ending: boolean): void {
    this.playedKey = key;
    this.playedVelocity = velocity;
    this.frame = frame;
    this.emitted = 0;
    this.ending = ending;
  }

  private readonly emit = (key: number, velocity: number, delay: number, length: number): void => {
    if (this.emitted >= HeldNotes.MOST) return;
    // What is no number would stand at the head of the queue for ever.
    if (!Number.isFinite(key + velocity + delay + length)) return;
    this.emitted++;
    const k = Math.round(Math.min(127, Math.max(0, key)));
    const v = Math.min(127, Math.max(1, velocity));
    const changed = k !== this.playedKey || v !== this.playedVelocity || delay > 0 || this.emitted > 1;
    const lasting = this.ending && length <= 0 ? AFTER_LENGTH : length;
    this.sound(k, v, delay, lasting, changed ? RULED.changed : RULED.unchanged);
  };

  /** Lets a note sound now or `delay` seconds later; `length` 0 ties it to its key. */
  private sound(key: number, velocity: number, delay: number, length: number, ruled: number): void {
    const { queue, frame, rate } = this;
    const serial = ++this.serial;
    const late = Math.round(Math.min(MOST_DELAY, Math.max(0, delay)) * rate);
    const lasting = Math.min(MOST_LENGTH, length);
    if (length > 0) queue.push(frame + late + Math.round(lasting * rate), EVENT.soundingOff, serial);
    else this.held.add(this.channel * 128 + this.playedKey, serial, late);
    if (late === 0) {
      this.fill(key, velocity, serial, 0, ruled);
      this.to.begin();
      return;
    }
    const packed = late * 262144 + this.channel * 16384 + this.playedVelocity * 128 + this.playedKey;
    queue.push(frame + late, EVENT.soundingOn, key, velocity, serial, packed);
  }

  private fill(key: number, velocity: number, serial: number, delay: number, ruled: number): void {
    const { note } = this;
    note.key = key;
    note.velocity = velocity;
    note.serial = serial;
    note.channel = this.channel;
    note.playedKey = this.playedKey;
    note.playedVelocity = this.playedVelocity;
    note.delay = delay;
    note.ruled = ruled;
  }
}
