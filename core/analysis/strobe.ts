import type { Hertz } from "../audio";

/**
 * A sound folded at the period of a reference tone, as a strobe would show it: for each of `columns` stretches of `[from, to)`
 * the mean wave over one period in `rows` steps, each column scaled to ±1. Stripes that stay level are in tune; rising ones are
 * sharp, falling ones flat. Returned column by column.
 */
export function strobe(
  samples: Float32Array,
  rate: Hertz,
  reference: Hertz,
  columns: number,
  rows: number,
  from = 0,
  to = samples.length,
): Float32Array {
  const out = new Float32Array(columns * rows);
  const counts = new Float32Array(rows);
  const turn = reference / rate;
  for (let c = 0; c < columns; c++) {
    const a = Math.floor(from + ((to - from) * c) / columns);
    const b = Math.floor(from + ((to - from) * (c + 1)) / columns);
    counts.fill(0);
    for (let i = a; i < b; i++) {
      const phase = ((i - from) * turn) % 1;
      // Upwards: what comes earlier in the period stands higher.
      const row = Math.min(rows - 1, Math.floor(phase * rows));
      out[c * rows + row] = (out[c * rows + row] as number) + (samples[i] ?? 0);
      counts[row] = (counts[row] as number) + 1;
    }
    let most = 1e-9;
    for (let r = 0; r < rows; r++) {
      const mean = (out[c * rows + r] as number) / Math.max(1, counts[r] as number);
      out[c * rows + r] = mean;
      if (Math.abs(mean) > most) most = Math.abs(mean);
    }
    for (let r = 0; r < rows; r++) out[c * rows + r] = (out[c * rows + r] as number) / most;
  }
  return out;
}
