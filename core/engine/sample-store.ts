import type { Heap } from "./heap";
import type { Path } from "./path-builder";
import { bytesOf, type Holding, type PackedSample, type StoredSample, storedAt } from "./stored-sample";

/** Holds samples in the kernels' memory, and gives memory back once nobody reads it any more. */
export class SampleStore {
  /** How samples are to be held. */
  holding: Holding = "asRecorded";
  private readonly samples = new Map<string, StoredSample>();
  /** What is no longer wanted, but may still be sounding. */
  private retired: StoredSample[] = [];
  private paths: Path[] = [];

  constructor(private readonly heap: Heap) {}

  get(sha: string): StoredSample | undefined {
    return this.samples.get(sha);
  }

  /** Whether a sample is there in the way in which it is to be held. */
  has(sha: string): boolean {
    return this.samples.get(sha)?.holding === this.holding;
  }

  /** Memory for a sample, its contents still to come. Throws RangeError where there is none. */
  reserve(packed: PackedSample): StoredSample {
    return storedAt(packed, this.heap.allocate(bytesOf(packed)));
  }

  /** Copies some of a sample's bytes in. */
  fill({ at }: StoredSample, { bytes }: PackedSample, from: number, to: number): void {
    new Uint8Array(this.heap.memory.buffer, at + from, to - from).set(bytes.subarray(from, to));
  }

  /** Takes a sample that is filled, in place of an older copy. */
  put(sha: string, stored: StoredSample): void {
    this.remove(sha);
    this.samples.set(sha, stored);
  }

  remove(sha: string): void {
    const stored = this.samples.get(sha);
    if (stored) this.retired.push(stored);
    this.samples.delete(sha);
  }

  /** Removes all samples but these. */
  keep(shas: readonly string[]): void {
    const wanted = new Set(shas);
    for (const sha of [...this.samples.keys()]) if (!wanted.has(sha)) this.remove(sha);
  }

  retirePath(path: Path): void {
    this.paths.push(path);
  }

  /** Whether there is anything to be given back. */
  get idle(): boolean {
    return this.paths.length + this.retired.length === 0;
  }

  /** Gives back what nobody reads any more, at the most so many pieces at once. */
  collect(read: ReadonlySet<Path | null>, most: number): void {
    let left = most;
    this.paths = this.paths.filter((path) => {
      if (read.has(path) || left <= 0) return true;
      left -= path.held.length;
      for (const at of path.held) this.heap.release(at);
      path.sample.readers--;
      return false;
    });
    this.retired = this.retired.filter((sample) => {
      if (sample.readers > 0 || left-- <= 0) return true;
      this.heap.release(sample.at);
      return false;
    });
  }
}
