/** Why a zone did not answer. */
export const REASON = {
  played: 0,
  velocity: 1,
  repeat: 2,
  missing: 3,
  trigger: 4,
  keyswitch: 5,
  controller: 6,
  chance: 7,
  set: 8,
  faded: 9,
  untuned: 10,
  crowded: 11,
  /** Its sample is there, how it is read isn't made ready yet. */
  coming: 12,
  /** It isn't to be heard while somebody works: it is muted, or others are heard alone. */
  muted: 13,
} as const;
export type Reason = (typeof REASON)[keyof typeof REASON];

/** What became of a note as a whole, where only one sounds at a time. */
export const BOUND = { no: 0, bound: 1, waits: 2 } as const;

/** Zones that one trace names; further ones are only counted. */
const TRACE_ZONES = 24;
const HEAD = 14;
const ZONE = 6;
const RECORD = HEAD + TRACE_ZONES * ZONE;
const RECORDS = 32;

/** What happened to one note, for people. */
export interface NoteTrace {
  readonly key: number;
  readonly velocity: number;
  readonly frame: number;
  /** Zones in the instrument, and how many of them answer other keys. */
  readonly zones: number;
  readonly otherKeys: number;
  /** The key and velocity as they were played, before the rules; and what the rules did. */
  readonly playedKey: number;
  readonly playedVelocity: number;
  readonly delay: number;
  readonly rules: "off" | "unchanged" | "changed" | "dropped" | "failed";
  /** How many older voices had to give way for it. */
  readonly stolen: number;
  /** Whether it is the sound of a key that was let go. */
  readonly release: boolean;
  /** Bound to the note before, whose voices went on; or waiting while another key has priority. */
  readonly bound: "no" | "bound" | "waits";
  /** Zone numbers; a rate in frames of the sample for a frame of sound; level in decibels without envelope; `from` is the key it was borrowed from. */
  readonly at: readonly {
    readonly layer: number;
    readonly zone: number;
    readonly reason: Reason;
    readonly rate: number;
    readonly level: number;
    readonly from: number;
  }[];
}

const RULES = ["off", "unchanged", "changed", "dropped", "failed"] as const;
const BINDS = ["no", "bound", "waits"] as const;

/** The last notes' traces in fixed memory: written while rendering, read between blocks. */
export class TraceLog {
  private readonly data = new Float64Array(RECORD * RECORDS);
  private written = 0;
  private read = 0;
  private open = 0;
  /** The place that the next zone that played takes once the list is full, from its end. */
  private spare = 0;

  begin(
    key: number,
    velocity: number,
    frame: number,
    playedKey: number,
    playedVelocity: number,
    delay: number,
    rules: number,
    release: boolean,
  ): void {
    this.open = (this.written % RECORDS) * RECORD;
    this.written++;
    const { data, open } = this;
    data[open] = key;
    data[open + 1] = velocity;
    data[open + 2] = frame;
    data[open + 3] = playedKey;
    data[open + 4] = playedVelocity;
    data[open + 5] = delay;
    data[open + 6] = rules;
    data.fill(0, open + 7, open + HEAD);
    data[open + 11] = release ? 1 : 0;
    this.spare = TRACE_ZONES - 1;
  }

  /** Takes back the trace that was begun last, when there is nothing to tell. */
  forget(): void {
    if (this.written > this.read) this.written--;
  }

  /** Counts zones that answer other keys. */
  skip(count: number): void {
    this.data[this.open + 7] = (this.data[this.open + 7] as number) + count;
    this.data[this.open + 8] = (this.data[this.open + 8] as number) + count;
  }

  /** So many older voices gave way for this note. */
  stole(count: number): void {
    this.data[this.open + 10] = (this.data[this.open + 10] as number) + count;
  }

  bind(how: number): void {
    this.data[this.open + 12] = how;
  }

  zone(layer: number, zone: number, reason: Reason, rate: number, level: number, from: number): void {
    const { data, open } = this;
    data[open + 7] = (data[open + 7] as number) + 1;
    const count = data[open + 9] as number;
    // What played is never left out: when the list is full, it takes the place of one that did not.
    if (count >= TRACE_ZONES && (reason !== REASON.played || this.spare < 0)) return;
    const place = count < TRACE_ZONES ? count : this.spare--;
    const at = open + HEAD + place * ZONE;
    data[at] = layer;
    data[at + 1] = zone;
    data[at + 2] = reason;
    data[at + 3] = rate;
    data[at + 4] = level;
    data[at + 5] = from;
    data[open + 9] = Math.min(TRACE_ZONES, count + 1);
  }

  /** The traces since the last call, oldest first; allocates, so it is for outside the render call. */
  drain(): NoteTrace[] {
    const out: NoteTrace[] = [];
    this.read = Math.max(this.read, this.written - RECORDS);
    for (; this.read < this.written; this.read++) {
      const from = (this.read % RECORDS) * RECORD;
      const n = (i: number) => this.data[from + i] as number;
      const at = Array.from({ length: n(9) }, (_, i) => {
        const z = HEAD + i * ZONE;
        return {
          layer: n(z),
          zone: n(z + 1),
          reason: n(z + 2) as Reason,
          rate: n(z + 3),
          level: n(z + 4),
          from: n(z + 5),
        };
      });
      out.push({
        key: n(0),
        velocity: n(1),
        frame: n(2),
        playedKey: n(3),
        playedVelocity: n(4),
        delay: n(5),
        rules: RULES[n(6)] ?? "off",
        zones: n(7),
        otherKeys: n(8),
        stolen: n(10),
        release: n(11) === 1,
        bound: BINDS[n(12)] ?? "no",
        at,
      });
    }
    return out;
  }
}
