import { Fft } from "../audio";

/** A simple wave of which tables are made. */
export type Wave = "sine" | "triangle" | "saw";
export const WAVES: readonly Wave[] = ["sine", "triangle", "saw"];

/** A table of one cycle: its harmonics, and its points, a power of two; one more stands behind them, which is the first again. */
export interface WaveMap {
  readonly harmonics: number;
  readonly size: number;
}

/** So many points for each harmonic leave what straight lines between them get wrong below −92 dB of a saw. */
const POINTS_FOR_EACH = 20;
const FEWEST_POINTS = 2048;
/** Harmonics of the richest table: enough for a note of 24 Hz at 48 kHz. */
const MOST_HARMONICS = 1024;
const MAPS_PER_OCTAVE = 3;

/** Amplitude of a harmonic's sine in a wave that swings from −1 to 1. */
function amplitude(wave: Wave, harmonic: number): number {
  if (wave === "sine") return harmonic === 1 ? 1 : 0;
  if (wave === "saw") return 2 / (Math.PI * harmonic);
  if (harmonic % 2 === 0) return 0;
  return ((harmonic % 4 === 1 ? 1 : -1) * 8) / (Math.PI * harmonic) ** 2;
}

/** The tables of a wave, a third of an octave apart, with ever more harmonics. */
export function mapsOfWave(wave: Wave): WaveMap[] {
  const maps: WaveMap[] = [];
  for (let n = 0; ; n++) {
    const harmonics = Math.floor(2 ** (n / MAPS_PER_OCTAVE) + 1e-9);
    if (harmonics > MOST_HARMONICS) return maps;
    if (harmonics === maps.at(-1)?.harmonics) continue;
    maps.push({ harmonics, size: Math.max(FEWEST_POINTS, 2 ** Math.ceil(Math.log2(harmonics * POINTS_FOR_EACH))) });
    if (wave === "sine") return maps;
  }
}

/** Makes waves' tables: each is what the wave's Fourier series says, up to its harmonics. */
export class WaveMaker {
  private readonly transforms = new Map<number, { fft: Fft; re: Float64Array; im: Float64Array }>();

  /** Writes a table, `size` + 1 points. */
  make(wave: Wave, { harmonics, size }: WaveMap, out: Float32Array): void {
    const known = this.transforms.get(size);
    const { fft, re, im } = known ?? {
      fft: new Fft(size),
      re: new Float64Array(size),
      im: new Float64Array(size),
    };
    if (!known) this.transforms.set(size, { fft, re, im });
    re.fill(0);
    im.fill(0);
    for (let h = 1; h <= harmonics; h++) im[h] = amplitude(wave, h);
    fft.forward(re, im);
    out.set(re);
    out[size] = re[0] as number;
  }
}
