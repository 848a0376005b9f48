import type { SampleStore } from "./sample-store";
import type { PackedSample, StoredSample } from "./stored-sample";
import type { ZoneReading } from "./zone-reading";
import type { ZoneTable } from "./zone-table";

/** How a zone is read, made ready elsewhere: its seams as `bakeSeams` gives them for this reading. */
export interface ReadyPath {
  /** The zone's id. */
  readonly zone: string;
  readonly reading: ZoneReading;
  readonly seams: readonly Float32Array[];
}

/** What laying a path out costs beside its seams, in bytes that could be copied meanwhile. */
const LAYING = 16384;

type Arrival = { readonly sha: string; readonly packed: PackedSample } | { readonly path: ReadyPath };

/** Samples and paths that were made elsewhere, in the order in which they came, and taken in a little at a time. */
export class Arrivals {
  private queue: Arrival[] = [];
  private next = 0;
  private filling: {
    readonly sha: string;
    readonly packed: PackedSample;
    readonly stored: StoredSample;
    at: number;
  } | null = null;

  constructor(
    private readonly store: SampleStore,
    private readonly table: ZoneTable,
  ) {}

  add(sha: string, packed: PackedSample): void {
    this.queue.push({ sha, packed });
  }

  addPaths(paths: readonly ReadyPath[]): void {
    for (const path of paths) this.queue.push({ path });
  }

  get waiting(): boolean {
    return this.filling !== null || this.next < this.queue.length;
  }

  /** Takes in about so many bytes; tells whether any zone is read in another way now. Throws RangeError where a sample finds no room; what comes after it is still to come. */
  work(bytes: number): boolean {
    let left = bytes;
    let changed = false;
    while (left > 0 && this.waiting) {
      if (this.filling) {
        left -= this.fill(left);
        continue;
      }
      const arrival = this.queue[this.next++] as Arrival;
      if (this.next === this.queue.length) {
        this.queue = [];
        this.next = 0;
      }
      if ("path" in arrival) {
        left -= LAYING + arrival.path.seams.reduce((sum, seam) => sum + seam.byteLength, 0);
        if (this.table.takePath(arrival.path)) changed = true;
      } else if (!this.store.has(arrival.sha) && arrival.packed.holding === this.store.holding) {
        const { sha, packed } = arrival;
        this.filling = { sha, packed, stored: this.store.reserve(packed), at: 0 };
      }
    }
    return changed;
  }

  private fill(most: number): number {
    const { store, filling } = this;
    if (!filling) return 0;
    const { sha, packed, stored, at } = filling;
    filling.at = Math.min(packed.bytes.length, at + most);
    store.fill(stored, packed, at, filling.at);
    if (filling.at === packed.bytes.length) {
      this.filling = null;
      store.put(sha, stored);
    }
    return filling.at - at;
  }
}
