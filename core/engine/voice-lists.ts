import type { SharedParts } from "./shared-parts";
import type { Voice } from "./voice";
import { MOST_LAYERS, MOST_VOICES, ORPHANS, type VoicePool } from "./voice-pool";

/** The voices that sound, sorted by the layers that they belong to. */
export class VoiceLists {
  readonly orphans = new Int32Array(MOST_VOICES);
  private readonly lists: Int32Array[] = [];
  private readonly counts = new Int32Array(MOST_LAYERS + 1);
  private readonly pool: VoicePool;

  constructor({ pool }: SharedParts) {
    this.pool = pool;
  }

  /** Makes room for so many layers; allocates. */
  reserve(layers: number): void {
    while (this.lists.length < layers) this.lists.push(new Int32Array(MOST_VOICES));
  }

  of(layer: number): Int32Array {
    return this.lists[layer] as Int32Array;
  }
  countOf(layer: number): number {
    return this.counts[layer] as number;
  }
  get orphanCount(): number {
    return this.counts[ORPHANS] as number;
  }

  /** Sorts anew where a voice has begun or ended since; whether one had. */
  refresh(): boolean {
    const { pool, counts } = this;
    if (!pool.changed) return false;
    pool.listVoices();
    counts.fill(0);
    for (let i = 0; i < pool.active; i++) {
      const v = pool.order[i] as number;
      const { layer } = pool.voices[v] as Voice;
      const count = counts[layer] as number;
      (layer === ORPHANS ? this.orphans : (this.lists[layer] as Int32Array))[count] = v;
      counts[layer] = count + 1;
    }
    return true;
  }
}
