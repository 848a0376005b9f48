import type { Seconds } from "../audio";
import {
  ABSENT,
  bakeCycles,
  bakeWaves,
  CELL_ALONE,
  CELL_BYTES,
  CELL_COUNT,
  CELL_INPUTS,
  CELL_KIND,
  CELL_SIZE,
  CELL_SPLICE,
  CELL_STATE,
  CELL_TABLE,
  CELL_VARIANT,
  CELLS,
  COMPUTED,
  INPUT_BYTES,
  KEPT,
  LADDER,
  type ReadyCycles,
  type ReadyWaves,
  SECTION_BYTES,
  SECTION_MEMORY,
  TAP,
  WET,
  WET_TARGET,
} from "../dsp";
import { type TableRow, unitSpec } from "../units";
import { type CellLayout, layOut, type PlacedUnit, SECTIONS_OF_FILTER } from "./cell-layout";
import { CellSlab } from "./cell-slab";
import { CellTable } from "./cell-table";
import { CellTuner } from "./cell-tuner";
import { FilterTuner } from "./filter-tuner";
import type { LayerPlan, Plan } from "./plan";
import { RowTable } from "./row-table";
import type { SharedParts } from "./shared-parts";
import { frameReader } from "./stored-sample";
import type { Voice } from "./voice";
import { MOST_LAYERS, MOST_VOICES } from "./voice-pool";
import { WaveTables } from "./wave-tables";

/** Bytes that the cells of all layers' voices may take, and those of one layer: beyond them fewer voices can sound at once. */
const MOST_BYTES = 160e6;
const MOST_BYTES_OF_LAYER = 32e6;
/** Pairs of a layer that there is always room for. */
const FEWEST_PAIRS = 4;

/** Cycles of a sample that are to be made elsewhere, and their frames. */
export interface CyclesWanted {
  readonly sha: string;
  readonly cycle: number;
}
const NO_CYCLES: readonly CyclesWanted[] = [];

/** The cells of one layer: how a pair's block is laid out, the blocks, the tables that all voices share. */
interface LayerCells {
  layout: CellLayout;
  readonly slab: CellSlab | null;
  /** The table of each unit that has rows, and what stands there. */
  readonly rowTables: readonly (RowTable | null)[];
  readonly rows: (readonly TableRow[] | null)[];
  readonly own: string[];
  /** What each unit reads that plays a sample. */
  readonly tables: readonly (CellTable | null)[];
}

/**
 * What computes the voices apart from reading samples: the cells of each pair lie in a row in a block of its layer's slab. Kernels are told
 * their inputs by the tuners; here is who has which block, and what happens to it when voices begin, go over to others, and end.
 */
export class VoiceCells {
  private layers: LayerCells[] = [];
  private byId = new Map<string, LayerCells>();
  /** Slabs of layers that have become others, until nobody has a block of them any more. */
  private retired: LayerCells[] = [];
  /** Whose block each pair has, and which. */
  private readonly owners: (LayerCells | null)[] = new Array(MOST_VOICES / 2).fill(null);
  private readonly blocks = new Int32Array(MOST_VOICES / 2);
  private readonly waves: WaveTables;
  private readonly filters: FilterTuner;
  private readonly cells: CellTuner;

  constructor(private readonly shared: SharedParts) {
    this.waves = new WaveTables(shared.heap);
    this.filters = new FilterTuner(shared);
    this.cells = new CellTuner(shared);
    shared.pool.hasRoom = (layer) => this.hasRoom(layer);
  }

  /** Takes a plan's layers; those whose units are the same ones keep their blocks. Allocates. */
  setPlan(plan: Plan): void {
    const { kernels, rate } = this.shared;
    if (
      plan.layers.some((l) => [l.source, ...l.stages].some((u) => u?.kind === "cell" && unitSpec(u.unit).cell?.waves))
    )
      this.waves.prepare();
    // Where somebody waits for it, as in a render, all are made now.
    if (this.waves.awaiting && !this.shared.options.arriving) {
      this.waves.give(bakeWaves());
      this.waves.work(Number.POSITIVE_INFINITY);
    }
    const layouts = plan.layers.map((layer) => layOut(layer, kernels, rate));
    const strides = layouts.reduce((sum, l) => sum + l.stride, 0);
    const byId = new Map<string, LayerCells>();
    this.layers = plan.layers.map((layer, l) => {
      const layout = layouts[l] as CellLayout;
      const old = this.byId.get(layer.id);
      const made = old?.layout.name === layout.name ? old : this.make(layout, strides);
      made.layout = layout;
      byId.set(layer.id, made);
      return made;
    });
    for (const [id, old] of this.byId) if (byId.get(id) !== old) this.retired.push(old);
    this.byId = byId;
    this.filters.setPlan(plan, layouts);
    this.cells.setPlan(plan, layouts);
    this.layers.forEach((layer, l) => {
      this.writeTables(plan.layers[l] as LayerPlan, layer);
    });
    this.followSamples();
    this.tidy();
  }

  private make(layout: CellLayout, strides: number): LayerCells {
    const { pool } = this.shared;
    const pairs = pool.voices.length / 2;
    const bytes = Math.min(MOST_BYTES_OF_LAYER, (MOST_BYTES * layout.stride) / Math.max(1, strides));
    const blocks = Math.min(pairs, Math.max(FEWEST_PAIRS, Math.floor(bytes / Math.max(1, layout.stride))));
    const { units } = layout;
    return {
      layout,
      slab: layout.stride > 0 ? this.makeSlab(layout.stride, blocks) : null,
      rowTables: units.map((u) =>
        u.kind === "cell" && u.cell.rows
          ? new RowTable(this.shared.heap, u.cell.rows, u.plan.mostRows, this.shared.rate)
          : null,
      ),
      rows: units.map(() => null),
      own: units.map(() => ""),
      tables: units.map((u) =>
        u.kind === "cell" && u.cell.sampled
          ? new CellTable(this.shared.heap, u.cell.cycle !== undefined, this.shared.rate)
          : null,
      ),
    };
  }

  /** As many blocks as memory has room for, at the most so many; null where there is none at all: then the layer can't sound. */
  private makeSlab(stride: number, most: number): CellSlab | null {
    for (let blocks = most; blocks > 0; blocks = Math.floor(blocks / 2)) {
      try {
        return new CellSlab(this.shared.heap, stride, blocks);
      } catch (error) {
        if (!(error instanceof RangeError)) throw error;
      }
    }
    return null;
  }

  /** Tells the units that read samples where these are by now; `gone`: one that won't come any more, it is silence. Allocates. */
  followSamples(gone: string | null = null): void {
    for (const [id, layer] of this.byId) {
      layer.layout.units.forEach((unit, u) => {
        const table = layer.tables[u];
        if (!table || unit.kind !== "cell") return;
        const { sample } = unit.plan;
        const stored = sample === null ? null : (this.shared.store.get(sample) ?? null);
        const { version } = table;
        if (!table.follow(stored, sample !== null && sample !== gone, this.cells.cycleOf(unit.plan, unit.cell))) return;
        // Where samples come ready from elsewhere cycles do, too; otherwise somebody waits for them.
        if (!this.shared.options.arriving) this.bake(table);
        if (table.version !== version) this.showTable(id, unit.id, table);
      });
    }
  }

  /** Makes a table's cycles here. */
  private bake(table: CellTable): void {
    const { wanted } = table;
    if (!wanted) return;
    const { sample, cycle } = wanted;
    table.give(bakeCycles(sample.frames, cycle, frameReader(this.shared.heap.memory.buffer, sample, false)));
    table.work(Number.POSITIVE_INFINITY);
  }

  /** Calls `visit` with each table of a sample's cycles, and with the sample. */
  private eachOfCycles(visit: (table: CellTable, sample: string) => void): void {
    for (const { layout, tables } of this.byId.values())
      for (const [u, table] of tables.entries()) {
        const unit = layout.units[u];
        if (table && unit?.kind === "cell" && unit.plan.sample !== null) visit(table, unit.plan.sample);
      }
  }

  /** The cycles that are wanted since it was asked last. Allocates where there are any. */
  cyclesWanted(): readonly CyclesWanted[] {
    let wanted = NO_CYCLES;
    this.eachOfCycles((table, sha) => {
      const cycle = table.ask();
      if (cycle === 0 || wanted.some((w) => w.sha === sha && w.cycle === cycle)) return;
      wanted = [...wanted, { sha, cycle }];
    });
    return wanted;
  }

  /** Takes the cycles of a sample, made elsewhere. */
  takeCycles(sha: string, ready: ReadyCycles): void {
    this.eachOfCycles((table, sample) => {
      if (sample === sha) table.give(ready);
    });
  }

  /** Whether the simple waves' tables are to be made elsewhere, the first time that it is asked. */
  wavesWanted(): boolean {
    return this.waves.ask();
  }

  /** Takes the simple waves' tables, made elsewhere. */
  takeWaves(ready: ReadyWaves): void {
    this.waves.give(ready);
  }

  /** Whether tables or cycles are still being made elsewhere. */
  get awaiting(): boolean {
    let any = this.waves.awaiting;
    this.eachOfCycles((table) => {
      any ||= table.wanted !== null;
    });
    return any;
  }

  /** Voices that begin read another table, and those that sound are to be handed over. */
  private showTable(layer: string, unit: string, { rate }: CellTable): void {
    this.cells.setSampleRate(layer, unit, rate);
    this.shared.recast = true;
  }

  private tableAtWork(): { layer: string; unit: string; table: CellTable } | null {
    for (const [layer, { tables, layout }] of this.byId)
      for (const [u, table] of tables.entries())
        if (table?.working) return { layer, unit: (layout.units[u] as PlacedUnit).id, table };
    return null;
  }

  /** Whether there are tables to be copied. */
  get working(): boolean {
    return this.waves.working || this.tableAtWork() !== null;
  }

  /** Copies about so many bytes of tables. Allocates. */
  work(bytes: number): void {
    if (this.waves.working) {
      this.waves.work(bytes);
      return;
    }
    const next = this.tableAtWork();
    if (!next) return;
    next.table.work(bytes);
    if (!next.table.working) this.showTable(next.layer, next.unit, next.table);
  }

  /** Writes what has become other of the tables; all voices hear of it at the next control step. */
  private writeTables({ id }: LayerPlan, { layout, rowTables, rows, own }: LayerCells): void {
    layout.units.forEach((unit, u) => {
      const table = rowTables[u];
      if (unit.kind !== "cell" || !table) return;
      const ofVoices = this.cells.giveTable(id, unit.id, table);
      if (unit.plan.rows === rows[u] && ofVoices.join() === own[u]) return;
      rows[u] = unit.plan.rows;
      own[u] = ofVoices.join();
      table.write(unit.plan.rows ?? [], ofVoices);
      this.cells.touch(id, unit.id);
    });
  }

  /** Gives back what nobody uses any more. Allocates. */
  tidy(): void {
    for (const layer of this.retired) this.sweep(layer);
    this.retired = this.retired.filter((layer) => {
      const { slab, tables, rowTables } = layer;
      if (slab && !slab.release()) return true;
      for (const table of tables) table?.release();
      for (const table of rowTables) table?.release();
      return false;
    });
    for (const layer of this.byId.values())
      layer.tables.forEach((table, u) => {
        if (table?.hasOld) table.tidy((at) => this.isRead(layer, u, at));
      });
  }

  /** Whether a voice that sounds reads a table. */
  private isRead(layer: LayerCells, unit: number, table: number): boolean {
    const { heap, pool } = this.shared;
    const { offset } = layer.layout.units[unit] as PlacedUnit;
    return this.owners.some((owner, p) => {
      if (owner !== layer) return false;
      if (!(pool.voices[p * 2] as Voice).active && !(pool.voices[p * 2 + 1] as Voice).active) return false;
      return heap.u32[((this.blocks[p] as number) + offset + CELL_TABLE) / 4] === table;
    });
  }

  /** Whether another pair of a layer can begin. */
  private hasRoom(layer: number): boolean {
    const cells = this.layers[layer];
    if (!cells || cells.layout.stride === 0) return true;
    if (!cells.slab) return false;
    return cells.slab.available > 0 || this.sweep(cells);
  }

  /** Takes back the blocks of pairs that don't sound; whether there were any. */
  private sweep(layer: LayerCells): boolean {
    const { voices } = this.shared.pool;
    let any = false;
    for (let p = 0; p < this.owners.length; p++) {
      if (this.owners[p] !== layer) continue;
      if ((voices[p * 2] as Voice).active || (voices[p * 2 + 1] as Voice).active) continue;
      this.giveBack(p);
      any = true;
    }
    return any;
  }

  private giveBack(p: number): void {
    const { heap, pool } = this.shared;
    const { pair } = pool.voices[p * 2] as Voice;
    this.owners[p]?.slab?.give(this.blocks[p] as number);
    this.owners[p] = null;
    heap.i32[(pair + CELL_COUNT) / 4] = 0;
    heap.i32[(pair + COMPUTED) / 4] = 0;
  }

  /** How the cells of a layer's voices lie. */
  layoutOf(layer: number): CellLayout {
    return (this.layers[layer] as LayerCells).layout;
  }

  /** Frames for which a layer's voices may be silent although they still ring. */
  ringOf(layer: number): number {
    return (this.layers[layer]?.layout.ring ?? 0) * this.shared.rate;
  }

  /** A fresh voice: its cells have heard nothing. `alone`: the other voice of its pair is free. */
  begin(voice: Voice, layer: LayerPlan, alone: boolean): void {
    const cells = this.byId.get(layer.id) as LayerCells;
    const p = voice.index >> 1;
    if (alone) this.takeBlock(voice, cells, p);
    const block = this.blocks[p] as number;
    this.filters.begin(voice, layer, block);
    this.cells.begin(voice, layer);
  }

  private takeBlock({ pair, layer }: Voice, cells: LayerCells, p: number): void {
    const { u32, i32 } = this.shared.heap;
    if (this.owners[p]) this.giveBack(p);
    const { layout, slab } = cells;
    i32[(pair + COMPUTED) / 4] = layout.computed ? 1 : 0;
    i32[(pair + CELL_COUNT) / 4] = layout.certain;
    u32[(pair + TAP) / 4] = 0;
    if (!slab) return;
    if (!this.hasRoom(layer)) {
      this.blocks[p] = slab.spare;
      i32[(pair + CELL_COUNT) / 4] = 0;
      return;
    }
    const block = slab.take();
    this.owners[p] = cells;
    this.blocks[p] = block;
    u32[(pair + CELLS) / 4] = block;
    for (let u = 0; u < layout.units.length; u++) {
      const unit = layout.units[u] as PlacedUnit;
      if (unit.kind === "filter") this.clearSections(block + unit.offset);
      else this.clearCell(block + unit.offset, unit, cells.tables[u]?.at ?? cells.rowTables[u]?.at ?? 0);
    }
  }

  private clearSections(at: number): void {
    const { f32, i32 } = this.shared.heap;
    f32.fill(0, at / 4, (at + SECTIONS_OF_FILTER * SECTION_BYTES) / 4);
    for (let s = 0; s < SECTIONS_OF_FILTER; s++) {
      i32[(at + s * SECTION_BYTES + CELL_KIND) / 4] = ABSENT;
      i32[(at + s * SECTION_BYTES + CELL_BYTES) / 4] = SECTION_BYTES;
    }
  }

  private clearCell(at: number, unit: PlacedUnit & { kind: "cell" }, table: number): void {
    const { f32, i32, u32 } = this.shared.heap;
    f32.fill(0, at / 4, (at + CELL_INPUTS + unit.inputs * INPUT_BYTES) / 4);
    i32[(at + CELL_KIND) / 4] = unit.kernel;
    i32[(at + CELL_BYTES) / 4] = unit.bytes;
    const { size, variant, on } = this.cells.structureOf(unit.plan, unit.cell);
    f32[(at + CELL_SPLICE) / 4] = (unit.cell.ring ? RINGING_SPLICE : SPLICE) * this.shared.rate;
    i32[(at + CELL_SIZE) / 4] = size;
    i32[(at + CELL_VARIANT) / 4] = variant;
    u32[(at + CELL_TABLE) / 4] = unit.cell.waves ? this.waves.at : table;
    f32[(at + WET) / 4] = on ? 1 : 0;
    f32[(at + WET_TARGET) / 4] = on ? 1 : 0;
  }

  /** Lets a voice that takes over go on with what the cells of another remember, wherever both have the same unit; its targets must be set. */
  takeOver(from: Voice, to: Voice): void {
    const old = this.owners[from.index >> 1];
    const cells = this.owners[to.index >> 1];
    if (!old || !cells) return;
    const a = this.blocks[from.index >> 1] as number;
    const b = this.blocks[to.index >> 1] as number;
    for (let u = 0; u < cells.layout.units.length; u++) {
      const unit = cells.layout.units[u] as PlacedUnit;
      let known = false;
      let moved = false;
      for (let o = 0; o < old.layout.units.length; o++) {
        const other = old.layout.units[o] as PlacedUnit;
        if (other.id !== unit.id || other.kind !== unit.kind || other.bytes !== unit.bytes) continue;
        if (unit.kind === "filter") this.copySections(a + other.offset, b + unit.offset, from.side, to.side);
        else if (
          other.kind === "cell" &&
          unit.kind === "cell" &&
          unit.cell.ring &&
          this.isElsewhere(old.layout, a, o, cells.layout, u)
        )
          moved = true;
        else if (other.kind === "cell" && other.kernel === unit.kernel)
          known = this.copyCell(a + other.offset, b + unit.offset, unit, from.side, to.side);
      }
      // A stage that is new comes in as one does that is switched on.
      if (unit.kind === "cell" && unit.plan.on !== null && !known)
        this.shared.heap.f32[(b + unit.offset + WET) / 4] = 0;
      // Past one that was heard before, no sound is to get.
      if (moved) this.shared.heap.i32[(b + unit.offset + CELL_ALONE) / 4] = 1;
    }
  }

  /**
   * Whether something that stood before a unit no longer does, or something that stood behind it does now: then it hears another sound from one frame to
   * the next, and what it remembers of the one before would ring with the joint. Who is new, or was passed, comes in slowly: that is no joint.
   */
  private isElsewhere(old: CellLayout, block: number, o: number, now: CellLayout, u: number): boolean {
    for (let i = 0; i < o; i++) {
      const place = placeOf(now, old.units[i]?.id ?? "");
      if ((place < 0 || place >= u) && this.isHeard(old, block, i)) return true;
    }
    for (let i = 0; i < u; i++) {
      const place = placeOf(old, now.units[i]?.id ?? "");
      if (place > o && this.isHeard(old, block, place)) return true;
    }
    return false;
  }

  /** Whether any sound goes through a unit of a block. */
  private isHeard(layout: CellLayout, block: number, u: number): boolean {
    const unit = layout.units[u] as PlacedUnit;
    return unit.kind !== "cell" || unit.plan.on === null || this.shared.heap.f32[(block + unit.offset + WET) / 4] !== 0;
  }

  private copySections(from: number, to: number, fromSide: number, toSide: number): void {
    const { i32 } = this.shared.heap;
    for (let s = 0; s < SECTIONS_OF_FILTER; s++) {
      const a = from + s * SECTION_BYTES;
      const b = to + s * SECTION_BYTES;
      const kind = i32[(b + CELL_KIND) / 4] as number;
      if (kind === ABSENT || i32[(a + CELL_KIND) / 4] !== kind) continue;
      this.copyLanes(a + SECTION_MEMORY, b + SECTION_MEMORY, kind === LADDER ? 64 : 32, fromSide, toSide);
    }
  }

  private copyCell(
    from: number,
    to: number,
    unit: PlacedUnit & { kind: "cell" },
    fromSide: number,
    toSide: number,
  ): boolean {
    const { f32, i32 } = this.shared.heap;
    // One that has become of another variant or size hears the sound anew.
    if (i32[(from + CELL_SIZE) / 4] !== i32[(to + CELL_SIZE) / 4]) return false;
    if (i32[(from + CELL_VARIANT) / 4] !== i32[(to + CELL_VARIANT) / 4] && !unit.cell.keeps) return false;
    if (f32[(from + WET) / 4] === 0) return false;
    const head = CELL_INPUTS + unit.inputs * INPUT_BYTES;
    this.copyLanes(from + head, to + head, unit.bytes - head, fromSide, toSide);
    i32[(to + CELL_STATE) / 4] = KEPT;
    return true;
  }

  /** Copies one voice's half of each vector. */
  private copyLanes(from: number, to: number, bytes: number, fromSide: number, toSide: number): void {
    const { u32 } = this.shared.heap;
    let a = from / 4 + fromSide * 2;
    let b = to / 4 + toSide * 2;
    for (let left = bytes; left > 0; left -= 16) {
      u32[b] = u32[a] as number;
      u32[b + 1] = u32[a + 1] as number;
      a += 4;
      b += 4;
    }
  }

  /** Address of the cell of a unit in a voice's pair; 0 where it has none. */
  cellOf(voice: Voice, unit: string): number {
    const cells = this.owners[voice.index >> 1];
    if (!cells) return 0;
    for (let u = 0; u < cells.layout.units.length; u++) {
      const placed = cells.layout.units[u] as PlacedUnit;
      if (placed.id === unit && placed.kind === "cell")
        return (this.blocks[voice.index >> 1] as number) + placed.offset;
    }
    return 0;
  }

  /** Sets the targets of the cells of some voices of a layer; with 0 frames they are fresh, else these are all that it has. */
  tune(layer: LayerPlan, voices: readonly Voice[], list: Int32Array, count: number, frames: number): void {
    this.filters.tune(layer, voices, list, count, frames);
    this.cells.tune(layer, voices, list, count, frames, this.blocks);
  }

  /** A voice's cells stay as they are from now on: its layer's have become others. */
  freeze(voice: Voice): void {
    this.filters.freeze(voice);
  }

  /** A voice's cells forget what they have heard, for it was no sound. */
  forget(voice: Voice): void {
    const cells = this.owners[voice.index >> 1];
    if (!cells) return;
    const block = this.blocks[voice.index >> 1] as number;
    const { u32 } = this.shared.heap;
    for (let u = 0; u < cells.layout.units.length; u++) {
      const unit = cells.layout.units[u] as PlacedUnit;
      if (unit.kind === "filter") this.filters.clear(voice, block + unit.offset);
      else {
        const head = CELL_INPUTS + unit.inputs * INPUT_BYTES;
        for (
          let at = (block + unit.offset + head) / 4 + voice.side * 2;
          at < (block + unit.offset + unit.bytes) / 4;
          at += 4
        ) {
          u32[at] = 0;
          u32[at + 1] = 0;
        }
      }
    }
  }

  /** Writes what decides whether a layer's voices can go on in the same cells: kinds of the filters' sections, sizes and variants, and which tables they read. */
  structure(layer: LayerPlan, out: Float64Array, at: number): void {
    out.fill(-1, at, at + MOST_UNITS);
    const tables = this.byId.get(layer.id)?.tables;
    let u = 0;
    if (layer.source) out[at] = this.cells.codeOf(layer.source, tables?.[u++]?.version ?? 0);
    for (let s = 0; s < layer.stages.length; s++) {
      const stage = layer.stages[s];
      if (!stage) continue;
      const version = tables?.[u++]?.version ?? 0;
      out[at + 1 + s] = stage.kind === "filter" ? this.filters.codeOf(stage) : this.cells.codeOf(stage, version);
    }
  }
}

function placeOf(layout: CellLayout, id: string): number {
  for (let i = 0; i < layout.units.length; i++) if (layout.units[i]?.id === id) return i;
  return -1;
}

/** Units in a voice: the source and eight stages. */
export const MOST_UNITS = 9;
export const STRUCTURES = MOST_UNITS * MOST_LAYERS;

/** Time in which a cell comes in or goes out; what rings swings into its own motion more slowly, so that its own curve isn't a step. */
const SPLICE: Seconds = 0.003;
const RINGING_SPLICE: Seconds = 0.02;
