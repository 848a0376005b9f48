import { type Fft, fftOf } from "../audio";

/** Magnitudes of windowed stretches of sound: a Hann window and a Fourier transform of one size, made once. */
export class Spectrum {
  readonly magnitudes: Float64Array;
  private readonly fft: Fft;
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  private readonly window: Float64Array;

  /** `size` is a power of two; there are size / 2 + 1 magnitudes. */
  constructor(readonly size: number) {
    this.fft = fftOf(size);
    this.re = new Float64Array(size);
    this.im = new Float64Array(size);
    this.magnitudes = new Float64Array(size / 2 + 1);
    this.window = new Float64Array(size);
    for (let i = 0; i < size; i++) this.window[i] = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size);
  }

  /** Fills `magnitudes` from the stretch that begins at `at`; what lies outside the sound counts as silence. A sine of amplitude 1 gives about 0.5. */
  measure(samples: Float32Array, at: number): Float64Array {
    const { size, re, im, window, magnitudes } = this;
    for (let i = 0; i < size; i++) re[i] = (samples[at + i] ?? 0) * (window[i] as number);
    im.fill(0);
    this.fft.forward(re, im);
    const scale = 2 / size;
    for (let k = 0; k <= size / 2; k++) {
      const [x, y] = [re[k] as number, im[k] as number];
      magnitudes[k] = Math.sqrt(x * x + y * y) * scale;
    }
    return magnitudes;
  }
}
