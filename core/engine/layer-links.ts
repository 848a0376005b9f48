import { BLOCK_BYTES, FROM_A, FROM_B, MOST_PAIRS, TAP } from "../dsp";
import type { Plan } from "./plan";
import type { SharedParts } from "./shared-parts";
import type { Voice } from "./voice";
import type { VoiceCells } from "./voice-cells";
import type { VoiceLists } from "./voice-lists";

/** A unit that hears another layer: both by their numbers, and where its cell lies in a pair's block. */
interface Link {
  readonly from: number;
  readonly to: number;
  readonly unit: string;
}

/** Layers that hear layers: which voice leaves its sound where, and who of the same note reads it there. */
export class LayerLinks {
  private links: readonly Link[] = [];
  /** Where the pairs leave their sound, one block for each; 0 until a plan needs it. */
  private taps = 0;

  constructor(
    private readonly shared: SharedParts,
    private readonly cells: VoiceCells,
    private readonly lists: VoiceLists,
  ) {}

  /** Takes a plan's links; call it once voices have been moved into the plan. Allocates. */
  setPlan(plan: Plan): void {
    const { heap, pool } = this.shared;
    const numbers = new Map(plan.layers.map((layer, l) => [layer.id, l]));
    this.links = plan.layers.flatMap((layer, to) =>
      [layer.source, ...layer.stages].flatMap((unit): Link[] => {
        const from = unit?.kind === "cell" && unit.from !== null ? numbers.get(unit.from) : undefined;
        return unit && from !== undefined ? [{ from, to, unit: unit.id }] : [];
      }),
    );
    if (this.links.length > 0 && this.taps === 0) {
      this.taps = heap.allocate(MOST_PAIRS * BLOCK_BYTES);
      heap.f32.fill(0, this.taps / 4, (this.taps + MOST_PAIRS * BLOCK_BYTES) / 4);
    }
    pool.changed = true;
  }

  private tapOf(voice: Voice): number {
    return this.taps + (voice.index >> 1) * BLOCK_BYTES;
  }

  /** Leads the sounds of the voices as they are now; call it when their lists have been made anew. */
  update(plan: Plan): void {
    const { lists } = this;
    const { pool, heap } = this.shared;
    if (this.taps === 0) return;
    for (let i = 0; i < pool.active; i++) {
      const voice = pool.voices[pool.order[i] as number] as Voice;
      heap.u32[(voice.pair + TAP) / 4] = plan.layers[voice.layer]?.feeds ? this.tapOf(voice) : 0;
    }
    for (let k = 0; k < this.links.length; k++) {
      const { from, to, unit } = this.links[k] as Link;
      const list = lists.of(to);
      const count = lists.countOf(to);
      for (let i = 0; i < count; i++) {
        const voice = pool.voices[list[i] as number] as Voice;
        const cell = this.cells.cellOf(voice, unit);
        if (cell === 0) continue;
        const feeder = this.voiceIn(from, voice.serial);
        heap.u32[(cell + (voice.side === 1 ? FROM_B : FROM_A)) / 4] = feeder ? this.tapOf(feeder) + feeder.side * 8 : 0;
      }
    }
  }

  /** The voice of a note in a layer; null where there is none. Sounds after a key was let go belong to no note. */
  private voiceIn(layer: number, serial: number): Voice | null {
    const list = this.lists.of(layer);
    const count = this.lists.countOf(layer);
    if (serial === 0) return null;
    for (let i = 0; i < count; i++) {
      const voice = this.shared.pool.voices[list[i] as number] as Voice;
      if (voice.serial === serial && !voice.leaving) return voice;
    }
    return null;
  }
}
