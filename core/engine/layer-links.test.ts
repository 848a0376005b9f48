import { describe, expect, test } from "@jest/globals";
import { hertzOf } from "../audio";
import {
  addLayer,
  addUnit,
  changeUnit,
  type Instrument,
  linkProblem,
  liveLinks,
  newInstrument,
  newLayer,
  newUnit,
  removeLayer,
  setParam,
  setSource,
  setTable,
  together,
} from "../instrument";
import { type Bench, benchOf, peak, RATE, steepest } from "./test-bench";

type Settings = Record<string, number | string>;

/** Two computed layers at full level, of which nothing is heard but what `settings` say; addresses without `layers/`. */
function two(settings: Settings): Instrument {
  const whole: Settings = { "play/level": -18, "effects/reverb/mix": 0 };
  const base = together("", [
    addLayer(newLayer("b", "Second")),
    setSource("main", "oscillator"),
    setSource("b", "oscillator"),
  ]).apply(newInstrument("bench", "Bench"));
  for (const id of ["main", "b"]) {
    Object.assign(whole, {
      [`layers/${id}/source/wave`]: "sine",
      [`layers/${id}/stages/filter/type`]: "off",
      [`layers/${id}/strip/level`]: 0,
      [`layers/${id}/strip/velocity`]: 0,
      [`layers/${id}/amp/attack`]: 0,
      [`layers/${id}/amp/sustain`]: 1,
    });
  }
  const all = { ...whole, ...Object.fromEntries(Object.entries(settings).map(([at, v]) => [`layers/${at}`, v])) };
  return together(
    "",
    Object.entries(all).map(([at, value]) => setParam(base, at, value)),
  ).apply(base);
}

const linked = (i: Instrument, address: string, from: string): Instrument =>
  changeUnit(i, address, (unit) => ({ ...unit, from }));

/** The second layer makes no sound of its own but lets the first one through. */
function passing(settings: Settings): Instrument {
  const silent = together("", [
    setSource("b", "partials"),
    setTable("layers/b/source", [], "Set partials"),
    addUnit("layers/b/stages", newUnit("feed", "feed")),
  ]).apply(two(settings));
  return linked(silent, "layers/b/stages/feed", "main");
}

const held = (i: Instrument, keys: readonly number[] = [57]): Bench => {
  const b = benchOf(i);
  for (const key of keys) b.engine.midi(0x90, key, 100);
  return b;
};
const apart = (a: Float32Array, b: Float32Array): number => peak(a.map((x, i) => x - (b[i] as number)));

describe("a layer that feeds another", () => {
  test("is heard there as it sounds, note by note, though it isn't heard itself", () => {
    const alone = held(two({ "b/strip/mute": 1 }), [57, 61, 64]).play(9600).left;
    const through = held(passing({ "main/strip/mute": 1 }), [57, 61, 64]).play(9600).left;
    expect(peak(alone)).toBeGreaterThan(0.05);
    expect(apart(alone, through)).toBeLessThan(1e-6);
  });

  test("wherever the layers stand, and however the frames are split", () => {
    const made = passing({ "main/strip/mute": 1 });
    const turned = { ...made, layers: [...made.layers].reverse() };
    const whole = held(made).play(4800).left;
    expect(apart(whole, held(turned).play(4800).left)).toBeLessThan(1e-6);
    expect(held(made).play(4800, 37).left).toEqual(whole);
  });

  test("unlinked, switched off or with its level off it is silent; linked again under a held note it comes in without a step", () => {
    const made = passing({ "main/strip/mute": 1 });
    const off = changeUnit(made, "layers/b/stages/feed", ({ from: _from, ...rest }) => rest);
    expect(peak(held(off).play(4800).left)).toBe(0);
    expect(peak(held(setParam(made, "layers/b/stages/feed/on", 0).apply(made)).play(4800).left)).toBe(0);
    expect(peak(held(setParam(made, "layers/b/stages/feed/level", -60).apply(made)).play(4800).left)).toBe(0);
    const b = held(off);
    b.play(4855);
    b.change(made);
    const { left } = b.play(4800);
    expect(peak(left)).toBeGreaterThan(0.03);
    expect(steepest(left)).toBeLessThan(0.005);
    expect(Math.abs(left[0] as number)).toBeLessThan(0.001);
  });

  test("heard and unheard under a held note makes no step", () => {
    const loud = two({ "b/strip/mute": 1 });
    const b = held(loud);
    b.play(4855);
    b.change(setParam(loud, "layers/main/strip/mute", 1).apply(loud));
    const gone = b.play(2400).left;
    b.change(loud);
    const back = b.play(2400).left;
    expect(peak(gone.subarray(600))).toBe(0);
    expect(peak(back.subarray(600))).toBeGreaterThan(0.03);
    // 220 Hz at full level rises by 0.0013 a frame; a ramp of 3 ms adds less than that.
    expect(steepest(gone)).toBeLessThan(0.003);
    expect(steepest(back)).toBeLessThan(0.003);
  });

  test("a sample's layer feeds a resonator too, which rings on when the feeder's note is over", () => {
    const struck = together("", [
      setSource("main", "strike"),
      setSource("b", "partials"),
      setTable("layers/b/source", [], "Set partials"),
      addUnit("layers/b/stages", newUnit("feed", "feed")),
      addUnit("layers/b/stages", newUnit("resonator", "body")),
    ]).apply(two({ "main/strip/mute": 1 }));
    const b = held(linked(struck, "layers/b/stages/feed", "main"));
    b.play(RATE);
    // The knock is over, and its voice; the body still rings.
    expect(b.engine.status().voices).toBe(1);
    expect(peak(b.play(4800).left)).toBeGreaterThan(0.001);
  });
});

describe("phase modulation", () => {
  /** Bessel function of the first kind, by its integral. */
  const bessel = (n: number, x: number): number => {
    let sum = 0;
    for (let i = 0; i < 2000; i++) {
      const t = (Math.PI * (i + 0.5)) / 2000;
      sum += Math.cos(n * t - x * Math.sin(t));
    }
    return sum / 2000;
  };
  const amplitude = (x: Float32Array, hertz: number): number => {
    let re = 0;
    let im = 0;
    let sum = 0;
    for (let i = 0; i < x.length; i++) {
      const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / x.length);
      re += w * (x[i] as number) * Math.cos((2 * Math.PI * hertz * i) / RATE);
      im += w * (x[i] as number) * Math.sin((2 * Math.PI * hertz * i) / RATE);
      sum += w;
    }
    return (2 * Math.hypot(re, im)) / sum;
  };

  test.each([0.3, 0.9])("side bands are as loud as Bessel's functions say, depth %d", (depth) => {
    // Five semitones lower, so that the bands stand apart.
    const made = linked(
      two({ "main/strip/mute": 1, "main/source/transpose": -5, "b/source/phaseModulation": depth }),
      "layers/b/source",
      "main",
    );
    const b = held(made, [69]);
    b.play(4800);
    const { left } = b.play(RATE);
    const [carrier, modulator] = [hertzOf(69), hertzOf(64)];
    const scale = 0.35 * 10 ** (-18 / 20);
    const index = 2 * Math.PI * depth * 0.35;
    for (let n = 0; n < 4; n++) {
      const heard = amplitude(left, carrier + n * modulator) / scale;
      expect(heard).toBeCloseTo(Math.abs(bessel(n, index)), 2);
    }
  });
});

describe("links in a document", () => {
  test("a ring is refused with a reason, and the rest sounds", () => {
    const one = linked(two({}), "layers/b/source", "main");
    const ring = linked(one, "layers/main/source", "b");
    // The document's order decides: the first layer hears the second.
    expect(liveLinks(ring).map((l) => [l.from, l.to])).toEqual([["b", "main"]]);
    expect(linkProblem(ring, "layers/b/source")).toMatch(/would be a feedback loop/);
    expect(linkProblem(ring, "layers/main/source")).toBeNull();
    expect(linkProblem(linked(one, "layers/b/source", "b"), "layers/b/source")).toMatch(/its own input/);
    const { left } = held(ring).play(4800);
    expect(left.every(Number.isFinite)).toBe(true);
    expect(peak(left)).toBeGreaterThan(0.05);
  });

  test("a layer that goes takes its links along", () => {
    const one = linked(two({}), "layers/b/source", "main");
    const gone = removeLayer("main").apply(one);
    expect(gone.layers[0]?.source.from).toBeUndefined();
    expect(peak(held(gone).play(4800).left)).toBeGreaterThan(0.03);
  });
});
