import { describe, expect, test } from "@jest/globals";
import { type Instrument, listZones, newInstrument, newZone, placeZones } from "../instrument";
import { type PlaceInto, placementEdit } from "./placement-edit";
import { fittingRelease } from "./release";
import { place, sound } from "./test-sounds";

describe("placing is one edit", () => {
  const placement = place([
    sound({ note: 60, strength: 1, microphone: "close" }),
    sound({ note: 60, strength: 2, microphone: "close" }),
    sound({ note: 60, trigger: "noteOff" }),
  ]);
  const before: Instrument = placeZones("main", "main", [newZone({ id: "old", sample: null, end: 10 })], true).apply(
    newInstrument("i", "Tubes"),
  );
  const placed = (into: PlaceInto): Instrument => {
    let id = 0;
    return placementEdit(before, placement, into, "Tubes", () => `fresh${++id}`).apply(before);
  };

  test.each([
    ["replace", 3, 1],
    ["add", 4, 1],
    ["groups", 4, 1],
    ["layer", 4, 2],
  ] as const)("%s: %d zones in %d layers", (into, zones, layers) => {
    const after = placed(into);
    expect(listZones(after)).toHaveLength(zones);
    expect(after.layers).toHaveLength(layers);
    expect(after.mics.map((m) => m.id)).toEqual(["close"]);
    const groups = after.layers.flatMap((l) => l.groups);
    expect(groups.filter((g) => g.settings.params.trigger === "noteOff")).toHaveLength(1);
    for (const { groups: own } of after.layers) expect(new Set(own.map((g) => g.id)).size).toBe(own.length);
    expect(listZones(before)).toHaveLength(1);
  });

  test("the release fits what was placed: short sounds as long as they are, sustained ones short, others by their length", () => {
    const of = (seconds: number, loop = false) =>
      fittingRelease(
        [1, 2, 3].map((n) => ({
          ...{ frames: Math.round(seconds * 1000), rate: 1000 },
          file:
            loop && n < 3
              ? {
                  path: "",
                  root: null,
                  loop: { start: 0, end: 9, mode: "forward" as const },
                  further: [],
                  range: null,
                  text: "",
                }
              : null,
        })),
      )?.seconds;
    expect([of(0.2), of(0.01), of(1.5), of(60), of(3, true)]).toEqual([0.2, 0.05, 0.5, 0.8, 0.25]);
    expect(fittingRelease([])).toBeNull();
    // All samples of these tests are a few hundredths of a second long.
    expect(placed("replace").layers[0]?.amp.params.release).toBe(0.05);
    expect(placed("groups").layers[0]?.amp.params.release).toBe(before.layers[0]?.amp.params.release);
  });

  test("velocity to level is 0 dB where strengths were recorded, and only in what is all their own", () => {
    const velocity = (i: Instrument, layer: number) => i.layers[layer]?.strip.params.velocity;
    expect(velocity(placed("replace"), 0)).toBe(0);
    expect(velocity(placed("layer"), 1)).toBe(0);
    expect(velocity(placed("add"), 0)).toBe(velocity(before, 0));
    expect(velocity(placed("groups"), 0)).toBe(velocity(before, 0));
  });
});
