import { FUSED_KERNELS_BASE64, KERNELS_BASE64 } from "./binary";

/** The kernels over one memory; see assembly/voices.ts. All numbers are byte addresses or counts. */
export interface Kernels {
  readonly memory: WebAssembly.Memory;
  /** Renders the `count` voice pairs whose addresses stand at `list` for `frames` frames (at most 128) into their buses, `from` frames into the block. */
  readonly renderPairs: (list: number, count: number, scratch: number, from: number, frames: number) => void;
  /** Takes the new targets of `count` pairs: ramps over the next `frames` frames. */
  readonly controlPairs: (list: number, count: number, frames: number) => void;
  /** Aims section `section` of `count` pairs at one cutoff (log2 of cutoff / sample rate) over the next frames, before their control. */
  readonly moveSections: (list: number, count: number, section: number, cutoff: number, frames: number) => void;
  /** Aims the gains of a pair at their targets over the next frames. */
  readonly aimGains: (pair: number, frames: number) => void;
  /** Lets a voice (side 0 or 1 of a pair) stand at its targets at once. */
  readonly beginVoice: (pair: number, side: number) => void;
  /** Adds the product of two spectra (addresses of their real and imaginary parts; `count` bins, a multiple of 4) to a sum. */
  readonly multiplyAdd: (
    sumRe: number,
    sumIm: number,
    aRe: number,
    aIm: number,
    bRe: number,
    bIm: number,
    count: number,
  ) => void;
  /** `frames` values of a filter of 128 reversed taps over an input: out[n] = Σ taps[k] · input[n + k]. */
  readonly direct: (out: number, taps: number, input: number, frames: number) => void;
  /** The same kernels over another memory of their own. */
  readonly twin: (bytes: number) => Kernels;
}

const DIGITS = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";

/** Bytes of base64 text; the core has no `atob`. */
function bytesOf(base64: string): Uint8Array<ArrayBuffer> {
  const clean = base64.replace(/=+$/, "");
  const out = new Uint8Array(Math.floor((clean.length * 3) / 4));
  let bits = 0;
  let held = 0;
  let at = 0;
  for (const digit of clean) {
    bits = ((bits << 6) | DIGITS.indexOf(digit)) & 0xffffff;
    held += 6;
    if (held >= 8) {
      held -= 8;
      out[at++] = (bits >> held) & 255;
    }
  }
  return out;
}

/**
 * Compiles the kernels; the module can be posted to a worker or a worklet. Where the runtime has relaxed SIMD they multiply and add
 * in one step, which is a fifth faster and differs in the last bit: outputs of both are less than −120 dB apart.
 */
export function compileKernels(): WebAssembly.Module {
  const fused = bytesOf(FUSED_KERNELS_BASE64);
  return new WebAssembly.Module(WebAssembly.validate(fused) ? fused : bytesOf(KERNELS_BASE64));
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
  const { renderPairs, controlPairs, moveSections, beginVoice, aimGains, multiplyAdd, direct } = instance.exports;
  return {
    memory,
    renderPairs: renderPairs as Kernels["renderPairs"],
    controlPairs: controlPairs as Kernels["controlPairs"],
    moveSections: moveSections as Kernels["moveSections"],
    beginVoice: beginVoice as Kernels["beginVoice"],
    aimGains: aimGains as Kernels["aimGains"],
    multiplyAdd: multiplyAdd as Kernels["multiplyAdd"],
    direct: direct as Kernels["direct"],
    twin: (bytes) => startKernels(module, bytes),
  };
}
