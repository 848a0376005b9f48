import { RATE } from "./room";

/** A partial that rings and dies away: frequency in hertz, level, phase, and its decay in nepers per second. */
export interface Partial {
  readonly frequency: number;
  readonly level: number;
  readonly phase: number;
  readonly decay: number;
  /** Frames over which it rises. */
  readonly rise: number;
}

/** Below this level a partial is gone. */
const GONE = 2e-6;

/** Adds a decaying sine to a sound by turning a vector: one complex multiplication a frame, no sine. */
export function addPartial(out: Float32Array, { frequency, level, phase, decay, rise }: Partial): void {
  const step = (2 * Math.PI * frequency) / RATE;
  const loss = Math.exp(-decay / RATE);
  const turnRe = loss * Math.cos(step);
  const turnIm = loss * Math.sin(step);
  let re = level * Math.cos(phase);
  let im = level * Math.sin(phase);
  const frames = Math.min(out.length, Math.ceil((Math.log(level / GONE) / decay) * RATE));
  for (let i = 0; i < frames; i++) {
    out[i] = (out[i] as number) + (i < rise ? (im * i) / rise : im);
    const next = re * turnRe - im * turnIm;
    im = re * turnIm + im * turnRe;
    re = next;
  }
}
