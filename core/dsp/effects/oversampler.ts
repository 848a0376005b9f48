/** How many values there are for each frame in between. */
export const OVERSAMPLING = 8;
/** Length of the filter in frames. */
const LENGTH = 32;
const TAPS = LENGTH * OVERSAMPLING;
/** Middle of the filter's slope, in cycles per frame: it passes 0.42 and stops what would fold back below that. */
const CUTOFF = 0.5;
/** Shape of the Kaiser window for 100 dB (Kaiser, 1974). */
const BETA = 10;

function bessel0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; term > sum * 1e-17; k++) {
    term *= (x * x) / (4 * k * k);
    sum += term;
  }
  return sum;
}

/** A low pass of linear phase, TAPS + 1 long, with a sum of 1. */
function makeTaps(): Float64Array {
  const taps = new Float64Array(TAPS + 1);
  let sum = 0;
  for (let i = 0; i <= TAPS; i++) {
    const t = (i - TAPS / 2) / OVERSAMPLING;
    const edge = (2 * i) / TAPS - 1;
    const sinc = t === 0 ? 2 * CUTOFF : Math.sin(2 * Math.PI * CUTOFF * t) / (Math.PI * t);
    taps[i] = (sinc * bessel0(BETA * Math.sqrt(Math.max(0, 1 - edge * edge)))) / bessel0(BETA);
    sum += taps[i] as number;
  }
  for (let i = 0; i <= TAPS; i++) taps[i] = (taps[i] as number) / sum;
  return taps;
}

/** By how many frames what goes up and down again is late. */
export const OVERSAMPLING_DELAY = LENGTH;

/**
 * One channel at eight times its rate and back, by a polyphase filter of linear phase (Crochiere and Rabiner, 1983): for what bends a wave, so that
 * what this adds above half the rate doesn't fold back.
 */
export class Oversampler {
  private readonly taps = makeTaps();
  /** Frames that went in, twice in a row so that a stretch never wraps; and values that went through what bends. */
  private readonly past = new Float64Array(2 * (LENGTH + 1));
  private readonly bent = new Float64Array(2 * (TAPS + OVERSAMPLING));
  private at = 0;
  private bentAt = 0;

  /** Sends a frame through `bend` at eight times the rate. */
  process(x: number, bend: (x: number) => number): number {
    const { taps, past, bent } = this;
    const size = LENGTH + 1;
    this.at = this.at === 0 ? size - 1 : this.at - 1;
    past[this.at] = x;
    past[this.at + size] = x;
    const around = TAPS + OVERSAMPLING;
    for (let p = 0; p < OVERSAMPLING; p++) {
      let sum = 0;
      for (let k = 0, t = p; t <= TAPS; k++, t += OVERSAMPLING)
        sum += (taps[t] as number) * (past[this.at + k] as number);
      const y = bend(sum * OVERSAMPLING);
      this.bentAt = this.bentAt === 0 ? around - 1 : this.bentAt - 1;
      bent[this.bentAt] = y;
      bent[this.bentAt + around] = y;
    }
    let sum = 0;
    // The last of the eight is the newest: the frame stands at the first.
    const from = this.bentAt + OVERSAMPLING - 1;
    for (let t = 0; t <= TAPS; t++) sum += (taps[t] as number) * (bent[from + t] as number);
    return sum;
  }

  reset(): void {
    this.past.fill(0);
    this.bent.fill(0);
  }
}
