import { HEARD_A, HEARD_B, METER } from "../dsp";
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

/** Squared peaks of the voices of each group or microphone, summed over those that sound: in this segment, and the largest so far. */
class SumMeter {
  private readonly sums: Float64Array;
  private readonly peaks: Float64Array;

  constructor(private readonly addresses: readonly string[]) {
    this.sums = new Float64Array(addresses.length);
    this.peaks = new Float64Array(addresses.length);
  }

  /** Adds a voice's; `of`: the number of what it belongs to, −1 for none. */
  add(of: number, power: number): void {
    if (of >= 0 && of < this.sums.length) this.sums[of] = (this.sums[of] as number) + power;
  }

  settle(): void {
    const { sums, peaks } = this;
    for (let i = 0; i < sums.length; i++) if ((sums[i] as number) > (peaks[i] as number)) peaks[i] = sums[i] as number;
    sums.fill(0);
  }

  takePeaks(into: Record<string, number>): void {
    this.addresses.forEach((address, i) => {
      into[address] = heardOf(this.peaks[i] as number);
    });
    this.peaks.fill(0);
  }
}

/** How loud it is in the voices behind each of their units, and of each group and microphone, while somebody looks. */
export class VoiceMeters {
  private meters: LayerMeter[] = [];
  private groups = new SumMeter([]);
  private mics = new SumMeter([]);

  constructor(
    private readonly shared: SharedParts,
    private readonly cells: VoiceCells,
  ) {}

  /** Takes a plan's layers; `on`: whether anybody looks. Allocates. */
  setPlan(plan: Plan, on: boolean): void {
    const { heap } = this.shared;
    for (const { at } of this.meters) heap.release(at);
    this.meters = [];
    const groups = plan.layers.flatMap((layer) => layer.groups.map((g) => `layers/${layer.id}/groups/${g.id}`));
    this.groups = new SumMeter(on ? groups : []);
    this.mics = new SumMeter(on ? plan.mics.map((mic) => `mics/${mic.id}`) : []);
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
    const { order, active, voices } = this.shared.pool;
    for (let i = 0; i < active; i++) {
      const { ref, pair, side } = voices[order[i] as number] as Voice;
      const at = (pair + (side === 0 ? HEARD_A : HEARD_B)) / 4;
      const power = f32[at] as number;
      f32[at] = 0;
      if (!ref) continue;
      this.groups.add(ref.group, power);
      this.mics.add(ref.mic, power);
    }
    this.groups.settle();
    this.mics.settle();
  }

  /** Writes the largest values since this was asked last, behind each unit, of each group and each microphone, by their addresses. Allocates. */
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
    this.groups.takePeaks(into);
    this.mics.takePeaks(into);
  }
}
