import { describe, expect, test } from "@jest/globals";
import { Fft } from "../../audio";
import { compileKernels } from "../kernels/compile-kernels";
import { startKernels } from "../kernels/kernels";
import { Compressor, compressedBy } from "./compressor";
import { Crusher } from "./crusher";
import { Delay } from "./delay";
import { DelayLine } from "./delay-line";
import { Drive, type DriveCurve } from "./drive";
import { RATE, through } from "./effect-bench";
import { type BandSettings, bandResponse, Equaliser } from "./equaliser";
import { Phaser } from "./phaser";
import { Stereo } from "./stereo";
import { SweptDelay } from "./swept-delay";
import { Tremolo } from "./tremolo";

const KERNELS = startKernels(compileKernels());
const click = (frames: number): Float32Array => {
  const x = new Float32Array(frames);
  x[0] = 1;
  return x;
};
const sine = (frames: number, hertz: number, level = 0.5): Float32Array =>
  Float32Array.from({ length: frames }, (_, i) => level * Math.sin((2 * Math.PI * hertz * i) / RATE));

/** Amplitude of one frequency in the last `frames` of a sound. */
function amplitude(x: Float32Array, hertz: number, frames = 9600): number {
  let [re, im] = [0, 0];
  for (let i = x.length - frames; i < x.length; i++) {
    re += (x[i] as number) * Math.cos((2 * Math.PI * hertz * i) / RATE);
    im += (x[i] as number) * Math.sin((2 * Math.PI * hertz * i) / RATE);
  }
  return (2 * Math.hypot(re, im)) / frames;
}

const decibels = (x: number): number => 20 * Math.log10(x);

describe("delay", () => {
  test("echoes come at their time, each softer by the feedback, beside the sound as it was", () => {
    const delay = new Delay(RATE);
    delay.tune(0.5, 0.01, 0.5, 10, 22000, 0, false);
    const [left] = through(delay, click(2400));
    expect(left[0]).toBe(1);
    expect(left[480]).toBeCloseTo(0.5, 6);
    // The cuts take a little of each repeat, which they spread over its neighbours.
    const sum = (at: number) => left.subarray(at - 3, at + 30).reduce((a, b) => a + b, 0);
    expect(sum(960)).toBeCloseTo(0.25, 1);
    expect(Math.max(...left.subarray(1, 470).map(Math.abs))).toBe(0);
  });

  test("from side to side: left, right, left", () => {
    const delay = new Delay(RATE);
    delay.tune(1, 0.01, 0.8, 10, 22000, 0, true);
    const [left, right] = through(delay, click(2400), new Float32Array(2400));
    const loud = (x: Float32Array, at: number) => Math.max(...x.subarray(at - 2, at + 3).map(Math.abs));
    expect([loud(left, 480) > 0.3, loud(right, 480) > 0.3]).toEqual([true, false]);
    expect([loud(left, 960) > 0.2, loud(right, 960) > 0.2]).toEqual([false, true]);
    expect([loud(left, 1440) > 0.1, loud(right, 1440) > 0.1]).toEqual([true, false]);
  });

  test("the loop's cuts: what is above the high cut dies away sooner", () => {
    const left = (cut: number) => {
      const delay = new Delay(RATE);
      delay.tune(1, 0.005, 0.9, 10, cut, 0, false);
      const x = sine(9600, 6000);
      x.fill(0, 480);
      through(delay, x);
      return Math.max(...x.subarray(4800).map(Math.abs));
    };
    expect(left(1000)).toBeLessThan(left(20000) / 100);
  });

  test("another time takes over without a step", () => {
    const delay = new Delay(RATE);
    delay.dry = 0;
    delay.tune(1, 0.02, 0, 10, 22000, 0, false);
    const x = sine(RATE / 2, 200);
    through(delay, x.subarray(0, 12000), new Float32Array(12000));
    delay.tune(1, 0.0313, 0, 10, 22000, 0, false);
    const rest = x.subarray(12000);
    through(delay, rest, new Float32Array(rest.length));
    let step = 0;
    for (let i = 6000; i < x.length; i++) step = Math.max(step, Math.abs((x[i] as number) - (x[i - 1] as number)));
    expect(step).toBeLessThan(0.5 * 2 * Math.sin((Math.PI * 200) / RATE) * 1.1);
  });

  test("a driven loop stays bounded and leaves soft echoes alone", () => {
    const echo = (level: number) => {
      const delay = new Delay(RATE);
      delay.tune(1, 0.01, 0.9, 10, 22000, 24, false);
      const x = new Float32Array(1200);
      x[0] = level;
      return Math.max(...through(delay, x)[0].subarray(950, 1000).map(Math.abs)) / level;
    };
    expect(echo(1)).toBeLessThan(0.1);
    expect(echo(1e-4)).toBeGreaterThan(0.4);
  });
});

test("a delay line is exact at whole distances, and between them as good as a cubic", () => {
  const line = new DelayLine(100);
  const f = (t: number) => Math.sin(0.2 * t);
  for (let i = 0; i < 300; i++) line.write(f(i));
  expect(line.between(40)).toBeCloseTo(f(259), 6);
  for (const d of [1.5, 17.25, 60.9]) expect(Math.abs(line.between(d) - f(299 - d))).toBeLessThan(2e-4);
});

describe("chorus and flanger", () => {
  test("without a swing it is a plain copy: the comb's response", () => {
    const effect = new SweptDelay(RATE);
    effect.tune(0.5, 0.001, 0, 1, 0, 0);
    // Half and half with a copy 48 frames late: |cos(π f 48/RATE)|.
    for (const hertz of [100, 400, 1300]) {
      const [left] = through(effect, sine(14400, hertz));
      expect(amplitude(left, hertz)).toBeCloseTo(0.5 * Math.abs(Math.cos((Math.PI * hertz * 48) / RATE)), 3);
    }
  });

  test("the pitch of the copy swings by what the sweep's slope says", () => {
    const effect = new SweptDelay(RATE);
    const [depth, rate] = [0.002, 2];
    effect.tune(1, 0.01, depth, rate, 0, 0);
    const [left] = through(effect, sine(RATE, 1000));
    const times: number[] = [];
    for (let i = 4801; i < left.length; i++) {
      const [a, b] = [left[i - 1] as number, left[i] as number];
      if (a < 0 && b >= 0) times.push(i - b / (b - a));
    }
    const periods = times.slice(1).map((t, i) => t - (times[i] as number));
    const fastest = RATE / Math.min(...periods) / 1000;
    expect(fastest - 1).toBeCloseTo(2 * Math.PI * rate * depth, 2);
  });
});

test("a phaser at rest has as many notches as half its stages, where its all-passes turn by half a circle", () => {
  const phaser = new Phaser(RATE);
  phaser.tune(0.5, 4, 1000, 0, 1, 0, 0);
  // Four stages: each turns by 45° (and by 135°) where tan(πf/RATE) = tan(π/8)·g (and tan(3π/8)·g).
  const g = Math.tan((Math.PI * 1000) / RATE);
  for (const angle of [Math.PI / 8, (3 * Math.PI) / 8]) {
    const notch = (RATE / Math.PI) * Math.atan(g * Math.tan(angle));
    const [left] = through(phaser, sine(19200, notch));
    expect(decibels(amplitude(left, notch, 14400) / 0.5)).toBeLessThan(-40);
  }
  const [left] = through(phaser, sine(19200, 1000));
  expect(decibels(amplitude(left, 1000, 14400) / 0.5)).toBeCloseTo(0, 1);
});

test("a tremolo falls by its depth once in a cycle; half a cycle apart the sides take turns", () => {
  const tremolo = new Tremolo(RATE);
  tremolo.tune(0.8, 4, "sine", 0.5);
  const [left, right] = through(tremolo, new Float32Array(RATE).fill(1));
  expect(Math.min(...left)).toBeCloseTo(0.2, 3);
  expect(Math.max(...left)).toBeCloseTo(1, 3);
  for (let i = 3000; i < RATE; i += 777) expect((left[i] as number) + (right[i] as number)).toBeCloseTo(1.2, 3);
});

describe("drive", () => {
  /** Loudest line of a driven sine that is none of its harmonics, below the loudest of all (dB); of a frequency that falls on whole periods. */
  function aliases(curve: DriveCurve, decibelsOfDrive: number): number {
    const drive = new Drive(RATE, KERNELS);
    drive.tune(decibelsOfDrive, curve, 20000);
    const size = 8192;
    const bin = 853;
    const x = sine(size * 2, (bin * RATE) / size, 1);
    through(drive, x);
    const re = Float64Array.from(x.subarray(size));
    const im = new Float64Array(size);
    new Fft(size).forward(re, im);
    let [most, worst] = [0, 0];
    for (let k = 1; k < (size * 20000) / RATE; k++) {
      const power = Math.hypot(re[k] as number, im[k] as number);
      most = Math.max(most, power);
      // Harmonics stand at multiples of the bin; what folds back stands elsewhere.
      if (k % bin !== 0) worst = Math.max(worst, power);
    }
    return decibels(worst / most);
  }

  test.each<[DriveCurve, number]>([
    ["soft", 12],
    ["soft", 36],
    ["hard", 12],
    ["hard", 36],
    ["fold", 18],
  ])("%s at %i dB, a sine of 5 kHz: aliases below −80 dB", (curve, level) => {
    expect(aliases(curve, level)).toBeLessThan(-80);
  });

  test("without drive a soft sound passes as it is, 24 frames late", () => {
    const drive = new Drive(RATE, KERNELS);
    drive.tune(0, "hard", 20000);
    const x = sine(4800, 1000, 0.2);
    const [left] = through(drive, x.slice());
    // The tone's cut at 20 kHz is the only other thing that it does.
    expect(decibels(amplitude(left, 1000, 2400) / 0.2)).toBeCloseTo(0, 1);
    let worst = 0;
    for (let i = 1000; i < 4000; i++) worst = Math.max(worst, Math.abs((left[i] as number) - (x[i - 24] as number)));
    expect(worst).toBeLessThan(0.02);
  });

  test("what is of middle level stays as loud, however hard it is driven", () => {
    for (const curve of ["soft", "hard"] as const) {
      for (const level of [6, 18, 36]) {
        const drive = new Drive(RATE, KERNELS);
        drive.tune(level, curve, 20000);
        const [left] = through(drive, sine(9600, 300, 0.25));
        const power = Math.sqrt(left.subarray(4800).reduce((sum, v) => sum + v * v, 0) / 4800);
        expect(Math.abs(decibels(power / (0.25 / Math.SQRT2)))).toBeLessThan(0.5);
      }
    }
  });
});

describe("equaliser", () => {
  const settings: readonly BandSettings[] = [
    { kind: "bell", frequency: 1000, gain: 9, q: 1.4 },
    { kind: "bell", frequency: 3000, gain: -12, q: 4 },
    { kind: "lowShelf", frequency: 300, gain: 8, q: 0.7 },
    { kind: "highShelf", frequency: 4000, gain: -10, q: 0.7 },
    { kind: "lowCut", frequency: 200, gain: 0, q: Math.SQRT1_2 },
    { kind: "highCut", frequency: 5000, gain: 0, q: 2 },
  ];

  test.each(settings)("%o does what its response says", (band) => {
    const equaliser = new Equaliser(RATE, 1);
    equaliser.bands[0]?.tune(band);
    for (const hertz of [60, 300, 1000, 3000, 9000]) {
      const [left] = through(equaliser, sine(19200, hertz));
      const wanted = decibels(bandResponse(band, RATE, hertz));
      if (wanted > -60) expect(Math.abs(decibels(amplitude(left, hertz) / 0.5) - wanted)).toBeLessThan(0.05);
    }
  });

  test("the responses are those of the textbook: gain at the centre, shelves far away, 3 dB at a flat cut's corner", () => {
    const at = (band: BandSettings, hertz: number) => decibels(bandResponse(band, RATE, hertz));
    const [bell, , low, high, cut] = settings as [BandSettings, BandSettings, BandSettings, BandSettings, BandSettings];
    expect(at(bell, 1000)).toBeCloseTo(9, 6);
    expect(at(low, 5)).toBeCloseTo(8, 1);
    expect(at(low, 300)).toBeCloseTo(4, 1);
    expect(at(high, 23000)).toBeCloseTo(-10, 0);
    expect(at(cut, 200)).toBeCloseTo(-3.01, 1);
    expect(at({ ...bell, gain: 0 }, 777)).toBeCloseTo(0, 9);
  });

  test("switched off and on again it begins from what passes", () => {
    const equaliser = new Equaliser(RATE, 1);
    const [band] = equaliser.bands;
    band?.tune(settings[0] as BandSettings);
    through(equaliser, sine(4800, 500));
    band?.tune({ ...(settings[0] as BandSettings), kind: "off" });
    const x = sine(4800, 500);
    through(equaliser, x);
    expect(x.subarray(100)).toEqual(sine(4800, 500).subarray(100));
  });
});

describe("compressor", () => {
  test("its curve within 0.2 dB, below, in and above the knee", () => {
    for (const [level, threshold, ratio, knee] of [
      [-40, -18, 4, 6],
      [-18, -18, 4, 6],
      [-6, -18, 4, 6],
      [-3, -30, 20, 0],
      [-12, -24, 2, 24],
    ] as const) {
      const compressor = new Compressor(RATE);
      compressor.tune(1, threshold, ratio, knee, 0.001, 0.5, 0);
      // A level that is the same at every frame.
      const [left] = through(compressor, new Float32Array(RATE / 4).fill(10 ** (level / 20)));
      const over = level - threshold;
      const wanted =
        2 * over < -knee
          ? level
          : 2 * Math.abs(over) <= knee && knee > 0
            ? level + ((1 / ratio - 1) * (over + knee / 2) ** 2) / (2 * knee)
            : threshold + over / ratio;
      expect(Math.abs(decibels(left.at(-1) as number) - wanted)).toBeLessThan(0.2);
      expect(level + compressedBy(level, threshold, ratio, knee)).toBeCloseTo(wanted, 9);
    }
  });

  test("it takes hold and lets go in its times: 63 % of the way", () => {
    const compressor = new Compressor(RATE);
    compressor.tune(1, -20, 10, 0, 0.02, 0.2, 0);
    const x = new Float32Array(RATE).fill(1);
    x.fill(0.01, RATE / 2);
    const [left] = through(compressor, x);
    const full = -18;
    expect(decibels(left[Math.round(0.02 * RATE)] as number)).toBeCloseTo(full * (1 - Math.exp(-1)), 0);
    const back = decibels((left[Math.round(0.7 * RATE)] as number) / 0.01);
    expect(back).toBeCloseTo(full * Math.exp(-1), 0);
  });
});

test("width: nothing but the middle, as it was, nothing but the side; balance takes one side down", () => {
  const out = (width: number, balance: number) => {
    const stereo = new Stereo();
    stereo.tune(width, balance, 0);
    const [left, right] = through(stereo, new Float32Array(64).fill(0.8), new Float32Array(64).fill(0.2));
    return [left[40], right[40]].map((x) => Math.round((x as number) * 1000) / 1000);
  };
  expect(out(0, 0)).toEqual([0.5, 0.5]);
  expect(out(1, 0)).toEqual([0.8, 0.2]);
  expect(out(2, 0)).toEqual([0.3, -0.3]);
  expect(out(1, 0.5)).toEqual([0.4, 0.2]);
  expect(out(1, -1)).toEqual([0.8, 0]);
});

test("a crusher holds values as long as its rate says, on as many steps as its bits", () => {
  const crusher = new Crusher(RATE);
  crusher.tune(1, 3, 12000);
  const [left] = through(crusher, sine(400, 500));
  for (let i = 0; i < 396; i += 4) expect(new Set(left.subarray(i, i + 4)).size).toBe(1);
  for (const x of left) expect((x * 4) % 1).toBeCloseTo(0, 9);
});
