import { beforeAll, describe, expect, test } from "@jest/globals";
import { doubtsOf, findSlices, type MeasuredSlice, measureLevels, measureSlices } from "../core/analysis";
import { sha256Of } from "../core/formats";
import { checkInstrument, listZones } from "../core/instrument";
import { recordBells } from "./bells";
import { recordFreewheel } from "./freewheel";
import { makeHarp } from "./harp";
import { recordPump } from "./pump";
import { RATE } from "./room";
import { type Pluck, recordSpokes, SPOKE_NOTES } from "./spokes";

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
