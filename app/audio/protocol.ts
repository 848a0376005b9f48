import type { ReadyCycles, ReadyWaves } from "../../core/dsp";
import type {
  EngineStatus,
  NoteTrace,
  PackedSample,
  Plan,
  PlanDelta,
  ProbeSetting,
  ReadyPath,
} from "../../core/engine";
import type { RuleProblem } from "../../core/rules";

/** Everything that is sent to the engine's worklet. */
export type ToEngine =
  /** What the plan has that the one sent before had not; the first has everything. */
  | { readonly type: "plan"; readonly plan: PlanDelta }
  | { readonly type: "rules"; readonly rules: Plan["rules"] }
  | { readonly type: "base"; readonly base: readonly number[] }
  | { readonly type: "sample"; readonly sha: string; readonly packed: PackedSample }
  | { readonly type: "paths"; readonly paths: readonly ReadyPath[] }
  | {
      readonly type: "impulse";
      readonly sha: string;
      readonly rate: number;
      readonly channels: readonly Float32Array[];
    }
  /** The simple waves' tables, as they were asked for. */
  | { readonly type: "waves"; readonly ready: ReadyWaves }
  /** The cycles of a wavetable, as they were asked for. */
  | { readonly type: "cycles"; readonly sha: string; readonly ready: ReadyCycles }
  | { readonly type: "midi"; readonly status: number; readonly data1: number; readonly data2: number }
  | { readonly type: "phrase"; readonly events: readonly TimedMidi[]; readonly seconds: number }
  | { readonly type: "tempo"; readonly tempo: number }
  | { readonly type: "stop" }
  /** The layers that are heard alone; none: all are heard. */
  | { readonly type: "solo"; readonly layers: readonly string[] }
  /** Groups and microphones, by address, that are muted and that are heard alone. */
  | { readonly type: "mute"; readonly muted: readonly string[]; readonly alone: readonly string[] }
  /** A test sound that goes through a row; null: none any more. */
  | { readonly type: "probe"; readonly setting: ProbeSetting | null }
  /** Of which row or unit a copy is wanted beside the whole; null: of none. */
  | { readonly type: "tap"; readonly address: string | null }
  /** Whether the peaks between units are wanted. */
  | { readonly type: "watch"; readonly on: boolean }
  /** A sound to be played as it is, beside the instrument, in place of another such sound; at the engine's rate. */
  | {
      readonly type: "audition";
      readonly id: number;
      readonly channels: readonly Float32Array[];
      readonly loop: boolean;
    }
  /** Ends such a sound; null: whichever it is. */
  | { readonly type: "hush"; readonly id: number | null };

/** A channel message at a time in seconds from the beginning of a phrase. */
export interface TimedMidi {
  readonly seconds: number;
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
}

/** Everything that the worklet sends back. */
export type FromEngine =
  | {
      readonly type: "status";
      readonly status: EngineStatus;
      readonly load: number;
      readonly cursors: readonly { readonly zone: number; readonly frame: number }[];
      readonly peaks: Readonly<Record<string, number>> | null;
    }
  | {
      readonly type: "traces";
      readonly traces: readonly NoteTrace[];
      readonly frame: number;
      readonly arriving: boolean;
    }
  | { readonly type: "rule"; readonly problem: RuleProblem | null }
  /** Something could not be done; what plays goes on. */
  | { readonly type: "problem"; readonly message: string }
  /** The simple waves' tables are wanted. */
  | { readonly type: "waves-wanted" }
  /** The cycles of a sample are wanted, of so many frames. */
  | { readonly type: "cycles-wanted"; readonly sha: string; readonly cycle: number }
  /** What a sweep has met so far, lowest band first, and whether it is over. */
  | { readonly type: "response"; readonly levels: Float32Array; readonly over: boolean }
  /** A sound that was played as it is has ended. */
  | { readonly type: "auditioned"; readonly id: number };

/** What the worklet's constructor is given. */
export interface EngineSetup {
  readonly kernels: WebAssembly.Module;
  readonly rules: WebAssembly.Module;
}
