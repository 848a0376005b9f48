import { type Hertz, type Note, noteOf } from "../audio";
import { Spectrum } from "./spectrum";

/** A pitch that an inharmonic sound may have: its note, and how well its partials fit the expected series (0 to 1). */
export interface StrikeNote {
  readonly note: Note;
  readonly score: number;
}

/** A peak of a spectrum. */
export interface SpectralPeak {
  readonly frequency: Hertz;
  readonly level: number;
}

/**
 * The partials by which a bell's strike note is heard, as ratios to it with their weight: hum, prime, tierce, quint, nominal,
 * and the two above it (T. D. Rossing, "The Physics of Musical Instruments", ch. 21).
 */
const SERIES = [
  [0.5, 0.5],
  [1, 1],
  [1.2, 0.7],
  [1.5, 0.5],
  [2, 1],
  [2.65, 0.5],
  [3, 0.3],
  [4, 0.5],
] as const;
/** How far a partial may be off its place, as a ratio. */
const TOLERANCE = 0.035;

/** The strongest narrow peaks of a sound some time after its attack, loudest first. */
export function spectralPeaks(samples: Float32Array, rate: Hertz, from: number, to: number, most = 16): SpectralPeak[] {
  const skip = Math.min(Math.round(rate * 0.02), Math.floor((to - from) / 4));
  let size = 16384;
  while (size > 2048 && size * 0.6 > to - from - skip) size /= 2;
  const spectrum = new Spectrum(size);
  // What lies beyond the slice is another sound.
  const magnitudes = spectrum.measure(samples.slice(from + skip, Math.min(to, from + skip + size)), 0);
  const bin = rate / size;
  const peaks: SpectralPeak[] = [];
  for (let k = Math.max(2, Math.ceil(60 / bin)); k < Math.min(size / 2 - 1, 9000 / bin); k++) {
    const [a, b, c] = [magnitudes[k - 1] as number, magnitudes[k] as number, magnitudes[k + 1] as number];
    if (!(b > a && b >= c && b > 0)) continue;
    // The top of the parabola through the logarithms (Smith and Serra, 1987).
    const [x, y, z] = [Math.log(a + 1e-12), Math.log(b + 1e-12), Math.log(c + 1e-12)];
    const bend = x - 2 * y + z;
    peaks.push({ frequency: (k + (bend === 0 ? 0 : (0.5 * (x - z)) / bend)) * bin, level: b });
  }
  peaks.sort((a, b) => b.level - a.level);
  const loudest = peaks[0]?.level ?? 0;
  return peaks.slice(0, most).filter((p) => p.level > loudest * 0.02);
}

/**
 * The strike note of an inharmonic sound with its alternatives, best first: for each peak taken as one of the expected
 * partials, how much of the sound the series explains.
 */
export function strikeNotes(peaks: readonly SpectralPeak[]): StrikeNote[] {
  const total = peaks.reduce((sum, p) => sum + Math.sqrt(p.level), 0);
  if (total === 0) return [];
  const found: StrikeNote[] = [];
  for (const peak of peaks.slice(0, 8)) {
    for (const [as] of [SERIES[1], SERIES[4]]) {
      const candidate = peak.frequency / as;
      let score = 0;
      let explained = 0;
      let weights = 0;
      for (const [ratio, weight] of SERIES) {
        weights += weight;
        let best = 0;
        for (const p of peaks) {
          const off = Math.abs(p.frequency / (candidate * ratio) - 1);
          if (off < TOLERANCE) best = Math.max(best, (1 - off / TOLERANCE / 2) * Math.sqrt(p.level));
        }
        explained += best;
        if (best > 0) score += weight;
      }
      const value = (explained / total) * 0.6 + (score / weights) * 0.4;
      const note = noteOf(candidate);
      const same = found.findIndex((f) => Math.abs(f.note - note) < 0.5);
      if (same < 0) found.push({ note, score: value });
      else if ((found[same]?.score ?? 0) < value) found[same] = { note, score: value };
    }
  }
  return found.sort((a, b) => b.score - a.score).slice(0, 4);
}
