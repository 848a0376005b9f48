import { describe, expect, test } from "@jest/globals";
import { logSpectrum, SPECTRUM_FROM, SPECTRUM_POINTS } from "../core/analysis";
import { hertzOf } from "../core/audio";
import { compileKernels, startKernels } from "../core/dsp";
import { compile, Engine, routeProblem } from "../core/engine";
import { checkFace } from "../core/face";
import { checkInstrument, type Instrument, listParams, setParam, together } from "../core/instrument";
import { makeBearingHum } from "./bearing-hum";
import { TAP_MODES } from "./tap";
import { makeTappedFrame } from "./tapped-frame";
import { makeTubeChoir } from "./tube-choir";

const RATE = 48000;
const KERNELS = compileKernels();
const frame = makeTappedFrame().instrument;
const choir = makeTubeChoir();
const hum = makeBearingHum();

/** What a note sounds like, without the limiter's help and the room. */
function play(
  doc: Instrument,
  key: number,
  velocity: number,
  seconds: number,
): { left: Float32Array; right: Float32Array } {
  const engine = new Engine(startKernels(KERNELS), { rate: RATE });
  engine.setPlan(
    compile(together("", [setParam(doc, "effects/reverb/mix", 0), setParam(doc, "play/level", -12)]).apply(doc)),
  );
  engine.midi(0x90, key, velocity);
  const [left, right] = [new Float32Array(RATE * seconds), new Float32Array(RATE * seconds)];
  for (let at = 0; at < left.length; at += 128) engine.render(left, right, at, Math.min(left.length, at + 128));
  return { left, right };
}
const peak = (x: Float32Array): number => x.reduce((m, v) => Math.max(m, Number.isFinite(v) ? Math.abs(v) : 9), 0);
const rms = (x: Float32Array): number => Math.sqrt(x.reduce((s, v) => s + v * v, 0) / x.length);
describe.each([
  ["Tapped frame", frame],
  ["Tube choir", choir],
  ["Bearing hum", hum],
])("%s", (_, doc) => {
  test("is a sound document, all its routes have an effect, and every dial of its face moves something", () => {
    expect(checkInstrument(JSON.parse(JSON.stringify(doc)))).toEqual({ ok: true, instrument: doc });
    for (const route of doc.routes) expect([route.id, routeProblem(doc, route)]).toEqual([route.id, null]);
    const addresses = new Set(listParams(doc).map((p) => p.address));
    const controls = doc.face.items.filter((i) => i.moves.length > 0);
    expect(controls.flatMap((i) => i.moves).length).toBeGreaterThanOrEqual(4);
    for (const { moves, text } of controls)
      for (const { address } of moves) expect([text, address, addresses.has(address)]).toEqual([text, address, true]);
    expect(checkFace(doc, () => "n")).toEqual([]);
    for (const item of doc.face.items) expect(item.x + item.width).toBeLessThanOrEqual(doc.face.width);
  });

  test.each([24, 96])("key %d sounds, soft and hard, neither too loud nor too soft, the same each time", (key) => {
    for (const velocity of [20, 127]) {
      const { left, right } = play(doc, key, velocity, 0.6);
      const level = 20 * Math.log10(Math.max(rms(left), rms(right)));
      expect(level).toBeGreaterThan(-72);
      expect(level).toBeLessThan(-10);
      expect(Math.max(peak(left), peak(right))).toBeLessThan(0.95);
    }
    expect(play(doc, key, 90, 0.25)).toEqual(play(doc, key, 90, 0.25));
  });
});

describe("the tapped frame", () => {
  test("plays no sample: what rings was found in the tap, and is found again in its sound", () => {
    expect(frame.layers.flatMap((l) => l.groups.flatMap((g) => g.zones)).every((z) => z.sample === null)).toBe(true);
    const table = frame.layers[0]?.stages.find((s) => s.id === "body")?.table ?? [];
    for (const [ratio, level] of TAP_MODES) {
      if (level < -20) continue;
      expect(table.some((row) => Math.abs(1200 * Math.log2((row.ratio ?? 1) / ratio)) < 1)).toBe(true);
    }
    const levels = logSpectrum(play(frame, 57, 127, 1.2).left, RATE, RATE * 0.5);
    for (const ratio of [1, 2.757, 5.404]) {
      const at = Math.round(Math.log2((hertzOf(57) * ratio) / SPECTRUM_FROM) * SPECTRUM_POINTS);
      const around = Math.max(...levels.subarray(at - 9, at - 3));
      expect(Math.max(...levels.subarray(at - 1, at + 2))).toBeGreaterThan(around + 6);
    }
  });

  test("drops in pitch at first; a harder hit is brighter; it dies away by itself", () => {
    const { left } = play(frame, 50, 110, 3);
    const lowest = (x: Float32Array) => {
      const levels = logSpectrum(x, RATE, 0);
      const from = Math.round(Math.log2(120 / SPECTRUM_FROM) * SPECTRUM_POINTS);
      const part = levels.subarray(from, from + SPECTRUM_POINTS);
      return from + part.indexOf(Math.max(...part));
    };
    expect(lowest(left.subarray(0, RATE * 0.08))).toBeGreaterThan(lowest(left.subarray(RATE)));
    const third = (velocity: number) => {
      const levels = logSpectrum(play(frame, 50, velocity, 0.5).left, RATE, 0);
      return levels[Math.round(Math.log2((hertzOf(50) * 5.404) / SPECTRUM_FROM) * SPECTRUM_POINTS)] as number;
    };
    expect(third(127)).toBeGreaterThan(third(20) + 3);
    expect(rms(left.subarray(RATE * 2.5))).toBeLessThan(0.3 * rms(left.subarray(0, RATE / 2)));
  });
});

describe("the tube choir", () => {
  test("low keys stand left, high ones right; below the split another kind plays; the bank moves the partials below", () => {
    const side = (key: number) => {
      const { left, right } = play(choir, key, 90, 1);
      return 20 * Math.log10(rms(right) / rms(left));
    };
    expect(side(36)).toBeLessThan(-3);
    expect(side(84)).toBeGreaterThan(3);
    const octaveBelow = (doc: Instrument) => {
      const levels = logSpectrum(play(doc, 69, 90, 1).left, RATE, RATE / 2);
      return levels[Math.round(Math.log2(220 / SPECTRUM_FROM) * SPECTRUM_POINTS)] as number;
    };
    const drawn = setParam(choir, "layers/below/source/rows/2/level", -96).apply(choir);
    expect(octaveBelow(choir)).toBeGreaterThan(octaveBelow(drawn) + 20);
  });
});

describe("the bearing hum", () => {
  test("more load is brighter, more grit noisier between the partials; the race stands an octave above, and beats", () => {
    const spectrum = (doc: Instrument) => {
      const levels = logSpectrum(play(doc, 69, 90, 2).left, RATE, RATE);
      return (hertz: number) => levels[Math.round(Math.log2(hertz / SPECTRUM_FROM) * SPECTRUM_POINTS)] as number;
    };
    const turned = (macro: string) => spectrum(setParam(hum, `macros/${macro}/value`, 1).apply(hum));
    const plain = spectrum(hum);
    expect(turned("load")(2200)).toBeGreaterThan(plain(2200) + 6);
    expect(turned("grit")(550)).toBeGreaterThan(plain(550) + 6);
    expect(plain(1320)).toBeGreaterThan(-40);
  });
});
