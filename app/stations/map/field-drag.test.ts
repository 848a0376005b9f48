import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import {
  addSamples,
  History,
  listZones,
  newInstrument,
  newSample,
  newZone,
  placeZones,
  together,
  type Zone,
} from "../../../core/instrument";

let history: History;
jest.unstable_mockModule("../../state/session", () => ({
  session: {
    commit: (edit: Parameters<History["commit"]>[0], gesture: string) => {
      history = history.commit(edit, gesture);
    },
  },
}));
const { dragTo, gripOf } = await import("./field-drag");

const sha = "ab".repeat(32);
const zone = (id: string, keyLow: number, keyHigh: number): Zone =>
  newZone({ id, sample: sha, end: 100, root: keyLow, keyLow, keyHigh, keyFadeLow: 4, keyFadeHigh: 3, velFadeLow: 20 });

beforeEach(() => {
  const edit = together("", [
    addSamples([newSample({ sha, name: "bell", frames: 100 })]),
    placeZones("main", "main", [zone("low", 40, 51), zone("high", 52, 63)], false),
  ]);
  history = History.of(History.of(newInstrument("t", "Test")).commit(edit).present);
});

const zones = (): readonly Zone[] => listZones(history.present);
const take = (part: Parameters<typeof gripOf>[3], key: number) =>
  gripOf(history.present, zones(), new Set(["low"]), part, { key, velocity: 64 }) as Parameters<typeof dragTo>[0];

describe("a drag over the field", () => {
  test("there and back leaves nothing, fades that the narrow range cut short included", () => {
    const before = history.present;
    const grip = take("right", 51);
    for (const key of [47, 41, 40]) dragTo(grip, { key, velocity: 64 }, true, false, "g");
    expect(zones()[0]?.keyFadeLow).toBeLessThan(4);
    dragTo(grip, { key: 49, velocity: 64 }, true, false, "g");
    expect(zones()[0]).toMatchObject({ keyHigh: 49, keyFadeLow: 4, keyFadeHigh: 3 });
    dragTo(grip, { key: 51, velocity: 64 }, true, false, "g");
    expect(history.present).toEqual(before);
    expect(history.undoName).toBeNull();
  });

  test("a neighbour that is no longer moved along goes back to where it stood", () => {
    const before = zones();
    const grip = take("right", 51);
    dragTo(grip, { key: 60, velocity: 64 }, false, false, "g");
    expect(zones().map((z) => [z.keyLow, z.keyHigh])).toEqual([
      [40, 60],
      [61, 63],
    ]);
    dragTo(grip, { key: 60, velocity: 64 }, true, false, "g");
    expect(zones()[1]).toEqual(before[1]);
    expect(history.undo().present.layers[0]?.groups[0]?.zones).toEqual(before);
  });

  test("one drag is one step", () => {
    const before = zones();
    const grip = take("body", 45);
    for (const key of [46, 47, 48]) dragTo(grip, { key, velocity: 64 }, false, false, "g");
    expect(zones()[0]).toMatchObject({ keyLow: 43, keyHigh: 54, root: 40 });
    history = history.undo();
    expect(zones()).toEqual(before);
  });
});
