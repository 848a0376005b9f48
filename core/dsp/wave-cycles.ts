import { AnyFft, Fft } from "../audio";

/** Most cycles of a wavetable, and the lengths of one in frames. */
export const MOST_CYCLES = 256;
export const LONGEST_CYCLE = 8192;
export const SHORTEST_CYCLE = 32;
/** Usual lengths, the likeliest first. */
export const USUAL_CYCLES: readonly number[] = [2048, 1024, 512, 4096, 256, 600, 128];
/** Points for each harmonic: with a cubic between them what is wrong is below −85 dB of a saw. */
const POINTS_FOR_EACH = 4;
const FEWEST_POINTS = 512;
/** Points that each cycle has before its first and behind its last, so that a cubic never asks where it ends. */
export const BEFORE = 1;
export const BEHIND = 2;

/** Frames of one cycle in a sound of so many: as asked for, else the first usual length that divides it; else all of it is one. */
export function cycleOf(frames: number, asked: number): number {
  if (asked >= SHORTEST_CYCLE) return Math.min(LONGEST_CYCLE, Math.round(asked), Math.max(1, frames));
  const usual = USUAL_CYCLES.find((length) => frames >= length && frames % length === 0);
  return usual ?? Math.min(LONGEST_CYCLE, Math.max(1, frames));
}

/** One set of tables: all cycles with so many harmonics at the most. */
export interface CycleMap {
  readonly harmonics: number;
  readonly points: number;
  /** Floats from one cycle to the next. */
  readonly stride: number;
}

/** The sets in which cycles of a length are kept, an octave apart, from one harmonic to all that there are. */
export function mapsOf(cycle: number): CycleMap[] {
  const maps: CycleMap[] = [];
  const most = Math.max(1, Math.floor((cycle - 1) / 2));
  for (let harmonics = 1; ; harmonics *= 2) {
    const held = Math.min(harmonics, most);
    const points = Math.max(FEWEST_POINTS, 2 ** Math.ceil(Math.log2(held * POINTS_FOR_EACH)));
    maps.push({ harmonics: held, points, stride: points + BEFORE + BEHIND });
    if (held === most) return maps;
  }
}

/** How many cycles of so many frames there are in a sound. */
export const countCycles = (frames: number, cycle: number): number =>
  Math.min(MOST_CYCLES, Math.max(1, Math.floor(frames / cycle)));

/** The tables of all cycles of a sound: set after set as `mapsOf` has them, in each cycle after cycle. */
export interface ReadyCycles {
  /** Frames of a cycle. */
  readonly cycle: number;
  readonly count: number;
  readonly floats: Float32Array<ArrayBuffer>;
}

/** Makes the tables of a sound's cycles, each as long as `cycle` frames; `read` gives one frame, 0 outside. It takes long: not for the audio thread. */
export function bakeCycles(frames: number, cycle: number, read: (frame: number) => number): ReadyCycles {
  const maps = mapsOf(cycle);
  const count = countCycles(frames, cycle);
  const floats = new Float32Array(maps.reduce((sum, { stride }) => sum + stride * count, 0));
  const maker = new CycleMaker(cycle, maps);
  for (let c = 0; c < count; c++) {
    let set = 0;
    const outs = maps.map(({ stride }) => {
      const at = set + c * stride;
      set += stride * count;
      return floats.subarray(at, at + stride);
    });
    maker.make((frame) => read(c * cycle + frame), outs);
  }
  return { cycle, count, floats };
}

/** Makes the tables of one cycle after the other: its harmonics by a Fourier transform of its own length, then each set by the inverse one. */
export class CycleMaker {
  private readonly cosines: Float64Array;
  private readonly sines: Float64Array;
  private readonly own: Fft | AnyFft;
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  private readonly transforms = new Map<number, { fft: Fft; re: Float64Array; im: Float64Array }>();

  constructor(
    private readonly cycle: number,
    private readonly maps: readonly CycleMap[],
  ) {
    const most = maps.at(-1)?.harmonics ?? 1;
    this.cosines = new Float64Array(most + 1);
    this.sines = new Float64Array(most + 1);
    this.own = cycle > 1 && Number.isInteger(Math.log2(cycle)) ? new Fft(cycle) : new AnyFft(cycle);
    this.re = new Float64Array(cycle);
    this.im = new Float64Array(cycle);
    for (const { points } of maps) {
      if (this.transforms.has(points)) continue;
      this.transforms.set(points, { fft: new Fft(points), re: new Float64Array(points), im: new Float64Array(points) });
    }
  }

  /** Reads one cycle (frame by frame) and writes its tables, `outs[m]` where it stands in the m-th set. */
  make(read: (frame: number) => number, outs: readonly Float32Array[]): void {
    this.analyse(read);
    this.maps.forEach(({ harmonics, points }, m) => {
      const { fft, re, im } = this.transforms.get(points) as { fft: Fft; re: Float64Array; im: Float64Array };
      re.fill(0);
      im.fill(0);
      for (let h = 1; h <= harmonics; h++) {
        re[h] = this.cosines[h] as number;
        im[h] = this.sines[h] as number;
      }
      fft.forward(re, im);
      const out = outs[m] as Float32Array;
      for (let i = -BEFORE; i < points + BEHIND; i++) out[i + BEFORE] = re[(i + points) % points] as number;
    });
  }

  /** The harmonics' cosine and sine parts, without what stands still. */
  private analyse(read: (frame: number) => number): void {
    const { cycle, cosines, sines, own, re, im } = this;
    for (let i = 0; i < cycle; i++) re[i] = read(i);
    im.fill(0);
    own.forward(re, im);
    for (let h = 1; h < cosines.length; h++) {
      cosines[h] = (2 * (re[h] ?? 0)) / cycle;
      sines[h] = (-2 * (im[h] ?? 0)) / cycle;
    }
  }
}
