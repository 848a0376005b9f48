import { describe, expect, test } from "@jest/globals";
import { FIND_DEFAULTS } from "../analysis";
import { hertzOf, seededRandom } from "../audio";
import { newSlice, SEARCH, type Slice } from "../instrument";
import { judgeShot } from "./judge-shot";
import { type NameFacts, nameAll, nameByPattern, usableNames } from "./names";
import { ShotFollower } from "./shot-follower";
import { makeShots, nameOfStrength, nextShot, readPlan } from "./shots";
import { matrixOf, oddOnes, sortByMeasure, sortByNames, sortByPlan, sortByShots } from "./sort-slices";

const RATE = 8000;
const { sin, exp, PI } = Math;

const slice = (i: number, change: Partial<Slice> = {}): Slice =>
  newSlice({
    id: `s${i}`,
    start: i * 1000,
    end: i * 1000 + 800,
    confidence: 0.9,
    pitch: 60,
    loudness: -20,
    tone: 80,
    ...change,
  });
const noteOf = (s: Slice) => s.note ?? (s.pitch === null ? null : Math.round(s.pitch));

describe("shot lists", () => {
  test("notes, ranges, names, repeats and strengths are read in order", () => {
    const read = readPlan('C3 D#3..A3/3, "brake lever" chain x2 s2');
    if (!read.ok) throw new Error(read.word);
    expect(read.plan).toEqual({ notes: [48, 51, 54, 57, "brake lever", "chain"], strengths: 2, repeats: 2 });
    const shots = makeShots(read.plan);
    expect(shots).toHaveLength(24);
    expect(shots.slice(0, 5).map((s) => [s.name, s.strength, s.repeat])).toEqual([
      ["C3", 1, 1],
      ["C3", 1, 2],
      ["C3", 2, 1],
      ["C3", 2, 2],
      ["D#3", 1, 1],
    ]);
    expect(shots.at(-1)).toMatchObject({ name: "chain", note: null });
    expect(new Set(shots.map((s) => s.id)).size).toBe(24);
    expect(readPlan("C3 ?")).toEqual({ ok: false, word: "?" });
    expect(readPlan("x3")).toEqual({ ok: false, word: "x3" });
    expect(nameOfStrength(2, 2)).toBe("hard");
    expect(nameOfStrength(3, 9)).toBe("strength 3 of 9");
  });

  test("the next entry is the first open one from a place on, then from the beginning", () => {
    const shots = makeShots({ notes: [60, 62, 64], strengths: 1, repeats: 1 }).map((s, i) => ({
      ...s,
      state: i === 1 ? ("done" as const) : s.state,
    }));
    expect(nextShot(shots)?.name).toBe("C4");
    expect(nextShot(shots, 1)?.name).toBe("E4");
    expect(nextShot(shots.map((s) => ({ ...s, state: "skipped" as const })))).toBeNull();
  });
});

/** A decaying tone of a note. */
const tone = (note: number, level: number, seconds = 0.6): Float32Array => {
  const step = (2 * PI * hertzOf(note)) / RATE;
  return Float32Array.from({ length: seconds * RATE }, (_, i) => level * sin(i * step) * exp((-7 * i) / RATE));
};

describe("following a recording", () => {
  test("each sound is heard out, from just before its attack, whatever the chunks; cues and pauses are ignored", () => {
    const random = seededRandom(3);
    const x = Float32Array.from({ length: RATE * 9 }, () => (random() - 0.5) * 0.002);
    const onsets = [1.2, 3.4, 5.2, 7.1].map((t) => Math.round(t * RATE));
    for (const at of onsets)
      tone(60, 0.4).forEach((v, i) => {
        x[at + i] = (x[at + i] as number) + v;
      });
    for (const chunk of [77, 1024]) {
      const follower = new ShotFollower({ rate: RATE });
      const found: number[] = [];
      for (let at = 0; at < x.length; at += chunk) {
        const captured = follower.take(x.slice(at, at + chunk));
        if (!captured) continue;
        found.push(captured.onset);
        expect(captured.samples.length).toBeGreaterThan(0.5 * RATE);
        expect(captured.end).toBeGreaterThan(captured.onset + 0.3 * RATE);
        // The second sound falls into the cue after the first.
        follower.listen(found.length === 1 ? 2 : 0);
      }
      expect(found).toHaveLength(3);
      [onsets[0], onsets[2], onsets[3]].forEach((at, i) => {
        expect(Math.abs((found[i] ?? 0) - (at ?? 0))).toBeLessThanOrEqual(0.01 * RATE);
      });
      expect(follower.floor ?? 0).toBeLessThan(-55);
    }
  });

  test("what rings beyond the longest isn't the next sound; a stroke over it is; a settled threshold is kept to", () => {
    const random = seededRandom(9);
    const x = Float32Array.from({ length: RATE * 12 }, () => (random() - 0.5) * 0.002);
    // A gong that rings for eight seconds, and a stroke in its tail.
    for (let i = 0; i < RATE * 8; i++)
      x[RATE + i] = (x[RATE + i] as number) + 0.5 * sin(i * 0.3) * exp((-0.6 * i) / RATE);
    const stroke = Math.round(6.5 * RATE);
    tone(72, 0.6).forEach((v, i) => {
      x[stroke + i] = (x[stroke + i] as number) + v;
    });
    const follow = (options: { threshold?: number; longest?: number }) => {
      const follower = new ShotFollower({ rate: RATE, ...options });
      const found: number[] = [];
      for (let at = 0; at < x.length; at += 400) {
        const captured = follower.take(x.slice(at, at + 400));
        if (!captured) continue;
        found.push(captured.onset / RATE);
        follower.listen();
      }
      return found;
    };
    const found = follow({ longest: 2 });
    expect(found).toHaveLength(2);
    expect(found[0]).toBeCloseTo(1, 1);
    expect(found[1]).toBeCloseTo(6.5, 1);
    // So high above the room nothing rises.
    expect(follow({ threshold: 60, longest: 2 })).toEqual([]);
  });

  test("a sound is judged: clipped, too soft, off pitch, unpitched, the wrong way round", () => {
    const [soft, hard] = makeShots({ notes: [60], strengths: 2, repeats: 1 }) as [
      ReturnType<typeof makeShots>[number],
      ReturnType<typeof makeShots>[number],
    ];
    const judge = (samples: Float32Array, shot = soft, landed: Parameters<typeof judgeShot>[3] = []) =>
      judgeShot({ rate: RATE, channels: [samples] }, shot, -60, landed).problems.map((p) => p.split(":")[0]);
    expect(judge(tone(60, 0.3))).toEqual([]);
    expect(judge(tone(60, 2).map((x) => Math.max(-1, Math.min(1, x))))).toContain("it clipped");
    expect(judge(tone(60, 0.002))).toContain("it hardly stands above the room");
    expect(judge(tone(64, 0.3))).toEqual(["it sounds like E4, but C4 was asked for"]);
    const random = seededRandom(1);
    expect(judge(tone(60, 0.3).map((_, i) => (random() - 0.5) * exp((-6 * i) / RATE)))).toEqual(["no clear pitch"]);
    const landed = [{ note: 60, strength: 1, peak: -10 }];
    expect(judge(tone(60, 0.2), hard, landed)).toEqual(["too soft for this strength"]);
    expect(judge(tone(60, 0.5), hard, landed)).toEqual([]);
    expect(judge(tone(60, 0.5), soft, [{ note: 60, strength: 2, peak: -8 }])).toEqual(["too hard for this strength"]);
    expect(judge(tone(64, 0.3), { ...soft, note: null })).toEqual([]);
    const within = (samples: Float32Array, tolerance: number) =>
      judgeShot({ rate: RATE, channels: [samples] }, soft, -60, [], tolerance).problems;
    expect(within(tone(64, 0.3), 4.5)).toEqual([]);
    expect(within(tone(64, 0.3), 0)).toEqual([]);
    const bell = tone(60, 0.3).map((_, i) => (random() - 0.5) * exp((-6 * i) / RATE));
    expect(within(bell, 0)).toEqual([]);
  });
});

test("a new take is searched as the finder would by itself", () => {
  expect(SEARCH).toMatchObject(FIND_DEFAULTS);
});

describe("sorting slices", () => {
  test("by a typed list in order; what is left over is counted; those left out take no entry", () => {
    const read = readPlan("C4 E4 x2");
    if (!read.ok) throw new Error(read.word);
    const slices = [slice(0), slice(1, { keep: false }), slice(2), slice(3)];
    const { roles, over } = sortByPlan(slices, read.plan);
    expect([...roles]).toEqual([
      ["s0", { note: 60, strength: 1, repeat: 1 }],
      ["s2", { note: 60, strength: 1, repeat: 2 }],
      ["s3", { note: 64, strength: 1, repeat: 1 }],
    ]);
    expect(over).toBe(1);
    const shots = makeShots(read.plan).map((s, i) => ({ ...s, state: i === 1 ? ("skipped" as const) : s.state }));
    expect([...sortByShots(slices, shots).roles.values()].map((r) => [r.note, r.repeat])).toEqual([
      [60, 1],
      [64, 1],
      [64, 2],
    ]);
  });

  test("by pitch and level, and by the names of markers", () => {
    const measured = [-30, -12, -31, -12.5].map((loudness, i) => slice(i, { loudness }));
    const { roles } = sortByMeasure(measured, noteOf);
    expect(measured.map((s) => [roles.get(s.id)?.strength, roles.get(s.id)?.repeat])).toEqual([
      [1, 1],
      [2, 1],
      [1, 2],
      [2, 2],
    ]);
    const markers = ["A#2 s2 r3", "wheel_62_soft", "nothing"].map((name, i) => ({ at: i * 1000, length: 0, name }));
    const named = sortByNames(measured.slice(0, 3), markers, RATE);
    expect([...named.roles.values()]).toEqual([
      { note: 46, strength: 2, repeat: 3 },
      { note: 62, strength: 1, repeat: 1 },
    ]);
    expect(named.over).toBe(-1);
  });

  test("the matrix says what is missing; the odd one differs from its siblings by level, length or tone", () => {
    const slices = [
      ...[1, 2, 3].map((repeat) => slice(repeat, { note: 60, strength: 1, repeat })),
      ...[1, 2, 3].map((repeat) =>
        slice(10 + repeat, { note: 60, strength: 2, repeat, loudness: repeat === 2 ? -9 : -15 }),
      ),
      ...[1, 2].map((repeat) => slice(20 + repeat, { note: 62, strength: 1, repeat })),
      slice(31, { note: 62, strength: 2, repeat: 1, keep: false }),
    ];
    const matrix = matrixOf(slices, noteOf);
    expect(matrix.rows.map((r) => [r.note, r.cells.map((c) => c.length)])).toEqual([
      [60, [3, 3]],
      [62, [2, 1]],
    ]);
    expect([matrix.strengths, matrix.repeats, matrix.missing]).toEqual([2, 3, 4]);
    expect([...oddOnes(slices, noteOf)]).toEqual([["s12", "6.0 dB louder than its siblings"]]);
    const short = slices.map((s) => (s.id === "s1" ? { ...s, end: s.start + 200, tone: 90 } : s));
    expect(oddOnes(short, noteOf).get("s1")).toBe("25 % as long, brighter than its siblings");
  });
});

describe("names", () => {
  const facts = (change: Partial<NameFacts> = {}): NameFacts => ({
    take: "rear wheel.wav",
    number: 7,
    note: 63,
    cents: -12.4,
    strength: 2,
    repeat: 3,
    peak: -6.2,
    length: 0.51,
    ...change,
  });

  test.each([
    ["{take}-{note}-{number:2}", {}, "rear wheel-D#4-07"],
    ["{take}-{note}-{number:2}", { note: null }, "rear wheel-07"],
    ["{midi:3}_s{strength}_r{repeat}", {}, "063_s2_r3"],
    ["{midi:3}_s{strength}_r{repeat}", { strength: null }, "063_r3"],
    ["{note} {cents} {peak} {length}", {}, "D#4 -12 -6dB 510ms"],
    ["{nothing}{number}", {}, "{nothing}7"],
  ])("%s", (pattern, change, name) => {
    expect(nameByPattern(pattern, facts(change))).toBe(name);
  });

  test("clashes, illegal characters and empty names are told; usable names never clash", () => {
    const all = [facts(), facts({ number: 8 }), facts({ number: 9, note: 64 })];
    expect(nameAll("{note}", all).map((n) => n.problem)).toEqual(["clash", "clash", ""]);
    expect(nameAll("a/b {number}", all).map((n) => n.problem)).toEqual(["illegal", "illegal", "illegal"]);
    expect(nameAll("{note}", [facts({ note: null })])[0]?.problem).toBe("empty");
    expect(usableNames("{note}", all)).toEqual(["D#4", "D#4-2", "E4"]);
    // Names that one system or another keeps for its devices, and dots that end no file's name.
    expect(nameAll("CON", all).map((n) => n.problem)).toEqual(["illegal", "illegal", "illegal"]);
    expect(usableNames("con.{number}", all)).toEqual(["con-sound.7", "con-sound.8", "con-sound.9"]);
    expect(nameByPattern("{take}", facts({ take: "session 1.25" }))).toBe("session 1.25");
    expect(nameByPattern("{take}", facts({ take: "session 1.25.wav" }))).toBe("session 1.25");
    expect(usableNames("../{note}:*", [facts()])).toEqual(["-D#4--"]);
    expect(usableNames("{note}", [facts({ note: null })])).toEqual(["sound-7"]);
  });
});
