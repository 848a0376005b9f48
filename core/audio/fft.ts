/** Fast Fourier transform (Cooley and Tukey, 1965) of one size, two radix-2 stages at a time, with tables made once; it holds nothing of what it transforms. */
export class Fft {
  private readonly cosines: Float64Array;
  private readonly sines: Float64Array;
  /** Pairs of places that change with one another, so that the stages find their numbers side by side. */
  private readonly swaps: Uint32Array;
  private readonly bits: number;

  /** `size` is a power of two, at least 2. */
  constructor(readonly size: number) {
    const bits = Math.log2(size);
    if (!Number.isInteger(bits) || bits < 1) throw new RangeError(`an FFT's size is a power of two, not ${size}`);
    this.bits = bits;
    this.cosines = new Float64Array(size / 2);
    this.sines = new Float64Array(size / 2);
    for (let i = 0; i < size / 2; i++) {
      this.cosines[i] = Math.cos((2 * Math.PI * i) / size);
      this.sines[i] = Math.sin((2 * Math.PI * i) / size);
    }
    const swaps: number[] = [];
    for (let i = 0; i < size; i++) {
      let reversed = 0;
      for (let b = 0; b < bits; b++) reversed |= ((i >>> b) & 1) << (bits - 1 - b);
      if (reversed > i) swaps.push(i, reversed);
    }
    this.swaps = new Uint32Array(swaps);
  }

  /** Transforms in place: X[k] = Σ x[n]·e^(−2πikn/size), both parts `size` long. */
  forward(re: Float64Array, im: Float64Array): void {
    const { size, swaps } = this;
    for (let s = 0; s < swaps.length; s += 2) {
      const i = swaps[s] as number;
      const j = swaps[s + 1] as number;
      const a = re[i] as number;
      re[i] = re[j] as number;
      re[j] = a;
      const b = im[i] as number;
      im[i] = im[j] as number;
      im[j] = b;
    }
    // An odd number of stages begins with one by itself, whose factors are all 1.
    let half = 1;
    if (this.bits % 2 === 1) {
      for (let lo = 0; lo < size; lo += 2) {
        const xr = re[lo + 1] as number;
        const xi = im[lo + 1] as number;
        const ur = re[lo] as number;
        const ui = im[lo] as number;
        re[lo + 1] = ur - xr;
        im[lo + 1] = ui - xi;
        re[lo] = ur + xr;
        im[lo] = ui + xi;
      }
      half = 2;
    }
    for (; half < size; half *= 4) this.twoStages(re, im, half);
  }

  /** The stages that join pairs of `half` and of twice that, in one pass over the numbers. */
  private twoStages(re: Float64Array, im: Float64Array, half: number): void {
    const { size, cosines, sines } = this;
    const stride = size / (4 * half);
    for (let k = 0; k < half; k++) {
      const c1 = cosines[2 * k * stride] as number;
      const s1 = sines[2 * k * stride] as number;
      const c2 = cosines[k * stride] as number;
      const s2 = sines[k * stride] as number;
      for (let from = 0; from < size; from += 4 * half) {
        const i0 = from + k;
        const i1 = i0 + half;
        const i2 = i1 + half;
        const i3 = i2 + half;
        const x0r = re[i0] as number;
        const x0i = im[i0] as number;
        const x1r = re[i1] as number;
        const x1i = im[i1] as number;
        const x2r = re[i2] as number;
        const x2i = im[i2] as number;
        const x3r = re[i3] as number;
        const x3i = im[i3] as number;
        const t1r = x1r * c1 + x1i * s1;
        const t1i = x1i * c1 - x1r * s1;
        const t3r = x3r * c1 + x3i * s1;
        const t3i = x3i * c1 - x3r * s1;
        const a2r = x2r + t3r;
        const a2i = x2i + t3i;
        const a3r = x2r - t3r;
        const a3i = x2i - t3i;
        const b2r = a2r * c2 + a2i * s2;
        const b2i = a2i * c2 - a2r * s2;
        // A quarter turn further on.
        const b3r = a3i * c2 - a3r * s2;
        const b3i = -(a3r * c2 + a3i * s2);
        const a0r = x0r + t1r;
        const a0i = x0i + t1i;
        const a1r = x0r - t1r;
        const a1i = x0i - t1i;
        re[i0] = a0r + b2r;
        im[i0] = a0i + b2i;
        re[i2] = a0r - b2r;
        im[i2] = a0i - b2i;
        re[i1] = a1r + b3r;
        im[i1] = a1i + b3i;
        re[i3] = a1r - b3r;
        im[i3] = a1i - b3i;
      }
    }
  }
}

const made = new Map<number, Fft>();

/** The transform of a size: one serves all, since it holds nothing of what it transforms. */
export function fftOf(size: number): Fft {
  const known = made.get(size);
  if (known) return known;
  const fft = new Fft(size);
  made.set(size, fft);
  return fft;
}
