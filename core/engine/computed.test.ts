import { describe, expect, test } from "@jest/globals";
import { fftOf, hertzOf } from "../audio";
import { bakeCycles, bakeWaves, compileKernels, mapsOf, startKernels, WAVE_FLOATS } from "../dsp";
import { type Instrument, newSample, setParam, setUnitSample } from "../instrument";
import { baseValues, compile } from "./compile";
import { amplitude, begun, computed, decibels, FACTOR, type Settings } from "./computed-bench";
import { Engine } from "./engine";
import { frameReader, type PackedSample, packSample, storedAt } from "./stored-sample";
import { BENCH_SHA, type Bench, benchOf, peak, RATE, rms } from "./test-bench";

/** Levels of the harmonics of a key in a source, in decibels of its own first one. */
function harmonics(b: Bench, key: number, count: number): number[] {
  b.play(9600);
  const { left } = b.play(RATE);
  const first = hertzOf(key);
  const levels = Array.from({ length: count }, (_, h) => decibels(amplitude(left, first * (h + 1))));
  return levels.map((l) => l - (levels[0] as number));
}

describe("an oscillator", () => {
  test("saw: each harmonic is as loud as its series says", () => {
    harmonics(begun(computed("oscillator"), 57), 57, 20).forEach((level, h) => {
      expect(level).toBeCloseTo(-20 * Math.log10(h + 1), 1);
    });
  });

  test("triangle: odd harmonics alone, falling with the square", () => {
    const levels = harmonics(begun(computed("oscillator", { wave: "triangle" }), 57), 57, 9);
    levels.forEach((level, h) => {
      if (h % 2 === 1) expect(level).toBeLessThan(-95);
      else expect(level).toBeCloseTo(-40 * Math.log10(h + 1), 1);
    });
  });

  test("pulse: harmonics by its width", () => {
    const width = 0.3;
    const levels = harmonics(begun(computed("oscillator", { wave: "pulse", width }), 57), 57, 12);
    const series = (h: number) => decibels(Math.abs(Math.sin(Math.PI * h * width)) / h);
    levels.forEach((level, h) => {
      const wanted = series(h + 1) - series(1);
      if (wanted < -60) expect(level).toBeLessThan(-60);
      else expect(level).toBeCloseTo(wanted, 1);
    });
  });

  test("at C7 nothing but its harmonics is above −90 dB", () => {
    const key = 96;
    const b = begun(computed("oscillator"), key);
    b.play(4800);
    const size = 2 ** 16;
    // Seven cosines (Albrecht, 2001): side lobes below −180 dB.
    const terms = [0.27122036, -0.43344461, 0.21800412, -0.06578534, 0.01076187, -0.00077001, 0.00001368];
    const re = Float64Array.from(b.play(size).left, (x, i) =>
      terms.reduce((sum, term, n) => sum + x * term * Math.cos((2 * Math.PI * n * i) / size), 0),
    );
    const im = new Float64Array(size);
    fftOf(size).forward(re, im);
    const first = (hertzOf(key) * size) / RATE;
    let [top, most] = [0, 0];
    for (let k = 12; k < size / 2; k++) {
      const level = Math.hypot(re[k] as number, im[k] as number);
      if (Math.abs(k - Math.round(k / first) * first) < 9) top = Math.max(top, level);
      else most = Math.max(most, level);
    }
    expect(decibels(most / top)).toBeLessThan(-90);
  });

  test("follows key, tuning and bend to the hundredth of a cent over minutes", () => {
    const b = begun(computed("oscillator", { wave: "sine", fine: 20 }), 60);
    b.play(480);
    const { left } = b.play(RATE * 4);
    const wanted = hertzOf(60.2);
    const phaseAt = (from: number) => {
      let re = 0;
      let im = 0;
      for (let i = 0; i < 4800; i++) {
        const phase = (2 * Math.PI * wanted * (from + i)) / RATE;
        re += (left[from + i] as number) * Math.cos(phase);
        im += (left[from + i] as number) * Math.sin(phase);
      }
      return Math.atan2(im, re);
    };
    const turned = phaseAt(RATE * 3) - phaseAt(0);
    const cents = 1200 * Math.log2(1 - turned / (2 * Math.PI) / 3 / wanted);
    expect(Math.abs(cents)).toBeLessThan(0.01);
  });

  test("unison: as loud as one, spread over both sides", () => {
    const one = begun(computed("oscillator"), 57).play(RATE);
    const many = begun(computed("oscillator", { unison: 7, detune: 25, spread: 1 }), 57).play(RATE);
    expect(Math.abs(decibels(rms(many.left) / rms(one.left)))).toBeLessThan(2);
    const mono = many.left.map((x, i) => x - (many.right[i] as number));
    expect(rms(mono)).toBeGreaterThan(0.5 * rms(many.left));
    expect(peak(one.left.map((x, i) => x - (one.right[i] as number)))).toBeLessThan(1e-6);
  });

  test("a pulse whose width is moved all the time stays without steps beyond the wave's own", () => {
    const b = begun(computed("oscillator", { wave: "pulse", width: 0.02 }), 45);
    b.play(4800);
    const { left } = b.play(4800);
    expect(peak(left)).toBeLessThan(0.35 * 2.3 * FACTOR);
  });
});

describe("noise", () => {
  /** Power of an octave around a frequency, from many windows. */
  const octave = (x: Float32Array, hertz: number): number => {
    let sum = 0;
    const steps = 40;
    for (let k = 0; k < steps; k++) {
      const f = hertz * 2 ** ((k + 0.5) / steps - 0.5);
      for (let at = 0; at + 8192 <= x.length; at += 8192) sum += amplitude(x.subarray(at, at + 8192), f) ** 2 * f;
    }
    return 10 * Math.log10(sum);
  };
  test.each([
    ["white", 3],
    ["pink", 0],
    ["brown", -3],
    ["blue", 6],
  ])("%s: %d dB an octave in octaves, and as loud as the others", (colour, slope) => {
    const { left, right } = begun(computed("noise", { colour }), 60).play(RATE * 4);
    const levels = [250, 1000, 4000].map((f) => octave(left, f));
    expect(((levels[2] as number) - (levels[0] as number)) / 4).toBeCloseTo(slope, 0);
    expect(decibels(rms(left) / FACTOR)).toBeGreaterThan(-17);
    expect(decibels(rms(left) / FACTOR)).toBeLessThan(-13);
    // Left and right have nothing in common.
    const common = left.reduce((sum, x, i) => sum + x * (right[i] as number), 0) / left.length;
    expect(Math.abs(common)).toBeLessThan(0.2 * rms(left) * rms(right));
  });

  test.each([3, 50, 900])("dust of %d a second: so many clicks, at random moments and of all strengths", (density) => {
    const seconds = 8;
    const { left, right } = begun(computed("noise", { colour: "dust", density }), 60).play(RATE * seconds);
    const clicks = [...left.keys()].filter((i) => left[i] !== 0);
    const expected = density * seconds;
    expect(Math.abs(clicks.length - expected)).toBeLessThan(4 * Math.sqrt(expected) + 1);
    expect(peak(left) / FACTOR).toBeLessThan(0.51);
    expect(peak(left) / FACTOR).toBeGreaterThan(0.3);
    // As likely up as down, and the right side has its own.
    const up = clicks.filter((i) => (left[i] as number) > 0).length;
    expect(Math.abs(up - clicks.length / 2)).toBeLessThan(2.5 * Math.sqrt(clicks.length) + 1);
    expect(clicks.filter((i) => Math.abs(right[i] as number) > 1e-6).length).toBeLessThan(0.1 * clicks.length + 3);
    // Gaps are spread as those of independent events: their deviation is their mean.
    if (density < 50) return;
    const gaps = clicks.slice(1).map((at, i) => at - (clicks[i] as number));
    const mean = gaps.reduce((s, g) => s + g, 0) / gaps.length;
    const deviation = Math.sqrt(gaps.reduce((s, g) => s + (g - mean) ** 2, 0) / gaps.length);
    expect(deviation / mean).toBeGreaterThan(0.8);
    expect(deviation / mean).toBeLessThan(1.2);
  });

  test("without width it is the same on both sides; another note has another", () => {
    const b = begun(computed("noise", { width: 0 }), 60);
    const first = b.play(4800);
    expect(peak(first.left.map((x, i) => x - (first.right[i] as number)))).toBeLessThan(1e-6);
    const again = begun(computed("noise", { width: 0 }), 60).play(4800);
    expect(again.left).toEqual(first.left);
    b.engine.midi(0x90, 62, 100);
    const both = b.play(4800);
    expect(rms(both.left)).toBeGreaterThan(1.2 * rms(first.left));
  });
});

test("impulses: all harmonics are as loud as each other", () => {
  const levels = harmonics(begun(computed("impulses"), 57), 57, 60);
  for (const level of levels) expect(Math.abs(level)).toBeLessThan(0.1);
  const { left } = begun(computed("impulses"), 57).play(RATE);
  expect(peak(left)).toBeGreaterThan(0.7 * FACTOR);
  expect(Math.abs(left.reduce((s, x) => s + x, 0) / left.length)).toBeLessThan(1e-4);
});

describe("a strike", () => {
  const settings = { tone: 0, toneLength: 0.5, noise: -60, pitchDrop: 0 };
  test("its tone falls by 60 dB in its length, at the pitch of the key", () => {
    const { left } = begun(computed("strike", settings), 69).play(RATE);
    const [early, late] = [left.subarray(2400, 4800), left.subarray(2400 + 12000, 4800 + 12000)];
    expect(decibels(rms(early) / rms(late))).toBeCloseTo(30, 0);
    expect(amplitude(left.subarray(0, 9600), 440)).toBeGreaterThan(8 * amplitude(left.subarray(0, 9600), 500));
  });

  test("it begins so many semitones above", () => {
    const { left } = begun(computed("strike", { ...settings, pitchDrop: 24, dropTime: 2, toneLength: 8 }), 57).play(
      RATE,
    );
    const crossings = (from: number, to: number) => {
      let count = 0;
      for (let i = from; i < to; i++) if ((left[i - 1] as number) < 0 && (left[i] as number) >= 0) count++;
      return count / ((to - from) / RATE);
    };
    expect(crossings(1, 600)).toBeGreaterThan(700);
    expect(crossings(43000, 48000)).toBeLessThan(330);
  });

  test("once it has died away its voice ends, though the key is held", () => {
    const b = begun(computed("strike", { ...settings, toneLength: 0.1 }), 69);
    b.play(RATE / 2);
    expect(b.engine.status().voices).toBe(0);
  });
});

describe("grains", () => {
  const SHA = BENCH_SHA(7);
  /** A tone that rises from 200 Hz by a hundred each second: where it is read is heard. */
  const rising = Float32Array.from({ length: RATE * 4 }, (_, i) => {
    const t = i / RATE;
    return 0.5 * Math.sin(2 * Math.PI * (200 * t + 50 * t * t));
  });
  const cloud = (params: Settings): Instrument => {
    const made = computed("grains", { timingJitter: 0, detune: 0, width: 0, ...params });
    return setUnitSample(
      "layers/main/source",
      newSample({ sha: SHA, name: "rising", frames: rising.length, rate: RATE, channels: 1 }),
    ).apply(made);
  };
  const sounding = (params: Settings, key = 60): Bench => {
    const b = benchOf(cloud(params));
    b.engine.addSample(SHA, { rate: RATE, channels: [rising] });
    b.engine.midi(0x90, key, 100);
    return b;
  };
  /** Crossings of zero in a second, as a frequency. */
  const pitchOf = (x: Float32Array): number => {
    let [re, im, best, most] = [0, 0, 0, 0];
    for (let hertz = 100; hertz < 1300; hertz += 4) {
      re = 0;
      im = 0;
      for (let at = 0; at + 4096 <= x.length; at += 4096) {
        let [a, b] = [0, 0];
        for (let i = 0; i < 4096; i++) {
          const phase = (2 * Math.PI * hertz * i) / RATE;
          a += (x[at + i] as number) * Math.cos(phase);
          b += (x[at + i] as number) * Math.sin(phase);
        }
        re += a * a + b * b;
        im++;
      }
      if (re / im > most) {
        most = re / im;
        best = hertz;
      }
    }
    return best;
  };

  test.each([
    [0.25, 300],
    [0.75, 500],
  ])("position %d: what is heard stands still there", (position, hertz) => {
    const b = sounding({ position, positionJitter: 0, size: 0.1, density: 50 });
    b.play(4800);
    expect(Math.abs(pitchOf(b.play(RATE).left) - hertz)).toBeLessThan(15);
  });

  test("follows the keys from its root, or doesn't", () => {
    const wide = { position: 0.5, positionJitter: 0, size: 0.05, density: 80 };
    expect(Math.abs(pitchOf(sounding(wide, 72).play(RATE).left.subarray(9600)) - 800)).toBeLessThan(25);
    expect(
      Math.abs(
        pitchOf(
          sounding({ ...wide, keyTracking: 0 }, 72)
            .play(RATE)
            .left.subarray(9600),
        ) - 400,
      ),
    ).toBeLessThan(15);
    expect(
      Math.abs(
        pitchOf(
          sounding({ ...wide, root: 72 }, 72)
            .play(RATE)
            .left.subarray(9600),
        ) - 400,
      ),
    ).toBeLessThan(15);
  });

  test("one at a time they begin on their exact frames, under their window", () => {
    const { left } = sounding({ position: 0.5, positionJitter: 0, size: 0.02, density: 10 }).play(RATE);
    const starts = [];
    for (let i = 1; i < left.length; i++)
      if (Math.abs(left[i] as number) > 1e-5 && left.subarray(Math.max(0, i - 300), i).every((x) => Math.abs(x) < 1e-5))
        starts.push(i);
    // The output's own delay is none: a tenth of a second apart, to a few frames of silence at the window's foot.
    for (let n = 1; n < starts.length; n++)
      expect(Math.abs((starts[n] as number) - (starts[n - 1] as number) - 4800)).toBeLessThan(8);
    expect(starts.length).toBeGreaterThan(7);
  });

  test("as many as there may be at once, at extremes and at the sample's ends: bounded and finite", () => {
    for (const position of [0, 1]) {
      const { left } = sounding(
        { position, positionJitter: 1, size: 1, density: 400, timingJitter: 1, detune: 24, width: 1 },
        127,
      ).play(RATE);
      expect(left.every(Number.isFinite)).toBe(true);
      expect(peak(left)).toBeLessThan(1);
    }
  });

  test("without its sample it is silent; once that has come it sounds, and when it is taken away it is silent again", () => {
    const b = benchOf(cloud({}));
    b.engine.midi(0x90, 60, 100);
    expect(peak(b.play(4800).left)).toBe(0);
    b.engine.addSample(SHA, { rate: RATE, channels: [rising] });
    expect(peak(b.play(9600).left)).toBeGreaterThan(0.01);
    b.engine.dropSample(SHA);
    b.play(480);
    expect(peak(b.play(4800).left)).toBe(0);
    b.engine.tidy();
    expect(peak(b.play(4800).left)).toBe(0);
  });

  test("held as 16, 24 or 32 bits it sounds alike", () => {
    const play = (memory: string) => {
      const made = cloud({ position: 0.3 });
      const b = benchOf(setParam(made, "play/sampleMemory", memory).apply(made));
      b.engine.addSample(SHA, { rate: RATE, channels: [rising] });
      b.engine.midi(0x90, 60, 100);
      return b.play(9600).left;
    };
    const floats = play("float32");
    for (const memory of ["asRecorded", "int16"])
      expect(peak(play(memory).map((x, i) => x - (floats[i] as number)))).toBeLessThan(1e-4);
  });
});

describe("a wavetable", () => {
  const SHA = BENCH_SHA(8);
  const CYCLE = 2048;
  /** Three cycles: the first partial alone, the third alone, a saw. */
  const cycles = Float32Array.from({ length: 3 * CYCLE }, (_, i) => {
    const t = (i % CYCLE) / CYCLE;
    const which = Math.floor(i / CYCLE);
    return which === 2 ? 1 - 2 * t : Math.sin(2 * Math.PI * t * (which === 0 ? 1 : 3));
  });
  const table = (params: Settings): Instrument => {
    const made = computed("wavetable", params);
    const sample = newSample({ sha: SHA, name: "cycles", frames: cycles.length, rate: 44100, channels: 1 });
    return setUnitSample("layers/main/source", sample).apply(made);
  };
  const sounding = (params: Settings, key = 57): Bench => {
    const b = benchOf(table(params));
    b.engine.addSample(SHA, { rate: 44100, channels: [cycles] });
    b.engine.midi(0x90, key, 100);
    b.play(9600);
    return b;
  };
  const level = (x: Float32Array, partial: number) => amplitude(x, 220 * partial) / FACTOR / 0.35;

  test("each place has its cycle, and between two both are blended, or the nearer one is heard", () => {
    const first = sounding({ position: 0 }).play(RATE).left;
    expect(level(first, 1)).toBeCloseTo(1, 2);
    expect(level(first, 3)).toBeLessThan(1e-4);
    const third = sounding({ position: 0.5 }).play(RATE).left;
    expect(level(third, 3)).toBeCloseTo(1, 2);
    const between = sounding({ position: 0.25 }).play(RATE).left;
    expect(level(between, 1)).toBeCloseTo(0.5, 2);
    expect(level(between, 3)).toBeCloseTo(0.5, 2);
    const stepped = sounding({ position: 0.2, interpolation: "stepped" }).play(RATE).left;
    expect(level(stepped, 1)).toBeCloseTo(1, 2);
    expect(level(stepped, 3)).toBeLessThan(1e-4);
  });

  test("a saw among them has its harmonics, high up without aliases", () => {
    const low = sounding({ position: 1 }).play(RATE).left;
    for (let h = 1; h <= 20; h++) expect(decibels(level(low, h) * h * (Math.PI / 2))).toBeCloseTo(0, 0);
    const b = sounding({ position: 1 }, 100);
    const { left } = b.play(RATE);
    const top = hertzOf(100);
    // 48 kHz less the tenth and the eleventh harmonic: where they would fold to.
    for (const h of [10, 11, 12])
      expect(decibels(amplitude(left, RATE - h * top) / amplitude(left, top))).toBeLessThan(-80);
  });

  test("its place may be swept and its cycle's length be another under a held note", () => {
    const b = sounding({ position: 0 });
    for (let n = 1; n <= 20; n++) {
      b.engine.setBase(baseValues(table({ position: n / 20 })));
      const { left } = b.play(480);
      expect(left.every(Number.isFinite)).toBe(true);
      expect(peak(left)).toBeLessThan(0.35 * 1.3 * FACTOR);
    }
    b.engine.setBase(baseValues(table({ position: 0, cycleLength: 1024 })));
    b.play(480);
    b.engine.tidy();
    b.play(9600);
    // Half a sine is another wave: it has even partials, too.
    expect(level(b.play(RATE).left, 2)).toBeGreaterThan(0.05);
  });

  test("another length of its cycles, or another sample, is heard once it is there: a held note goes on until then, and its memory is given back", () => {
    const engine = new Engine(startKernels(compileKernels()), { rate: RATE, arriving: true });
    const low = packSample({ rate: 44100, channels: [cycles] }, "asRecorded");
    const other = packSample(
      { rate: 44100, channels: [cycles.map((_, i) => Math.sin((4 * Math.PI * i) / CYCLE))] },
      "asRecorded",
    );
    if (!low || !other) throw new Error("there is nothing in it");
    const turned = setUnitSample(
      "layers/main/source",
      newSample({ sha: BENCH_SHA(9), name: "turned", frames: cycles.length, rate: 44100, channels: 1 }),
    );
    const packed = { [SHA]: low, [BENCH_SHA(9)]: other };
    engine.setPlan(compile(table({})));
    engine.takeSample(SHA, low);
    while (engine.hasArrivals || makeCycles(engine, packed)) engine.arrive(1e6);
    engine.midi(0x90, 57, 100);
    const heard: number[] = [];
    const play = (frames: number): Float32Array => {
      const left = new Float32Array(frames);
      for (let at = 0; at < frames; at += 128)
        engine.render(left, new Float32Array(frames), at, Math.min(frames, at + 128));
      heard.push(...left);
      return left;
    };
    play(9600);
    engine.tidy();
    const used = engine.memoryUsed;
    const level0 = rms(play(4800));
    heard.length = 0;
    const edits = [{ cycleLength: 1024 }, { cycleLength: 512 }, { cycleLength: 2048 }, { cycleLength: 0 }].map((p) =>
      table(p),
    );
    const second = turned.apply(table({}));
    for (const edited of [...edits, second, table({})]) {
      engine.setPlan(compile(edited));
      engine.setBase(baseValues(edited));
      play(512);
      if (edited === second) engine.takeSample(BENCH_SHA(9), other);
      while (engine.hasArrivals || makeCycles(engine, packed)) {
        engine.arrive(1e6);
        play(512);
      }
      play(2048);
      engine.tidy();
    }
    for (let at = 480; at < heard.length; at += 480)
      expect(rms(Float32Array.from(heard.slice(at - 480, at)))).toBeGreaterThan(level0 * 0.4);
    // Nothing steps by more than a half sine's foot and the fade between two do.
    let step = 0;
    for (let f = 1; f < heard.length; f++)
      step = Math.max(step, Math.abs((heard[f] as number) - (heard[f - 1] as number)));
    expect(step).toBeLessThan(0.05);
    play(9600);
    engine.tidy();
    expect(engine.memoryUsed).toBe(used);
  });

  test("silent until its sample and its cycles have come", () => {
    const b = benchOf(table({}));
    b.engine.midi(0x90, 60, 100);
    expect(peak(b.play(4800).left)).toBe(0);
    const engine = new Engine(startKernels(compileKernels()), { rate: RATE, arriving: true });
    engine.setPlan(compile(table({})));
    expect(engine.cyclesWanted()).toEqual([]);
    const packed = packSample({ rate: 44100, channels: [cycles] }, "asRecorded");
    if (!packed) throw new Error("there is nothing in it");
    engine.takeSample(SHA, packed);
    while (engine.hasArrivals) engine.arrive(1e6);
    expect(engine.awaitsTables).toBe(true);
    engine.midi(0x90, 60, 100);
    const play = (): Float32Array => {
      const left = new Float32Array(4800);
      engine.render(left, new Float32Array(4800));
      return left;
    };
    expect(peak(play())).toBe(0);
    // Cycles of another length, or of another sample, aren't what is wanted.
    engine.takeCycles(
      SHA,
      bakeCycles(cycles.length, 512, (f) => cycles[f] ?? 0),
    );
    engine.takeCycles(
      BENCH_SHA(9),
      bakeCycles(cycles.length, CYCLE, (f) => cycles[f] ?? 0),
    );
    expect(engine.hasArrivals).toBe(false);
    expect(makeCycles(engine, { [SHA]: packed })).toBe(true);
    // What was asked for isn't asked for again.
    expect(engine.cyclesWanted()).toEqual([]);
    while (engine.hasArrivals) engine.arrive(1e6);
    expect(engine.awaitsTables).toBe(false);
    engine.midi(0x90, 64, 100);
    expect(peak(play())).toBeGreaterThan(0.05);
  });

  test("256 cycles of an odd length are only copied where nothing may take long, no more at once than is allowed", () => {
    const cycle = 8191;
    const long = Float32Array.from({ length: 256 * cycle }, (_, i) => Math.sin((2 * Math.PI * i) / cycle));
    const packed = packSample({ rate: 44100, channels: [long] }, "asRecorded");
    if (!packed) throw new Error("there is nothing in it");
    const engine = new Engine(startKernels(compileKernels()), { rate: RATE, arriving: true });
    engine.setPlan(compile(table({ cycleLength: cycle })));
    engine.takeSample(SHA, packed);
    engine.arrive(Number.POSITIVE_INFINITY);
    expect(engine.cyclesWanted()).toEqual([{ sha: SHA, cycle }]);
    // What is made of a cycle doesn't matter here, but how much it is.
    const floats = new Float32Array(mapsOf(cycle).reduce((sum, { stride }) => sum + stride * 256, 0));
    engine.takeCycles(SHA, { cycle, count: 256, floats });
    const budget = 2 ** 18;
    let turns = 0;
    while (engine.hasArrivals) {
      engine.arrive(budget);
      turns++;
    }
    expect(turns).toBe(Math.ceil(floats.byteLength / budget));
    expect(floats.byteLength / 2 ** 20).toBeGreaterThan(30);
  });
});

/** Makes the cycles that an engine asks for, as a worker does; whether it asked for any. */
function makeCycles(engine: Engine, packed: Readonly<Record<string, PackedSample>>): boolean {
  const wanted = engine.cyclesWanted();
  for (const { sha, cycle } of wanted) {
    const sample = packed[sha] as PackedSample;
    const read = frameReader(sample.bytes.buffer, storedAt(sample, 0), false);
    engine.takeCycles(sha, bakeCycles(sample.frames, cycle, read));
  }
  return wanted.length > 0;
}

test("where nothing may take long an oscillator's tables come one after the other: it sounds at once, and brighter with each", () => {
  const engine = new Engine(startKernels(compileKernels()), { rate: RATE, arriving: true });
  engine.setPlan(compile(computed("oscillator")));
  engine.midi(0x90, 45, 100);
  const play = (frames: number): Float32Array => {
    const left = new Float32Array(frames);
    const right = new Float32Array(frames);
    for (let at = 0; at < frames; at += 128) engine.render(left, right, at, Math.min(frames, at + 128));
    return left;
  };
  const dull = play(9600);
  expect(peak(dull)).toBeGreaterThan(0.05);
  expect(decibels(amplitude(dull, hertzOf(45) * 20) / amplitude(dull, hertzOf(45)))).toBeLessThan(-60);
  // They are made elsewhere, and asked for once.
  expect(engine.hasArrivals).toBe(false);
  expect([engine.awaitsTables, engine.wavesWanted(), engine.wavesWanted()]).toEqual([true, true, false]);
  engine.takeWaves(bakeWaves());
  const levels: number[] = [];
  while (engine.hasArrivals) {
    engine.arrive(50_000);
    const part = play(4800).subarray(2400);
    levels.push(decibels(amplitude(part, hertzOf(45) * 4) / amplitude(part, hertzOf(45))));
  }
  expect(engine.awaitsTables).toBe(false);
  expect(levels.length).toBe(Math.ceil((WAVE_FLOATS * 4) / 50_000));
  // With each it is as bright as before or brighter, until all harmonics are there.
  for (const [i, level] of levels.entries()) expect(level).toBeGreaterThan((levels[i - 1] ?? -200) - 0.5);
  play(9600);
  const bright = play(RATE);
  expect(decibels(amplitude(bright, hertzOf(45) * 20) / amplitude(bright, hertzOf(45)))).toBeCloseTo(-26.02, 1);
});
