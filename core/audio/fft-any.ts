import { Fft } from "./fft";

/**
 * Fourier transform of any size as a convolution with a chirp (Bluestein, "A linear filtering approach to the computation of the discrete Fourier
 * transform", 1970), by three transforms of a power of two; its tables are made once.
 */
export class AnyFft {
  private readonly fft: Fft;
  /** The chirp e^(−πin²/size). */
  private readonly cosines: Float64Array;
  private readonly sines: Float64Array;
  /** The transform of what the input times the chirp is convolved with. */
  private readonly kernelRe: Float64Array;
  private readonly kernelIm: Float64Array;
  private readonly re: Float64Array;
  private readonly im: Float64Array;

  /** `size`: at least 1. */
  constructor(readonly size: number) {
    if (!Number.isInteger(size) || size < 1) throw new RangeError(`a transform's size is a whole number, not ${size}`);
    const length = 2 ** Math.max(1, Math.ceil(Math.log2(2 * size - 1)));
    this.fft = new Fft(length);
    this.cosines = new Float64Array(size);
    this.sines = new Float64Array(size);
    this.kernelRe = new Float64Array(length);
    this.kernelIm = new Float64Array(length);
    this.re = new Float64Array(length);
    this.im = new Float64Array(length);
    for (let n = 0; n < size; n++) {
      // n² taken modulo twice the size, so that the angle stays exact however large it is.
      const angle = (Math.PI * ((n * n) % (2 * size))) / size;
      this.cosines[n] = Math.cos(angle);
      this.sines[n] = -Math.sin(angle);
      for (const at of n === 0 ? [0] : [n, length - n]) {
        this.kernelRe[at] = Math.cos(angle);
        this.kernelIm[at] = Math.sin(angle);
      }
    }
    this.fft.forward(this.kernelRe, this.kernelIm);
  }

  /** Transforms in place: X[k] = Σ x[n]·e^(−2πikn/size), both parts `size` long. */
  forward(re: Float64Array, im: Float64Array): void {
    const { size, fft, cosines, sines, kernelRe, kernelIm, re: a, im: b } = this;
    const length = fft.size;
    a.fill(0);
    b.fill(0);
    for (let n = 0; n < size; n++) multiply(re, im, n, cosines[n] as number, sines[n] as number, a, b);
    fft.forward(a, b);
    // The inverse transform is the forward one of the conjugate.
    for (let k = 0; k < length; k++) multiply(a, b, k, kernelRe[k] as number, kernelIm[k] as number, a, b);
    for (let k = 0; k < length; k++) b[k] = -(b[k] as number);
    fft.forward(a, b);
    for (let k = 0; k < size; k++) {
      a[k] = (a[k] as number) / length;
      b[k] = -(b[k] as number) / length;
      multiply(a, b, k, cosines[k] as number, sines[k] as number, re, im);
    }
  }
}

/** One complex number times another, `c + is`, into the same place of two arrays. */
function multiply(
  re: Float64Array,
  im: Float64Array,
  at: number,
  c: number,
  s: number,
  outRe: Float64Array,
  outIm: Float64Array,
): void {
  const r = re[at] as number;
  const i = im[at] as number;
  outRe[at] = r * c - i * s;
  outIm[at] = r * s + i * c;
}
