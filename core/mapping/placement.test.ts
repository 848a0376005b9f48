import { describe, expect, test } from "@jest/globals";
import { type Instrument, listZones, newInstrument, newSample, newZone, placeZones, type Sample } from "../instrument";
import { keysFrom } from "./lay-out";
import { placeSamples, placeSounds } from "./place";
import type { PlaceSound } from "./place-parts";
import { type PlaceInto, placementEdit } from "./placement-edit";
import { weigh } from "./reading";
import { fittingRelease } from "./release";

const SPREAD = { mode: "nearest", low: 0, high: 127 } as const;
const SILENT: PlaceSound["says"] = {
  note: null,
  strength: null,
  repeat: null,
  velocities: null,
  microphone: null,
  trigger: null,
  group: null,
  doubt: "",
};

let count = 0;
const sample = (given: Partial<Sample> = {}): Sample => {
  count++;
  return newSample({
    sha: count.toString(16).padStart(64, "0"),
    name: `s${count}`,
    frames: 1000,
    loudness: -20,
    ...given,
  });
};
const sound = (says: Partial<PlaceSound["says"]>, given: Partial<Sample> = {}): PlaceSound => ({
  sample: sample(given),
  says: { ...SILENT, ...says },
});
const place = (sounds: readonly PlaceSound[]) => placeSounds(sounds, SPREAD, (i) => `z${i}`);

describe("what files say of keys and velocities", () => {
  const range = (keyLow: number, keyHigh: number, velLow: number, velHigh: number) => ({
    keyLow,
    keyHigh,
    velLow,
    velHigh,
  });
  const heard = (root: number, given: ReturnType<typeof range> | null) => ({
    ...{ path: `s${root}`, pitch: root, loudness: -20, root, range: given },
  });
  const placed = (sounds: ReturnType<typeof heard>[]) => {
    const weighed = weigh(sounds, null);
    const { zones } = place(sounds.map((s, i) => sound(weighed[i] ?? {}, { pitch: s.pitch, confidence: 1 })));
    return zones.map((z) => `${z.keyLow}–${z.keyHigh} ${z.velLow}–${z.velHigh}`);
  };

  test("parts sounds where files part them", () => {
    expect(
      placed([heard(50, range(40, 52, 1, 60)), heard(50, range(40, 52, 61, 127)), heard(60, range(53, 70, 1, 127))]),
    ).toEqual(["40–52 1–60", "40–52 61–127", "53–70 1–127"]);
  });

  test("is passed over where all say the same, or where the root lies outside", () => {
    expect(placed([heard(50, range(40, 90, 1, 100)), heard(60, range(40, 90, 1, 100))])).toEqual([
      "0–55 1–127",
      "56–127 1–127",
    ]);
    expect(placed([heard(50, range(80, 90, 1, 127)), heard(60, range(53, 70, 1, 127))])).toEqual([
      "0–55 1–127",
      "53–70 1–127",
    ]);
  });
});

describe("sounds are placed by what the evidence says", () => {
  test("notes as they are told, tuned by what is heard, also where that was heard an octave off", () => {
    const { zones } = place([
      sound({ note: 60 }, { pitch: 60.2, confidence: 0.9 }),
      sound({ note: 64 }, { pitch: 76.1, confidence: 0.9 }),
      sound({ note: 67 }, { pitch: 69.4, confidence: 0.9 }),
    ]);
    expect(zones.map((z) => [z.root, z.tune])).toEqual([
      [60, -20],
      [64, -10],
      [67, 0],
    ]);
  });

  test("velocities as names give them: ranges as they are, tops down to the one below", () => {
    const { zones } = place([
      sound({ note: 60, strength: 40, velocities: { low: null, high: 40 } }),
      sound({ note: 60, strength: 100, velocities: { low: null, high: 100 } }),
      sound({ note: 60, strength: 120, velocities: { low: null, high: 120 } }),
      sound({ note: 70, strength: 50, velocities: { low: 11, high: 50 } }),
    ]);
    expect(zones.map((z) => [z.velLow, z.velHigh])).toEqual([
      [1, 40],
      [41, 100],
      [101, 127],
      [11, 50],
    ]);
  });

  test("what is let go and other kinds have groups of their own, microphones are named alike", () => {
    const { groups, microphones } = place([
      sound({ note: 60, microphone: "close" }),
      sound({ note: 60, microphone: "room" }, { loudness: -40 }),
      sound({ note: 60, trigger: "release" }),
      sound({ note: 60, group: "muted" }),
    ]);
    expect(groups.map((g) => [g.name, g.trigger, g.zones.length])).toEqual([
      ["", "press", 2],
      ["muted", "press", 1],
      ["", "release", 1],
    ]);
    expect(microphones).toEqual(["close", "room"]);
    // Two microphones of one hit are one strength and one repeat, however loud they are.
    expect(groups[0]?.zones.map((z) => [z.mic, z.velLow, z.velHigh, z.repeat])).toEqual([
      ["close", 1, 127, 1],
      ["room", 1, 127, 1],
    ]);
  });

  test("what has neither note nor pitch is left out with its reason; doubts name their zone; loops of files are used", () => {
    const { zones, leftOut, doubts } = place([
      sound(
        { note: 60, doubt: "it is called so" },
        {
          file: {
            path: "a",
            root: null,
            loop: { start: 10, end: 900, mode: "forward" },
            further: [],
            range: null,
            text: "",
          },
        },
      ),
      sound({}),
      sound(
        { note: 62 },
        {
          file: {
            path: "b",
            root: null,
            loop: { start: 10, end: 9000, mode: "forward" },
            further: [],
            range: null,
            text: "",
          },
        },
      ),
    ]);
    expect(leftOut.map((l) => l.reason)).toEqual(["no clear pitch"]);
    expect(doubts.map((d) => [d.zone, d.doubt])).toEqual([["z0", "it is called so"]]);
    expect(zones.map((z) => z.loop?.end ?? null)).toEqual([900, null]);
  });
});

describe("placing is one edit", () => {
  const placement = place([
    sound({ note: 60, strength: 1, microphone: "close" }),
    sound({ note: 60, strength: 2, microphone: "close" }),
    sound({ note: 60, trigger: "release" }),
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
    expect(groups.filter((g) => g.settings.params.trigger === "release")).toHaveLength(1);
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

describe("keys one after the other", () => {
  test("every key, the white ones, every fifth, as many as there are", () => {
    expect(keysFrom(60, "all", 3)).toEqual([60, 61, 62]);
    expect(keysFrom(61, "white", 4)).toEqual([62, 64, 65, 67]);
    expect(keysFrom(0, 5, 3)).toEqual([0, 5, 10]);
    expect(keysFrom(126, "all", 9)).toEqual([126, 127]);
  });
});

test("microphones of one stroke are the same velocity layer and the same repeat, however loud each is", () => {
  // The room is as loud for soft strokes as for hard ones: by its own levels it has one layer only.
  const strokes = [
    { near: -40, far: -30 },
    { near: -39, far: -20 },
    { near: -12, far: -31 },
    { near: -11, far: -19 },
  ];
  for (const order of [
    ["near", "far"],
    ["far", "near"],
  ] as const) {
    const sounds = strokes.flatMap((levels) =>
      order.map((mic) => sound({ note: 60, microphone: mic }, { loudness: levels[mic] })),
    );
    const { zones } = place(sounds);
    const placeOf = (mic: string) =>
      sounds.flatMap(({ sample: s, says }) => {
        const zone = zones.find((z) => z.sample === s.sha);
        return says.microphone === mic && zone ? [`${zone.velLow}–${zone.velHigh} ${zone.repeat}`] : [];
      });
    expect(placeOf("near")).toHaveLength(4);
    expect(placeOf("far")).toEqual(placeOf("near"));
  }
});

describe("a kit", () => {
  const named = (name: string, given: Partial<Sample> = {}, says: Partial<PlaceSound["says"]> = {}) =>
    sound(says, { name, ...given });
  const told = (sounds: readonly PlaceSound[], kit = true) => placeSounds(sounds, { ...SPREAD, kit }, (i) => `z${i}`);
  const shape = ({ groups }: ReturnType<typeof told>) =>
    groups.map((g) => [g.name, ...g.zones.map((z) => `${z.keyLow} ${z.velLow}–${z.velHigh} ${z.repeat}`)]);

  test("a tonal tube among others has one key as they do, untuned, each with its layers and repeats in a group of its own", () => {
    const tube = { pitch: 45.3, confidence: 0.95 };
    const SOFT = { loudness: -32 };
    const samples = [
      named("36_stand_v1_1", SOFT, { strength: 1 }),
      named("36_stand_v1_2", SOFT, { strength: 1 }),
      named("36_stand_v2_1", {}, { strength: 2 }),
      named("41_tube_v1_1", { ...tube, ...SOFT }, { note: 45, strength: 1 }),
      named("41_tube_v2_1", tube, { note: 45, strength: 2 }),
    ];
    const placed = told(samples);
    expect(shape(placed)).toEqual([
      ["stand", "36 1–90 1", "36 1–90 2", "36 91–127 1"],
      ["tube", "41 1–90 1", "41 91–127 1"],
    ]);
    expect(placed.zones.map((z) => z.tune)).toEqual([0, 0, 0, 0, 0]);
    expect([placed.kit, placed.layered, placed.roots]).toEqual([true, true, 2]);
    expect(placed.leftOut).toEqual([]);
  });

  test("layers are heard for each sound by itself where names say none, and a strength that all share says nothing", () => {
    const placed = told([
      named("rim 1", { loudness: -40 }, { strength: 3 }),
      named("rim 2", { loudness: -12 }, { strength: 3 }),
      named("fork 1", { loudness: -30 }, { strength: 1 }),
      named("fork 2", { loudness: -30 }, { strength: 1 }),
    ]);
    const [rim, fork] = placed.groups;
    expect(new Set(rim?.zones.map((z) => z.velHigh)).size).toBe(2);
    expect(fork?.zones.map((z) => [z.velLow, z.velHigh, z.repeat])).toEqual([
      [1, 127, 1],
      [1, 127, 2],
    ]);
  });

  test("placed in place of all zones its first group is called after its first sound; more sounds than keys are left out", () => {
    const placed = told([named("rim"), named("fork")]);
    const instrument = placementEdit(newInstrument("i", "Bench"), placed, "replace", "", () => `g${++count}`).apply(
      newInstrument("i", "Bench"),
    );
    expect(instrument.layers[0]?.groups.map((g) => g.name)).toEqual(["rim", "fork"]);
    const letter = (n: number) => String.fromCharCode(97 + (n % 26));
    const many = told(Array.from({ length: 100 }, (_, n) => named(`part${letter(n)}${letter(Math.floor(n / 26))}q`)));
    expect(many.zones).toHaveLength(92);
    expect(many.leftOut).toHaveLength(8);
  });

  test("samples of a take are a kit where few have a pitch and their names tell them apart", () => {
    const samples = ["rim 1", "rim 2", "fork 1", "tube 1"].map((name, n) =>
      sample({ name, ...(n === 3 ? { pitch: 45.3, confidence: 0.95 } : {}) }),
    );
    const { kit, leftOut, groups } = placeSamples(samples, SPREAD, (i) => `z${i}`);
    expect([kit, leftOut.length]).toEqual([true, 0]);
    expect(groups.map((g) => g.name)).toEqual(["rim", "fork", "tube"]);
  });
});
