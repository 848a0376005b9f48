import { Fft } from "../audio";
import type { KernelMemory } from "./kernel-memory";

/**
 * Spectra of real sounds of one size, one after another: real and imaginary parts apart, and only the half up to the middle, for
 * the other mirrors it; a few silent bins fill up the last vector.
 */
export class Spectra {
  readonly stride: number;
  private readonly re: number;
  private readonly im: number;
  constructor(
    memory: KernelMemory,
    private readonly count: number,
    size: number,
  ) {
    this.stride = (size / 2 + 4) & ~3;
    this.re = memory.floats(count * this.stride);
    this.im = memory.floats(count * this.stride);
  }

  /** Makes all of them silent. */
  clear(f32: Float32Array): void {
    f32.fill(0, this.re / 4, this.re / 4 + this.count * this.stride);
    f32.fill(0, this.im / 4, this.im / 4 + this.count * this.stride);
  }

  /** Addresses of the parts of one spectrum. */
  reAt(index: number): number {
    return this.re + index * this.stride * 4;
  }
  imAt(index: number): number {
    return this.im + index * this.stride * 4;
  }

  put(f32: Float32Array, index: number, re: Float64Array, im: Float64Array): void {
    const [r, i] = [this.reAt(index) / 4, this.imAt(index) / 4];
    for (let k = 0; k <= re.length / 2; k++) {
      f32[r + k] = re[k] as number;
      f32[i + k] = im[k] as number;
    }
  }

  /** Puts one spectrum into the first half of two longer arrays. */
  get(f32: Float32Array, index: number, re: Float64Array, im: Float64Array): void {
    const [r, i] = [this.reAt(index) / 4, this.imAt(index) / 4];
    for (let k = 0; k <= re.length / 2; k++) {
      re[k] = f32[r + k] as number;
      im[k] = f32[i + k] as number;
    }
  }
}

/** A transform with room to work in. */
export class Workbench {
  readonly fft: Fft;
  readonly re: Float64Array;
  readonly im: Float64Array;
  constructor(readonly size: number) {
    this.fft = new Fft(size);
    this.re = new Float64Array(size);
    this.im = new Float64Array(size);
  }

  /** The spectrum of `count` values from `at`, the rest silent. */
  forward(values: Float32Array | Float64Array, at: number, count: number): void {
    const { re, im } = this;
    re.fill(0);
    im.fill(0);
    for (let i = 0; i < count; i++) re[i] = values[at + i] as number;
    this.fft.forward(re, im);
  }

  /** The real sound of the half spectrum that stands in `re` and `im`, by a forward transform of its conjugate; left in `re`. */
  inverse(): void {
    const { re, im, size } = this;
    const half = size / 2;
    im[0] = 0;
    im[half] = 0;
    for (let k = 1; k < half; k++) {
      re[size - k] = re[k] as number;
      im[size - k] = im[k] as number;
      im[k] = -(im[k] as number);
    }
    this.fft.forward(re, im);
    const scale = 1 / size;
    for (let k = 0; k < size; k++) re[k] = (re[k] as number) * scale;
  }
}
