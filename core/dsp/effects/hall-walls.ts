import type { Hertz, Seconds } from "../../audio";
import { cubicKeeps } from "./cubic";

/** What the walls of a hall do to its sound, of the settings. */
export interface WallSettings {
  /** Time in which the middle of the spectrum falls by 60 dB, and how many times as long low and high take. */
  readonly decay: Seconds;
  readonly low: number;
  readonly high: number;
  readonly lowBelow: Hertz;
  readonly highAbove: Hertz;
  readonly freeze: boolean;
}

/** How much of what is new a low pass of the first order takes in each frame. */
export const shareOf = (cutoff: Hertz, rate: Hertz): number => 1 - Math.exp((-2 * Math.PI * cutoff) / rate);

/** The real part of such a low pass at a frequency. */
function lowAt(share: number, hertz: Hertz, rate: Hertz): number {
  const w = (2 * Math.PI * hertz) / rate;
  const kept = 1 - share;
  const re = 1 - kept * Math.cos(w);
  const im = kept * Math.sin(w);
  return (share * re) / (re * re + im * im);
}

/**
 * What a wall is to let through of low, middle and high, so that at a frequency of each the decay is as wanted: filters of the first order overlap, so that each band's
 * loss is heard in the others, too. Three equations for three losses.
 */
export class Walls {
  private readonly weights = new Float64Array(9);
  private readonly decays = new Float64Array(3);
  private freeze = false;
  private kept = 1;

  constructor(private readonly rate: Hertz) {}

  aim(s: WallSettings): void {
    const { rate, weights } = this;
    const low = shareOf(s.lowBelow, rate);
    const high = shareOf(s.highAbove, rate);
    const at = [s.lowBelow / 6, Math.sqrt(s.lowBelow * s.highAbove), Math.min(0.45 * rate, s.highAbove * 4)];
    at.forEach((hertz, row) => {
      const below = lowAt(low, hertz, rate);
      const above = 1 - lowAt(high, hertz, rate);
      weights[row * 3] = below;
      weights[row * 3 + 1] = 1 - below - above;
      weights[row * 3 + 2] = above;
    });
    this.decays[0] = s.decay * s.low;
    this.decays[1] = s.decay;
    this.decays[2] = s.decay * s.high;
    this.freeze = s.freeze;
    this.kept = cubicKeeps(at[2] as number, rate);
  }

  /** The three losses of a round of so many seconds. */
  solve(seconds: Seconds, out: Float64Array): void {
    const w = this.weights as unknown as [number, number, number, number, number, number, number, number, number];
    if (this.freeze) {
      out.fill(1);
      return;
    }
    const loss = (band: number): number => 10 ** ((-3 * seconds) / Math.max(0.02, this.decays[band] as number));
    // Reading between frames takes something of the high end in each round, too.
    const [x, y, z] = [loss(0), loss(1), loss(2) / this.kept];
    const det =
      w[0] * (w[4] * w[8] - w[5] * w[7]) - w[1] * (w[3] * w[8] - w[5] * w[6]) + w[2] * (w[3] * w[7] - w[4] * w[6]);
    const limit = (v: number): number => Math.min(0.99999, Math.max(0, v));
    if (Math.abs(det) < 1e-6) {
      out.fill(limit(y));
      return;
    }
    out[0] = limit(
      (x * (w[4] * w[8] - w[5] * w[7]) - w[1] * (y * w[8] - w[5] * z) + w[2] * (y * w[7] - w[4] * z)) / det,
    );
    out[1] = limit(
      (w[0] * (y * w[8] - w[5] * z) - x * (w[3] * w[8] - w[5] * w[6]) + w[2] * (w[3] * z - y * w[6])) / det,
    );
    out[2] = limit(
      (w[0] * (w[4] * z - y * w[7]) - w[1] * (w[3] * z - y * w[6]) + x * (w[3] * w[7] - w[4] * w[6])) / det,
    );
  }
}
