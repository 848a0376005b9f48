import { describe, expect, test } from "@jest/globals";
import { amplitude, decibels, RATE, sine, through } from "./effect-bench";
import { type BandSettings, bandResponse, Equaliser } from "./equaliser";

describe("equaliser", () => {
  const settings: readonly BandSettings[] = [
    { kind: "bell", frequency: 1000, gain: 9, q: 1.4 },
    { kind: "bell", frequency: 3000, gain: -12, q: 4 },
    { kind: "lowShelf", frequency: 300, gain: 8, q: 0.7 },
    { kind: "highShelf", frequency: 4000, gain: -10, q: 0.7 },
    { kind: "lowCut", frequency: 200, gain: 0, q: Math.SQRT1_2 },
    { kind: "highCut", frequency: 5000, gain: 0, q: 2 },
  ];

  test.each(settings)("%o does what its response says", (band) => {
    const equaliser = new Equaliser(RATE, 1);
    equaliser.bands[0]?.tune(band);
    for (const hertz of [60, 300, 1000, 3000, 9000]) {
      const [left] = through(equaliser, sine(19200, hertz));
      const wanted = decibels(bandResponse(band, RATE, hertz));
      if (wanted > -60) expect(Math.abs(decibels(amplitude(left, hertz) / 0.5) - wanted)).toBeLessThan(0.05);
    }
  });

  test("the responses are those of the textbook: gain at the centre, shelves far away, 3 dB at a flat cut's corner", () => {
    const at = (band: BandSettings, hertz: number) => decibels(bandResponse(band, RATE, hertz));
    const [bell, , low, high, cut] = settings as [BandSettings, BandSettings, BandSettings, BandSettings, BandSettings];
    expect(at(bell, 1000)).toBeCloseTo(9, 6);
    expect(at(low, 5)).toBeCloseTo(8, 1);
    expect(at(low, 300)).toBeCloseTo(4, 1);
    expect(at(high, 23000)).toBeCloseTo(-10, 0);
    expect(at(cut, 200)).toBeCloseTo(-3.01, 1);
    expect(at({ ...bell, gain: 0 }, 777)).toBeCloseTo(0, 9);
  });

  test("switched off and on again it begins from what passes", () => {
    const equaliser = new Equaliser(RATE, 1);
    const [band] = equaliser.bands;
    band?.tune(settings[0] as BandSettings);
    through(equaliser, sine(4800, 500));
    band?.tune({ ...(settings[0] as BandSettings), kind: "off" });
    const x = sine(4800, 500);
    through(equaliser, x);
    expect(x.subarray(100)).toEqual(sine(4800, 500).subarray(100));
  });
});
