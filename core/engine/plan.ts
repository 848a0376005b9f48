import type { Zone } from "../instrument";
import type { ParamsOf, TableRow, UnitKind } from "../units";
import type { Step } from "./plan-modulation";

/**
 * A parameter as the engine knows it: its range, in the domain in which it is modulated (the logarithm to base 2 where modulation
 * adds octaves; the number in the list for a choice).
 */
export interface Slot {
  readonly address: string;
  readonly octaves: boolean;
  readonly min: number;
  readonly max: number;
  /** Whether it may be smoothed; choices and counts may not. */
  readonly smooth: boolean;
}

/** A line by its points, as three lists. */
export interface LinePlan {
  readonly x: readonly number[];
  readonly y: readonly number[];
  readonly bend: readonly number[];
}

/** Operands: 0 and above is a place among the values that all voices share, below 0 a column of which each voice has a value. */
export interface GroupPlan {
  readonly id: string;
  readonly zones: readonly Zone[];
  readonly params: Readonly<Record<keyof ParamsOf<"group">, number>>;
  /** Where its level to each send stands among the shared values, and whether a route moves one of them. */
  readonly sends: readonly number[];
  readonly sendsRouted: boolean;
}

export interface FilterPlan {
  readonly kind: "filter";
  readonly id: string;
  readonly mode: number;
  readonly slope: number;
  readonly character: number;
  readonly on: number;
  readonly cutoff: number;
  /** Where it stands how far the cutoff follows the keys. */
  readonly follow: number;
  readonly resonance: number;
  readonly drive: number;
  readonly lift: number;
  /** Where it stands whether it rings as long at every cutoff. */
  readonly rings: number;
}

/** A source or stage that a kernel computes in each voice. */
export interface CellPlan {
  readonly kind: "cell";
  readonly id: string;
  readonly unit: UnitKind;
  /** Where it is switched; null: it can't be. */
  readonly on: number | null;
  /** Where each parameter stands, and its operand (a logarithm to base 2 where `octaves`). */
  readonly params: readonly {
    readonly id: string;
    readonly slot: number;
    readonly operand: number;
    readonly octaves: boolean;
  }[];
  readonly rows: readonly TableRow[] | null;
  /** Columns of its table that are anything but 0 in a row, or moved. */
  readonly columns: readonly string[];
  /** Cells of its table that something moves: the row, counted from 0, the column, and where they stand. */
  readonly moved: readonly {
    readonly row: number;
    readonly column: string;
    readonly operand: number;
    readonly octaves: boolean;
  }[];
  /** Rows there may be at the most. */
  readonly mostRows: number;
  /** The sample that it reads; null for none. */
  readonly sample: string | null;
  /** The layer whose voices it hears; null for none. */
  readonly from: string | null;
}

/** A unit on a bus, where each of its parameters stands among the shared values (as a logarithm to base 2 where `octaves`), and the sound that it uses. */
export interface BusUnitPlan {
  readonly address: string;
  readonly kind: UnitKind;
  readonly params: readonly { readonly id: string; readonly slot: number; readonly octaves: boolean }[];
  readonly sample: string | null;
  /** The layer whose sum it listens to; null: what goes through it. */
  readonly from: string | null;
  /** Whether a route moves one of them. */
  readonly routed: boolean;
}

export interface EnvelopePlan {
  readonly id: string;
  readonly kind: "amp" | "envelope" | "path";
  /** delay, attack, attackBend, hold, decay, decayBend, sustain, release, releaseBend; of a path speed, loopFrom, loopTo. */
  readonly operands: readonly number[];
  readonly line: LinePlan | null;
}

export interface LfoPlan {
  readonly id: string;
  readonly scope: ParamsOf<"lfo">["retrigger"];
  readonly shape: number;
  readonly rate: number;
  readonly beat: number;
  readonly phase: number;
  readonly delay: number;
  readonly fade: number;
  readonly line: LinePlan | null;
}

export interface LayerPlan {
  readonly id: string;
  readonly groups: readonly GroupPlan[];
  /** The set it belongs to: where the chosen number stands, and its own number of how many; null when it always sounds. */
  readonly set: { readonly chosen: number; readonly own: number; readonly count: number } | null;
  /** What computes the sound; null: samples are read. */
  readonly source: CellPlan | null;
  /** Null where the source has none. */
  readonly transpose: number | null;
  readonly fine: number | null;
  readonly start: number | null;
  readonly level: number;
  readonly pan: number;
  /** Whether it is muted: nothing of it is heard but what other layers make of it. */
  readonly mute: number;
  /** Whether other layers hear it. */
  readonly feeds: boolean;
  readonly velocity: number;
  readonly voices: number;
  readonly amp: EnvelopePlan;
  readonly stages: readonly (FilterPlan | CellPlan)[];
  readonly inserts: readonly BusUnitPlan[];
  /** Where its level to each send stands. */
  readonly sends: readonly number[];
  /** Whether a route moves one of these levels. */
  readonly sendsRouted: boolean;
  /** What is computed for each of its voices at every control step, in this order. */
  readonly program: readonly Step[];
}

/** An instrument as flat plain data that the engine plays; `base` may be sent anew alone while the structure stays. */
export interface Plan {
  readonly slots: readonly Slot[];
  readonly base: readonly number[];
  readonly layers: readonly LayerPlan[];
  /** The layers' numbers in the order in which they are computed: who is heard by another comes before it. */
  readonly order: readonly number[];
  /** The same of their sums: who is listened to comes first. */
  readonly busOrder: readonly number[];
  readonly envelopes: readonly EnvelopePlan[];
  readonly lfos: readonly LfoPlan[];
  readonly lines: readonly LinePlan[];
  /** What is computed once for all voices. */
  readonly program: readonly Step[];
  /** What stands in each column beyond the fixed ones, and in each shared memory of smoothing. */
  readonly columns: readonly string[];
  readonly memories: readonly string[];
  readonly mics: readonly { readonly id: string; readonly level: number; readonly pan: number }[];
  readonly sends: readonly { readonly id: string; readonly units: readonly BusUnitPlan[] }[];
  /** The whole's chain. */
  readonly effects: readonly BusUnitPlan[];
  /** Places of the playing parameters, by their ids. */
  readonly play: Readonly<Record<keyof ParamsOf<"play">, number>>;
  readonly tuning: readonly (number | null)[] | null;
  readonly samples: readonly string[];
  readonly impulses: readonly string[];
  readonly holding: ParamsOf<"play">["sampleMemory"];
  readonly rules: { readonly script: string; readonly seed: number } | null;
}
