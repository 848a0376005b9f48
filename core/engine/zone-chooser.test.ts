import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import {
  addGroup,
  addLayer,
  addUnit,
  changeLayer,
  type Instrument,
  listZones,
  moveZones,
  newGroup,
  newLayer,
  newUnit,
  placeZones,
  setParam,
  together,
  type Zone,
} from "../instrument";
import { type Bench, bench, peak, RATE } from "./test-bench";
import { REASON } from "./trace";
import { fadeWeight } from "./zone-chooser";

/** Sounds of different constant levels: what is heard says which zones sound. */
const LEVELS = [0.02, 0.04, 0.08, 0.16, 0.32];
const sounds = LEVELS.map((level) => ({ rate: RATE, channels: [new Float32Array(20000).fill(level)] }));
const GROUP = "layers/main/groups/main";

const set =
  (...values: readonly (readonly [string, number | string])[]) =>
  (i: Instrument): Instrument =>
    values.reduce((doc, [address, value]) => setParam(doc, address, value).apply(doc), i);

/** The sum of the levels that sound a little after a key went down, and silence afterwards. */
function heard(b: Bench, key: number, velocity = 100): number {
  b.engine.midi(0x90, key, velocity);
  const value = b.play(256).left[200] as number;
  b.engine.midi(0xb0, 123, 0);
  b.play(512);
  return Math.round(value * 1000) / 1000;
}
const reasons = (b: Bench) =>
  b.engine.trace
    .drain()
    .at(-1)
    ?.at.map((z) => z.reason);

/** Puts the n-th zone into a second group of the layer, with settings. */
const second =
  (zone: string, ...values: readonly (readonly [string, number | string])[]) =>
  (i: Instrument): Instrument => {
    const grouped = together("", [
      addGroup("main", newGroup("other", "Other")),
      moveZones(new Set([zone]), "main", "other"),
    ]).apply(i);
    return set(...values.map(([id, value]) => [`layers/main/groups/other/${id}`, value] as const))(grouped);
  };

describe("fades", () => {
  test("two zones that cross over velocity hold their power within 0.1 dB, and every velocity sounds", () => {
    for (let v = 1; v <= 127; v++) {
      const soft = v <= 80 ? fadeWeight(v, 1, 80, 0, 30) : 0;
      const hard = v >= 50 ? fadeWeight(v, 50, 127, 30, 0) : 0;
      expect(Math.abs(10 * Math.log10(soft * soft + hard * hard))).toBeLessThan(0.1);
    }
  });

  test("in the engine: the levels are those of the weights, over keys too", () => {
    const zones: Partial<Zone>[] = [
      { keyHigh: 64, keyFadeHigh: 4, track: 0 },
      { keyLow: 60, keyFadeLow: 4, track: 0 },
    ];
    const b = bench(
      sounds.slice(4),
      zones.map((z) => ({ sound: 0, ...z })),
    );
    for (let key = 58; key <= 66; key++) {
      const expected =
        0.32 *
        (fadeWeight(key, 0, 64, 0, 4) * (key <= 64 ? 1 : 0) + fadeWeight(key, 60, 127, 4, 0) * (key >= 60 ? 1 : 0));
      expect(heard(b, key)).toBeCloseTo(expected, 2);
    }
    heard(b, 60);
    expect(reasons(b)).toContain(REASON.faded);
  });
});

describe("repeats", () => {
  const three = [1, 2, 3].map((repeat, sound) => ({ sound, repeat, track: 0 }));

  test("four repeats over eight notes come twice in order", () => {
    const b = bench(
      sounds,
      [0, 1, 2, 3].map((sound) => ({ sound, repeat: sound + 1 })),
    );
    expect(Array.from({ length: 8 }, () => heard(b, 60))).toEqual([0.02, 0.04, 0.08, 0.16, 0.02, 0.04, 0.08, 0.16]);
  });

  test("random: all of them, about equally often; never twice: never the same again", () => {
    const random = bench(sounds, three, set([`${GROUP}/roundRobin`, "random"]));
    const counts = new Map<number, number>();
    for (let i = 0; i < 300; i++) counts.set(heard(random, 60), (counts.get(heard(random, 60)) ?? 0) + 1);
    expect([...counts.keys()].sort()).toEqual([0.02, 0.04, 0.08]);
    const fresh = bench(sounds, three, set([`${GROUP}/roundRobin`, "noRepeats"]));
    const series = Array.from({ length: 200 }, () => heard(fresh, 60));
    expect(new Set(series).size).toBe(3);
    for (let i = 1; i < series.length; i++) expect(series[i]).not.toBe(series[i - 1]);
  });

  test("a key with one repeat borrows its neighbours', transposed, as far as it may", () => {
    const zones = [59, 60, 61, 64].map((root, sound) => ({ sound, root, keyLow: root, keyHigh: root }));
    const near = bench(sounds, zones, set([`${GROUP}/borrow`, 1]));
    expect(new Set(Array.from({ length: 12 }, () => heard(near, 60)))).toEqual(new Set([0.02, 0.04, 0.08]));
    const b = bench(sounds, zones, set([`${GROUP}/borrow`, 1]));
    b.engine.midi(0x90, 60, 100);
    b.engine.midi(0x90, 60, 100, 10);
    b.play(128);
    const rates = b.engine.trace.drain().map((t) => t.at.find((z) => z.reason === REASON.played));
    expect(rates.map((z) => z?.from)).toEqual([60, 59]);
    expect(rates[1]?.rate).toBeCloseTo(2 ** (1 / 12), 6);
    const none = bench(sounds, zones);
    expect(new Set(Array.from({ length: 5 }, () => heard(none, 60)))).toEqual(new Set([0.04]));
  });

  test("a zone that reaches over several keys is not borrowed as another repeat", () => {
    const zones = [{ sound: 0, keyLow: 55, keyHigh: 65 }];
    const b = bench(sounds, zones, set([`${GROUP}/borrow`, 12]));
    b.engine.midi(0x90, 60, 100);
    b.play(64);
    expect(b.engine.trace.drain()[0]?.at).toHaveLength(1);
  });
});

describe("microphones", () => {
  test("three of one stroke are always of the same repeat, over 100 random notes", () => {
    const zones = [1, 2].flatMap((repeat) =>
      ["a", "b", "c"].map((mic) => ({ sound: repeat === 1 ? 0 : 3, repeat, mic, track: 0 })),
    );
    const b = bench(sounds, zones, (i) =>
      set([`${GROUP}/roundRobin`, "random"])({
        ...i,
        mics: ["a", "b", "c"].map((id) => newUnit("mic", id, id)),
      }),
    );
    const random = seededRandom(3);
    for (let i = 0; i < 100; i++) {
      const value = heard(b, 40 + Math.floor(random() * 40), 1 + Math.floor(random() * 127));
      expect([0.06, 0.48]).toContain(value);
    }
  });

  test.each(["random", "noRepeats", "cycle"])(
    "of one stroke they are of the same repeat also in groups of their own: %s",
    (mode) => {
      const zones = [1, 2, 3].flatMap((repeat) =>
        ["a", "b"].map((mic) => ({ sound: repeat - 1, repeat, mic, track: 0 })),
      );
      const apart = (i: Instrument): Instrument => {
        const far = listZones(i).filter((z) => z.mic === "b");
        const doc = together("", [
          addGroup("main", newGroup("far", "Far")),
          moveZones(new Set(far.map((z) => z.id)), "main", "far"),
        ]).apply({ ...i, mics: ["a", "b"].map((id) => newUnit("mic", id, id)) });
        return set([`${GROUP}/roundRobin`, mode], ["layers/main/groups/far/roundRobin", "random"])(doc);
      };
      const b = bench(sounds, zones, apart);
      // Twice one level: both microphones of one repeat.
      const found = Array.from({ length: 60 }, () => heard(b, 60));
      for (const value of found) expect([0.04, 0.08, 0.16]).toContain(value);
      expect(new Set(found).size).toBe(3);
      if (mode === "cycle") expect(found.slice(0, 4)).toEqual([0.04, 0.08, 0.16, 0.04]);
    },
  );

  test("in each layer by themselves: a second layer's groups are locked too", () => {
    const zones = [1, 2].flatMap((repeat) =>
      ["a", "b"].map((mic) => ({ sound: repeat === 1 ? 0 : 4, repeat, mic, track: 0 })),
    );
    const b = bench(sounds, zones, (i) => {
      const all = listZones(i);
      const near = new Set(all.filter((z) => z.mic === "a").map((z) => z.id));
      const far = new Set(all.filter((z) => z.mic === "b").map((z) => z.id));
      // Another layer comes first, with a microphone of its own.
      const doc = together("", [
        addLayer(newLayer("second", "Second")),
        addGroup("second", newGroup("far", "Far")),
        moveZones(near, "second", "main"),
        moveZones(far, "second", "far"),
      ]).apply({ ...i, mics: ["a", "b", "c"].map((id) => newUnit("mic", id, id)) });
      const led = { ...(all[0] as Zone), id: "led", mic: "c" };
      const whole = placeZones("main", "main", [led], true).apply(doc);
      return set(
        ["layers/second/strip/level", 0],
        ["layers/main/strip/level", -60],
        ["layers/second/groups/main/roundRobin", "random"],
        ["layers/second/groups/far/roundRobin", "random"],
      )(whole);
    });
    const found = Array.from({ length: 40 }, () => heard(b, 60));
    const values = [...new Set(found)];
    expect(values).toHaveLength(2);
    // Twice the one level or twice the other, never one of each.
    expect(Math.max(...values) / Math.min(...values)).toBeGreaterThan(10);
  });

  test("all frames stay locked, and each fader moves its own", () => {
    const noise = seededRandom(8);
    const wave = { rate: RATE, channels: [Float32Array.from({ length: 9000 }, () => noise() * 0.2 - 0.1)] };
    const against = { rate: RATE, channels: [(wave.channels[0] as Float32Array).map((v) => -v)] };
    const build = (level: number) =>
      bench(
        [wave, against],
        [
          { sound: 0, mic: "a" },
          { sound: 1, mic: "b" },
        ],
        (i) => set(["mics/b/level", level])({ ...i, mics: [newUnit("mic", "a"), newUnit("mic", "b")] }),
      );
    const equal = build(0);
    equal.engine.midi(0x90, 67, 90, 33);
    expect(peak(equal.play(4000).left)).toBeLessThan(1e-6);
    const lower = build(-6);
    lower.engine.midi(0x90, 67, 90, 33);
    expect(peak(lower.play(4000).left)).toBeGreaterThan(0.03);
  });
});

describe("when a group sounds", () => {
  test("on release: when the key goes up, softer the longer it was held", () => {
    const b = bench(sounds, [{ sound: 4 }], set([`${GROUP}/trigger`, "noteOff"], [`${GROUP}/releaseDecay`, 20]));
    b.engine.midi(0x90, 60, 100);
    expect(peak(b.play(RATE / 2).left)).toBe(0);
    expect(reasons(b)).toEqual([REASON.trigger]);
    b.engine.midi(0x80, 60, 0);
    expect(b.play(400).left[300]).toBeCloseTo(0.32 * 10 ** (-10 / 20), 3);
    expect(b.engine.trace.drain()[0]).toMatchObject({ release: true, key: 60 });
    b.play(30000);
    expect(b.engine.status().voices).toBe(0);
  });

  test("on release, with the pedal down: once the pedal goes up", () => {
    const b = bench(sounds, [{ sound: 4 }], set([`${GROUP}/trigger`, "noteOff"]));
    b.engine.midi(0xb0, 64, 127);
    b.engine.midi(0x90, 60, 100);
    b.engine.midi(0x80, 60, 0, 400);
    expect(peak(b.play(2000).left)).toBe(0);
    b.engine.midi(0xb0, 64, 0);
    expect(b.play(400).left[300]).toBeCloseTo(0.32, 3);
  });

  test("first of a phrase, and legato", () => {
    const b = bench(sounds, [{ sound: 0 }, { sound: 3 }], (i) =>
      set([`${GROUP}/trigger`, "firstNote"])(second("z1", ["trigger", "legato"])(i)),
    );
    b.engine.midi(0x90, 60, 100);
    expect(b.play(256).left[200]).toBeCloseTo(0.02, 5);
    b.engine.midi(0x90, 62, 100);
    expect(b.play(256).left[200]).toBeCloseTo(0.02 + 0.16, 5);
    b.engine.midi(0x80, 60, 0);
    b.engine.midi(0x80, 62, 0);
    b.play(RATE);
    b.engine.midi(0x90, 64, 100);
    expect(b.play(256).left[200]).toBeCloseTo(0.02, 5);
  });

  test("keyswitches: while held, or the last one pressed; at first the first", () => {
    const held = bench(
      sounds,
      [{ sound: 0, keyLow: 40 }],
      set([`${GROUP}/keyswitch`, "momentary"], [`${GROUP}/switchKey`, 24]),
    );
    expect(heard(held, 60)).toBe(0);
    expect(reasons(held)).toEqual([REASON.keyswitch]);
    held.engine.midi(0x90, 24, 1);
    expect(heard(held, 60)).toBe(0.02);
    held.engine.midi(0x80, 24, 0);
    expect(heard(held, 60)).toBe(0);
    const latched = bench(
      sounds,
      [
        { sound: 0, keyLow: 40 },
        { sound: 3, keyLow: 40 },
      ],
      (i) =>
        set(
          [`${GROUP}/keyswitch`, "latched"],
          [`${GROUP}/switchKey`, 24],
        )(second("z1", ["keyswitch", "latched"], ["switchKey", 25])(i)),
    );
    expect(heard(latched, 60)).toBe(0.02);
    expect(heard(latched, 25)).toBe(0);
    expect([heard(latched, 60), heard(latched, 61)]).toEqual([0.16, 0.16]);
    heard(latched, 24);
    expect(heard(latched, 60)).toBe(0.02);
  });

  test("a controller's range", () => {
    const b = bench(
      sounds,
      [{ sound: 2 }],
      set([`${GROUP}/controller`, 4], [`${GROUP}/controllerLow`, 64], [`${GROUP}/controllerHigh`, 100]),
    );
    const at = (value: number) => {
      b.engine.midi(0xb0, 4, value);
      return heard(b, 60);
    };
    expect([at(63), at(64), at(100), at(101)]).toEqual([0, 0.08, 0.08, 0]);
    expect(reasons(b)).toEqual([REASON.controller]);
  });

  test("chance: about as often as it says, and the trace tells", () => {
    const b = bench(sounds, [{ sound: 0 }], set([`${GROUP}/probability`, 0.3]));
    let count = 0;
    for (let i = 0; i < 400; i++) if (heard(b, 60) > 0) count++;
    expect(Math.abs(count / 400 - 0.3)).toBeLessThan(0.07);
    expect(b.engine.trace.drain().some((t) => t.at[0]?.reason === REASON.chance)).toBe(true);
  });

  test("choke: a new note silences the others of its number within the fade, and spares the rest", () => {
    const b = bench(
      sounds,
      [
        { sound: 4, keyLow: 60, keyHigh: 61, track: 0 },
        { sound: 1, keyLow: 62, track: 0 },
      ],
      (i) => set([`${GROUP}/chokeGroup`, 1], [`${GROUP}/chokeFade`, 0.02])(second("z1", ["chokeGroup", 2])(i)),
    );
    b.engine.midi(0x90, 60, 100);
    b.engine.midi(0x90, 70, 100);
    expect(b.play(256).left[200]).toBeCloseTo(0.32 + 0.04, 4);
    b.engine.midi(0x90, 61, 100);
    const { left } = b.play(2000);
    expect(left[480]).toBeCloseTo(0.32 + 0.04 + 0.16, 1);
    expect(left[1200]).toBeCloseTo(0.32 + 0.04, 4);
  });
});

describe("layers", () => {
  const layered = (sets: Instrument["sets"]) => (i: Instrument) =>
    together("", [
      ...[2, 3, 4].map((n) =>
        addLayer({ ...newLayer(`l${n}`, `L${n}`), amp: i.layers[0]?.amp ?? newUnit("amp", "amp") }),
      ),
      ...sets.map((u) => addUnit("sets", u)),
      moveZones(new Set(["z1"]), "l2", "main"),
      moveZones(new Set(["z2"]), "l3", "main"),
      moveZones(new Set(["z3"]), "l4", "main"),
      changeLayer("l2", { set: "colour" }),
      changeLayer("l3", { set: "colour" }),
      changeLayer("l4", { set: "colour" }),
    ]).apply(i);
  const flat = (i: Instrument) =>
    set(
      ...["l2", "l3", "l4"].flatMap((id) => [
        [`layers/${id}/strip/level`, 0] as const,
        [`layers/${id}/strip/velocity`, 0] as const,
        [`layers/${id}/stages/filter/type`, "off"] as const,
      ]),
    )(i);

  test("of a set exactly one sounds, from the start, whatever is chosen; others always", () => {
    const build = (chosen: number) =>
      bench(
        sounds,
        [0, 1, 2, 3].map((sound) => ({ sound })),
        (i) => set(["sets/colour/selected", chosen])(flat(layered([newUnit("set", "colour", "Colour")])(i))),
      );
    expect([1, 2, 3, 60].map((chosen) => heard(build(chosen), 60))).toEqual([0.06, 0.1, 0.18, 0.18]);
    const b = build(2);
    heard(b, 60);
    expect(reasons(b)?.filter((r) => r === REASON.set)).toHaveLength(2);
  });

  test("limits: of a layer, of a group", () => {
    const b = bench(
      sounds,
      [
        { sound: 0, track: 0 },
        { sound: 1, track: 0 },
      ],
      (i) => set([`${GROUP}/voices`, 2])(second("z1", ["voices", 3])(i)),
    );
    for (let k = 60; k < 70; k++) b.engine.midi(0x90, k, 100);
    expect(b.play(1000).left[900]).toBeCloseTo(2 * 0.02 + 3 * 0.04, 4);
    const l = bench(sounds, [{ sound: 0, track: 0 }], set(["layers/main/strip/voices", 3]));
    for (let k = 60; k < 70; k++) l.engine.midi(0x90, k, 100);
    expect(l.play(1000).left[900]).toBeCloseTo(3 * 0.02, 4);
  });
});
