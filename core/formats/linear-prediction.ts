/** Weights by which the next sample is predicted from those before it, the last one first, as whole numbers over 2^shift. */
export interface Predictor {
  readonly weights: Float64Array;
  readonly shift: number;
}

/** The sums of products of a block with itself moved by 0 to `most` frames. */
function autocorrelation(x: Float64Array, most: number): Float64Array {
  const out = new Float64Array(most + 1);
  for (let lag = 0; lag <= most; lag++) {
    let sum = 0;
    for (let i = lag; i < x.length; i++) sum += (x[i] as number) * (x[i - lag] as number);
    out[lag] = sum;
  }
  return out;
}

/**
 * Linear predictors of the orders 1 to `most` and the energy that each leaves over (N. Levinson, 1946; J. Durbin, 1960). Ends early
 * where nothing is left over.
 */
function predictors(r: Float64Array, most: number): { weights: Float64Array; error: number }[] {
  const out: { weights: Float64Array; error: number }[] = [];
  const a = new Float64Array(most);
  let error = r[0] as number;
  for (let k = 0; k < most && error > 0; k++) {
    let reflection = r[k + 1] as number;
    for (let i = 0; i < k; i++) reflection -= (a[i] as number) * (r[k - i] as number);
    reflection /= error;
    a[k] = reflection;
    for (let i = 0; i < k >> 1; i++) {
      const [left, right] = [a[i] as number, a[k - 1 - i] as number];
      a[i] = left - reflection * right;
      a[k - 1 - i] = right - reflection * left;
    }
    if (k & 1) a[k >> 1] = (a[k >> 1] as number) * (1 - reflection);
    error *= 1 - reflection * reflection;
    out.push({ weights: a.slice(0, k + 1), error });
  }
  return out;
}

/** Half of the block rises and falls as a raised cosine, so that its edges don't count as sound (J. W. Tukey, 1967). */
function windowed(x: Int32Array): Float64Array {
  const edge = Math.floor(x.length / 4);
  const out = new Float64Array(x);
  for (let i = 0; i < edge; i++) {
    const weight = 0.5 - 0.5 * Math.cos((Math.PI * (i + 0.5)) / edge);
    const last = x.length - 1 - i;
    out[i] = (out[i] as number) * weight;
    out[last] = (out[last] as number) * weight;
  }
  return out;
}

/** Rounds weights to `precision` bits; what a weight loses by rounding is carried to the next. Null where they are too large. */
function rounded(weights: Float64Array, precision: number): Predictor | null {
  const largest = weights.reduce((most, w) => Math.max(most, Math.abs(w)), 0);
  if (!(largest > 0)) return null;
  const shift = Math.min(15, precision - 2 - Math.floor(Math.log2(largest)));
  if (shift < 0) return null;
  const limit = 2 ** (precision - 1);
  let lost = 0;
  const whole = weights.map((w) => {
    const exact = w * 2 ** shift + lost;
    const near = Math.max(-limit, Math.min(limit - 1, Math.round(exact)));
    lost = exact - near;
    return near;
  });
  return { weights: whole, shift };
}

/**
 * The predictor of a block whose residuals need the fewest bits, by the energy that each order leaves over: `most` weights at the
 * most, each of `precision` bits. Null where none would help.
 */
export function findPredictor(x: Int32Array, most: number, precision: number, depth: number): Predictor | null {
  const found = predictors(autocorrelation(windowed(x), most), most);
  let least = Number.POSITIVE_INFINITY;
  let best: Float64Array | null = null;
  for (const { weights, error } of found) {
    const order = weights.length;
    // Bits of a Laplacian residual of that energy (T. Robinson, 1994).
    const each = Math.max(0, 0.5 * Math.log2((error * 0.5 * Math.LN2 ** 2) / x.length));
    const bits = each * (x.length - order) + order * (precision + depth);
    if (bits >= least) continue;
    least = bits;
    best = weights;
  }
  return best && rounded(best, precision);
}

/** What a predictor misses each sample by, from its order on; the samples before as they are. Null where that is beyond 30 bits. */
export function residualOf(x: Int32Array, { weights, shift }: Predictor): Int32Array | null {
  const order = weights.length;
  const scale = 2 ** -shift;
  const out = new Int32Array(x.length);
  for (let i = 0; i < order; i++) out[i] = x[i] as number;
  for (let i = order; i < x.length; i++) {
    let sum = 0;
    for (let j = 0; j < order; j++) sum += (weights[j] as number) * (x[i - 1 - j] as number);
    const missed = (x[i] as number) - Math.floor(sum * scale);
    if (missed > 0x3fffffff || missed < -0x3fffffff) return null;
    out[i] = missed;
  }
  return out;
}
