import { METER } from "../dsp";
import type { Plan } from "./plan";
import type { SharedParts } from "./shared-parts";
import type { Voice } from "./voice";
import type { VoiceCells } from "./voice-cells";
import { ORPHANS } from "./voice-pool";

/** What is taken of one layer's voices: for the samples' reader and each cell the sum of the pairs' squared peaks in a segment, and the largest so far. */
interface LayerMeter {
  /** Address of the sums. */
  readonly at: number;
  readonly peaks: Float64Array;
}

/** Below this (−200 dB) there is nothing but the mark that it was looked at. */
const NOTHING = 1e-20;
const heardOf = (power: number): number => (power > NOTHING ? Math.sqrt(power) : 0);

/** How loud it is in the voices behind each of their units, while somebody looks. */
export class VoiceMeters {
  private meters: LayerMeter[] = [];

  constructor(
    private readonly shared: SharedParts,
    private readonly cells: VoiceCells,
  ) {}

  /** Takes a plan's layers; `on`: whether anybody looks. Allocates. */
  setPlan(plan: Plan, on: boolean): void {
    const { heap } = this.shared;
    for (const { at } of this.meters) heap.release(at);
    this.meters = [];
    for (let l = 0; on && l < plan.layers.length; l++) {
      const count = 1 + this.cells.layoutOf(l).count;
      const at = heap.allocate(count * 4);
      heap.f32.fill(0, at / 4, at / 4 + count);
      this.meters.push({ at, peaks: new Float64Array(count) });
    }
    this.update();
  }

  /** Tells the pairs that sound where their peaks are to be added; call it when their lists have been made anew. */
  update(): void {
    const { pool, heap } = this.shared;
    for (let v = 0; v < pool.voices.length; v += 2) {
      const a = pool.voices[v] as Voice;
      const b = pool.voices[v + 1] as Voice;
      const layer = a.active && a.layer !== ORPHANS ? a.layer : b.active ? b.layer : ORPHANS;
      heap.u32[(a.pair + METER) / 4] = this.meters[layer]?.at ?? 0;
    }
  }

  /** Takes the sums of a segment; they are empty afterwards. */
  collect(): void {
    const { f32 } = this.shared.heap;
    for (let l = 0; l < this.meters.length; l++) {
      const { at, peaks } = this.meters[l] as LayerMeter;
      for (let i = 0; i < peaks.length; i++) {
        const sum = f32[at / 4 + i] as number;
        if (sum > (peaks[i] as number)) peaks[i] = sum;
        f32[at / 4 + i] = 0;
      }
    }
  }

  /** Writes the largest values since this was asked last, behind each unit, by the units' addresses. Allocates. */
  takePeaks(plan: Plan, into: Record<string, number>): void {
    this.meters.forEach(({ peaks }, l) => {
      const layer = plan.layers[l];
      if (!layer) return;
      if (!layer.source) into[`layers/${layer.id}/source`] = heardOf(peaks[0] as number);
      for (const { id, before, cells } of this.cells.layoutOf(l).units) {
        const place = id === layer.source?.id && before === 0 ? "source" : `stages/${id}`;
        // Cells that aren't run give on what they get.
        let last = before + cells;
        while (last > 0 && peaks[last] === 0) last--;
        into[`layers/${layer.id}/${place}`] = heardOf(peaks[last] as number);
      }
      peaks.fill(0);
    });
  }
}
