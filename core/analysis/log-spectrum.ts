import type { Decibels, Hertz } from "../audio";
import { Spectrum } from "./spectrum";

/** Lowest frequency of a spectrum by octaves, its octaves, and points in each. */
export const SPECTRUM_FROM: Hertz = 20;
const OCTAVES = 10;
export const SPECTRUM_POINTS = 36;

const SIZE = 2 ** 15;
const SHORTEST = 1024;
const SILENT: Decibels = -120;

/** The spectrum of a sound from a frame on, as its loudest in each thirty-sixth of an octave from 20 Hz up: decibels of the loudest of all, −120 for silence. */
export function logSpectrum(x: Float32Array, rate: Hertz, from: number): Float32Array {
  let size = SIZE;
  while (size > SHORTEST && size > (x.length - from) * 2) size /= 2;
  const magnitudes = new Spectrum(size).measure(x, from);
  const out = new Float32Array(OCTAVES * SPECTRUM_POINTS).fill(SILENT);
  const level = (bin: number): number => {
    const below = Math.floor(bin);
    const [a, b] = [magnitudes[below] ?? 0, magnitudes[below + 1] ?? 0];
    return a + (b - a) * (bin - below);
  };
  let top = 0;
  for (let p = 0; p < out.length; p++) {
    const low = ((SPECTRUM_FROM * 2 ** ((p - 0.5) / SPECTRUM_POINTS)) / rate) * size;
    const high = ((SPECTRUM_FROM * 2 ** ((p + 0.5) / SPECTRUM_POINTS)) / rate) * size;
    if (high >= size / 2) break;
    let most = level((low + high) / 2);
    for (let k = Math.ceil(low); k <= high; k++) most = Math.max(most, magnitudes[k] ?? 0);
    if (Number.isFinite(most)) top = Math.max(top, most);
    out[p] = most;
  }
  if (!(top > 1e-7)) return out.fill(SILENT);
  for (let p = 0; p < out.length; p++) {
    const m = out[p] as number;
    out[p] = m > 0 ? Math.max(SILENT, 20 * Math.log10(m / top)) : SILENT;
  }
  return out;
}
