import { expect, test } from "@jest/globals";
import { newGroup, newInstrument, newUnit, newZone } from "../../../core/instrument";
import { groupColours, groupMarks, zoneColours, zoneMarks } from "./zone-marks";

const zone = (id: string, mic: string | null = null) => newZone({ id, sample: "a".repeat(64), end: 10, mic });
const made = newInstrument("i", "Test");
const layersOf = (params: Record<string, number | string>) =>
  made.layers.map((layer) => {
    const group = newGroup("g", "G");
    const settings = { ...group.settings, params: { ...group.settings.params, ...params } };
    return {
      ...layer,
      groups: [
        { ...newGroup("plain", "Plain"), zones: [zone("p")] },
        { ...group, settings, zones: [zone("z", "m1")] },
      ],
    };
  });

test("zones are marked by when their group sounds and by the name of their microphone", () => {
  const layers = layersOf({ trigger: "noteOff", controller: 64, probability: 0.3 });
  const mark = zoneMarks(groupMarks(layers), [newUnit("mic", "m1", "near")], () => layers);
  expect(mark(zone("z", "m1"))).toBe("note off CC 64 30 % near");
  expect(mark(zone("p"))).toBe("");
});

test("as long as no condition is another the text is the same, and where there is none only microphones are looked up", () => {
  expect(groupMarks(layersOf({ keyswitch: "momentary" }))).toBe(groupMarks(layersOf({ keyswitch: "latched" })));
  const plain = layersOf({});
  const mark = zoneMarks(groupMarks(plain), [], () => {
    throw new Error("nobody needs them");
  });
  expect(mark(zone("z", "gone"))).toBe("");
});

test("a group's colour is its own, or else its layer's", () => {
  const layers = layersOf({}).map((layer) => ({
    ...layer,
    mark: "moss" as const,
    groups: layer.groups.map((g) => (g.id === "g" ? { ...g, mark: "teal" as const } : g)),
  }));
  const colour = zoneColours(groupColours(layers), () => layers);
  expect([colour(zone("p")), colour(zone("z")), colour(zone("elsewhere"))]).toEqual(["moss", "teal", "none"]);
});
