/** How many values there are for each frame in between. */
export const OVERSAMPLING = 6;
/** Length of the filter in frames. */
const LENGTH = 24;
const TAPS = LENGTH * OVERSAMPLING;
/** How many values are kept for the way down. */
const AROUND = TAPS + OVERSAMPLING;
/** Middle of the filter's slope, in cycles per frame: it passes 0.42 and stops what would fold back below that. */
const CUTOFF = 0.5;
/** Shape of the Kaiser window for 90 dB (Kaiser, 1974). */
const BETA = 9;

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
 * One channel at six times its rate and back, by a polyphase filter of linear phase (Crochiere and Rabiner, 1983): for what bends a wave, so that
 * what this adds above half the rate doesn't fold back.
 */
export class Oversampler {
  /** The whole filter for the way down, and its every sixth value from each on for the way up. */
  private readonly taps = makeTaps();
  private readonly phases = Array.from({ length: OVERSAMPLING }, (_, p) =>
    Float64Array.from({ length: LENGTH + 1 }, (__, k) => OVERSAMPLING * (this.taps[p + k * OVERSAMPLING] ?? 0)),
  );
  /** Frames that went in, and values that went through what bends: twice in a row each, so that a stretch never wraps. */
  private readonly past = new Float64Array(2 * (LENGTH + 1));
  private readonly bent = new Float64Array(2 * AROUND);
  private at = 0;
  private bentAt = 0;

  /** Sends a frame through `bend` at six times the rate. */
  process(x: number, bend: (x: number) => number): number {
    const { taps, phases, past, bent } = this;
    const size = LENGTH + 1;
    this.at = this.at === 0 ? size - 1 : this.at - 1;
    const { at } = this;
    past[at] = x;
    past[at + size] = x;
    let { bentAt } = this;
    for (let p = 0; p < OVERSAMPLING; p++) {
      const phase = phases[p] as Float64Array;
      let up = 0;
      for (let k = 0; k < size; k++) up += (phase[k] as number) * (past[at + k] as number);
      const y = bend(up);
      bentAt = bentAt === 0 ? AROUND - 1 : bentAt - 1;
      bent[bentAt] = y;
      bent[bentAt + AROUND] = y;
    }
    this.bentAt = bentAt;
    // The last of the six is the newest: the frame stands at the first. The filter is the same from both ends.
    const from = bentAt + OVERSAMPLING - 1;
    let sum = (taps[TAPS / 2] as number) * (bent[from + TAPS / 2] as number);
    for (let t = 0; t < TAPS / 2; t++)
      sum += (taps[t] as number) * ((bent[from + t] as number) + (bent[from + TAPS - t] as number));
    return sum;
  }

  reset(): void {
    this.past.fill(0);
    this.bent.fill(0);
  }
}
