import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { banksOf, interpolate, likenessOf, loopedSample, type SincBank } from "../dsp";
import { setParam, settleLoop, type Zone } from "../instrument";
import { bench, newLoop, RATE, rms, steepest } from "./test-bench";

const FRAMES = 6000;
const random = seededRandom(5);
const x = Float32Array.from({ length: FRAMES }, () => Math.round((random() * 2 - 1) * 16000) / 32768);
const sound = { rate: RATE, channels: [x] };
const [bank] = banksOf();

/** What a voice plays at its root from a stream of frames. */
const expected = (stream: (t: number) => number, t: number): number =>
  interpolate(bank as SincBank, (i) => (i < 0 ? 0 : stream(i)), t);

const play = (zone: Partial<Zone>, frames: number, letGo = -1, block = 128) => {
  const b = bench([sound], [{ root: 60, ...zone }], (i) =>
    setParam(i, "layers/main/amp/release", 20).apply(setParam(i, "layers/main/amp/releaseBend", 0).apply(i)),
  );
  b.engine.midi(0x90, 60, 127);
  if (letGo >= 0) b.engine.midi(0x80, 60, 0, letGo);
  return { ...b.play(frames, block), engine: b.engine };
};
const worst = (left: Float32Array, stream: (t: number) => number, from = 0, to = left.length): number => {
  let most = 0;
  for (let t = from; t < to; t += 7) most = Math.max(most, Math.abs((left[t] as number) - expected(stream, t)));
  return most;
};

describe("every way round a loop, sample for sample", () => {
  const modes = ["forward", "backward", "alternating"] as const;
  const shapes = [
    [1000, 4000, 0],
    [1000, 4000, 500],
    [2000, 2090, 0],
    [2000, 2090, 40],
    [700, 703, 0],
    [1000, 1600, 280],
  ] as const;
  test.each(modes.flatMap((mode) => shapes.map(([start, end, fade]) => [mode, start, end, fade] as const)))(
    "%s %i–%i, fade %i",
    (mode, start, end, fade) => {
      const loop = newLoop({ start, end, fade, mode });
      const { left } = play({ loop }, 14000);
      const alike = likenessOf(x, loop);
      expect(worst(left, (t) => loopedSample(x, loop, alike, t))).toBeLessThan(1e-4);
    },
  );

  test("alternating is mirrored at both ends", () => {
    const loop = newLoop({ start: 1000, end: 3000, mode: "alternating" });
    const at = (t: number) => loopedSample(x, loop, 1, t);
    for (let d = 0; d < 500; d++) {
      expect(at(2999 + d)).toBe(at(2999 - d));
      expect(at(4998 + d)).toBe(at(4998 - d));
    }
  });

  test("a reversed zone is the mirrored sample, loop and all", () => {
    const mirrored = x.slice().reverse();
    const loop = newLoop({ start: 2000, end: 4500, fade: 300 });
    const own = newLoop({ start: FRAMES - 4500, end: FRAMES - 2000, fade: 300 });
    const { left } = play({ loop, reverse: true }, 12000);
    expect(worst(left, (t) => loopedSample(mirrored, own, likenessOf(mirrored, own), t))).toBeLessThan(1e-4);
    const once = play({ reverse: true }, 7000).left;
    expect(worst(once, (t) => mirrored[t] ?? 0, 0, 5980)).toBeLessThan(1e-4);
    expect(rms(once.subarray(6100))).toBe(0);
  });

  test("any split of blocks gives the same bits", () => {
    const loop = newLoop({ start: 2000, end: 2500, fade: 100, mode: "alternating", until: "release" });
    const zone = { loop, releaseLoop: newLoop({ start: 4000, end: 4400, fade: 50, mode: "backward" }) };
    const [one, two, three] = [128, 1, 37].map((block) => play(zone, 9000, 4321, block).left);
    expect(two).toEqual(one);
    expect(three).toEqual(one);
  });
});

describe("leaving a loop", () => {
  test.each([2, 3, 5])("a loop of %i times is left exactly after so many passes", (times) => {
    const loop = newLoop({ start: 1000, end: 3000, times });
    const { left } = play({ loop }, 16000);
    const out = 3000 + (times - 1) * 2000;
    expect(
      worst(left, (t) => (t < out ? loopedSample(x, loop, 1, t) : (x[t - out + 3000] ?? 0)), 0, out + 2980),
    ).toBeLessThan(1e-4);
    expect(rms(left.subarray(out + 3100))).toBe(0);
  });

  test("a short one too, and one played once is none", () => {
    const loop = newLoop({ start: 1000, end: 1060, times: 7 });
    const out = 1060 + 6 * 60;
    const { left } = play({ loop }, 7000);
    expect(
      worst(left, (t) => (t < out ? loopedSample(x, loop, 1, t) : (x[t - out + 1060] ?? 0)), 0, out + 4900),
    ).toBeLessThan(1e-4);
    const once = play({ loop: newLoop({ start: 1000, end: 3000, times: 1 }) }, 7000).left;
    expect(worst(once, (t) => x[t] ?? 0, 0, 5980)).toBeLessThan(1e-4);
  });

  test.each([2, 4])("alternating %i times: there and back, and out at the end", (times) => {
    const loop = newLoop({ start: 1000, end: 3000, mode: "alternating", times });
    const out = 2999 + (times / 2) * 2 * 1999;
    const { left } = play({ loop }, 16000);
    expect(
      worst(left, (t) => (t < out ? loopedSample(x, loop, 1, t) : (x[t - out + 2999] ?? 0)), 0, out + 2900),
    ).toBeLessThan(1e-4);
  });

  test("backward so many times, then a turn at its start and on to the end", () => {
    const loop = newLoop({ start: 1000, end: 3000, mode: "backward", times: 3 });
    const down = 2999 + 2000;
    const out = down + 1999;
    const stream = (t: number) => (t <= out ? loopedSample(x, loop, 1, t) : (x[1000 + t - out] ?? 0));
    expect(worst(play({ loop }, 14000).left, stream, 0, out + 4900)).toBeLessThan(1e-4);
  });

  test.each(["forward", "backward", "alternating"] as const)(
    "until release, %s: it leaves at the next chance and reaches the end",
    (mode) => {
      for (const [start, end] of [
        [1000, 3000],
        [1000, 1070],
      ] as const) {
        const loop = newLoop({ start, end, mode, until: "release" });
        const { left } = play({ loop }, 24000, 7777);
        // Undo the release's straight fall over 20 s.
        const level = (t: number) => (t < 7777 ? 1 : 1 - (t - 7777) / (20 * RATE));
        const ends = left.findLastIndex((v) => Math.abs(v) > 1e-6);
        expect(ends).toBeGreaterThan(7777 + (FRAMES - end) - 100);
        expect(ends).toBeLessThan(7777 + 2 * (end - start) + FRAMES);
        // Backwards from where it ended, it is the sample's own end.
        const shift = ends - (FRAMES - 1);
        let most = 0;
        const fits = matching(left, level, shift, ends);
        for (let t = ends - 2000; t < ends - 40; t++) {
          const own = expected((n) => x[n] ?? 0, t - shift + fits);
          most = Math.max(most, Math.abs((left[t] as number) / level(t) - own));
        }
        expect(most).toBeLessThan(2e-3);
      }
    },
  );

  /** Which of the shifts −8 to 8 makes the end fit: the last frames of a sound are too quiet to be found to the frame. */
  function matching(left: Float32Array, level: (t: number) => number, shift: number, ends: number): number {
    let best = 0;
    let least = Number.POSITIVE_INFINITY;
    for (let d = -8; d <= 8; d++) {
      let sum = 0;
      for (let t = ends - 300; t < ends - 40; t++)
        sum += Math.abs((left[t] as number) / level(t) - expected((i) => x[i] ?? 0, t - shift + d));
      if (sum < least) {
        least = sum;
        best = d;
      }
    }
    return best;
  }

  test("a release loop is played so many times, then the rest", () => {
    const releaseLoop = newLoop({ start: 4000, end: 4600, times: 3 });
    const { left } = play({ releaseLoop }, 9000, 500);
    const out = 4600 + 2 * 600;
    const stream = (t: number) => (t < out ? loopedSample(x, releaseLoop, 1, t) : (x[t - out + 4600] ?? 0));
    const level = (t: number) => (t < 500 ? 1 : 1 - (t - 500) / (20 * RATE));
    let most = 0;
    for (let t = 0; t < out + 1300; t += 3)
      most = Math.max(most, Math.abs((left[t] as number) / level(t) - expected(stream, t)));
    expect(most).toBeLessThan(2e-4);
  });

  test("a one-shot ignores an early release, another zone doesn't", () => {
    const shot = bench([sound], [{ root: 60, oneShot: true }], (i) =>
      setParam(i, "layers/main/amp/release", 0.005).apply(i),
    );
    shot.engine.midi(0x90, 60, 127);
    shot.engine.midi(0x80, 60, 0, 400);
    expect(worst(shot.play(7000).left, (t) => x[t] ?? 0, 0, 5980)).toBeLessThan(1e-4);
    const plain = bench([sound], [{ root: 60 }], (i) => setParam(i, "layers/main/amp/release", 0.005).apply(i));
    plain.engine.midi(0x90, 60, 127);
    plain.engine.midi(0x80, 60, 0, 400);
    expect(rms(plain.play(7000).left.subarray(1000))).toBe(0);
  });

  test("the start is a parameter: so much of the beginning is left out", () => {
    const b = bench([sound], [{ root: 60 }], (i) => setParam(i, "layers/main/source/start", 1000 / RATE).apply(i));
    b.engine.midi(0x90, 60, 127);
    const { left } = b.play(4000);
    let most = 0;
    for (let t = 0; t < 4000; t++)
      most = Math.max(most, Math.abs((left[t] as number) - expected((i) => x[i] ?? 0, t + 1000)));
    expect(most).toBeLessThan(1e-4);
  });
});

describe("seams", () => {
  test.each(["forward", "backward", "alternating"] as const)(
    "%s: a detuned tone's seam steps by less than a tenth with a crossfade",
    (mode) => {
      const tone = {
        rate: RATE,
        channels: [Float32Array.from({ length: 20000 }, (_, i) => 0.4 * Math.sin(i * 0.0713))],
      };
      const bend = (fade: number) => {
        const b = bench([tone], [{ root: 60, loop: newLoop({ start: 6000, end: 12345, fade, mode }) }]);
        b.engine.midi(0x90, 67, 127);
        const { left } = b.play(40000);
        let most = 0;
        for (let i = 200; i < left.length; i++) {
          most = Math.max(most, Math.abs((left[i] as number) - 2 * (left[i - 1] as number) + (left[i - 2] as number)));
        }
        return most;
      };
      const usual = 0.4 * (0.0713 * 2 ** (7 / 12)) ** 2;
      expect(bend(3000) - usual * 1.05).toBeLessThan((bend(0) - usual) / 10);
    },
  );

  test("rates and directions of all kinds pass the seam without a click", () => {
    const tone = { rate: RATE, channels: [Float32Array.from({ length: 30000 }, (_, i) => 0.4 * Math.sin(i * 0.02))] };
    for (const reverse of [false, true]) {
      for (const key of [36, 55, 72, 84]) {
        const loop = newLoop({ start: 9000, end: 21000, fade: 4000, mode: "alternating" });
        const b = bench([tone], [{ root: 60, reverse, loop }]);
        b.engine.midi(0x90, key, 127);
        const { left } = b.play(RATE);
        expect(steepest(left, 64)).toBeLessThan(0.4 * 0.02 * 2 ** ((key - 60) / 12) * 1.1 + 1e-4);
      }
    }
  });
});

describe("what can't be is put right", () => {
  test.each([
    { start: 5000, end: 9000 },
    { start: 3000, end: 3000 },
    { start: 4000, end: 1000 },
    { start: 100, end: 200, fade: 4000 },
    { start: 0, end: FRAMES, fade: 900, mode: "alternating" as const },
    { start: 5990, end: FRAMES, fade: 100, mode: "backward" as const },
  ])("%j sounds, finitely", (given) => {
    for (const which of ["loop", "releaseLoop"] as const) {
      const { left } = play({ [which]: newLoop(given) }, 30000, 9000);
      expect(left.every((v) => Math.abs(v) < 1.2)).toBe(true);
      expect(rms(left.subarray(0, 4000))).toBeGreaterThan(0.1);
    }
  });

  test("a loop is settled inside the sound, its crossfade within the material of its mode", () => {
    const settle = (loop: Partial<ReturnType<typeof newLoop>>) =>
      settleLoop(newLoop({ start: 100, end: 500, ...loop }), 0, 1000);
    expect(settle({ fade: 999 })?.fade).toBe(100);
    expect(settle({ fade: 999, mode: "backward" })?.fade).toBe(400);
    expect(settle({ fade: 999, mode: "alternating", end: 960 })?.fade).toBe(40);
    expect(settle({ start: 700, end: 600 })).toMatchObject({ start: 598, end: 600 });
  });
});
