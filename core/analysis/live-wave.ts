import type { Decibels, Hertz } from "../audio";

/** Frames that harmonics are measured over, at the most. */
const LOOKED_AT = 4096;

/** Between two frames in a straight line. */
const at = (x: Float32Array, place: number): number => {
  const whole = Math.floor(place);
  const a = x[whole] ?? 0;
  return a + (place - whole) * ((x[whole + 1] ?? 0) - a);
};

/**
 * The last two cycles of a sound that begin where it goes up through its mean, as `points` values of which the largest is 1; null where it is silent, or
 * two cycles aren't there. `period` in frames.
 */
export function lastCycles(x: Float32Array, period: number, points: number): Float32Array | null {
  const from = x.length - 3 * period - 2;
  if (!(period >= 2) || from < 0) return null;
  let mean = 0;
  let peak = 0;
  const past = Math.ceil(from + period);
  for (let i = Math.floor(from); i < past; i++) mean += (x[i] as number) / (past - Math.floor(from));
  for (let i = Math.floor(from); i < x.length; i++) peak = Math.max(peak, Math.abs((x[i] as number) - mean));
  if (peak < 1e-5) return null;
  // Of several places in a cycle at which it goes up, the one before its highest.
  let start = -1;
  let best = 0;
  let rising = -1;
  for (let i = Math.floor(from) + 1; i < past + 1; i++) {
    const [a, b] = [(x[i - 1] as number) - mean, (x[i] as number) - mean];
    if (a < 0 && b >= 0) rising = i - b / (b - a);
    if (rising >= 0 && b > best) {
      best = b;
      start = rising;
    }
  }
  if (start < 0) return null;
  return Float32Array.from({ length: points }, (_, p) => (at(x, start + (2 * period * p) / points) - mean) / peak);
}

/** Levels of the first harmonics of a tone at the end of a sound, in decibels of the loudest of them, −120 at the least; by sums over whole periods under a Hann window. */
export function harmonicLevels(x: Float32Array, rate: Hertz, hertz: Hertz, count: number): Decibels[] {
  const period = rate / hertz;
  const frames = Math.min(x.length, Math.round(Math.max(2, Math.floor(LOOKED_AT / period)) * period));
  const from = x.length - frames;
  const levels: number[] = [];
  for (let h = 1; h <= count && h * hertz < rate / 2; h++) {
    const turn = (2 * Math.PI * h) / period;
    let [re, im] = [0, 0];
    for (let i = 0; i < frames; i++) {
      const y = (x[from + i] as number) * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / frames));
      re += y * Math.cos(turn * i);
      im += y * Math.sin(turn * i);
    }
    levels.push(Math.hypot(re, im));
  }
  const most = levels.reduce((a, b) => Math.max(a, b), 0);
  return levels.map((level) => (most > 1e-6 ? Math.max(-120, 20 * Math.log10(level / most)) : -120));
}
