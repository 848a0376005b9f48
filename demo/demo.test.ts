import { beforeAll, describe, expect, test } from "@jest/globals";
import { doubtsOf, findModes, findSlices, type MeasuredSlice, measureLevels, measureSlices } from "../core/analysis";
import { hertzOf } from "../core/audio";
import { compileKernels, startKernels } from "../core/dsp";
import { compile, Engine } from "../core/engine";
import { sha256Of } from "../core/formats";
import { checkInstrument, listZones, setParam } from "../core/instrument";
import { recordBells } from "./bells";
import { recordFreewheel } from "./freewheel";
import { makeHarp } from "./harp";
import { recordPump } from "./pump";
import { RATE } from "./room";
import { type Pluck, recordSpokes, SPOKE_NOTES } from "./spokes";
import { makeTappedFrame } from "./tapped-frame";

let samples: Float32Array<ArrayBuffer>;
let plucks: Pluck[];
let measured: MeasuredSlice[];

beforeAll(() => {
  ({ samples, plucks } = recordSpokes());
  measured = measureSlices({ rate: RATE, channels: [samples] }, findSlices(measureLevels(samples, RATE)));
});

describe("spokes", () => {
  test("eight notes, two strengths, three repeats, off by up to 30 cents, unevenly spaced", () => {
    expect(plucks).toHaveLength(SPOKE_NOTES.length * 6);
    for (const { cents } of plucks) expect(Math.abs(cents)).toBeLessThanOrEqual(32);
    const gaps = plucks.slice(1).map((p, i) => p.onset - (plucks[i]?.onset ?? 0));
    expect(new Set(gaps).size).toBe(gaps.length);
    expect(samples.every((x) => Math.abs(x) < 1)).toBe(true);
  });

  test("every pluck is found within 5 ms and measured within 5 cents; bumps are proposed for leaving out", () => {
    const keep = doubtsOf(measured).map((doubt) => doubt === "");
    const found = new Set<number>();
    for (const pluck of plucks) {
      const index = measured.findIndex((m) => Math.abs(m.onset - pluck.onset) < 0.005 * RATE);
      expect(index).toBeGreaterThanOrEqual(0);
      expect(Math.abs(((measured[index]?.pitch ?? 0) - pluck.note) * 100 - pluck.cents)).toBeLessThan(5);
      expect(keep[index]).toBe(true);
      found.add(index);
    }
    expect(measured.length).toBeGreaterThan(plucks.length);
    measured.forEach((_, i) => {
      if (!found.has(i)) expect(keep[i]).toBe(false);
    });
  });
});

describe("the harp", () => {
  test("is a sound document made of the take: 48 zones in tune, layers by strength, repeats in order", () => {
    const { instrument, samples: made } = makeHarp(
      { rate: RATE, channels: [samples] },
      sha256Of(new Uint8Array(samples.buffer)),
    );
    expect(checkInstrument(JSON.parse(JSON.stringify(instrument)))).toEqual({ ok: true, instrument });
    const zones = listZones(instrument);
    expect(zones).toHaveLength(48);
    expect([...new Set(zones.map((z) => z.root))]).toEqual([...SPOKE_NOTES]);
    zones.forEach((zone, i) => {
      const pluck = plucks[i];
      expect(zone.repeat).toBe(pluck?.repeat);
      expect(zone.velHigh === 127).toBe(pluck?.strength === "hard");
      expect(Math.abs(zone.tune + (pluck?.cents ?? 99))).toBeLessThan(5);
      expect(made[i]?.sample.sha).toBe(zone.sample);
    });
  });
});

test("bells, pump and freewheel hold sounds, never clip, and are the same each time", () => {
  for (const [record, least] of [
    [recordBells, 12],
    [recordPump, 6],
    [recordFreewheel, 10],
  ] as const) {
    const take = record();
    expect(take.every((x) => Math.abs(x) < 1)).toBe(true);
    expect(findSlices(measureLevels(take, RATE)).length).toBeGreaterThanOrEqual(least);
    expect(sha256Of(new Uint8Array(record().buffer))).toBe(sha256Of(new Uint8Array(take.buffer)));
  }
});

describe("the tapped frame", () => {
  const frame = makeTappedFrame();
  test("is a sound document without a sample, that plays over all keys and dies away by itself", () => {
    expect(checkInstrument(JSON.parse(JSON.stringify(frame)))).toEqual({ ok: true, instrument: frame });
    expect(frame.samples).toEqual([]);
    const engine = new Engine(startKernels(compileKernels()), { rate: RATE });
    engine.setPlan(compile(frame));
    engine.midi(0x90, 57, 100);
    const left = new Float32Array(RATE * 2);
    const right = new Float32Array(RATE * 2);
    for (let at = 0; at < left.length; at += 128) engine.render(left, right, at, Math.min(left.length, at + 128));
    const peak = (from: number, to: number) => left.subarray(from, to).reduce((m, x) => Math.max(m, Math.abs(x)), 0);
    expect(peak(0, 9600)).toBeGreaterThan(0.1);
    expect(peak(RATE, RATE * 2)).toBeLessThan(0.5 * peak(0, 9600));
  });

  test("what rings in it is found again in its sound: frequencies within 2 cents", () => {
    const dry = setParam(frame, "layers/main/stages/body/mix", 1).apply(frame);
    const engine = new Engine(startKernels(compileKernels()), { rate: RATE });
    engine.setPlan(compile(setParam(dry, "effects/reverb/mix", 0).apply(dry)));
    engine.midi(0x90, 57, 127);
    const left = new Float32Array(RATE * 3);
    for (let at = 0; at < left.length; at += 128)
      engine.render(left, new Float32Array(left.length), at, Math.min(left.length, at + 128));
    const found = findModes(left, RATE, { most: 16 }).map((m) => m.hertz / hertzOf(57));
    for (const ratio of [2.757, 5.404, 8.933]) {
      const nearest = found.reduce((a, b) => (Math.abs(Math.log(b / ratio)) < Math.abs(Math.log(a / ratio)) ? b : a));
      expect(Math.abs(1200 * Math.log2(nearest / ratio))).toBeLessThan(2);
    }
  });
});
