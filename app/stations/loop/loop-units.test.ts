import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { type LoopUnit, lengthText, placeText, typedLength, typedPlace, type UnitFacts, usable } from "./loop-units";

/** 44.1 kHz, 220.5 Hz, 120 beats a minute from frame 1000 on in bars of four. */
const facts: UnitFacts = { rate: 44100, period: 200, beat: { frames: 22050, origin: 1000, bar: 4 } };
const bare: UnitFacts = { rate: 44100, period: null, beat: null };

describe("units of a loop", () => {
  test("a length is shown in each, and read as it is shown", () => {
    expect(lengthText(22050, "time", facts)).toBe("500.00 ms");
    expect(lengthText(22050, "samples", facts)).toBe("22050 smp");
    expect(lengthText(22050, "periods", facts)).toBe("110.25 periods");
    expect(lengthText(33075, "beats", facts)).toBe("1.5 beats");
    for (const unit of ["time", "samples", "periods", "beats"] as const)
      fc.assert(
        fc.property(fc.integer({ min: 0, max: 10_000_000 }), (frames) => {
          const off = { time: 0.3, samples: 0, periods: 1.1, beats: 12 }[unit];
          expect(
            Math.abs((typedLength(lengthText(frames, unit, facts), unit, facts) ?? -1e9) - frames),
          ).toBeLessThanOrEqual(off);
        }),
        { numRuns: 100 },
      );
  });

  test("places in bars, beats and hundredths, also before the first bar", () => {
    const at = (frame: number) => placeText(frame, "beats", facts);
    expect(at(1000)).toBe("1.1.00");
    expect(at(1000 + 22050 * 5 + 11025)).toBe("2.2.50");
    expect(at(1000 - 22050)).toBe("-1.4.00");
    expect(typedPlace("2.2.50", "beats", facts)).toBe(1000 + 22050 * 5 + 11025);
    expect(typedPlace("3.1", "beats", facts)).toBe(1000 + 22050 * 8);
    expect(typedPlace("2 s", "beats", facts)).toBe(88200);
  });

  test.each<[string, LoopUnit, number | null]>([
    ["12", "time", 529],
    ["12 ms", "samples", 529],
    ["1,5 s", "periods", 66150],
    ["300", "samples", 300],
    ["300 smp", "time", 300],
    ["3 periods", "time", 600],
    ["3", "periods", 600],
    ["2 bars", "time", 176400],
    ["1 beat", "samples", 22050],
    ["2,5", "beats", 55125],
    ["nothing", "time", null],
    ["3 apples", "time", null],
    ["", "time", null],
  ])("typed “%s” where %s is shown", (text, unit, frames) => {
    expect(typedLength(text, unit, facts)).toBe(frames);
  });

  test("what means nothing for a sound is shown as time, and not understood", () => {
    expect(usable("periods", bare)).toBe("time");
    expect(usable("beats", bare)).toBe("time");
    expect(lengthText(441, "periods", bare)).toBe("10.00 ms");
    expect(typedLength("3 periods", "time", bare)).toBeNull();
    expect(typedLength("2 bars", "beats", bare)).toBeNull();
  });
});
