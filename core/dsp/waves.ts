import { Fft } from "../audio";
import { makeStepTable, STEP_FLOATS } from "./step-table";

/** A simple wave of which tables are made. */
export type Wave = "sine" | "triangle" | "saw";
export const WAVES: readonly Wave[] = ["sine", "triangle", "saw"];

/** A table of one cycle: its harmonics, and its points, a power of two; one more stands behind them, which is the first again. */
interface WaveMap {
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
function mapsOfWave(wave: Wave): WaveMap[] {
  const maps: WaveMap[] = [];
  for (let n = 0; ; n++) {
    const harmonics = Math.floor(2 ** (n / MAPS_PER_OCTAVE) + 1e-9);
    if (harmonics > MOST_HARMONICS) return maps;
    if (harmonics === maps.at(-1)?.harmonics) continue;
    maps.push({ harmonics, size: Math.max(FEWEST_POINTS, 2 ** Math.ceil(Math.log2(harmonics * POINTS_FOR_EACH))) });
    if (wave === "sine") return maps;
  }
}

/** One of all waves' tables, and where it begins among them, in floats. */
export interface WaveTable extends WaveMap {
  readonly wave: Wave;
  readonly at: number;
}

/** All simple waves' tables, the poorest first. Before them stands the table by which steps are rounded. */
export const WAVE_TABLES: readonly WaveTable[] = (() => {
  const maps = WAVES.flatMap((wave) => mapsOfWave(wave).map((map) => ({ wave, ...map })));
  let at = STEP_FLOATS;
  return maps
    .sort((a, b) => a.harmonics - b.harmonics)
    .map((map) => {
      const placed = { ...map, at };
      at += map.size + 1;
      return placed;
    });
})();

/** Floats of all tables together. */
export const WAVE_FLOATS = WAVE_TABLES.reduce((sum, { size }) => sum + size + 1, STEP_FLOATS);

/** The table by which steps are rounded, and all simple waves' tables, as `WAVE_TABLES` has them. */
export type ReadyWaves = Float32Array<ArrayBuffer>;

/** Makes all tables: each is what its wave's Fourier series says, up to its harmonics. It takes long: not for the audio thread. */
export function bakeWaves(): ReadyWaves {
  const out = new Float32Array(WAVE_FLOATS);
  out.set(makeStepTable());
  const transforms = new Map<number, Fft>();
  for (const { wave, harmonics, size, at } of WAVE_TABLES) {
    const fft = transforms.get(size) ?? new Fft(size);
    transforms.set(size, fft);
    const re = new Float64Array(size);
    const im = new Float64Array(size);
    for (let h = 1; h <= harmonics; h++) im[h] = amplitude(wave, h);
    fft.forward(re, im);
    out.set(re, at);
    out[at + size] = re[0] as number;
  }
  return out;
}

/** Writes the poorest table of a wave, `size` + 1 points: its first harmonic alone. */
export function writeFirst(wave: Wave, out: Float32Array): void {
  const size = out.length - 1;
  for (let i = 0; i <= size; i++) out[i] = amplitude(wave, 1) * Math.sin((2 * Math.PI * i) / size);
}
