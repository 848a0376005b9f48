import { describe, expect, test } from "@jest/globals";
import { PitchFinder } from "../analysis";
import { hertzOf, seededRandom } from "../audio";
import { banksOf, filterResponse, interpolate, Limiter, likenessOf, loopedSample } from "../dsp";
import {
  addRoute,
  addUnit,
  changeZones,
  type Instrument,
  newGroup,
  newLoop,
  newUnit,
  removeZones,
  setParam,
  together,
} from "../instrument";
import { compile } from "./compile";
import { bench, benchInstrument, peak, RATE, rms, sine, steepest } from "./test-bench";

const noise = (frames: number, level: number, seed = 2) => {
  const random = seededRandom(seed);
  return { rate: RATE, channels: [Float32Array.from({ length: frames }, () => (random() * 2 - 1) * level)] };
};
const set = (address: string, value: number | string) => (i: Instrument) => setParam(i, address, value).apply(i);
const pitchOf = (x: Float32Array) => new PitchFinder(RATE).find(x).note ?? Number.NaN;

describe("pitch", () => {
  test.each([60, 61, 67, 72, 48, 84])("key %i sounds at its pitch", (key) => {
    const b = bench([sine(3 * RATE, hertzOf(60))], [{ root: 60 }]);
    b.engine.midi(0x90, key, 100);
    expect(Math.abs(pitchOf(b.play(RATE / 2).left) - key) * 100).toBeLessThan(0.5);
  });

  test("at the root of a sample of the engine's own rate the sample itself comes out, from the very frame", () => {
    const sound = noise(4000, 0.5);
    const b = bench([sound], [{ root: 60 }]);
    b.engine.midi(0x90, 60, 100, 777);
    const { left } = b.play(3000);
    expect(peak(left.subarray(0, 777))).toBe(0);
    const bank = banksOf()[0];
    if (!bank) throw new Error("no bank");
    const read = (i: number) => sound.channels[0]?.[i] ?? 0;
    for (let i = 0; i < 2000; i++) expect(left[777 + i]).toBeCloseTo(interpolate(bank, read, i), 5);
  });

  test("the kernel agrees with its plain reference at any rate", () => {
    const sound = noise(6000, 0.4);
    const read = (i: number) => sound.channels[0]?.[i] ?? 0;
    for (const key of [53, 60, 64, 67, 71, 77, 90]) {
      const b = bench([sound], [{ root: 60 }]);
      b.engine.midi(0x90, key, 127);
      const { left } = b.play(300);
      const rate = 2 ** ((key - 60) / 12);
      const bank = banksOf().find((x) => rate <= x.upTo);
      if (!bank) throw new Error("no bank");
      for (let i = 0; i < 300; i++)
        expect(Math.abs((left[i] as number) - interpolate(bank, read, i * rate))).toBeLessThan(2e-5);
    }
  });

  test("tuning, transposition, bend and A4 add up", () => {
    const b = bench([sine(2 * RATE, hertzOf(60))], [{ root: 60, tune: 30 }], (i) =>
      set("play/a4", 432)(set("layers/main/source/transpose", 5)(i)),
    );
    b.engine.midi(0xe0, 127, 127);
    b.engine.midi(0x90, 60, 100);
    const expected = 60 + 0.3 + 5 + 2 * (16383 / 8192 - 1) + 12 * Math.log2(432 / 440);
    expect(pitchOf(b.play(RATE / 2).left)).toBeCloseTo(expected, 2);
  });
});

describe("loops", () => {
  const sound = noise(5000, 0.5);
  const x = sound.channels[0] ?? new Float32Array(0);
  const at = (t: number, loop: ReturnType<typeof newLoop>) => loopedSample(x, loop, likenessOf(x, loop), t);

  test.each([
    { start: 1000, end: 4000, fade: 0 },
    { start: 1000, end: 4000, fade: 700 },
    { start: 2000, end: 2100, fade: 0 },
    { start: 2000, end: 2100, fade: 60 },
    { start: 500, end: 502, fade: 0 },
    { start: 0, end: 5000, fade: 0 },
    { start: 4800, end: 5000, fade: 200 },
  ])("$start–$end, fade $fade: the looped sample, exactly, for ever", (given) => {
    const loop = newLoop(given);
    const b = bench([sound], [{ root: 60, loop }]);
    b.engine.midi(0x90, 60, 100);
    const { left } = b.play(20000);
    const bank = banksOf()[0];
    if (!bank) throw new Error("no bank");
    // Taps reach back over the seam, where the past of the loop's beginning differs from the loop's own end.
    let worst = 0;
    for (let t = 0; t < 20000; t += 3) {
      const expected = interpolate(bank, (i) => (i < 0 ? 0 : at(i, loop)), t);
      worst = Math.max(worst, Math.abs((left[t] as number) - expected));
    }
    expect(worst).toBeLessThan(1e-4);
  });

  test("a held tone goes on for ten seconds at its level, without a step", () => {
    const frequency = 480;
    const b = bench([sine(RATE, frequency)], [{ root: 60, loop: newLoop({ start: 10000, end: 40000, fade: 2000 }) }]);
    b.engine.midi(0x90, 60, 100);
    const { left } = b.play(10 * RATE);
    const ideal = 0.5 * 2 * Math.sin((Math.PI * frequency) / RATE);
    expect(steepest(left, 100)).toBeLessThan(ideal * 1.005);
    expect(rms(left.subarray(9 * RATE))).toBeCloseTo(0.5 / Math.SQRT2, 3);
  });

  test("without a loop the note ends with its sample", () => {
    const b = bench([sound], [{ root: 60 }]);
    b.engine.midi(0x90, 60, 100);
    b.play(6000);
    expect(peak(b.play(1000).left)).toBe(0);
    expect(b.engine.status().voices).toBe(0);
  });

  test("an end before the sample's end fades out", () => {
    const b = bench([sine(RATE, 480)], [{ root: 60, end: 12345 }]);
    b.engine.midi(0x90, 60, 100);
    const { left } = b.play(14000);
    expect(peak(left.subarray(12360))).toBe(0);
    expect(steepest(left.subarray(12000))).toBeLessThan(0.035);
  });
});

describe("which zone sounds", () => {
  const sounds = [0.1, 0.2, 0.3, 0.4].map((level) => ({ rate: RATE, channels: [new Float32Array(40000).fill(level)] }));
  const heard = (b: ReturnType<typeof bench>, key: number, velocity: number) => {
    b.engine.midi(0x90, key, velocity);
    const value = b.play(600).left[400] as number;
    b.engine.midi(0xb0, 123, 0);
    b.play(1000);
    return Math.round(value * 1000) / 1000;
  };

  test("key and velocity ranges include both their ends", () => {
    const b = bench(sounds, [
      { sound: 0, keyLow: 0, keyHigh: 59, root: 50 },
      { sound: 1, keyLow: 60, keyHigh: 127, velHigh: 80, root: 60 },
      { sound: 2, keyLow: 60, keyHigh: 127, velLow: 81, root: 60 },
    ]);
    expect([heard(b, 59, 64), heard(b, 60, 80), heard(b, 60, 81), heard(b, 127, 127)]).toEqual([0.1, 0.2, 0.3, 0.3]);
  });

  test("round robins come in order, each key for itself, and a velocity with fewer repeats has its own count", () => {
    const b = bench(sounds, [
      { sound: 0, repeat: 1, velHigh: 64 },
      { sound: 1, repeat: 2, velHigh: 64 },
      { sound: 2, repeat: 5, velHigh: 64 },
      { sound: 3, repeat: 1, velLow: 65 },
    ]);
    const soft = [60, 60, 61, 60, 60].map((key) => heard(b, key, 50));
    expect(soft).toEqual([0.1, 0.2, 0.1, 0.3, 0.1]);
    expect([heard(b, 60, 100), heard(b, 60, 100)]).toEqual([0.4, 0.4]);
  });

  test("the trace says what played and why the others did not", () => {
    const b = bench(sounds, [
      { sound: 0, keyHigh: 59 },
      { sound: 1, keyLow: 60, velHigh: 80, root: 48 },
      { sound: 2, keyLow: 60, velLow: 81, root: 60, repeat: 2 },
      { sound: 3, keyLow: 60, velLow: 81, root: 60, repeat: 1, gain: -6 },
    ]);
    b.engine.midi(0x90, 60, 100);
    b.play(128);
    const [trace] = b.engine.trace.drain();
    expect(trace).toMatchObject({ key: 60, velocity: 100, zones: 4, otherKeys: 1, rules: "off" });
    expect(trace?.at.map((z) => [z.zone, z.reason])).toEqual([
      [1, 1],
      [2, 2],
      [3, 0],
    ]);
    expect(trace?.at[2]?.level).toBeCloseTo(-6, 5);
  });

  test("among many zones on one key, the one that played is always named", () => {
    const zones = Array.from({ length: 60 }, (_, i) => ({ sound: 0, root: 60, repeat: i + 1 }));
    const b = bench(sounds, zones);
    for (let i = 0; i < 60; i++) {
      b.engine.midi(0x90, 60, 100);
      b.play(128);
      const trace = b.engine.trace.drain()[0];
      expect(trace?.at.filter((z) => z.reason === 0).map((z) => z.zone)).toEqual([i]);
      expect(trace?.zones).toBe(60);
    }
  });

  test("a sample that isn't there is told, and sounds once it has come", () => {
    const instrument = benchInstrument(sounds.slice(0, 1), [{ root: 60 }]);
    const b = bench([], [], () => instrument);
    b.engine.midi(0x90, 60, 100);
    b.play(128);
    expect(b.engine.trace.drain()[0]?.at[0]?.reason).toBe(3);
    if (sounds[0]) b.engine.addSample(instrument.samples[0]?.sha ?? "", sounds[0]);
    b.engine.midi(0x90, 60, 100);
    expect(b.play(600).left[500]).toBeCloseTo(0.1, 4);
  });
});

describe("shaping", () => {
  test("velocity lowers the level by the set range, evenly in decibels", () => {
    const level = (velocity: number) => {
      const b = bench([sine(RATE, 500)], [{ root: 60 }], set("layers/main/strip/velocity", 40));
      b.engine.midi(0x90, 60, velocity);
      return 20 * Math.log10(rms(b.play(9600).left) * Math.SQRT2 * 2);
    };
    expect(level(127)).toBeCloseTo(0, 1);
    expect(level(64)).toBeCloseTo(-20, 1);
    expect(level(1)).toBeCloseTo(-40, 1);
  });

  test.each([
    ["low", 1000],
    ["low", 6000],
    ["band", 1000],
    ["high", 3000],
  ] as const)("%s pass at %i Hz has its analytic response", (mode, cutoff) => {
    for (const frequency of [200, 1000, 3000, 9000]) {
      const b = bench([sine(RATE, frequency, 0.05)], [{ root: 60 }], (i) =>
        set(
          "layers/main/stages/filter/resonance",
          0.5,
        )(set("layers/main/stages/filter/cutoff", cutoff)(set("layers/main/stages/filter/type", mode)(i))),
      );
      b.engine.midi(0x90, 60, 100);
      b.play(9600);
      const measured = 20 * Math.log10(rms(b.play(24000).left) * Math.SQRT2 * 20);
      expect(
        Math.abs(
          measured -
            20 *
              Math.log10(
                filterResponse(
                  { mode, slope: "12", character: "clean", cutoff, resonance: 0.5, lift: 12 },
                  RATE,
                  frequency,
                ),
              ),
        ),
      ).toBeLessThan(0.2);
    }
  });

  test("a route moves its target: the wheel by semitones, a macro by octaves of the cutoff", () => {
    const b = bench([sine(4 * RATE, hertzOf(60))], [{ root: 60 }], (i) =>
      addRoute({ id: "r", source: "wheel", target: "layers/main/source/transpose", amount: 7, on: true }).apply(i),
    );
    b.engine.midi(0x90, 60, 100);
    b.play(4800);
    b.engine.midi(0xb0, 1, 127);
    b.play(9600);
    expect(pitchOf(b.play(24000).left)).toBeCloseTo(67, 2);
  });

  test("an LFO on the pitch swings by its amount", () => {
    const b = bench([sine(4 * RATE, 2000)], [{ root: 60 }], (i) =>
      set(
        "lfos/lfo1/rate",
        2,
      )(addRoute({ id: "r", source: "lfos/lfo1", target: "layers/main/source/fine", amount: 50, on: true }).apply(i)),
    );
    b.engine.midi(0x90, 60, 100);
    const { left } = b.play(RATE / 2);
    const crossings = (from: number, to: number) => {
      let count = 0;
      for (let i = from + 1; i < to; i++) if ((left[i - 1] as number) < 0 && (left[i] as number) >= 0) count++;
      return count / ((to - from) / RATE);
    };
    // The mean of the sine's first half is 2/π of its height.
    expect(1200 * Math.log2(crossings(0, 12000) / 2000)).toBeCloseTo((50 * 2) / Math.PI, -1);
    expect(1200 * Math.log2(crossings(12000, 24000) / 2000)).toBeCloseTo((-50 * 2) / Math.PI, -1);
  });

  test("pan keeps the power", () => {
    for (const pan of [-1, -0.4, 0, 0.7, 1]) {
      const b = bench([sine(RATE, 500)], [{ root: 60, pan }]);
      b.engine.midi(0x90, 60, 100);
      const { left, right } = b.play(9600);
      expect(rms(left) ** 2 + rms(right) ** 2).toBeCloseTo(0.25, 3);
    }
  });

  test("release dies away by 60 dB in its time; the pedal holds", () => {
    const b = bench([sine(4 * RATE, 500)], [{ root: 60 }], set("layers/main/amp/release", 0.5));
    b.engine.midi(0x90, 60, 100);
    b.play(9600);
    b.engine.midi(0xb0, 64, 127);
    b.engine.midi(0x80, 60, 0);
    expect(rms(b.play(9600).left)).toBeCloseTo(0.5 / Math.SQRT2, 3);
    b.engine.midi(0xb0, 64, 0);
    b.play(12000);
    expect(20 * Math.log10(rms(b.play(480).left) * Math.SQRT2 * 2)).toBeCloseTo(-30.6, 0);
  });
});

describe("what must never happen", () => {
  const long = [sine(4 * RATE, 300, 0.3), sine(4 * RATE, 451, 0.3)];
  const phrase = (b: ReturnType<typeof bench>) => {
    for (let i = 0; i < 40; i++) {
      b.engine.midi(0x90, 40 + i, 30 + 2 * i, i * 371);
      b.engine.midi(0x80, 40 + i, 0, i * 371 + 5000);
      b.engine.midi(0xb0, 1, (i * 13) % 128, i * 500);
    }
  };
  const rich = (i: Instrument) => {
    const moved = together("", [
      addUnit("effects", newUnit("reverb", "reverb")),
      addRoute({
        ...{ id: "r", source: "lfos/lfo1", target: "layers/main/stages/filter/cutoff" },
        ...{ amount: -3, on: true },
      }),
    ]).apply(i);
    return set("effects/reverb/mix", 0.4)(set("layers/main/stages/filter/type", "low")(moved));
  };

  test("the same bits, however the time is split", () => {
    const [one, two, three] = [128, 1, 37].map((block) => {
      const b = bench(
        long,
        [
          { sound: 0, repeat: 1 },
          { sound: 1, repeat: 2 },
        ],
        rich,
      );
      phrase(b);
      return b.play(24000, block);
    });
    expect(two).toEqual(one);
    expect(three).toEqual(one);
  });

  test("a reset plays the same again", () => {
    const b = bench(
      long,
      [
        { sound: 0, repeat: 1 },
        { sound: 1, repeat: 2 },
      ],
      rich,
    );
    phrase(b);
    const first = b.play(12000);
    b.engine.reset();
    phrase(b);
    expect(b.play(12000)).toEqual(first);
  });

  test("more voices than allowed: others give way without a click, and the trace says so", () => {
    const b = bench([sine(4 * RATE, 200, 0.2)], [{ root: 60 }], set("play/voices", 4));
    for (let i = 0; i < 12; i++) b.engine.midi(0x90, 60 + i, 100, i * 2000);
    const { left } = b.play(26000);
    expect(b.engine.status().voices).toBeLessThanOrEqual(4);
    expect(b.engine.trace.drain().filter((t) => t.stolen)).toHaveLength(8);
    expect(steepest(left)).toBeLessThan(0.08);
  });

  test("a limit of voices that becomes lower under held keys is kept at once, without a click, and by the next note too", () => {
    const b = bench([sine(4 * RATE, 200, 0.02)], [{ root: 60 }], set("play/voices", 64));
    for (let i = 0; i < 40; i++) b.engine.midi(0x90, 40 + i, 100);
    b.play(4800);
    expect(b.engine.status().voices).toBe(40);
    b.engine.setBase(compile(set("play/voices", 2)(b.instrument)).base);
    const { left } = b.play(4800);
    expect(b.engine.status().voices).toBe(2);
    expect(steepest(left)).toBeLessThan(0.05);
    b.engine.trace.drain();
    b.engine.midi(0x90, 100, 100);
    b.play(4800);
    expect(b.engine.status().voices).toBe(2);
    expect(b.engine.trace.drain()[0]).toMatchObject({ stolen: 1 });
  });

  test("all notes off ends in silence; keys struck again do not hang", () => {
    const b = bench(long, [{ sound: 0 }]);
    for (let i = 0; i < 50; i++) b.engine.midi(0x90, 60, 100, i * 100);
    b.play(6000);
    b.engine.midi(0x80, 60, 0);
    b.play(RATE * 2);
    expect(b.engine.status().voices).toBe(0);
    b.engine.midi(0x90, 60, 100);
    b.play(1000);
    b.engine.midi(0xb0, 123, 0);
    b.play(1000);
    expect(peak(b.play(500).left)).toBe(0);
  });

  test("thousands of random events: never a number that isn't finite, nothing above the ceiling, silence at the end", () => {
    const random = seededRandom(12);
    const b = bench(
      long,
      [
        { sound: 0, loop: newLoop({ start: 100, end: 5000, fade: 50 }) },
        { sound: 1, repeat: 2, loop: newLoop({ start: 0, end: 3, fade: 9 }) },
      ],
      rich,
    );
    const statuses = [0x90, 0x90, 0x90, 0x80, 0xb0, 0xd0, 0xe0];
    for (let i = 0; i < 10000; i++) {
      const status = statuses[Math.floor(random() * statuses.length)] ?? 0x90;
      b.engine.midi(status, Math.floor(random() * 128), Math.floor(random() * 128), Math.floor(random() * 2 * RATE));
    }
    const { left, right } = b.play(2 * RATE);
    for (const x of [left, right]) {
      for (const v of x) if (!(Math.abs(v) <= Limiter.CEILING + 1e-6)) throw new Error(`heard ${v}`);
    }
    b.engine.midi(0xb0, 64, 0);
    b.engine.midi(0xb0, 123, 0);
    b.play(RATE * 12);
    expect(peak(b.play(1000).left)).toBeLessThan(1e-4);
    expect(b.engine.status()).toMatchObject({ voices: 0, broken: 0 });
  });

  test("an edit changes held notes in place: no cut, no step", () => {
    const b = bench([sine(4 * RATE, 480, 0.4)], [{ root: 60, loop: newLoop({ start: 5000, end: 150000, fade: 900 }) }]);
    b.engine.midi(0x90, 60, 100);
    b.play(9600);
    b.change(
      changeZones(new Set(["z0"]), "Set loop", (z) => ({
        ...z,
        loop: newLoop({ start: 6000, end: 140000, fade: 500 }),
      })).apply(b.instrument),
    );
    b.change(setParam(b.instrument, "layers/main/strip/level", -12).apply(b.instrument));
    const { left } = b.play(9600);
    expect(steepest(left)).toBeLessThan(0.0265);
    expect(rms(left.subarray(4800))).toBeCloseTo((0.4 * 10 ** (-12 / 20)) / Math.SQRT2, 3);
    b.change(removeZones(new Set(["z0"])).apply(b.instrument));
    const gone = b.play(600).left;
    expect(steepest(gone)).toBeLessThan(0.0265);
    expect(b.engine.status().voices).toBe(0);
  });

  test("memory is given back when samples are no longer wanted", () => {
    const b = bench(long, [{ sound: 0, loop: newLoop({ start: 10, end: 4000, fade: 5 }) }]);
    const full = b.engine.memoryUsed;
    b.change({
      ...b.instrument,
      samples: [],
      layers: b.instrument.layers.map((l) => ({ ...l, groups: [newGroup("main", "Main")] })),
    });
    expect(full - b.engine.memoryUsed).toBeGreaterThan(2 * 4 * RATE * 4);
    b.change(b.instrument);
    b.engine.midi(0x90, 60, 100);
    b.play(128);
    expect(b.engine.trace.drain()[0]?.at[0]?.reason).toBe(3);
  });
});
