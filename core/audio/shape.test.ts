import { describe, expect, test } from "@jest/globals";
import { type Audio, framesOf } from "./audio";
import { deconvolve, makeRoom, makeSweep, responseOfClap, trimResponse } from "./deconvolve";
import { learnNoise, quietestStretch, reduceNoise } from "./denoise";
import { seededRandom } from "./random";
import { resample } from "./resample";
import { amplify, type FadeShape, fade, fadeAt, removeOffset, reversed, zeroCrossing } from "./shape";
import { stretch } from "./stretch";

const RATE = 44100;
const { sin, PI } = Math;
const sine = (hertz: number, seconds: number, level = 0.5): Float32Array<ArrayBuffer> => {
  const step = (2 * PI * hertz) / RATE;
  return Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => level * sin(i * step));
};
const mono = (samples: Float32Array): Audio => ({ rate: RATE, channels: [samples] });
const first = (audio: Audio): Float32Array => audio.channels[0] as Float32Array;
const power = (x: Float32Array, from = 0, to = x.length): number => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += (x[i] as number) ** 2;
  return sum / (to - from);
};

describe("shaping", () => {
  test.each(["smooth", "straight", "power", "slow"] as FadeShape[])(
    "a %s fade goes from silence to full without ever falling, and leaves the rest alone",
    (shape) => {
      expect(fadeAt(shape, 0)).toBeCloseTo(0, 12);
      expect(fadeAt(shape, 1)).toBeCloseTo(1, 12);
      const faded = first(fade(mono(new Float32Array(100).fill(1)), "in", 40, shape));
      for (let i = 1; i < 40; i++) expect(faded[i] as number).toBeGreaterThan(faded[i - 1] as number);
      expect([...faded.slice(40)].every((x) => x === 1)).toBe(true);
      const out = first(fade(mono(new Float32Array(100).fill(1)), "out", 40, shape));
      expect(out).toEqual(faded.slice().reverse());
    },
  );

  test("a fade longer than the sound takes the whole of it", () => {
    expect(framesOf(fade(mono(new Float32Array(10).fill(1)), "in", 1000, "smooth"))).toBe(10);
  });

  test("gain, offset and reverse do what they say", () => {
    const x = mono(Float32Array.of(0.25, -0.5, 0.75));
    expect(first(amplify(x, 6.0206))[1]).toBeCloseTo(-1, 4);
    expect([...first(removeOffset(x))].reduce((a, b) => a + b, 0)).toBeCloseTo(0, 6);
    expect([...first(reversed(x))]).toEqual([0.75, -0.5, 0.25]);
    expect(first(reversed(reversed(x)))).toEqual(first(x));
  });

  test("the nearest zero crossing is found on either side, and none beyond reach", () => {
    const x = sine(441, 0.1);
    expect(zeroCrossing(x, 108, 20)).toBe(100);
    expect(zeroCrossing(x, 95, 20)).toBe(100);
    expect(zeroCrossing(x, 125, 5)).toBe(125);
  });
});

describe("stretching", () => {
  test.each([0.5, 0.8, 1.5, 3])("× %f: the length is right and the pitch stays", (ratio) => {
    const out = first(stretch(mono(sine(330, 0.8)), ratio));
    expect(out.length).toBe(Math.round(0.8 * RATE * ratio));
    let crossings = 0;
    const [from, to] = [Math.round(out.length * 0.1), Math.round(out.length * 0.8)];
    for (let i = from; i < to; i++) if ((out[i - 1] as number) < 0 && (out[i] as number) >= 0) crossings++;
    expect((crossings * RATE) / (to - from) / 330).toBeCloseTo(1, 1.7);
    expect(10 * Math.log10(power(out, from, to) / 0.125)).toBeCloseTo(0, 0);
  });

  test("as long as before is the same sound; beyond reach is refused", () => {
    const x = mono(sine(200, 0.3));
    expect(stretch(x, 1)).toBe(x);
    expect(() => stretch(x, 9)).toThrow(RangeError);
  });
});

describe("noise reduction", () => {
  const random = seededRandom(4);
  const room = Float32Array.from({ length: RATE * 2 }, () => (random() * 2 - 1) * 0.01);
  const tone = sine(500, 1, 0.4);
  const x = Float32Array.from(room, (n, i) => n + (i >= RATE ? (tone[i - RATE] as number) : 0));

  test("noise falls by nearly the amount; a tone well above it keeps its level", () => {
    const profile = learnNoise(mono(x), 0, RATE * 0.8);
    const out = first(reduceNoise(mono(x), profile, 18));
    const noise = 10 * Math.log10(power(out, 4000, RATE - 4000) / power(x, 4000, RATE - 4000));
    expect(noise).toBeLessThan(-14);
    expect(noise).toBeGreaterThan(-18.5);
    const kept = 10 * Math.log10(power(out, RATE + 8000, 2 * RATE - 8000) / power(x, RATE + 8000, 2 * RATE - 8000));
    expect(kept).toBeCloseTo(0, 1);
  });

  test("an amount of 0 changes nothing, a silent profile next to nothing", () => {
    const profile = learnNoise(mono(new Float32Array(4096)), 0, 4096);
    expect(reduceNoise(mono(x), profile, 0)).toEqual(mono(x));
    const out = first(reduceNoise(mono(x), profile, 30));
    let most = 0;
    for (let i = 0; i < x.length; i++) most = Math.max(most, Math.abs((out[i] as number) - (x[i] as number)));
    expect(most).toBeLessThan(1e-5);
    expect(() => learnNoise(mono(x), 0, 100)).toThrow(RangeError);
  });

  test("the quietest stretch is where the tone isn't, and never digital silence", () => {
    expect(quietestStretch(x, 22050)).toBeLessThan(RATE - 22050 + 3000);
    const gap = Float32Array.from(x);
    gap.fill(0, 30000, 60000);
    const at = quietestStretch(gap, 8000);
    expect(at + 8000 <= 31000 || at >= 59000).toBe(true);
  });
});

describe("another rate", () => {
  test.each([22050, 48000, 96000])(
    "a tone keeps its pitch and level at %i Hz, and what can't be there is gone",
    (rate) => {
      const out = first(resample(mono(sine(1000, 0.2)), rate));
      expect(out.length).toBe(Math.round(0.2 * rate));
      const step = (2 * PI * 1000) / rate;
      let most = 0;
      for (let i = 300; i < out.length - 300; i++)
        most = Math.max(most, Math.abs((out[i] as number) - 0.5 * sin(i * step)));
      expect(most).toBeLessThan(0.002);
      if (rate < RATE) expect(power(first(resample(mono(sine(15000, 0.1)), rate)), 400, 1800)).toBeLessThan(1e-6);
      expect(() => resample(mono(sine(1, 0.01)), 0)).toThrow(RangeError);
    },
  );
});

describe("room responses", () => {
  const rate = 16000;
  const sweep = makeSweep({ from: 40, to: 7600, seconds: 1 }, rate);
  const room = makeRoom(rate, 0.15, 3);
  /** The sweep in the room, 100 frames after the recording began; `after` frames are recorded after its end. */
  const recorded = (after: number): Float32Array<ArrayBuffer> => {
    const heard = new Float32Array(sweep.length + after);
    for (let k = 0; k < room.length; k++) {
      const r = room[k] as number;
      if (r === 0) continue;
      for (let i = 0; i < sweep.length && i + k + 100 < heard.length; i++)
        heard[i + k + 100] = (heard[i + k + 100] as number) + (sweep[i] as number) * r;
    }
    return heard;
  };

  test.each([
    [0, 0.15, 0.19],
    [0.0005, 0.12, 0.19],
    [0.01, 0.05, 0.15],
    [0.05, 0.04, 0.12],
  ])(
    "beside noise at a level of %d, a room of 0.15 s ends between %d and %d s, however long was recorded",
    (noise, from, to) => {
      for (const seconds of [0.5, 3]) {
        const random = seededRandom(6);
        const heard = recorded(seconds * rate).map((x) => x + noise * (random() * 2 - 1));
        const length = framesOf(trimResponse(deconvolve({ rate, channels: [heard] }, sweep))) / rate;
        expect(length).toBeGreaterThanOrEqual(from);
        expect(length).toBeLessThan(to);
      }
    },
  );

  test("a sweep heard in a room gives the room back", () => {
    const heard = recorded(room.length + 2500);
    const response = first(deconvolve({ rate, channels: [heard] }, sweep));
    // Compared band-limited: the sweep says nothing below 40 Hz.
    let [dot, a, b] = [0, 0, 0];
    for (let i = 70; i < 1500; i++) {
      dot += (response[i] as number) * (room[i] as number);
      a += (response[i] as number) ** 2;
      b += (room[i] as number) ** 2;
    }
    expect(dot / Math.sqrt(a * b)).toBeGreaterThan(0.93);
    expect(() => deconvolve({ rate, channels: [new Float32Array(100)] }, sweep)).toThrow(
      "lasts 0.01 s, the sweep 1.00 s",
    );
    const early = heard.subarray(0, sweep.length + 200);
    expect(() => deconvolve({ rate, channels: [early] }, sweep)).toThrow("ends 0.01 s after the sweep");
    expect(() => deconvolve({ rate, channels: [new Float32Array(rate * 200)] }, sweep)).toThrow("180 s at the most");
    expect(() => makeSweep({ from: 20, to: 9000, seconds: 1 }, rate)).toThrow(RangeError);
  });

  test("trimming cuts the noise after a response and brings its peak to −1 dB", () => {
    const random = seededRandom(8);
    const room = makeRoom(RATE, 0.3, 5);
    const long = Float32Array.from({ length: RATE }, (_, i) => 0.4 * (room[i] ?? 0) + (random() - 0.5) * 1e-4);
    const out = trimResponse(mono(long));
    expect(framesOf(out)).toBeLessThan(RATE * 0.4);
    expect(framesOf(out)).toBeGreaterThan(RATE * 0.15);
    expect(Math.max(...first(out))).toBeCloseTo(0.891, 3);
  });

  test("a clap begins at its attack", () => {
    const x = new Float32Array(RATE);
    x.set(makeRoom(RATE, 0.2, 1), 20000);
    const at = first(responseOfClap(mono(x))).findIndex((v) => Math.abs(v) > 0.5);
    expect(at).toBe(44);
  });
});
