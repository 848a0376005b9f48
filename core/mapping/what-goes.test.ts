import { expect, test } from "@jest/globals";
import { type Instrument, newInstrument, newLoop, newSample, newZone, placeZones, type Zone } from "../instrument";
import { saysGone, whatGoes } from "./what-goes";

const SHA = "a".repeat(64);
const sample = newSample({
  sha: SHA,
  name: "spoke",
  frames: 1000,
  pitch: 60.2,
  confidence: 1,
  file: { path: "spoke", root: null, range: null, loop: newLoop({ start: 100, end: 900 }), further: [] } as never,
});

function withZones(...changes: Partial<Zone>[]): Instrument {
  const base = { ...newInstrument("i", "Harp"), samples: [sample] };
  const zones = changes.map((change, n) => newZone({ id: `z${n}`, sample: SHA, end: 1000, tune: -20, ...change }));
  const layer = base.layers[0];
  const group = layer?.groups[0];
  if (!layer || !group) throw new Error("there is a layer");
  return placeZones(layer.id, group.id, zones, true).apply(base);
}

test("what placing again would give isn't anybody's work: tuning by the pitch, the file's own loop", () => {
  expect(whatGoes(withZones({}, { loop: newLoop({ start: 100, end: 900 }) }))).toEqual({ zones: 2, made: "" });
  expect(whatGoes(newInstrument("i", "Harp"))).toEqual({ zones: 0, made: "" });
});

test("loops, tunings, levels, starts and fades are counted", () => {
  const instrument = withZones(
    { loop: newLoop({ start: 200, end: 900 }) },
    { loop: newLoop({ start: 300, end: 800 }), tune: 5 },
    { gain: -3 },
    { start: 20 },
    { velFadeHigh: 10, releaseLoop: newLoop({ start: 10, end: 50 }) },
  );
  expect(whatGoes(instrument)).toEqual({
    zones: 5,
    made: "3 loops, 1 tuning, 1 level, 1 start or end, 1 fade",
  });
  expect(saysGone(whatGoes(instrument))).toBe("5 zones, with 3 loops, 1 tuning, 1 level, 1 start or end, 1 fade");
  expect(saysGone(whatGoes(withZones({})))).toBe("1 zone");
});
