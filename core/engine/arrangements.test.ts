import { describe, expect, test } from "@jest/globals";
import {
  ARRANGEMENTS,
  addArrangement,
  checkInstrument,
  liveLinks,
  newInstrument,
  removeLayer,
  setParam,
} from "../instrument";
import { benchOf, peak, rms } from "./test-bench";

describe.each(ARRANGEMENTS)("$label", (arrangement) => {
  const { members } = arrangement;
  const ids = members.map((_, m) => `a${m}`);
  const doc = addArrangement(
    arrangement,
    ids,
    members.map((m) => m.name),
  ).apply(newInstrument("bench", "Bench"));

  test("is a sound document, its layers are led into each other, and it sounds", () => {
    expect(checkInstrument(JSON.parse(JSON.stringify(doc))).ok).toBe(true);
    expect(liveLinks(doc)).toHaveLength(members.filter((m) => m.hears !== undefined).length);
    const alone = removeLayer("main").apply(doc);
    const b = benchOf(setParam(alone, "effects/reverb/mix", 0).apply(alone));
    b.engine.midi(0x90, 57, 100);
    const { left } = b.play(9600);
    expect(rms(left)).toBeGreaterThan(0.002);
    expect(peak(left)).toBeLessThan(0.95);
  });
});
