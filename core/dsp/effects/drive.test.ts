import { describe, expect, test } from "@jest/globals";
import { Fft } from "../../audio";
import { compileKernels } from "../kernels/compile-kernels";
import { startKernels } from "../kernels/kernels";
import { Drive, type DriveCurve } from "./drive";
import { amplitude, decibels, RATE, sine, through } from "./effect-bench";

const KERNELS = startKernels(compileKernels());

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
