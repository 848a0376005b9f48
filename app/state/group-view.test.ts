import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import { type Instrument, newGroup, newLayer, newZone } from "../../core/instrument";

const mute = jest.fn();
jest.unstable_mockModule("./engine", () => ({ engine: { mute } }));
const { audibleZones, groupKey, micKey, turnGroups, zonesInView } = await import("./group-view");
const { useView, setView } = await import("./view");

const zone = (id: string, mic: string | null = null) => newZone({ id, sample: null, end: 0, mic });
const group = (id: string, ...zones: ReturnType<typeof zone>[]) => ({ ...newGroup(id, id), zones });
const layers: Instrument["layers"] = [
  { ...newLayer("a", "A"), groups: [group("one", zone("1", "near"), zone("2", "far")), group("two", zone("3"))] },
  { ...newLayer("b", "B"), groups: [group("one", zone("4", "near"))] },
];
const heard = (muted: string[], alone: string[]) =>
  audibleZones({ layers }, new Set(muted), new Set(alone))
    .map((z) => z.id)
    .join("");

beforeEach(() => setView({ muted: new Set(), alone: new Set(), paled: new Set(), locked: new Set() }));

describe("what is heard while one works", () => {
  test("all but what is muted, by group and by microphone; a group of the same id in another layer is another", () => {
    expect(heard([], [])).toBe("1234");
    expect(heard([groupKey("a", "one")], [])).toBe("34");
    expect(heard([micKey("near")], [])).toBe("23");
    expect(heard([groupKey("b", "one"), micKey("far")], [])).toBe("13");
  });

  test("only what is heard alone; of groups and microphones what is both, and muted stays muted", () => {
    expect(heard([], [groupKey("a", "one")])).toBe("12");
    expect(heard([], [micKey("near")])).toBe("14");
    expect(heard([], [groupKey("a", "one"), micKey("near")])).toBe("1");
    expect(heard([groupKey("a", "one")], [groupKey("a", "one"), groupKey("b", "one")])).toBe("4");
  });

  test("the engine is told by addresses; what is pale or locked is heard as before", () => {
    mute.mockClear();
    setView({ muted: new Set([groupKey("a", "one"), micKey("far")]), paled: new Set([groupKey("b", "one")]) });
    setView({ locked: new Set([micKey("near")]) });
    expect(mute.mock.calls).toEqual([[["layers/a/groups/one", "mics/far"], []]]);
  });
});

test("of the field what is pale or locked by group or microphone is out of reach; pale goes before locked", () => {
  const seen = (paled: string[], locked: string[]) => {
    const { free, pale, fixed } = zonesInView({ layers }, new Set(paled), new Set(locked));
    return [free, pale, fixed].map((zones) => zones.map((z) => z.id).join(""));
  };
  expect(seen([], [])).toEqual(["1234", "", ""]);
  expect(seen([groupKey("a", "two")], [micKey("near")])).toEqual(["2", "3", "14"]);
  expect(seen([micKey("near")], [groupKey("a", "one")])).toEqual(["3", "14", "2"]);
});

test("a switch for several groups is on once all of them are, and off again for all", () => {
  const keys = [groupKey("a", "one"), groupKey("a", "two")];
  turnGroups("muted", keys.slice(0, 1));
  turnGroups("muted", keys);
  expect([...useView.getState().muted].sort()).toEqual(keys);
  turnGroups("muted", keys);
  expect(useView.getState().muted.size).toBe(0);
});
