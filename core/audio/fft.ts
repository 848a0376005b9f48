/** Radix-2 fast Fourier transform (Cooley and Tukey, 1965) of one size, with tables and buffers made once. */
export class Fft {
  private readonly cosines: Float64Array;
  private readonly sines: Float64Array;
  private readonly swaps: Uint32Array;

  /** `size` is a power of two, at least 2. */
  constructor(readonly size: number) {
    const bits = Math.log2(size);
    if (!Number.isInteger(bits) || bits < 1) throw new RangeError(`an FFT's size is a power of two, not ${size}`);
    this.cosines = new Float64Array(size / 2);
    this.sines = new Float64Array(size / 2);
    for (let i = 0; i < size / 2; i++) {
      this.cosines[i] = Math.cos((2 * Math.PI * i) / size);
      this.sines[i] = Math.sin((2 * Math.PI * i) / size);
    }
    this.swaps = new Uint32Array(size);
    for (let i = 0; i < size; i++) {
      let reversed = 0;
      for (let b = 0; b < bits; b++) reversed |= ((i >>> b) & 1) << (bits - 1 - b);
      this.swaps[i] = reversed;
    }
  }

  /** Transforms in place: X[k] = Σ x[n]·e^(−2πikn/size), both parts `size` long. */
  forward(re: Float64Array, im: Float64Array): void {
    const { size, cosines, sines, swaps } = this;
    for (let i = 0; i < size; i++) {
      const j = swaps[i] as number;
      if (j <= i) continue;
      const a = re[i] as number;
      re[i] = re[j] as number;
      re[j] = a;
      const b = im[i] as number;
      im[i] = im[j] as number;
      im[j] = b;
    }
    for (let half = 1; half < size; half *= 2) {
      const stride = size / (2 * half);
      for (let from = 0; from < size; from += 2 * half) {
        for (let k = 0; k < half; k++) {
          const c = cosines[k * stride] as number;
          const s = sines[k * stride] as number;
          const lo = from + k;
          const hi = lo + half;
          const xr = re[hi] as number;
          const xi = im[hi] as number;
          const tr = xr * c + xi * s;
          const ti = xi * c - xr * s;
          const ur = re[lo] as number;
          const ui = im[lo] as number;
          re[hi] = ur - tr;
          im[hi] = ui - ti;
          re[lo] = ur + tr;
          im[lo] = ui + ti;
        }
      }
    }
  }
}
