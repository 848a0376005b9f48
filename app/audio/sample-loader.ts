import { transfer } from "comlink";
import { type Audio, resample } from "../../core/audio";
import { bakeCycles, bakeWaves, type ReadyCycles, type ReadyWaves } from "../../core/dsp";
import {
  bakeSeams,
  frameReader,
  type Holding,
  type PackedSample,
  packSample,
  type ReadyPath,
  storedAt,
  type ZoneReading,
} from "../../core/engine";
import { type RuleProblem, Sandbox } from "../../core/rules";
import { reasonOf } from "../basis/reason-of";

/** A zone whose path is wanted: its id, and how it is to be read. */
export interface ZoneToRead {
  readonly zone: string;
  readonly reading: ZoneReading;
}

/** A sample and the paths of some of its zones. */
interface ReadySample {
  readonly packed: PackedSample;
  readonly paths: readonly ReadyPath[];
}

/** Bytes of packed samples that are kept, so that a loop that is being dragged is computed from what is there. */
const MOST_KEPT = 64e6;

/**
 * Makes everything ready that the audio thread has no time for: decodes and packs samples, computes seams, runs a script for the first time. It lives in a
 * worker; what it answers is handed over, not copied.
 */
export class SampleLoader {
  /** The samples whose seams were wanted last. */
  private kept: { readonly sha: string; readonly packed: PackedSample }[] = [];
  private sandbox: Promise<Sandbox> | null = null;

  /** `audioOf`: the decoded audio of a sample; null when it is missing. */
  constructor(private readonly audioOf: (sha: string) => Promise<Audio | null>) {}

  /** A sample and the paths of zones that play it; null where there is nothing to be heard of it. */
  async sample(sha: string, holding: Holding, zones: readonly ZoneToRead[]): Promise<ReadySample | null> {
    const packed = await this.pack(sha, holding);
    if (!packed) return null;
    const paths = pathsOf(packed, zones);
    return transfer({ packed, paths }, [packed.bytes.buffer, ...buffersOf(paths)]);
  }

  /** The paths of zones that play a sample which the audio thread has. */
  async paths(sha: string, holding: Holding, zones: readonly ZoneToRead[]): Promise<readonly ReadyPath[]> {
    const packed = await this.packed(sha, holding);
    if (!packed) return [];
    const paths = pathsOf(packed, zones);
    return transfer(paths, buffersOf(paths));
  }

  /** The cycles of a wavetable, of so many frames; null where there is nothing to be heard of it. */
  async cycles(sha: string, holding: Holding, cycle: number): Promise<ReadyCycles | null> {
    const packed = await this.packed(sha, holding);
    if (!packed) return null;
    const read = frameReader(packed.bytes.buffer, storedAt(packed, 0), false);
    const ready = bakeCycles(packed.frames, cycle, read);
    return transfer(ready, [ready.floats.buffer]);
  }

  /** The simple waves' tables. */
  async waves(): Promise<ReadyWaves> {
    const ready = bakeWaves();
    return transfer(ready, [ready.buffer]);
  }

  /** A sound at a rate, such as a room's impulse at the engine's; null when it is missing. */
  async audio(sha: string, rate: number): Promise<Audio | null> {
    const audio = await this.audioOf(sha);
    return audio && this.resampled(audio, rate);
  }

  resampled(audio: Audio, rate: number): Audio {
    const { channels } = audio.rate === rate ? audio : resample(audio, rate);
    // Channels that share a memory with others can't be handed over.
    const own = channels.slice(0, 2).map((c) => (c.byteLength === c.buffer.byteLength ? c : c.slice()));
    return transfer({ rate, channels: own }, [...new Set(own.map((c) => c.buffer as ArrayBuffer))]);
  }

  /** Runs a script's top level and says what is wrong with it; null where nothing is. */
  async tryScript(interpreter: WebAssembly.Module, script: string, seed: number): Promise<RuleProblem | null> {
    this.sandbox ??= Sandbox.open(interpreter);
    let problem: RuleProblem | null = null;
    try {
      const sandbox = await this.sandbox;
      const rules = sandbox.load(script, seed, (found) => {
        problem ??= found;
      });
      rules?.dispose();
    } catch (error) {
      problem = { line: null, reason: reasonOf(error), stopped: true };
    }
    // An interpreter that gave in is not used again.
    if (problem) this.sandbox = null;
    return problem;
  }

  /** A packed sample, which is kept for what is wanted of it next. */
  private async packed(sha: string, holding: Holding): Promise<PackedSample | null> {
    let packed = this.kept.find((k) => k.sha === sha && k.packed.holding === holding)?.packed ?? null;
    packed ??= await this.pack(sha, holding);
    if (packed) this.keep(sha, packed);
    return packed;
  }

  private async pack(sha: string, holding: Holding): Promise<PackedSample | null> {
    const audio = await this.audioOf(sha);
    return audio && packSample(audio, holding);
  }

  private keep(sha: string, packed: PackedSample): void {
    const others = this.kept.filter((k) => k.packed !== packed);
    let left = MOST_KEPT - packed.bytes.length;
    const room = others.filter((k) => {
      left -= k.packed.bytes.length;
      return left >= 0;
    });
    this.kept = [{ sha, packed }, ...room];
  }
}

function pathsOf(packed: PackedSample, zones: readonly ZoneToRead[]): ReadyPath[] {
  const stored = storedAt(packed, 0);
  return zones.map(({ zone, reading }) => ({ zone, reading, seams: bakeSeams(packed.bytes.buffer, stored, reading) }));
}

const buffersOf = (paths: readonly ReadyPath[]): ArrayBuffer[] =>
  paths.flatMap((path) => path.seams.map((seam) => seam.buffer as ArrayBuffer));
