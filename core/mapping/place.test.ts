import { describe, expect, test } from "@jest/globals";
import { newSample, type Sample } from "../instrument";
import { placeSamples } from "./place";
import { weigh } from "./reading";
import { place, sound } from "./test-sounds";

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
      sound({ note: 60, trigger: "noteOff" }),
      sound({ note: 60, group: "muted" }),
    ]);
    expect(groups.map((g) => [g.name, g.trigger, g.zones.length])).toEqual([
      ["", "noteOn", 2],
      ["muted", "noteOn", 1],
      ["", "noteOff", 1],
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

describe("placing", () => {
  const sample = (n: number, pitch: number | null, loudness: number, confidence = 0.9): Sample =>
    newSample({ sha: n.toString(16).padStart(64, "0"), name: `s${n}`, frames: 100, pitch, confidence, loudness });

  test("velocity ranges of a note touch and fill 1 to 127; each zone is tuned to its note", () => {
    const { zones, leftOut } = placeSamples(
      [sample(1, 60.2, -30), sample(2, 60.3, -20), sample(3, 60.1, -10), sample(4, null, -10), sample(5, 61, -10, 0.2)],
      { mode: "nearest", low: 0, high: 127 },
      (i) => `z${i}`,
    );
    expect(leftOut.map((l) => [l.sample.name, l.reason])).toEqual([
      ["s4", "no clear pitch"],
      ["s5", "no clear pitch"],
    ]);
    expect(zones[0]?.velLow).toBe(1);
    expect(zones.at(-1)?.velHigh).toBe(127);
    zones.slice(1).forEach((zone, i) => {
      expect(zone.velLow).toBe((zones[i]?.velHigh ?? 0) + 1);
    });
    expect(zones.map((z) => z.tune)).toEqual([-20, -30, -10]);
  });

  test("sounds without any pitch become a kit: one key each from C2", () => {
    const { zones, kit } = placeSamples(
      [sample(1, null, -10), sample(2, 99, -12, 0.1)],
      { mode: "nearest", low: 0, high: 127 },
      (i) => `z${i}`,
    );
    expect(kit).toBe(true);
    expect(zones.map((z) => [z.keyLow, z.keyHigh, z.root])).toEqual([
      [36, 36, 36],
      [37, 37, 37],
    ]);
  });
});
