/**
 * The waveform at many zooms: level 0 holds the minimum and maximum of each `PEAK_STEP` frames, interleaved,
 * and each further level halves the one before.
 */
export interface Peaks {
  readonly frames: number;
  readonly levels: readonly Float32Array[];
}

/** Frames for each pair of level 0. */
export const PEAK_STEP = 64;

/** Builds the pyramid of one channel, in one pass over its samples. */
export function peaksOf(samples: Float32Array): Peaks {
  const pairs = Math.max(1, Math.ceil(samples.length / PEAK_STEP));
  const base = new Float32Array(pairs * 2);
  for (let p = 0; p < pairs; p++) {
    const to = Math.min(samples.length, (p + 1) * PEAK_STEP);
    let low = 0;
    let high = 0;
    for (let i = p * PEAK_STEP; i < to; i++) {
      const x = samples[i] ?? 0;
      if (x < low) low = x;
      if (x > high) high = x;
    }
    base[2 * p] = low;
    base[2 * p + 1] = high;
  }
  const levels = [base];
  for (let last = base; last.length > 4; ) {
    const next = new Float32Array(Math.ceil(last.length / 4) * 2);
    for (let p = 0; p < next.length / 2; p++) {
      next[2 * p] = Math.min(last[4 * p] ?? 0, last[4 * p + 2] ?? 0);
      next[2 * p + 1] = Math.max(last[4 * p + 1] ?? 0, last[4 * p + 3] ?? 0);
    }
    levels.push(next);
    last = next;
  }
  return { frames: samples.length, levels };
}

/** Single samples of a part of a sound, for zooms finer than level 0: `values[0]` is the frame `from`. */
export interface CloseSamples {
  readonly from: number;
  readonly values: Float32Array;
}

/**
 * Minimum and maximum for each of `columns` equal columns over the frames `[from, to)`, written to `out`
 * (2 × columns, interleaved). Parts outside the sound are 0. `close`, where given, serves zooms finer than level 0.
 */
export function columnPeaks(
  peaks: Peaks,
  from: number,
  to: number,
  columns: number,
  out: Float32Array,
  close?: CloseSamples | null,
): void {
  const perColumn = (to - from) / columns;
  const fine = close && perColumn < PEAK_STEP * 2;
  const level = fine ? 0 : Math.max(0, Math.min(peaks.levels.length - 1, Math.floor(Math.log2(perColumn / PEAK_STEP))));
  const table = peaks.levels[level] ?? new Float32Array(2);
  const step = PEAK_STEP * 2 ** level;
  for (let c = 0; c < columns; c++) {
    const a = from + c * perColumn;
    const b = a + perColumn;
    let low = 0;
    let high = 0;
    if (b > 0 && a < peaks.frames) {
      const unit = fine ? 1 : step;
      const first = Math.max(0, Math.floor(a / unit));
      const last = Math.max(first + 1, Math.ceil(Math.min(b, peaks.frames) / unit));
      low = Number.POSITIVE_INFINITY;
      high = Number.NEGATIVE_INFINITY;
      for (let i = first; i < last; i++) {
        const lo = (fine ? close.values[i - close.from] : table[2 * i]) ?? 0;
        const hi = (fine ? close.values[i - close.from] : table[2 * i + 1]) ?? 0;
        if (lo < low) low = lo;
        if (hi > high) high = hi;
      }
    }
    out[2 * c] = low;
    out[2 * c + 1] = high;
  }
}
