import type { Hertz } from "../audio";
import { CELL_INPUTS, CELL_STATE, INPUT_BYTES, MOVED, OWN_ROWS, WET_TARGET } from "../dsp";
import { both, type Read, unitSpec, type VoiceCell } from "../units";
import type { CellLayout } from "./cell-layout";
import type { Heap } from "./heap";
import type { Modulation } from "./modulation";
import type { CellPlan, LayerPlan, Plan } from "./plan";
import type { RowTable } from "./row-table";
import type { SharedParts } from "./shared-parts";
import type { Voice, VoiceNumbers } from "./voice";
import { MOST_VOICES } from "./voice-pool";
import { Watch } from "./watch";

/** Most inputs that a kernel has. */
const MOST_INPUTS = 64;

const NONE: CellPlan["params"] = [];

/** A row of a unit's table of which something moves columns: its values as they are now. */
interface MovedRow {
  readonly row: number;
  readonly values: Record<string, number>;
  readonly moved: CellPlan["moved"];
}

/** A unit of a layer's voices with what its inputs are made of. */
interface TunedCell {
  readonly plan: CellPlan;
  readonly cell: VoiceCell;
  readonly offset: number;
  readonly inputs: number;
  readonly watch: Watch;
  /** Whether any of its parameters is each voice's own. */
  readonly own: boolean;
  /** Rows that move for all voices alike, and those of which each has its own. */
  readonly sharedRows: readonly MovedRow[];
  readonly ownRows: readonly MovedRow[];
  readonly rowWatch: Watch;
  table: RowTable | null;
  readonly values: Record<string, number>;
  readonly read: Read;
  /** The pitch for which each voice was tuned last. */
  readonly pitches: Float64Array;
  /** Rate of the sample that it reads. */
  sampleRate: Hertz;
  /** Whether it may follow the tempo, and that for which it was tuned last. */
  readonly beats: boolean;
  tempo: number;
  /** All voices are to be told anew. */
  dirty: boolean;
}

/** What of a cell's settings can't move while a voice sounds. */
export interface CellStructure {
  size: number;
  variant: number;
  on: boolean;
}

/** Passes parameters to the kernels of voices' cells, wherever one has moved. */
export class CellTuner {
  private readonly heap: Heap;
  private readonly modulation: Modulation;
  private readonly numbers: VoiceNumbers;
  private readonly rate: Hertz;
  private layers = new Map<string, readonly TunedCell[]>();
  private readonly out = new Float64Array(MOST_INPUTS * 2);
  private readonly rowNumbers = new Float64Array(8);
  private readonly found: CellStructure = { size: 0, variant: 0, on: true };
  private plan: CellPlan | null = null;
  /** Reads a parameter that all voices share, as a choice is; of what routes move its base value. */
  private readonly readShared: Read = (id) => {
    const params = this.plan?.params ?? NONE;
    for (let p = 0; p < params.length; p++) {
      const param = params[p] as CellPlan["params"][number];
      if (param.id === id) return this.modulation.shared[param.slot] as number;
    }
    return 0;
  };

  constructor({ heap, modulation, pool, rate }: SharedParts) {
    this.heap = heap;
    this.modulation = modulation;
    this.numbers = pool.numbers;
    this.rate = rate;
  }

  setPlan(plan: Plan, layouts: readonly CellLayout[]): void {
    const before = this.layers;
    this.layers = new Map(
      plan.layers.map((layer, l) => [
        layer.id,
        (layouts[l] as CellLayout).units.flatMap((unit) => {
          if (unit.kind !== "cell") return [];
          const old = before.get(layer.id)?.find((c) => c.plan.id === unit.id && c.plan.unit === unit.plan.unit);
          return [makeTuned(unit, old, this.rate)];
        }),
      ]),
    );
  }

  /** All voices of a unit are to be told anew: its table has become another. */
  touch(layer: string, unit: string): void {
    for (const cell of this.layers.get(layer) ?? []) if (cell.plan.id === unit) cell.dirty = true;
  }

  /** Where the rows of a unit stand; the numbers of the rows that each voice has of its own. */
  giveTable(layer: string, unit: string, table: RowTable): readonly number[] {
    const tuned = this.layers.get(layer)?.find((c) => c.plan.id === unit);
    if (!tuned) return [];
    tuned.table = table;
    return tuned.ownRows.map((r) => r.row);
  }

  /** A unit reads another sample. */
  setSampleRate(layer: string, unit: string, rate: Hertz): void {
    for (const cell of this.layers.get(layer) ?? []) if (cell.plan.id === unit) cell.sampleRate = rate;
    this.touch(layer, unit);
  }

  /** A fresh voice hasn't been told anything. */
  begin(voice: Voice, layer: LayerPlan): void {
    const cells = this.layers.get(layer.id);
    if (!cells) return;
    for (let c = 0; c < cells.length; c++) (cells[c] as TunedCell).pitches[voice.index] = Number.NaN;
  }

  /** How large a unit's cell is now, and which of its variants; the same object each time. */
  structureOf(plan: CellPlan, cell: VoiceCell): CellStructure {
    this.plan = plan;
    const { found, readShared } = this;
    found.size = cell.size?.(readShared, plan.rows?.length ?? 0) ?? cell.most?.(this.rate) ?? 0;
    found.variant = cell.variant?.(readShared, plan.columns) ?? 0;
    found.on = plan.on === null || (this.modulation.shared[plan.on] as number) >= 0.5;
    return found;
  }

  /** Frames of a cycle, as they are asked for now. */
  cycleOf(plan: CellPlan, cell: VoiceCell): number {
    this.plan = plan;
    return cell.cycle?.(this.readShared) ?? 0;
  }

  /** The same as one number, but for whether it is on; `version`: of the table that it reads. */
  codeOf(plan: CellPlan, version: number): number {
    const { cell } = unitSpec(plan.unit);
    if (!cell) return 0;
    const { size, variant } = this.structureOf(plan, cell);
    return (variant * 2 ** 16 + (version % 2 ** 16)) * 2 ** 20 + size;
  }

  /** Sets the inputs of some voices of a layer; with 0 frames they are fresh. `blocks`: address of each pair's cells. */
  tune(
    layer: LayerPlan,
    voices: readonly Voice[],
    list: Int32Array,
    count: number,
    frames: number,
    blocks: Int32Array,
  ): void {
    const cells = this.layers.get(layer.id);
    if (!cells) return;
    for (let c = 0; c < cells.length; c++) this.tuneCell(cells[c] as TunedCell, voices, list, count, frames, blocks);
  }

  private tuneCell(
    tuned: TunedCell,
    voices: readonly Voice[],
    list: Int32Array,
    count: number,
    frames: number,
    blocks: Int32Array,
  ): void {
    const { modulation, out, rate } = this;
    const { cell, plan, own, values, pitches } = tuned;
    const { params } = plan;
    if (tuned.sharedRows.length > 0 && tuned.rowWatch.moved(modulation.shared)) this.moveRows(tuned);
    if (tuned.beats && tuned.tempo !== modulation.tempo) {
      tuned.tempo = modulation.tempo;
      tuned.dirty = true;
    }
    // Fresh voices don't use up that something has moved, which the others are still to hear of.
    const moved = frames === 0 || tuned.watch.moved(modulation.shared) || tuned.dirty;
    if (frames > 0) tuned.dirty = false;
    if (!moved && cell.pitched !== true) return;
    const on = plan.on === null || (modulation.shared[plan.on] as number) >= 0.5;
    let known = false;
    for (let i = 0; i < count; i++) {
      const v = list[i] as number;
      const pitch = this.numbers.pitch[v] as number;
      if (!moved && pitch === pitches[v]) continue;
      if (own || !known) {
        for (let p = 0; p < params.length; p++) {
          const { id, operand, octaves } = params[p] as CellPlan["params"][number];
          const value = modulation.read(operand, v);
          values[id] = octaves ? 2 ** value : value;
        }
      }
      if (own || !known || cell.pitched) cell.tune(tuned.read, out, pitch, rate, tuned.sampleRate, modulation.tempo);
      if (tuned.ownRows.length > 0) this.tuneOwnRows(tuned, v);
      known = true;
      pitches[v] = pitch;
      this.write(voices[v] as Voice, (blocks[v >> 1] as number) + tuned.offset, tuned.inputs, on);
    }
  }

  /** What all voices share of a table has moved. */
  private moveRows(tuned: TunedCell): void {
    for (let r = 0; r < tuned.sharedRows.length; r++) {
      const row = tuned.sharedRows[r] as MovedRow;
      this.readRow(row, 0);
      tuned.table?.set(row.row, row.values);
    }
    tuned.dirty = true;
  }

  private readRow({ moved, values }: MovedRow, v: number): void {
    for (let m = 0; m < moved.length; m++) {
      const { column, operand, octaves } = moved[m] as CellPlan["moved"][number];
      const value = this.modulation.read(operand, v);
      values[column] = octaves ? 2 ** value : value;
    }
  }

  private tuneOwnRows({ cell, ownRows }: TunedCell, v: number): void {
    const { rows } = cell;
    if (!rows) return;
    const { rowNumbers, out } = this;
    for (let s = 0; s < ownRows.length; s++) {
      const row = ownRows[s] as MovedRow;
      this.readRow(row, v);
      rows.put(row.values, this.rate, rowNumbers, 0);
      for (let n = 0; n < rows.numbers; n++) both(out, rows.own + s * rows.numbers + n, rowNumbers[n] as number);
    }
  }

  private write({ side }: Voice, at: number, inputs: number, on: boolean): void {
    const { f32, i32 } = this.heap;
    const { out } = this;
    let lane = (at + CELL_INPUTS) / 4 + side * 2;
    for (let i = 0; i < inputs; i++) {
      f32[lane] = out[i * 2] as number;
      f32[lane + 1] = out[i * 2 + 1] as number;
      lane += INPUT_BYTES / 4;
    }
    i32[(at + CELL_STATE) / 4] = MOVED;
    f32[(at + WET_TARGET) / 4] = on ? 1 : 0;
  }
}

function makeTuned(
  { plan, cell, offset, inputs }: { plan: CellPlan; cell: VoiceCell; offset: number; inputs: number },
  old: TunedCell | undefined,
  rate: Hertz,
): TunedCell {
  const values: Record<string, number> = {};
  for (const { id } of plan.params) values[id] = 0;
  const operands = plan.params.map((p) => p.operand);
  const rows = movedRows(plan);
  const ownRows = rows.filter((r) => r.moved.some((m) => m.operand < 0)).slice(0, OWN_ROWS);
  const sharedRows = rows.filter((r) => r.moved.every((m) => m.operand >= 0));
  const all = [...operands, ...ownRows.flatMap((r) => r.moved.map((m) => m.operand))];
  return {
    plan,
    cell,
    offset,
    inputs,
    watch: new Watch(Int32Array.from(plan.on === null ? all : [...all, plan.on])),
    own: all.some((o) => o < 0),
    ownRows,
    sharedRows,
    rowWatch: new Watch(Int32Array.from(sharedRows.flatMap((r) => r.moved.map((m) => m.operand)))),
    table: old?.table ?? null,
    values,
    read: (id) => values[id] as number,
    pitches: old?.pitches ?? new Float64Array(MOST_VOICES).fill(Number.NaN),
    sampleRate: old?.sampleRate ?? rate,
    beats: plan.params.some((p) => p.id === "sync"),
    tempo: Number.NaN,
    dirty: old?.dirty ?? false,
  };
}

/** The rows of a unit's table in which something moves, each with all its columns. */
function movedRows({ rows, moved }: CellPlan): MovedRow[] {
  const numbers = [...new Set(moved.map((m) => m.row))];
  return numbers.map((row) => ({
    row,
    values: { ...rows?.[row] },
    moved: moved.filter((m) => m.row === row),
  }));
}
