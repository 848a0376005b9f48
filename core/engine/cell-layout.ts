import type { Hertz } from "../audio";
import { type Kernels, kindOf, SECTION_BYTES } from "../dsp";
import { unitSpec, type VoiceCell } from "../units";
import type { CellPlan, FilterPlan, LayerPlan } from "./plan";

/** Sections of a filter. */
export const SECTIONS_OF_FILTER = 2;

/** A unit of a layer's voices as it lies in a pair's block. */
export type PlacedUnit = {
  readonly id: string;
  /** Where its first cell begins in the block, and the bytes of all its cells. */
  readonly offset: number;
  readonly bytes: number;
  /** How many cells stand before it. */
  readonly before: number;
  /** How many it has itself. */
  readonly cells: number;
} & (
  | { readonly kind: "filter"; readonly plan: FilterPlan }
  | {
      readonly kind: "cell";
      readonly plan: CellPlan;
      readonly cell: VoiceCell;
      readonly kernel: number;
      readonly inputs: number;
    }
);

/** What lies in a pair's block: the source, where it is computed, then the stages. */
export interface CellLayout {
  readonly units: readonly PlacedUnit[];
  /** All cells. */
  readonly count: number;
  /** Cells that are always there: behind them are but sections of filters, which may be absent. */
  readonly certain: number;
  readonly computed: boolean;
  readonly stride: number;
  /** By which it is told from others: layouts of the same name differ in nothing but operands and tables. */
  readonly name: string;
  /** Seconds for which its cells may be silent although they still ring; null where none rings. */
  readonly ring: number;
}

/** Lays out the cells of a layer's voices. */
export function layOut(layer: LayerPlan, kernels: Kernels, rate: Hertz): CellLayout {
  const units: PlacedUnit[] = [];
  let offset = 0;
  let cells = 0;
  let certain = 0;
  let ring = 0;
  const add = (plan: FilterPlan | CellPlan): void => {
    if (plan.kind === "filter") {
      const bytes = SECTIONS_OF_FILTER * SECTION_BYTES;
      units.push({ id: plan.id, kind: "filter", plan, offset, bytes, before: cells, cells: SECTIONS_OF_FILTER });
      offset += bytes;
      cells += SECTIONS_OF_FILTER;
      return;
    }
    const { cell } = unitSpec(plan.unit);
    if (!cell) throw new RangeError(`a ${plan.unit} can't stand in a voice`);
    const kernel = kindOf(cell.kernel);
    const bytes = kernels.bytesOf(kernel, cell.most?.(rate) ?? 0);
    const inputs = kernels.inputsOf(kernel);
    units.push({ id: plan.id, kind: "cell", plan, cell, kernel, inputs, offset, bytes, before: cells, cells: 1 });
    offset += bytes;
    cells++;
    certain = cells;
    ring += cell.ring ?? 0;
  };
  if (layer.source) add(layer.source);
  for (const stage of layer.stages) add(stage);
  return {
    units,
    count: cells,
    certain,
    computed: layer.source !== null,
    // An odd number of cache lines apart, so that the same cells of many pairs don't fall on the same lines.
    stride: offset === 0 ? 0 : (Math.ceil(offset / 64) | 1) * 64,
    name: units.map((u) => `${u.id} ${u.kind === "cell" ? u.plan.unit : u.kind}`).join(", "),
    ring,
  };
}
