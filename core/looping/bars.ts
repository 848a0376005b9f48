import type { Hertz } from "../audio";
import type { FoundBeat } from "./beat";

/** A stretch of whole bars (or of a beat, where there isn't a bar), in frames, and how many bars it has. */
export interface Bars {
  readonly start: number;
  readonly end: number;
  readonly bars: number;
}

/** Lengths that are proposed, in bars; and in beats where no bar fits. */
const LENGTHS = [8, 4, 2, 1] as const;
const BEATS = [2, 1] as const;
/** Bars at which loops may begin. */
const MOST_STARTS = 16;
/** So much before a beat a loop begins, in seconds, so that nothing of the attack is lost; and so much of a last bar may be missing. */
const BEFORE = 0.002;
const MISSING = 0.006;

/** Frames of a beat. */
export const beatFrames = ({ tempo }: Pick<FoundBeat, "tempo">, rate: Hertz): number => (60 / tempo) * rate;

/** All stretches of whole bars within frames `[from, to)`, the longest first. */
export function wholeBars(
  beat: Pick<FoundBeat, "tempo" | "downbeat" | "bar">,
  rate: Hertz,
  from: number,
  to: number,
  shortest: number,
  longest: number,
): Bars[] {
  const one = beatFrames(beat, rate);
  const bar = one * beat.bar;
  const lead = Math.round(BEFORE * rate);
  const fits = (lengths: readonly number[], unit: number): Bars[] =>
    lengths.flatMap((count) => {
      const length = count * unit;
      if (length < shortest || length > longest + 1) return [];
      const starts = Array.from({ length: MOST_STARTS }, (_, n) => beat.downbeat + n * bar);
      return starts.flatMap((at) => {
        const start = Math.max(from, Math.round(at) - lead);
        const end = Math.round(start + length);
        if (end > to + MISSING * rate) return [];
        return [{ start, end: Math.min(to, end), bars: length / bar }];
      });
    });
  const whole = fits(LENGTHS, bar);
  return whole.length > 0 ? whole : fits(BEATS, one);
}
