import { describe, expect, test } from "@jest/globals";
import { nameOfNote } from "../../audio";
import { applyReading } from "./apply-reading";
import { fixRole } from "./fix-role";
import { readNames } from "./read-names";
import { type EvidentSound, weigh } from "./weigh";

const sound = (path: string, pitch: number | null, root: number | null = null, loudness = -20): EvidentSound => ({
  path,
  pitch,
  loudness,
  root,
});
const NOTES = [48, 50, 52, 53, 55, 57, 59, 60];
const set = (change: (n: number) => Partial<EvidentSound> = () => ({})): EvidentSound[] =>
  NOTES.map((note, n) => ({ ...sound(`bell ${nameOfNote(note)}`, note + 0.05), ...change(n) }));
const weighed = (sounds: readonly EvidentSound[]) => weigh(sounds, readNames(sounds)[0] ?? null);

describe("evidence is weighed", () => {
  test("where name and sound agree the name is believed without a doubt", () => {
    for (const [n, w] of weighed(set()).entries()) expect(w).toMatchObject({ note: NOTES[n], from: "name", doubt: "" });
  });

  test("a sound that is off its name is doubted with both, and the name believed, as the others agree", () => {
    const [, second] = weighed(set((n) => (n === 1 ? { pitch: 51.1 } : {})));
    expect(second).toMatchObject({ note: 50, from: "name" });
    expect(second?.doubt).toContain("called D3, but sounds D#3");
  });

  test("a sound that is heard whole octaves off is told so", () => {
    const [, second] = weighed(set((n) => (n === 1 ? { pitch: 62 } : {})));
    expect(second).toMatchObject({ note: 50, from: "name" });
    expect(second?.doubt).toContain("whole octaves apart");
  });

  test("where the file says what the sound says, the name is overruled", () => {
    const [first, second] = weighed(
      set((n) => ({ root: NOTES[n] as number, ...(n === 1 ? { pitch: 51, root: 51 } : {}) })),
    );
    expect(first).toMatchObject({ note: 48, doubt: "" });
    expect(second).toMatchObject({ note: 51, from: "sound" });
    expect(second?.doubt).toContain("as its file says too");
  });

  test("a set that is tuned alike is measured against its own tuning", () => {
    for (const off of [0.48, -0.48])
      for (const [n, w] of weigh(
        NOTES.map((note, i) => sound(`x${i}`, note + off + (i % 2 ? 0.04 : -0.04))),
        null,
      ).entries())
        expect(w).toMatchObject({ note: NOTES[n], from: "sound", doubt: "" });
  });

  test("roots that are the same in all files say nothing", () => {
    for (const [n, w] of weighed(set(() => ({ root: 60 }))).entries())
      expect(w).toMatchObject({ note: NOTES[n], written: null, doubt: "" });
  });

  test("without a pitch the name is believed; without a name the sound, and else the file", () => {
    const silent = weighed(set((n) => (n < 3 ? { pitch: null } : {})));
    expect(silent[0]).toMatchObject({ note: 48, from: "name", doubt: "" });
    const unnamed = weigh([sound("a", 60.2), sound("b", null, 64), sound("c", null, null), sound("d", 67, 62)], null);
    expect(unnamed.map((w) => [w.note, w.from])).toEqual([
      [60, "sound"],
      [64, "file"],
      [null, null],
      [67, "sound"],
    ]);
    expect(unnamed[3]?.doubt).toContain("its file says D4");
  });

  test("names that seldom agree with the sound aren't believed", () => {
    const others = set((n) => ({ pitch: (NOTES[NOTES.length - 1 - n] as number) + 0.7 * (n % 3) }));
    const [reading] = readNames(set());
    if (!reading) throw new Error("nothing was read");
    for (const [n, w] of weigh(others, { ...reading, agreement: 0.2 }).entries()) {
      if (Math.abs((others[n]?.pitch ?? 0) - (w.called ?? 0)) > 0.6) expect(w.from).toBe("sound");
    }
  });
});

describe("a reading is corrected", () => {
  const sounds = NOTES.flatMap((note) =>
    [1, 2].flatMap((a) =>
      [1, 2, 3].map((b) => sound(`tube_${nameOfNote(note)}_${a}_${b}`, note, null, -30 + a * 2 + b * 8)),
    ),
  );

  test("the piece of every name is taken for what one says, and what it was before gives way", () => {
    const [reading] = readNames(sounds);
    if (!reading) throw new Error("nothing was read");
    // The louder goes with the last number, so that is the strength.
    expect(applyReading(reading, sounds).names[4]).toMatchObject({ note: 48, strength: 2, repeat: 2 });
    const fixed = fixRole(reading, sounds, 0, 2, "strength");
    if (!fixed) throw new Error("it can be that");
    const { names, pieces } = applyReading(fixed, sounds);
    expect(names.map((n) => n.strength)).toEqual(sounds.map((_, i) => (Math.floor(i / 3) % 2) + 1));
    expect(names.every((n) => n.repeat === null)).toBe(true);
    expect(pieces[0]?.map((p) => p.role)).toEqual([null, "note", "strength", null]);
    const back = fixRole(fixed, sounds, 0, 3, "repeat");
    expect(back && applyReading(back, sounds).names[1]).toMatchObject({ strength: 1, repeat: 2 });
    const none = fixRole(fixed, sounds, 0, 2, null);
    expect(none && applyReading(none, sounds).names.every((n) => n.strength === null)).toBe(true);
  });

  test("a piece that can't mean that is refused", () => {
    const [reading] = readNames(sounds);
    expect(reading && fixRole(reading, sounds, 0, 0, "note")).toBeNull();
  });
});

describe("words part a set", () => {
  const grid = (words: readonly string[], of: (word: string, note: number, i: number) => string) =>
    words.flatMap((word, w) => NOTES.map((note, i) => sound(of(word, note, w * NOTES.length + i), note)));

  test("into groups where they stand for several sounds each, as names or as folders", () => {
    for (const of of [
      (word: string, note: number) => `bell ${word} ${nameOfNote(note)}`,
      (word: string, note: number) => `${word}/${nameOfNote(note)}`,
    ]) {
      const sounds = grid(["struck", "bowed"], of);
      const read = weigh(sounds, readNames(sounds)[0] ?? null);
      expect(new Set(read.map((w) => w.group))).toEqual(new Set(["struck", "bowed"]));
      expect(read.map((w) => w.note)).toEqual([...NOTES, ...NOTES]);
    }
  });

  test("names of which each is another one part nothing", () => {
    const words = ["amber", "birch", "cedar", "dogwood", "elder", "hazel", "juniper", "larch"];
    const sounds = NOTES.flatMap((note, i) => [sound(`${words[i]}`, note), sound(`${words[7 - i]}wood`, note)]);
    for (const w of weigh(sounds, readNames(sounds)[0] ?? null)) expect(w.group).toBeNull();
  });
});

describe("odd names", () => {
  const odd = [
    "",
    "/",
    "a/b/",
    "\u0000\u0007",
    "x".repeat(5000),
    "C".repeat(400),
    "C4".repeat(300),
    "٣ C4",
    "🚲 C4 🚲",
    "-1 -1 -1",
    "C-1--C-2",
    "99999999999999999999 C4",
    "C4 1e400Hz",
    "0 Hz",
    "#♯♭b",
    "é́́ C4",
    "ab1 C#".repeat(400),
  ];

  test("are survived, alone and together; pieces lie inside the name and don't overlap", () => {
    for (const paths of [odd, ...odd.map((o) => [o]), []]) {
      const sounds = paths.map((path, i) => sound(path, i % 2 ? 60 + i : null));
      for (const reading of readNames(sounds)) {
        const { names, pieces } = applyReading(reading, sounds);
        expect(names).toHaveLength(paths.length);
        pieces.forEach((all, n) => {
          let at = 0;
          for (const piece of all) {
            expect(piece.start).toBeGreaterThanOrEqual(at);
            expect(piece.end).toBeGreaterThan(piece.start);
            at = piece.end;
          }
          expect(at).toBeLessThanOrEqual(paths[n]?.length ?? 0);
        });
        for (const w of weigh(sounds, reading)) if (w.note !== null) expect(w.note >= 0 && w.note <= 127).toBe(true);
      }
    }
  });
});
