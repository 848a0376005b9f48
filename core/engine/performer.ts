import { choiceAt } from "../units";
import type { Beginning, NotePlayer, SoundingNote } from "./note-player";
import type { SharedParts } from "./shared-parts";
import { BOUND, type TraceLog } from "./trace";
import { MOMENT } from "./zone-chooser";

const MOST_NOTES = 1024;
const POLY = choiceAt("play", "voiceMode", "poly");
const LEGATO = choiceAt("play", "voiceMode", "legato");
const HIGH = choiceAt("play", "priority", "high");
const LOW = choiceAt("play", "priority", "low");
const BY_RATE = choiceAt("play", "glideBy", "rate");
const ALWAYS = choiceAt("play", "glideWhen", "always");

interface Note extends SoundingNote {
  serial: number;
  key: number;
  velocity: number;
  channel: number;
  frame: number;
  /** Its key is down. */
  down: boolean;
  /** Caught by the sostenuto pedal. */
  caught: boolean;
  /** It has voices of its own, begun while many notes sounded at once: it ends with its key, whatever plays one at a time by then. */
  own: boolean;
  /** How fast its key rose. */
  lifted: number;
  used: boolean;
}

/**
 * Which notes sound: many at once or one line, in the order of their keys; what the pedals hold; when a note has really ended.
 * Everything is allocated beforehand.
 */
export class Performer {
  private readonly notes: Note[] = Array.from({ length: MOST_NOTES }, () => ({
    serial: 0,
    key: 0,
    velocity: 0,
    channel: 0,
    frame: 0,
    down: false,
    caught: false,
    own: false,
    lifted: 0,
    used: false,
  }));
  private sustain = false;
  private sostenuto = false;
  /** The note that sounds in a line; 0 for none. */
  private line = 0;
  private lastKey = -1;
  private readonly beginning: Beginning = { first: true, glide: 0, glideFrames: 0, from: null };

  private readonly trace: TraceLog;

  constructor(
    private readonly shared: SharedParts,
    private readonly player: NotePlayer,
  ) {
    this.trace = shared.trace;
  }

  private find(serial: number): Note | null {
    for (let i = 0; i < MOST_NOTES; i++) {
      const note = this.notes[i] as Note;
      if (note.used && note.serial === serial) return note;
    }
    return null;
  }

  private anyDown(): boolean {
    for (let i = 0; i < MOST_NOTES; i++) if ((this.notes[i] as Note).used && (this.notes[i] as Note).down) return true;
    return false;
  }

  /** Of the keys that are down the one that a line plays; null for none. */
  private wanted(): Note | null {
    const priority = this.shared.setting("priority");
    let best: Note | null = null;
    for (let i = 0; i < MOST_NOTES; i++) {
      const note = this.notes[i] as Note;
      if (!note.used || !note.down) continue;
      if (!best) best = note;
      else if (
        priority === HIGH ? note.key > best.key : priority === LOW ? note.key < best.key : note.serial > best.serial
      ) {
        best = note;
      }
    }
    return best;
  }

  /** A note begins; the trace is open. */
  begin(serial: number, key: number, velocity: number, channel: number, frame: number): void {
    const first = !this.anyDown();
    if (first) this.shared.modulation.beginPhrase();
    let note: Note | null = null;
    let oldest = this.notes[0] as Note;
    for (let i = 0; i < MOST_NOTES && !note; i++) {
      const candidate = this.notes[i] as Note;
      if (!candidate.used) note = candidate;
      else if (candidate.serial < oldest.serial) oldest = candidate;
    }
    if (!note) {
      // More notes than anybody holds: the oldest one ends.
      this.player.release(oldest.serial, 64);
      note = oldest;
    }
    note.serial = serial;
    note.key = key;
    note.velocity = velocity;
    note.channel = channel;
    note.frame = frame;
    note.down = true;
    note.caught = false;
    note.own = this.shared.setting("voiceMode") === POLY;
    note.used = true;
    const { beginning } = this;
    beginning.first = first;
    beginning.from = null;
    beginning.glide = 0;
    beginning.glideFrames = 0;
    if (note.own) {
      this.player.start(note, MOMENT.press, beginning);
      return;
    }
    if (this.wanted() !== note) {
      this.trace.bind(BOUND.waits);
      return;
    }
    this.lead(note, first);
  }

  /** The line goes to a note. */
  private lead(note: Note, first: boolean): void {
    const { player, beginning } = this;
    const before = this.line;
    const previous = before === 0 ? null : player.voiceOf(before);
    this.line = note.serial;
    const glides = this.shared.setting("glideWhen") === ALWAYS ? this.lastKey >= 0 : !first && before !== 0;
    const time = this.shared.setting("glide");
    const to = player.pitchOf(note.key) ?? note.key;
    const from =
      glides && time > 0 ? (player.pitchOf(this.lastKey) ?? to) + (before === 0 ? 0 : player.glideOf(before)) : to;
    const distance = from - to;
    const seconds = this.shared.setting("glideBy") === BY_RATE ? (time * Math.abs(distance)) / 12 : time;
    beginning.first = first;
    beginning.glide = distance;
    beginning.glideFrames = distance === 0 ? 0 : seconds * this.shared.rate;
    beginning.from = null;
    this.lastKey = note.key;
    const bound = this.shared.setting("voiceMode") === LEGATO && !first && previous !== null;
    if (bound && player.bind(before, note, distance, beginning.glideFrames)) {
      this.trace.bind(BOUND.bound);
      player.start(note, MOMENT.legato, beginning);
      return;
    }
    if (bound) beginning.from = previous;
    player.start(note, MOMENT.press, beginning);
    beginning.from = null;
    if (before !== 0 && before !== note.serial) player.giveWay(before, bound);
  }

  /** A key went up, or a note's time is over. */
  lift(serial: number, velocity: number, frame: number): void {
    const note = this.find(serial);
    if (!note) {
      this.player.release(serial, velocity);
      return;
    }
    note.down = false;
    note.lifted = velocity;
    if (!this.sustain && !note.caught) this.end(note, frame);
  }

  private end(note: Note, frame: number): void {
    note.used = false;
    const held = (frame - note.frame) / this.shared.rate;
    if (this.shared.setting("voiceMode") === POLY) {
      if (this.line === note.serial) this.line = 0;
    } else if (this.line === note.serial) {
      const next = this.wanted();
      if (next?.own) {
        // It sounds already: the line goes on in it.
        next.own = false;
        this.line = next.serial;
        this.lastKey = next.key;
      } else if (next) {
        this.trace.begin(next.key, next.velocity, frame, next.key, next.velocity, 0, 0, false);
        this.lead(next, false);
        return;
      } else this.line = 0;
    } else if (this.line !== 0 && !note.own) {
      return;
    }
    this.player.release(note.serial, note.lifted);
    this.player.startRelease(note, held);
  }

  /** The sustain pedal. */
  setSustain(down: boolean, frame: number): void {
    this.sustain = down;
    if (!down) this.endLifted(frame);
  }

  /** The sostenuto pedal: holds the notes whose keys are down when it is pressed. */
  setSostenuto(down: boolean, frame: number): void {
    if (down === this.sostenuto) return;
    this.sostenuto = down;
    for (let i = 0; i < MOST_NOTES; i++) {
      const note = this.notes[i] as Note;
      if (note.used) note.caught = down && note.down;
    }
    if (!down && !this.sustain) this.endLifted(frame);
  }

  private endLifted(frame: number): void {
    for (let i = 0; i < MOST_NOTES; i++) {
      const note = this.notes[i] as Note;
      if (note.used && !note.down && !note.caught) this.end(note, frame);
    }
  }

  clear(): void {
    for (let i = 0; i < MOST_NOTES; i++) (this.notes[i] as Note).used = false;
    this.sustain = false;
    this.sostenuto = false;
    this.line = 0;
  }

  reset(): void {
    this.clear();
    this.lastKey = -1;
  }
}
