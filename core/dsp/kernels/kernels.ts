import { CELL_KERNELS } from "./cell-kernels";

/** A kernel of voices' cells, by the name of its file. */
export type CellKernel = keyof typeof CELL_KERNELS;

/** The number by which the memory names a kernel. */
export const kindOf = (kernel: CellKernel): number => CELL_KERNELS[kernel];

/** The kernels over one memory; see assembly/voices.ts. All numbers are byte addresses or counts. */
export interface Kernels {
  readonly memory: WebAssembly.Memory;
  /** Renders the `count` voice pairs whose addresses stand at `list` for `frames` frames (at most 128) into their buses, `from` frames into the block. */
  readonly renderPairs: (list: number, count: number, scratch: number, from: number, frames: number) => void;
  /** Runs the cells of a pair over `frames` frames (at most 128) of a block, 16 bytes each. */
  readonly runCells: (pair: number, block: number, frames: number) => void;
  /** Takes the new targets of `count` pairs: ramps over the next `frames` frames. */
  readonly controlPairs: (list: number, count: number, frames: number) => void;
  /** Aims the section at `offset` among the cells of `count` pairs, behind `before` others, at one cutoff (log2 of cutoff / sample rate) over the next frames, before their control. */
  readonly moveSections: (
    list: number,
    count: number,
    before: number,
    offset: number,
    cutoff: number,
    frames: number,
  ) => void;
  /** Aims the gains of a pair at their targets over the next frames. */
  readonly aimGains: (pair: number, frames: number) => void;
  /** Lets a voice (side 0 or 1 of a pair) stand at its targets at once. */
  readonly beginVoice: (pair: number, side: number) => void;
  /** Inputs of a cell of a kind, and the bytes that it takes with a memory of a size. */
  readonly inputsOf: (kind: number) => number;
  readonly bytesOf: (kind: number, size: number) => number;
  /** Adds to a sum the products of past spectra (a ring of `count`, the newest is `turn`) with the parts `[from, to)` of an impulse; each of two channels, real and imaginary parts of `stride` bytes. */
  readonly multiplyParts: (
    sum: number,
    past: number,
    impulse: number,
    turn: number,
    count: number,
    from: number,
    to: number,
    stride: number,
  ) => void;
  /** The Fourier transform of two channels, one in each part; `turns`: the table that `turnsOf` makes. */
  readonly fourier: (re: number, im: number, workRe: number, workIm: number, turns: number, size: number) => void;
  /** The channels' own spectra out of the transform of both, and back; the spectra are empty afterwards. */
  readonly spread: (re: number, im: number, spectra: number, size: number) => void;
  readonly gather: (re: number, im: number, spectra: number, size: number) => void;
  /** Six values for each of `frames` frames, each made of itself and the `length` before it; and a frame for every six values, by `count` taps. */
  readonly oversampleUp: (input: number, out: number, taps: number, length: number, frames: number) => void;
  readonly oversampleDown: (input: number, out: number, taps: number, count: number, frames: number) => void;
  /** `frames` values of a filter of 128 reversed taps over an input: out[n] = Σ taps[k] · input[n + k]. */
  readonly direct: (out: number, taps: number, input: number, frames: number) => void;
  /** The same kernels over another memory of their own. */
  readonly twin: (bytes: number) => Kernels;
}

/** The most that a memory can grow to: 4 GiB. */
const MOST_BYTES = 2 ** 32;

/** Instantiates compiled kernels over a memory of their own, which grows to so many bytes at the most. */
export function startKernels(module: WebAssembly.Module, most = MOST_BYTES): Kernels {
  const memory = new WebAssembly.Memory({ initial: 16, maximum: Math.max(16, Math.ceil(most / 65536)) });
  const instance = new WebAssembly.Instance(module, {
    env: {
      memory,
      abort: () => {
        throw new RangeError("a kernel stopped");
      },
    },
  });
  const {
    renderPairs,
    runCells,
    controlPairs,
    moveSections,
    beginVoice,
    aimGains,
    multiplyParts,
    fourier,
    spread,
    gather,
    oversampleUp,
    oversampleDown,
    direct,
    inputsOf,
    bytesOf: sizeOf,
  } = instance.exports;
  return {
    memory,
    runCells: runCells as Kernels["runCells"],
    renderPairs: renderPairs as Kernels["renderPairs"],
    controlPairs: controlPairs as Kernels["controlPairs"],
    moveSections: moveSections as Kernels["moveSections"],
    beginVoice: beginVoice as Kernels["beginVoice"],
    aimGains: aimGains as Kernels["aimGains"],
    inputsOf: inputsOf as Kernels["inputsOf"],
    bytesOf: sizeOf as Kernels["bytesOf"],
    multiplyParts: multiplyParts as Kernels["multiplyParts"],
    fourier: fourier as Kernels["fourier"],
    spread: spread as Kernels["spread"],
    gather: gather as Kernels["gather"],
    oversampleUp: oversampleUp as Kernels["oversampleUp"],
    oversampleDown: oversampleDown as Kernels["oversampleDown"],
    direct: direct as Kernels["direct"],
    twin: (bytes) => startKernels(module, bytes),
  };
}
