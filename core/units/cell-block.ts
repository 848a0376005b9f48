import type { Hertz } from "../audio";
import {
  BENCH_BYTES,
  CELL_BYTES,
  CELL_COUNT,
  CELL_INPUTS,
  CELL_KIND,
  CELL_SPLICE,
  CELL_STATE,
  CELLS,
  CONTROL,
  INPUT_BYTES,
  KernelMemory,
  type Kernels,
  kindOf,
  MIDDLE_C,
  MOVED,
  PAIR_BYTES,
  PLAYING,
  STATE,
  VOICE_A,
  VOICE_B,
  WET,
  WET_TARGET,
} from "../dsp";
import type { Block, BlockUnit, VoiceCell } from "./unit";

/** Memory of one cell: the bench, a pair, the cell itself. */
const BYTES = 2 ** 20;

/** A voice's cell over the two channels of a bus: one pair of voices in a memory of its own, of which the first is what goes over the bus. */
class CellUnit implements BlockUnit {
  readonly ring: number;
  private readonly f32: Float32Array;
  private readonly i32: Int32Array;
  /** Addresses: a list that names the pair, the pair, its cell, the block. */
  private readonly list: number;
  private readonly pair: number;
  private readonly cell: number;
  private readonly block: number;
  private readonly inputs: number;
  private readonly values: Float64Array;

  constructor(
    private readonly kernels: Kernels,
    private readonly voice: VoiceCell,
    private readonly rate: Hertz,
  ) {
    const memory = new KernelMemory(kernels);
    const kind = kindOf(voice.kernel);
    const size = voice.most?.(rate) ?? 0;
    const bytes = kernels.bytesOf(kind, size);
    this.inputs = kernels.inputsOf(kind);
    this.values = new Float64Array(this.inputs * 2);
    this.block = memory.floats(BENCH_BYTES / 4);
    this.list = memory.floats(4);
    this.pair = memory.floats(PAIR_BYTES / 4);
    this.cell = memory.floats(bytes / 4);
    this.f32 = new Float32Array(kernels.memory.buffer);
    this.i32 = new Int32Array(kernels.memory.buffer);
    const { i32, f32, pair, cell } = this;
    i32[this.list / 4] = pair;
    for (const side of [VOICE_A, VOICE_B]) i32[(pair + side + STATE) / 4] = PLAYING;
    i32[(pair + CELL_COUNT) / 4] = 1;
    i32[(pair + CELLS) / 4] = cell;
    i32[(cell + CELL_KIND) / 4] = kind;
    i32[(cell + CELL_BYTES) / 4] = bytes;
    f32[(cell + WET) / 4] = 1;
    f32[(cell + WET_TARGET) / 4] = 1;
    f32[(cell + CELL_SPLICE) / 4] = 1;
    this.ring = Math.ceil((voice.ring ?? 0) * rate);
  }

  private begun = false;

  tune(read: (id: string) => number, tempo: number): void {
    const { values, f32, cell } = this;
    this.voice.tune(read, values, MIDDLE_C - Math.log2(this.rate), this.rate, this.rate, tempo);
    for (let input = 0; input < this.inputs; input++) {
      const at = (cell + CELL_INPUTS + input * INPUT_BYTES) / 4;
      for (let lane = 0; lane < 4; lane++) f32[at + lane] = values[input * 2 + (lane & 1)] as number;
    }
    this.i32[(cell + CELL_STATE) / 4] = MOVED;
    if (!this.begun) this.reset();
  }

  control(): void {
    this.kernels.controlPairs(this.list, 1, CONTROL);
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { f32 } = this;
    const block = this.block / 4;
    for (let i = from; i < to; i++) {
      const at = block + (i - from) * 4;
      f32[at] = left[i] as number;
      f32[at + 1] = right[i] as number;
      f32[at + 2] = 0;
      f32[at + 3] = 0;
    }
    this.kernels.runCells(this.pair, this.block, to - from);
    for (let i = from; i < to; i++) {
      const at = block + (i - from) * 4;
      left[i] = f32[at] as number;
      right[i] = f32[at + 1] as number;
    }
  }

  reset(): void {
    this.begun = true;
    for (const side of [0, 1]) this.kernels.beginVoice(this.pair, side);
  }
}

/**
 * Lets what computes a unit in each voice compute it over the sum of all, too: where it goes by the key, at middle C. Only for cells without a table,
 * a sample or variants.
 */
export const blockOf =
  (voice: VoiceCell) =>
  (rate: Hertz, kernels: Kernels): Block => {
    const unit = new CellUnit(kernels.twin(BYTES), voice, rate);
    return { unit, tune: (read, tempo) => unit.tune(read, tempo) };
  };
