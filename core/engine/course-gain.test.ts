import { describe, expect, test } from "@jest/globals";
import { banksOf, interpolate, LoopGain, likenessOf, loopedSample, type SincBank } from "../dsp";
import { changeZones, type Flattening, type Loop, loopMirrored, setParam, type Zone } from "../instrument";
import { bench, newLoop, RATE, rms, steepest } from "./test-bench";

const FRAMES = 9000;
/** A tone that falls by 6 dB in every 2,000 frames. */
const x = Float32Array.from({ length: FRAMES }, (_, i) => 0.9 * 2 ** (-i / 2000) * Math.sin(0.09 * i + 1));
const sound = { rate: RATE, channels: [x] };
const [bank] = banksOf();
const levelAt = (frame: number) => (-6.0206 * frame) / 2000;
const flat = (amount = 1, step = 150): Flattening => ({
  amount,
  from: 900,
  step,
  levels: Array.from({ length: Math.ceil(7000 / step) }, (_, n) => levelAt(900 + n * step)),
});

const expected = (stream: (t: number) => number, t: number): number =>
  interpolate(bank as SincBank, (i) => (i < 0 ? 0 : stream(i)), t);

/** What a voice plays at a key; its release is a straight fall over 20 s. */
const play = (zone: Partial<Zone>, frames: number, { letGo = -1, block = 128, key = 60 } = {}) => {
  const b = bench([sound], [{ root: 60, ...zone }], (i) =>
    setParam(i, "layers/main/amp/release", 20).apply(setParam(i, "layers/main/amp/releaseBend", 0).apply(i)),
  );
  b.engine.midi(0x90, key, 127);
  if (letGo >= 0) b.engine.midi(0x80, key, 0, letGo);
  return b.play(frames, block).left;
};
const stream = (loop: Loop, read = x) => {
  const [alike, gain] = [likenessOf(read, loop), LoopGain.of(loop)];
  return (t: number) => loopedSample(read, loop, alike, t, gain);
};
const worst = (left: Float32Array, of: (t: number) => number, to = left.length): number => {
  let most = 0;
  for (let t = 0; t < to; t += 7) most = Math.max(most, Math.abs((left[t] as number) - expected(of, t)));
  return most;
};

describe("loops that are kept even", () => {
  const shapes = [
    ["forward", 2000, 6000, 0],
    ["forward", 2000, 6000, 900],
    ["backward", 2000, 6000, 500],
    ["alternating", 2000, 6000, 0],
    ["alternating", 2000, 6000, 700],
    ["forward", 2000, 2070, 0],
    ["alternating", 2000, 2075, 20],
  ] as const;
  test.each(shapes)("%s %i–%i, fade %i: frame by frame as the curve says", (mode, start, end, fade) => {
    const loop = newLoop({ start, end, fade, mode, law: "gain", flat: flat() });
    expect(worst(play({ loop }, 20000), stream(loop))).toBeLessThan(2e-4);
  });

  test("the level stays where the loop begins; half of the curve leaves half of the fall", () => {
    const level = (amount: number, from: number) => {
      const left = play({ loop: newLoop({ start: 2000, end: 6000, flat: flat(amount) }) }, 16000);
      return 20 * Math.log10(rms(left.subarray(from, from + 140)));
    };
    for (const from of [2400, 3500, 5700, 9800, 13500])
      expect(Math.abs(level(1, from) - level(1, 2000))).toBeLessThan(0.6);
    expect(level(0, 5800) - level(0, 2000)).toBeCloseTo(-11.4, 0);
    expect(level(0.5, 5800) - level(0.5, 2000)).toBeCloseTo(-5.7, 0);
  });

  test("a reversed zone is the mirrored sample, curve and all", () => {
    const mirrored = x.slice().reverse();
    const loop = newLoop({ start: 2000, end: 6000, fade: 300, law: "gain", flat: flat() });
    const own = loopMirrored(loop, FRAMES);
    expect(worst(play({ loop, reverse: true }, 16000), stream(own, mirrored))).toBeLessThan(2e-4);
  });

  test("let go, it goes on to the end as loud as the loop's end", () => {
    const loop = newLoop({ start: 2000, end: 6000, until: "release", flat: flat() });
    const gain = LoopGain.of(loop) as LoopGain;
    for (const letGo of [1000, 3333, 7000, 9900]) {
      const left = play({ loop }, 18000, { letGo });
      const rounds = Math.max(0, Math.ceil((letGo - 6000) / 4000));
      const out = 6000 + rounds * 4000;
      const of = (t: number) => (t < out ? stream(loop)(t) : (x[t - out + 6000] ?? 0) * gain.alone(9000));
      const level = (t: number) => (t < letGo ? 1 : 1 - (t - letGo) / (20 * RATE));
      let most = 0;
      for (let t = 0; t < out + 2800; t += 7)
        most = Math.max(most, Math.abs((left[t] as number) / level(t) - expected(of, t)));
      expect(most).toBeLessThan(4e-4);
    }
  });

  test("a release loop behind it keeps that level", () => {
    const loop = newLoop({ start: 2000, end: 6000, until: "release", flat: flat() });
    const releaseLoop = newLoop({ start: 7000, end: 8000, fade: 200, law: "gain" });
    const left = play({ loop, releaseLoop }, 16000, { letGo: 500 });
    const most = (LoopGain.of(loop) as LoopGain).alone(9000);
    const after = stream(releaseLoop);
    const level = (t: number) => (t < 500 ? 1 : 1 - (t - 500) / (20 * RATE));
    for (let t = 6100; t < 16000; t += 11)
      expect(Math.abs((left[t] as number) / level(t) - expected((i) => after(i) * most, t))).toBeLessThan(4e-4);
  });

  test("any split of blocks gives the same bits, at any key", () => {
    for (const mode of ["forward", "alternating", "backward"] as const) {
      const loop = newLoop({ start: 2000, end: 6000, fade: 250, mode, until: "release", flat: flat() });
      const zone = { loop, releaseLoop: newLoop({ start: 7000, end: 7400, fade: 50 }) };
      const [one, two, three] = [128, 1, 37].map((block) => play(zone, 9000, { letGo: 4321, block, key: 67 }));
      expect(two).toEqual(one);
      expect(three).toEqual(one);
    }
  });

  test("under a held note it becomes more or less even, another variant or none, without a step", () => {
    const zone = (loop: Loop) => ({ root: 60, loop });
    const full = newLoop({ start: 2000, end: 6000, fade: 300, law: "gain", flat: flat() });
    const played = bench([sound], [zone(full)]);
    const steady = bench([sound], [zone(full)]);
    for (const b of [played, steady]) b.engine.midi(0x90, 60, 127);
    const usual = steepest(steady.play(24000).left, 3000);
    const others: Loop[] = [
      { ...full, flat: flat(0.4) },
      { ...full, start: 2500, end: 4943, fade: 0 },
      { ...full, mode: "alternating" },
      { ...full, flat: null },
      full,
    ];
    let frames = 0;
    for (const loop of others) {
      const { left } = played.play(4000);
      expect(steepest(left, frames === 0 ? 3000 : 1)).toBeLessThan(usual * 1.6);
      frames += 4000;
      const ids = new Set(["z0"]);
      played.change(changeZones(ids, "Set loop", (z) => ({ ...z, loop })).apply(played.instrument));
    }
    expect(rms(played.play(4000).left)).toBeGreaterThan(0.05);
  });

  test.each([
    { amount: 1, from: 8000, step: 1, levels: [0, -140, 60] },
    { amount: 1, from: -40000, step: 3, levels: [-90] },
    { amount: 0.3, from: 2100, step: 1, levels: Array.from({ length: 256 }, (_, n) => (n % 2) * -6) },
    { amount: 1, from: 0, step: 2 ** 30, levels: [0, -140] },
  ])("an odd curve sounds, finitely: %j", (odd) => {
    for (const mode of ["forward", "backward", "alternating"] as const)
      for (const reverse of [false, true]) {
        const left = play({ reverse, loop: newLoop({ start: 2000, end: 6000, mode, flat: odd }) }, 20000, { key: 96 });
        expect(left.every((v) => Number.isFinite(v))).toBe(true);
        expect(rms(left.subarray(0, 2000))).toBeGreaterThan(1e-3);
      }
  });
});
