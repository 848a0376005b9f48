import { describe, expect, test } from "@jest/globals";
import { hertzOf } from "../audio";
import { baseValues } from "./compile";
import { amplitude, begun, computed, decibels, FACTOR, type Settings } from "./computed-bench";
import { benchOf, peak, RATE, rms } from "./test-bench";

const LEVEL = 0.35;
/** Bessel function of the first kind, by its integral. */
function bessel(order: number, x: number): number {
  const steps = 400;
  let sum = 0;
  for (let i = 0; i < steps; i++) {
    const t = (Math.PI * (i + 0.5)) / steps;
    sum += Math.cos(order * t - x * Math.sin(t));
  }
  return sum / steps;
}
/** Levels of the harmonics of a key, as factors of a full wave. */
function harmonics(params: Settings, key: number, count: number): number[] {
  const b = begun(computed("oscillator", params), key);
  b.play(4800);
  const { left } = b.play(RATE);
  return Array.from({ length: count }, (_, h) => amplitude(left, hertzOf(key) * (h + 1)) / FACTOR / LEVEL);
}

describe("an oscillator in depth", () => {
  test.each([0, 0.25, 1])("blended by %d from saw to sine and to a pulse: harmonics of both, added", (blend) => {
    const saw = (h: number) => 2 / (Math.PI * h);
    harmonics({ wave: "saw", secondWave: "sine", blend }, 45, 6).forEach((level, i) => {
      const h = i + 1;
      // The saw falls as the sine rises: its harmonics are sines, too.
      expect(level).toBeCloseTo(Math.abs((1 - blend) * saw(h) + (h === 1 ? blend : 0)), 3);
    });
    const width = 0.5;
    harmonics({ wave: "triangle", secondWave: "pulse", width, blend }, 45, 2).forEach((level, i) => {
      if (blend === 1) expect(level).toBeCloseTo(i === 0 ? 4 / Math.PI : 0, 2);
    });
  });

  test("phase bent: a sine’s harmonics are those of sin(θ + b·sin θ)", () => {
    for (const bend of [0.5, -1]) {
      harmonics({ wave: "sine", phaseDistortion: bend }, 45, 5).forEach((level, i) => {
        const h = i + 1;
        expect(level).toBeCloseTo(Math.abs(bessel(h - 1, bend) + (-1) ** h * bessel(h + 1, bend)), 3);
      });
    }
  });

  test("fed by itself: Kepler’s series, 2·Jₙ(nβ)/nβ", () => {
    const fed = 0.25;
    const beta = Math.PI * fed;
    harmonics({ wave: "sine", feedback: fed }, 33, 5).forEach((level, i) => {
      const n = i + 1;
      expect(decibels(level)).toBeCloseTo(decibels((2 * bessel(n, n * beta)) / (n * beta)), 0);
    });
  });

  test("sub: its own pitch and level, a pulse has odd harmonics", () => {
    const b = begun(computed("oscillator", { wave: "sine", sub: -6, subInterval: 19, subWave: "sine" }), 64);
    b.play(4800);
    const low = hertzOf(64 - 19);
    const { left } = b.play(RATE);
    expect(decibels(amplitude(left, low) / FACTOR / LEVEL)).toBeCloseTo(-6, 1);
    expect(decibels(amplitude(left, hertzOf(64)) / FACTOR / LEVEL)).toBeCloseTo(0, 1);
    const pulse = begun(computed("oscillator", { wave: "sine", sub: 0, subWave: "pulse" }), 81);
    pulse.play(4800);
    const sound = pulse.play(RATE).left;
    const first = amplitude(sound, hertzOf(69));
    expect(decibels(amplitude(sound, 3 * hertzOf(69)) / first)).toBeCloseTo(20 * Math.log10(1 / 3), 1);
    expect(decibels(amplitude(sound, 4 * hertzOf(69)) / first)).toBeLessThan(-80);
  });

  test("16 in unison: as loud as one, as far apart as is said, on both sides", () => {
    const one = begun(computed("oscillator", { wave: "sine" }), 57).play(RATE * 2);
    const many = begun(computed("oscillator", { wave: "sine", unison: 16, detune: 50, spread: 1 }), 57).play(RATE * 4);
    expect(Math.abs(decibels(rms(many.left) / rms(one.left)))).toBeLessThan(2);
    for (const place of [-1, -1 / 15, 1 / 15, 1]) {
      const level =
        amplitude(many.left, 220 * 2 ** ((place * 50) / 1200)) +
        amplitude(many.right, 220 * 2 ** ((place * 50) / 1200));
      expect(decibels(level / FACTOR / LEVEL)).toBeGreaterThan(-13);
    }
    // The lowest stands on the left alone.
    expect(amplitude(many.right, 220 * 2 ** (-50 / 1200))).toBeLessThan(
      0.1 * amplitude(many.left, 220 * 2 ** (-50 / 1200)),
    );
  });

  test("drift: about its pitch, by about what is said, and never the same twice", () => {
    const b = begun(computed("oscillator", { wave: "sine", drift: 40 }), 69);
    b.play(RATE);
    const cents: number[] = [];
    for (let n = 0; n < 150; n++) {
      const { left } = b.play(4800);
      let crossings = 0;
      let [first, last] = [0, 0];
      for (let i = 1; i < left.length; i++) {
        const [p, q] = [left[i - 1] as number, left[i] as number];
        if (!(p < 0 && q >= 0)) continue;
        last = i - 1 - p / (q - p);
        if (crossings === 0) first = last;
        crossings++;
      }
      cents.push(1200 * Math.log2(((crossings - 1) * RATE) / (last - first) / 440));
    }
    const mean = cents.reduce((s, c) => s + c, 0) / cents.length;
    const deviation = Math.sqrt(cents.reduce((s, c) => s + (c - mean) ** 2, 0) / cents.length);
    expect(Math.abs(mean)).toBeLessThan(12);
    expect(deviation).toBeGreaterThan(10);
    expect(deviation).toBeLessThan(35);
    expect(Math.max(...cents.map(Math.abs))).toBeLessThan(80);
  });

  test("startPhase: fixed always alike, by chance each note elsewhere and yet the same again, free as if it ran on", () => {
    const twice = (start: string): [Float32Array, Float32Array] => {
      const b = benchOf(computed("oscillator", { wave: "sine", startPhase: start, phase: 90 }));
      const note = () => {
        b.engine.midi(0x90, 57, 100);
        const { left } = b.play(2400);
        b.engine.midi(0x80, 57, 0);
        b.play(RATE * 3 + 77);
        return left;
      };
      return [note(), note()];
    };
    const [a, b] = twice("fixed");
    expect(peak(a.map((x, i) => x - (b[i] as number)))).toBeLessThan(1e-6);
    expect(a[0]).toBeCloseTo(LEVEL * FACTOR, 2);
    const [c, d] = twice("random");
    expect(peak(c.map((x, i) => x - (d[i] as number)))).toBeGreaterThan(0.05);
    expect(twice("random")).toEqual([c, d]);
    // Free: after a gap of so many frames the phase is what it would be had it gone on.
    const [e, f] = twice("free");
    const gap = 2400 + RATE * 3 + 77;
    const turned = (gap * 220) / RATE;
    const angle = 2 * Math.PI * (turned - Math.floor(turned) + 0.25);
    expect(e[0]).toBeCloseTo(LEVEL * FACTOR, 2);
    expect(f[0]).toBeCloseTo(LEVEL * FACTOR * Math.sin(angle), 2);
  });

  test.each(["sine", "triangle", "saw", "pulse"])(
    "synced %s: the harmonics of the key are those of the wave cut off by each cycle; aliases far below",
    (wave) => {
      const above = 19.5;
      const ratio = 2 ** (above / 12);
      const shape = (s: number): number => {
        const t = s - Math.floor(s);
        if (wave === "sine") return Math.sin(2 * Math.PI * t);
        if (wave === "triangle") return Math.abs(((t + 0.75) % 1) * 4 - 2) - 1;
        return wave === "saw" ? 1 - 2 * t : t < 0.7 ? 0.6 : -1.4;
      };
      const series = (h: number): number => {
        let [re, im] = [0, 0];
        const steps = 20000;
        for (let i = 0; i < steps; i++) {
          const t = (i + 0.5) / steps;
          re += shape(t * ratio) * Math.cos(2 * Math.PI * h * t);
          im += shape(t * ratio) * Math.sin(2 * Math.PI * h * t);
        }
        return (2 * Math.hypot(re, im)) / steps;
      };
      const b = begun(computed("oscillator", { wave, width: 0.3, hardSync: "on", syncPitch: above }), 69);
      b.play(4800);
      const { left } = b.play(RATE);
      for (const h of [1, 2, 3, 5, 8]) expect(amplitude(left, 440 * h) / FACTOR / LEVEL).toBeCloseTo(series(h), 2);
      for (const h of [0.5, 3.4, 10.5, 30.3])
        expect(decibels(amplitude(left, 440 * h) / FACTOR / LEVEL)).toBeLessThan(-88);
    },
  );

  test.each(["sine", "triangle", "saw", "pulse"])(
    "%s: one part alone is computed two frames at a time, in any pieces and however it moves the same bits as frame by frame",
    (wave) => {
      // A second voice of the pair that glides over the tables, a bend of the phase that comes and goes, then a second part.
      const play = (pieces: (at: number) => number) => {
        const b = begun(computed("oscillator", { wave, unison: 1 }), 45);
        b.engine.midi(0x90, 91, 100);
        const out = new Float32Array(9600);
        const steps: Settings[] = [
          {},
          { phaseDistortion: 0.4 },
          { phaseDistortion: 0 },
          { unison: 2, detune: 30 },
          { unison: 1 },
        ];
        for (let at = 0; at < out.length; ) {
          if (at % 1920 === 0) {
            b.engine.setBase(baseValues(computed("oscillator", { wave, unison: 1, ...steps[at / 1920] })));
            b.engine.midi(0xe0, 0, (at / 1920) * 30);
          }
          const next = Math.min(at + pieces(at), (Math.floor(at / 1920) + 1) * 1920);
          b.engine.render(out, new Float32Array(out.length), at, next);
          at = next;
        }
        return out;
      };
      const whole = play(() => 128);
      expect(play((at) => 1 + (at % 7))).toEqual(whole);
      // Never two frames at once.
      expect(play(() => 1)).toEqual(whole);
      expect(rms(whole)).toBeGreaterThan(0.02);
    },
  );

  test("synced: the same bits in any pieces, several in unison, and moved all the time it stays finite", () => {
    const settings = {
      wave: "saw",
      secondWave: "sine",
      blend: 0.3,
      hardSync: "on",
      syncPitch: 24,
      unison: 5,
      detune: 20,
    };
    const whole = begun(computed("oscillator", settings), 57).play(4800).left;
    const b = begun(computed("oscillator", settings), 57);
    expect([5, 59, 1, 128, 300, 7, 4300].flatMap((n) => [...b.play(n).left])).toEqual([...whole]);
    for (let n = 0; n < 60; n++) {
      b.engine.setBase(
        baseValues(computed("oscillator", { ...settings, syncPitch: (n * 37) % 60, blend: (n % 5) / 4 })),
      );
      b.engine.midi(0x90, (n * 29) % 128, 100);
      expect(peak(b.play(400).left)).toBeLessThanOrEqual(1);
    }
    expect(b.engine.status().broken).toBe(0);
  });
});
