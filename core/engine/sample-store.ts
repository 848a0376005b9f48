import { type Audio, framesOf } from "../audio";
import type { Zone } from "../instrument";
import type { Heap } from "./heap";
import { buildPath, type Path } from "./path-builder";
import { type Holding, type StoredSample, storeSample } from "./stored-sample";

/** Holds samples in the kernels' memory, and for each zone the spans by which a voice reads it. */
export class SampleStore {
  /** How samples that come from now on are held. */
  holding: Holding = "exact";
  private readonly samples = new Map<string, StoredSample>();

  constructor(private readonly heap: Heap) {}

  has(sha: string): boolean {
    return this.samples.has(sha);
  }

  /** Copies a sample in. One that is there already stays, unless it is to be held in another way: then the old copy is given back, to be released once nobody reads it. */
  add(sha: string, audio: Audio): StoredSample | null {
    const known = this.samples.get(sha);
    if (framesOf(audio) === 0 || (known && known.holding === this.holding)) return null;
    this.samples.set(sha, storeSample(this.heap, audio, this.holding));
    return known ?? null;
  }

  /** Gives the memory of an old copy back; true, for callers that filter by it. */
  releaseCopy(copy: StoredSample): true {
    this.heap.release(copy.at);
    return true;
  }

  /** Gives a sample's memory back; true, for callers that filter by it. */
  remove(sha: string): true {
    const stored = this.samples.get(sha);
    if (stored) this.heap.release(stored.at);
    this.samples.delete(sha);
    return true;
  }

  shas(): string[] {
    return [...this.samples.keys()];
  }

  /** What decides how a zone is read: two zones of the same key share nothing else than that. */
  static keyOf(zone: Zone): string {
    return JSON.stringify([zone.sample, zone.start, zone.end, zone.reverse, zone.loop, zone.releaseLoop]);
  }

  /** The spans of a zone; null while its sample isn't there. */
  path(zone: Zone): Path | null {
    const sample = this.samples.get(zone.sample);
    return sample ? buildPath(this.heap, sample, zone, SampleStore.keyOf(zone)) : null;
  }

  /** Gives a path's memory back; true, for callers that filter by it. */
  release(path: Path): true {
    for (const at of path.held) this.heap.release(at);
    return true;
  }
}
