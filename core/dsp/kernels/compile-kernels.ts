import { FUSED_KERNELS_BASE64, KERNELS_BASE64 } from "./binary";

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
