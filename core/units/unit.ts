import type { Audio, Hertz } from "../audio";
import type { CellKernel, Kernels } from "../dsp";
import type { NumberParam, ParamSpec } from "../params";

/** What a kind of unit is used as. */
export type UnitRole =
  | "source"
  | "group"
  | "stage"
  | "amp"
  | "strip"
  | "effect"
  | "sends"
  | "envelope"
  | "lfo"
  | "macro"
  | "mic"
  | "set"
  | "play"
  | "treatment";

/** Where a unit of a chain may stand: within each voice (source, stage), or over a sum of voices (a layer's inserts, a send, the whole). */
export type Place = "source" | "stage" | "insert" | "send" | "main";

/** Everywhere where there is a sum of voices. */
export const BUSES: readonly Place[] = ["insert", "send", "main"];

/** What computes a unit over the two channels of a bus. Nothing is allocated after construction, but for assets. */
export interface BlockUnit {
  /** Frames for which nothing may be heard of it although it is not over, such as the time of a delay. */
  readonly ring: number;
  /** How much of the sound as it was stays beside what is added to it: 1, but in a send 0. Of a unit that adds nothing it is undefined. */
  dry?: number;
  /** Every 32 frames, before they are computed: moves what swings. It is called while the unit sleeps, too. */
  readonly control?: () => void;
  /** Takes what it listens to instead of its own sound in the `process` that follows, from frame `at` of two channels; null: its own again. */
  readonly listen?: (left: Float32Array | null, right: Float32Array | null, at: number) => void;
  /** Makes a little of what it needs ready, such as a new impulse, while nothing is heard of it; whether all is. */
  readonly prepare?: () => boolean;
  /** Replaces the frames `[from, to)` by what comes out. */
  process(left: Float32Array, right: Float32Array, from: number, to: number): void;
  /** Forgets what it has heard; what it is set to stays. */
  reset(): void;
}

/** A block unit with how parameters become its numbers. */
export interface Block {
  readonly unit: BlockUnit;
  /** `read` gives a parameter's value by its id (of a choice its number), `tempo` the beats per minute. */
  readonly tune: (read: (id: string) => number, tempo: number) => void;
  /** Takes the sound that the unit names, at the engine's rate; null for none. `now`: nobody waits for it. */
  readonly load?: (audio: Audio | null, now: boolean) => void;
}

/** A parameter's value by its id, of a choice its number. */
export type Read = (id: string) => number;

/** One row of a unit's table: a number for each column. */
export type TableRow = Readonly<Record<string, number>>;

/** Many rows of numbers that belong to a unit, such as its partials. */
export interface TableSpec {
  readonly label: string;
  /** What one row is called: `partial`. */
  readonly row: string;
  /** Rows there may be. */
  readonly most: number;
  readonly columns: readonly NumberParam[];
  readonly default: readonly TableRow[];
}

/** The rows of a unit's table as its kernel reads them: a few numbers for each, at the most eight. */
export interface CellRows {
  readonly numbers: number;
  /** Which of them is the level, as a factor. */
  readonly loud: number;
  /** Writes a row's numbers from place `at` on; columns that the row hasn't are as they are at first. */
  readonly put: (row: TableRow, rate: Hertz, out: Float32Array | Float64Array, at: number) => void;
  /** The kernel's first input for rows of which each voice has its own numbers. */
  readonly own: number;
}

/** What computes a unit within each voice, as a kernel of core/dsp/kernels/assembly/cells. */
export interface VoiceCell {
  readonly kernel: CellKernel;
  /** The size of its memory in the kernel's terms at the most, at a rate; what is set now is `size`, where that is another. */
  readonly most?: (rate: Hertz) => number;
  /** By which the held notes go over to fresh voices where it changes: its size, and the kernel's variant; `columns`: those of its table that are anything but 0 in a row, or moved. */
  readonly size?: (read: Read, rows: number) => number;
  readonly variant?: (read: Read, columns: readonly string[]) => number;
  /** Whether what it remembers means the same whatever its variant, so that the notes go on in the next. */
  readonly keeps?: true;
  /** Whether it reads the tables of the simple waves. */
  readonly waves?: true;
  /** Whether it follows the note. */
  readonly pitched?: boolean;
  /** Seconds for which nothing may be heard although it isn't over; undefined: it doesn't ring. */
  readonly ring?: number;
  /** Writes the kernel's inputs in their order, for the left and the right lane each (`both`). `pitch`: log2 of the note's frequency over the rate; `sampleRate`: of the sample that it reads; `tempo`: beats per minute. */
  readonly tune: (read: Read, out: Float64Array, pitch: number, rate: Hertz, sampleRate: Hertz, tempo: number) => void;
  /** Whether it reads the sample that the unit names: its table says where that is. */
  readonly sampled?: true;
  /** Frames of a cycle, where it reads the sample as a row of cycles; 0: the usual length that fits. */
  readonly cycle?: (read: Read) => number;
  /** The rows of the unit's table: all voices share them, but for those that each has of its own. */
  readonly rows?: CellRows;
}

/** Writes an input that is the same to the left and to the right. */
export function both(out: Float64Array, input: number, value: number): void {
  out[input * 2] = value;
  out[input * 2 + 1] = value;
}

/** One kind of unit with all its parameters: the only place in which they are listed. */
export interface UnitSpec {
  readonly kind: string;
  readonly role: UnitRole;
  readonly label: string;
  readonly help: string;
  /** Where in a chain it may stand; none: it isn't part of one. */
  readonly places?: readonly Place[];
  readonly params: readonly ParamSpec[];
  /** The parameters that are shown first, by their ids; the others on demand. None: all are. */
  readonly first?: readonly string[];
  /** What the sample that it names is to it, for people; undefined: it names none. */
  readonly sample?: string;
  /** Whether it can take in the sound of another layer (`Unit.from`): the voices of the same note, or the sum of all behind its inserts. */
  readonly links?: "notes" | "sum";
  /** The parameter that says how much of it does something. */
  readonly linkedBy?: string;
  readonly table?: TableSpec;
  /** What computes it in each voice; the filter has sections of its own, and samples are read. */
  readonly cell?: VoiceCell;
  /** What computes it where it stands on a bus. */
  readonly block?: (rate: Hertz, kernels: Kernels) => Block;
}
