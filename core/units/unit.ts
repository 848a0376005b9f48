import type { Audio, Hertz } from "../audio";
import type { Kernels } from "../dsp";
import type { ParamSpec } from "../params";

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

/** One kind of unit with all its parameters: the only place in which they are listed. */
export interface UnitSpec {
  readonly kind: string;
  readonly role: UnitRole;
  readonly label: string;
  readonly help: string;
  /** Where in a chain it may stand; none: it isn't part of one. */
  readonly places?: readonly Place[];
  readonly params: readonly ParamSpec[];
  /** What computes it where it stands on a bus. */
  readonly block?: (rate: Hertz, kernels: Kernels) => Block;
}
