import type { BitWriter } from "./bit-writer";
import { findPredictor, type Predictor, residualOf } from "./linear-prediction";

/** A block of one channel as it will be written. `bits` says how many that takes. */
export interface Subframe {
  readonly bits: number;
  readonly write: (out: BitWriter) => void;
}

const MOST_ORDER = 12;
const MOST_PARTITIONS = 8;
const MOST_RICE = 30;
/** Bits of a predictor's weight. */
const PRECISION = 14;
/** What stands before a subframe's samples: its kind. */
const HEADER = 8;

/** The fixed predictors of orders 0 to 4, as weights of the samples before. */
const FIXED: readonly Predictor[] = [[], [1], [2, -1], [3, -3, 1], [4, -6, 4, -1]].map((weights) => ({
  weights: Float64Array.from(weights),
  shift: 0,
}));

const fold = (x: number): number => (x >= 0 ? 2 * x : -2 * x - 1);

interface Partitions {
  readonly power: number;
  readonly rice: readonly number[];
  readonly bits: number;
}

/** The Rice parameter for folded residuals of this sum, and the bits that it takes at the most. */
function riceFor(sum: number, count: number): { rice: number; bits: number } {
  let best = { rice: 0, bits: Number.POSITIVE_INFINITY };
  const guess = Math.max(0, Math.floor(Math.log2(sum / Math.max(1, count) + 1e-9)));
  for (let rice = Math.max(0, guess - 1); rice <= Math.min(MOST_RICE, guess + 1); rice++) {
    const bits = count * (rice + 1) + Math.floor(sum / 2 ** rice);
    if (bits < best.bits) best = { rice, bits };
  }
  return best;
}

/** How the residuals from `order` on are parted so that they take the fewest bits: into 2^power equal parts. */
function partition(residual: Int32Array, order: number): Partitions {
  const size = residual.length;
  let power = 0;
  while (power < MOST_PARTITIONS && size % (2 << power) === 0 && size >> (power + 1) > order) power++;
  let sums = new Float64Array(1 << power);
  const part = size >> power;
  for (let p = 0; p < sums.length; p++) {
    let sum = 0;
    for (let i = p === 0 ? order : p * part; i < (p + 1) * part; i++) sum += fold(residual[i] as number);
    sums[p] = sum;
  }
  let best: Partitions = { power: 0, rice: [], bits: Number.POSITIVE_INFINITY };
  for (; ; power--) {
    const each = size >> power;
    const found = Array.from(sums, (sum, p) => riceFor(sum, p === 0 ? each - order : each));
    const wide = found.some((f) => f.rice > 14);
    const bits = found.reduce((all, f) => all + f.bits + (wide ? 5 : 4), 6);
    if (bits < best.bits) best = { power, rice: found.map((f) => f.rice), bits };
    if (power === 0) return best;
    sums = Float64Array.from(
      { length: sums.length / 2 },
      (_, p) => (sums[2 * p] as number) + (sums[2 * p + 1] as number),
    );
  }
}

function writeResidual(out: BitWriter, residual: Int32Array, order: number, { power, rice }: Partitions): void {
  const wide = rice.some((r) => r > 14);
  out.write(wide ? 1 : 0, 2);
  out.write(power, 4);
  const part = residual.length >> power;
  rice.forEach((bits, p) => {
    out.write(bits, wide ? 5 : 4);
    const last = (p + 1) * part;
    for (let i = p === 0 ? order : p * part; i < last; i++) out.rice(fold(residual[i] as number), bits);
  });
}

/** The order of fixed predictor whose residuals have the smallest sum; each is the difference of those of the order before. */
function bestFixed(x: Int32Array): Predictor {
  const current = Float64Array.from(x);
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  for (let order = 0; order < Math.min(FIXED.length, x.length); order++) {
    if (order > 0)
      for (let i = current.length - 1; i >= order; i--)
        current[i] = (current[i] as number) - (current[i - 1] as number);
    let sum = 0;
    for (let i = order; i < current.length; i++) sum += Math.abs(current[i] as number);
    if (sum >= least) continue;
    least = sum;
    best = order;
  }
  return FIXED[best] as Predictor;
}

/** Bits that all samples of a block end in as zeros, as 16-bit sound in 24 bits does. */
function wastedBits(x: Int32Array): number {
  let any = 0;
  for (const v of x) any |= v;
  return any === 0 ? 0 : 31 - Math.clz32(any & -any);
}

/** The way to write a block of one channel, `depth` bits a sample, that takes the fewest bits (RFC 9639, section 9.2). */
export function planSubframe(block: Int32Array, depth: number): Subframe {
  if (block.every((v) => v === block[0])) {
    const write = (out: BitWriter) => {
      out.write(0, HEADER);
      out.signed(block[0] as number, depth);
    };
    return { bits: HEADER + depth, write };
  }
  const wasted = wastedBits(block);
  const x = wasted > 0 ? block.map((v) => v >> wasted) : block;
  const width = depth - wasted;
  const begin = (out: BitWriter, kind: number) => {
    out.write((kind << 1) | (wasted > 0 ? 1 : 0), HEADER);
    if (wasted > 0) out.write(1, wasted);
  };
  const before = HEADER + wasted;
  let best: Subframe = {
    bits: before + x.length * width,
    write: (out) => {
      begin(out, 1);
      for (const v of x) out.signed(v, width);
    },
  };
  const consider = (predictor: Predictor | null, fixed: boolean) => {
    const residual = predictor && residualOf(x, predictor);
    if (!predictor || !residual) return;
    const { weights, shift } = predictor;
    const order = weights.length;
    const parts = partition(residual, order);
    const bits = before + order * width + (fixed ? 0 : 9 + order * PRECISION) + parts.bits;
    if (bits >= best.bits) return;
    best = {
      bits,
      write: (out) => {
        begin(out, fixed ? 8 + order : 31 + order);
        for (let i = 0; i < order; i++) out.signed(x[i] as number, width);
        if (!fixed) {
          out.write(PRECISION - 1, 4);
          out.signed(shift, 5);
          for (const w of weights) out.signed(w, PRECISION);
        }
        writeResidual(out, residual, order, parts);
      },
    };
  };
  consider(bestFixed(x), true);
  consider(findPredictor(x, Math.min(MOST_ORDER, x.length - 1), PRECISION, width), false);
  return best;
}
