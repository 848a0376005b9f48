import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../../audio";
import { CONTROL } from "../kernels/layout";
import { Hall, type HallSettings } from "./hall";
import { TruePeakLimiter } from "./true-peak-limiter";

const RATE = 48000;
const PLAIN: HallSettings = {
  mix: 1,
  preDelay: 0,
  size: 0.8,
  decay: 1.5,
  low: 1,
  high: 1,
  lowBelow: 250,
  highAbove: 4000,
  diffusion: 0.8,
  early: 0,
  motion: 0.3,
  lowCut: 10,
  highCut: 22000,
  width: 1,
  freeze: false,
};

function through(
  effect: { control?: () => void; process(l: Float32Array, r: Float32Array, from: number, to: number): void },
  left: Float32Array,
  right = left.slice(),
): [Float32Array, Float32Array] {
  for (let at = 0; at < left.length; at += CONTROL) {
    effect.control?.();
    effect.process(left, right, at, Math.min(left.length, at + CONTROL));
  }
  return [left, right];
}

/** The room's answer to a click, without the click. */
function answer(settings: Partial<HallSettings>, seconds: number): [Float32Array, Float32Array] {
  const hall = new Hall(RATE);
  hall.dry = 0;
  hall.tune({ ...PLAIN, ...settings });
  const x = new Float32Array(RATE * seconds);
  x[0] = 1;
  return through(hall, x);
}

/** Time for 60 dB around a frequency, by the energy still to come (Schroeder, 1965) in a band. */
function decayAt(x: Float32Array, hertz: number): number {
  const g = Math.tan((Math.PI * hertz) / RATE);
  const k = 0.8;
  const a1 = 1 / (1 + g * (g + k));
  let band = Float64Array.from(x);
  // Four times, so that no other band's longer tail is heard.
  for (let n = 0; n < 4; n++) {
    let [s1, s2] = [0, 0];
    band = band.map((v) => {
      const v3 = v - s2;
      const v1 = a1 * s1 + g * a1 * v3;
      const v2 = s2 + g * v1;
      s1 = 2 * v1 - s1;
      s2 = 2 * v2 - s2;
      return k * v1;
    });
  }
  const energy = band.map((v) => v * v);
  for (let i = x.length - 2; i >= 0; i--) energy[i] = (energy[i] as number) + (energy[i + 1] as number);
  const level = (i: number) => 10 * Math.log10((energy[i] as number) / (energy[0] as number));
  const from = energy.findIndex((_, i) => level(i) < -5);
  const to = energy.findIndex((_, i) => level(i) < -35);
  return ((to - from) / RATE) * 2;
}

describe("the hall", () => {
  test.each([
    [1.5, 1, 1],
    [0.8, 1.5, 0.5],
    [4, 0.5, 0.3],
  ])("decay %d s, low × %d, high × %d: each band within a tenth", (decay, low, high) => {
    const [left] = answer({ decay, low, high, lowBelow: 300, highAbove: 3000 }, decay * Math.max(1, low) * 1.1 + 0.5);
    expect(Math.abs(decayAt(left, 900) / decay - 1)).toBeLessThan(0.1);
    expect(Math.abs(decayAt(left, 40) / (decay * low) - 1)).toBeLessThan(0.1);
    expect(Math.abs(decayAt(left, 14000) / (decay * high) - 1)).toBeLessThan(0.1);
  });

  test("it grows dense: after 100 ms as noise is, and stays so", () => {
    // Share of values beyond the standard deviation, over that of noise (Abel and Huang, 2006).
    const density = (x: Float32Array, at: number): number => {
      const part = x.subarray(at, at + 960);
      const deviation = Math.sqrt(part.reduce((s, v) => s + v * v, 0) / part.length);
      return part.reduce((n, v) => n + (Math.abs(v) > deviation ? 1 : 0), 0) / part.length / 0.3173;
    };
    const [left] = answer({ decay: 2 }, 1.5);
    for (let ms = 100; ms < 1200; ms += 40) expect(density(left, (ms * RATE) / 1000)).toBeGreaterThan(0.88);
    const [bare] = answer({ decay: 2, diffusion: 0, size: 1 }, 1);
    expect(density(bare, 0.06 * RATE)).toBeLessThan(density(left, 0.06 * RATE));
  });

  test("waits for its pre-delay; the first echoes come before the rest", () => {
    const first = (x: Float32Array) => x.findIndex((v) => Math.abs(v) > 1e-3) / RATE;
    const [late] = answer({ preDelay: 0.1, early: 1 }, 1);
    expect(first(late)).toBeCloseTo(0.1 + 0.0091 * 0.8, 3);
    const [dull] = answer({ early: 0 }, 1);
    expect(first(dull)).toBeGreaterThan(0.02);
  });

  test("left and right are different rooms; without width they are one", () => {
    const [left, right] = answer({}, 1);
    const common = left.reduce((s, v, i) => s + v * (right[i] as number), 0);
    const own = Math.sqrt(left.reduce((s, v) => s + v * v, 0) * right.reduce((s, v) => s + v * v, 0));
    expect(Math.abs(common / own)).toBeLessThan(0.2);
    const [a, b] = answer({ width: 0 }, 1);
    expect(a.every((v, i) => Math.abs(v - (b[i] as number)) < 1e-7)).toBe(true);
  });

  test("frozen, what is in it stays: within 1.5 dB over ten seconds, and nothing comes in", () => {
    const hall = new Hall(RATE);
    hall.dry = 0;
    hall.tune(PLAIN);
    const random = seededRandom(4);
    const noise = (n: number) => Float32Array.from({ length: n }, () => random() - 0.5);
    through(hall, noise(RATE), noise(RATE));
    hall.tune({ ...PLAIN, freeze: true });
    const power = (x: Float32Array) => 10 * Math.log10(x.reduce((s, v) => s + v * v, 0));
    // More noise while it is frozen is not heard in it.
    const [early] = through(hall, noise(RATE), noise(RATE));
    for (let n = 0; n < 8; n++) through(hall, new Float32Array(RATE));
    const [late] = through(hall, new Float32Array(RATE));
    expect(Math.abs(power(late) - power(early))).toBeLessThan(1.5);
  });

  test("made larger and smaller under sound it glides", () => {
    const hall = new Hall(RATE);
    hall.dry = 0;
    hall.tune(PLAIN);
    const tone = Float32Array.from({ length: RATE }, (_, i) => 0.3 * Math.sin((2 * Math.PI * 220 * i) / RATE));
    through(hall, tone.slice());
    hall.tune({ ...PLAIN, size: 0.3 });
    const [left] = through(hall, tone.slice());
    let steepest = 0;
    for (let i = 1; i < left.length; i++)
      steepest = Math.max(steepest, Math.abs((left[i] as number) - (left[i - 1] as number)));
    const most = left.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
    expect(steepest).toBeLessThan(0.08 * most + 0.01);
  });
});

describe("the limiter", () => {
  /** The true peak: eight values for each frame by a long windowed sinc. */
  function truePeak(x: Float32Array, from: number): number {
    let most = 0;
    for (let i = from; i < x.length - 32; i++) {
      for (let p = 0; p < 8; p++) {
        let sum = 0;
        for (let t = -31; t <= 32; t++) {
          const d = t - p / 8;
          const w = 0.5 + 0.5 * Math.cos((Math.PI * d) / 33);
          sum += (x[i + t] as number) * (d === 0 ? 1 : (Math.sin(Math.PI * d) / (Math.PI * d)) * w);
        }
        most = Math.max(most, Math.abs(sum));
      }
    }
    return 20 * Math.log10(most);
  }
  const limited = (x: Float32Array, ceiling: number, drive = 0): Float32Array => {
    const limiter = new TruePeakLimiter(RATE);
    limiter.tune(0, ceiling, 0.05);
    through(limiter, new Float32Array(4800));
    limiter.tune(drive, ceiling, 0.05);
    return through(limiter, x)[0];
  };

  test("true peaks stay below the ceiling: noise, clicks, and a sine whose peaks stand between the frames", () => {
    const random = seededRandom(8);
    // What is above 20 kHz is in no music: there it may be missed.
    const white = Float32Array.from({ length: 9700 }, () => random() * 2 - 1);
    const noise = Float32Array.from({ length: 9600 }, (_, i) => {
      let sum = 0;
      for (let t = -48; t <= 48; t++) {
        const w = 0.5 + 0.5 * Math.cos((Math.PI * t) / 49);
        sum += (white[i + t + 48] as number) * w * (t === 0 ? 0.75 : Math.sin(0.75 * Math.PI * t) / (Math.PI * t));
      }
      return sum;
    });
    const between = Float32Array.from({ length: 9600 }, (_, i) => Math.sin((Math.PI * i) / 2 + Math.PI / 4));
    const clicks = Float32Array.from({ length: 9600 }, (_, i) => (i % 700 === 0 ? 1 : 0.05 * Math.sin(i / 9)));
    for (const x of [noise, between, clicks])
      for (const [ceiling, drive] of [
        [-1, 6],
        [-6, 12],
      ] as const)
        expect(truePeak(limited(x.slice(), ceiling, drive), 400)).toBeLessThan(ceiling + 0.05);
  });

  test("what stays below is only later: by 2.5 ms and a few frames", () => {
    const tone = Float32Array.from({ length: 9600 }, (_, i) => 0.3 * Math.sin(i / 17));
    const out = limited(tone.slice(), -1);
    const late = Math.round(0.0025 * RATE) + 11;
    for (let i = 500; i < 9600; i++) expect(out[i]).toBeCloseTo(tone[i - late] as number, 6);
  });

  test("its gain moves without a step", () => {
    const x = Float32Array.from(
      { length: 9600 },
      (_, i) => (i > 30 * Math.PI * 42 && i < 30 * Math.PI * 64 ? 1 : 0.2) * Math.sin(i / 30),
    );
    const out = limited(x, -12);
    let steepest = 0;
    for (let i = 1000; i < out.length; i++)
      steepest = Math.max(steepest, Math.abs((out[i] as number) - (out[i - 1] as number)));
    expect(steepest).toBeLessThan(0.04);
  });
});
