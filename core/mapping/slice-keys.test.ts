import { expect, test } from "@jest/globals";
import { phraseEvents } from "../engine";
import { newZone, type SampledZone } from "../instrument";
import { phraseOfSlices, sliceZones } from "./slice-keys";

const RATE = 44100;
const zone = { ...newZone({ id: "z", sample: "s", end: 2 * RATE, gain: -3 }), sample: "s" } as SampledZone;
/** Four beats of 120 a minute, from a tenth of a second on. */
const beat = { tempo: 120, downbeat: 4410, bar: 4 };
const attacks = [0, 1, 2, 3].map((n) => 4410 + n * 22050);
let ids = 0;
const slices = () => sliceZones(zone, RATE, attacks, 36, () => `s${ids++}`);

test("slices lie end to end on keys of their own, each from just before its attack on", () => {
  const made = slices();
  expect(made.map((z) => z.root)).toEqual([36, 37, 38, 39]);
  made.forEach((z, n) => {
    expect(z.start).toBe((attacks[n] as number) - 88);
    expect(z.end).toBe(made[n + 1]?.start ?? zone.end);
    expect([z.keyLow, z.keyHigh, z.gain, z.oneShot]).toEqual([z.root, z.root, -3, true]);
  });
  expect(sliceZones(zone, RATE, attacks, 126, () => "x")).toHaveLength(2);
  expect(sliceZones(zone, RATE, [], 36, () => "x")).toEqual([]);
  expect(sliceZones(zone, RATE, [10 * RATE, -5, 5, 5], 36, () => "x")).toHaveLength(1);
});

test("as a phrase they play on their beats, at any tempo", () => {
  const phrase = phraseOfSlices(slices(), RATE, beat);
  expect(phrase?.beats).toBe(4);
  phrase?.notes.forEach((note, n) => {
    expect(note.at).toBeCloseTo(n, 2);
    expect(note.key).toBe(36 + n);
  });
  const on = phraseEvents(phrase as NonNullable<typeof phrase>, 90).filter((e) => e.status === 0x90);
  expect(on.map((e) => Math.round(e.seconds * 100) / 100)).toEqual([0, 0.67, 1.33, 2]);
});

test("what isn't slices of one sample is no phrase; an upbeat comes first", () => {
  expect(phraseOfSlices([], RATE, beat)).toBeNull();
  expect(phraseOfSlices([...slices(), newZone({ id: "o", sample: "other", end: 9 })], RATE, beat)).toBeNull();
  const upbeat = sliceZones(zone, RATE, [4410, 26460], 36, () => "u");
  const phrase = phraseOfSlices(upbeat, RATE, { ...beat, downbeat: 26460 });
  expect(phrase?.notes.map((n) => Math.round(n.at * 100) / 100)).toEqual([0, 1]);
});

test("slices are tuned, turned and recorded as what they are slices of", () => {
  const turned = { ...zone, tune: -17, reverse: true, mic: "near", pan: 0.5 };
  for (const z of sliceZones(turned, RATE, attacks, 36, () => "x"))
    expect(z).toMatchObject({ tune: -17, reverse: true, mic: "near", pan: 0.5, gain: -3 });
});
