import { describe, expect, test } from "@jest/globals";
import { classOf, meaningAt } from "./meanings";
import { type Piece, piecesOf } from "./pieces";

const USUAL = { below: false, forte: false };
const short = ({ kind, text, number, unit }: Piece): string =>
  `${kind[0]}:${text}${kind === "number" && unit !== "" ? `=${number}${unit}` : ""}`;
const pieces = (path: string, options = USUAL): string[] => piecesOf(path, options).map(short);

describe("names are taken apart", () => {
  test.each([
    ["old tube - take1 - p - C2", ["w:old", "w:tube", "w:take", "n:1", "w:p", "n:C2"]],
    ["Spoke_F#3_v127_rr2", ["w:Spoke", "n:F#3", "w:v", "n:127", "w:rr", "n:2"]],
    ["WheelSpokeAs2SoftTake12", ["w:Wheel", "w:Spoke", "n:As2", "w:Soft", "w:Take", "n:12"]],
    ["E flat 4 hard", ["n:E flat 4", "w:hard"]],
    ["Csharp3", ["n:Csharp3"]],
    ["Bb1", ["n:Bb1"]],
    ["B♭1 E♯2", ["n:B♭1", "n:E♯2"]],
    ["sol#3 mi2 la", ["n:sol#3", "n:mi2", "n:la"]],
    ["440.5Hz -12dB 50% 3kHz", ["n:440.5Hz=440.5hz", "n:-12dB=-12db", "n:50%=50%", "n:3kHz=3000hz"]],
    ["bass drum 2026-11-03", ["w:bass", "w:drum", "n:2026", "n:11", "n:03"]],
    ["C4soft", ["n:C4", "w:soft"]],
    ["Klänge/leise/fis3", ["w:Klänge", "w:leise", "n:fis3"]],
    ["спица C4", ["w:спица", "n:C4"]],
    ["", []],
    ["---", []],
  ])("%s", (path, expected) => {
    expect(pieces(path)).toEqual(expected);
  });

  test("octaves below 0 are read where they are written, else the dash parts", () => {
    expect(pieces("C-1 x")).toEqual(["n:C", "n:1", "w:x"]);
    expect(pieces("C-1 x", { below: true, forte: false })).toEqual(["n:C-1", "w:x"]);
  });

  test("f1 and f2 may be strong hits, F2 stays a note", () => {
    expect(pieces("tube f2")).toEqual(["w:tube", "n:f2"]);
    expect(pieces("tube f2 F2", { below: false, forte: true })).toEqual(["w:tube", "w:f", "n:2", "n:F2"]);
  });

  test("numbers know the word before them, pieces the part of the path in which they lie", () => {
    const all = piecesOf("take 2/key 60 v_100", USUAL);
    expect(all.filter((p) => p.kind === "number").map((p) => [p.word, p.number, p.part])).toEqual([
      ["take", 2, 1],
      ["key", 60, 0],
      ["v", 100, 0],
    ]);
  });
});

describe("notes as they are written", () => {
  const step = (name: string, german = false): number => {
    const [piece] = piecesOf(`${name}3`, USUAL);
    if (!piece?.note) throw new Error(`${name} is a note`);
    return classOf(piece.note, german);
  };

  test("sharps and flats in every spelling", () => {
    for (const name of ["C#", "C♯", "Cs", "Cis", "Csharp", "do#"]) expect(step(name)).toBe(1);
    for (const name of ["Db", "D♭", "Dflat", "reb"]) expect(step(name)).toBe(1);
    for (const name of ["A#", "As", "Bb", "Ais", "la#", "sib"]) expect(step(name)).toBe(10);
    expect(step("Cb")).toBe(-1);
  });

  test("in German B is B flat, H is B, and Es and As are flats", () => {
    expect(step("B", true)).toBe(10);
    expect(step("H", true)).toBe(11);
    expect(step("Es", true)).toBe(3);
    expect(step("As", true)).toBe(8);
    expect(step("Des", true)).toBe(1);
    expect(step("si", true)).toBe(11);
  });
});

describe("what a piece may mean", () => {
  const meaning = (
    path: string,
    at: number,
    ...how: [Parameters<typeof meaningAt>[2], Parameters<typeof meaningAt>[3]]
  ) => meaningAt(piecesOf(path, USUAL), at, how[0], how[1], false);

  test("a note with its octave, also apart from it, as a number, as a frequency", () => {
    expect(meaning("C4", 0, "note", "note")?.value).toBe(60);
    expect(meaning("C 4", 0, "note", "note")).toMatchObject({ value: 60, pieces: 2 });
    expect(meaning("oct 4/C soft", 2, "note", "note")?.value).toBe(60);
    expect(meaning("key 61", 1, "note", "midi")).toMatchObject({ value: 61, likely: 1 });
    expect(meaning("vel 61", 1, "note", "midi")?.likely).toBeLessThan(0.2);
    expect(meaning("440Hz", 0, "note", "hertz")?.value).toBe(69);
    expect(meaning("128", 0, "note", "midi")).toBeNull();
  });

  test("a strength as a word in several languages, also in two, as a number, a range, percent and decibels", () => {
    const order = ["pp", "leise", "medium", "fort", "ff"].map(
      (w) => meaning(w, 0, "strength", "word")?.value as number,
    );
    expect([...order].sort((a, b) => a - b)).toEqual(order);
    expect(meaning("very soft", 0, "strength", "word")).toMatchObject({ pieces: 2 });
    expect(meaning("v 100", 1, "strength", "top")).toMatchObject({ value: 100, likely: 1 });
    expect(meaning("1-63", 0, "strength", "range")).toMatchObject({ value: 63, low: 1, pieces: 2 });
    expect(meaning("50%", 0, "strength", "percent")?.value).toBe(50);
    expect(meaning("-6dB", 0, "strength", "decibels")?.value).toBe(-6);
    expect(meaning("200", 0, "strength", "top")).toBeNull();
  });

  test("microphones, triggers, repeats by number and by letter", () => {
    expect(meaning("nah", 0, "microphone", "word")?.value).toBe("close");
    expect(meaning("mic 2", 1, "microphone", "count")?.value).toBe("mic 2");
    expect(meaning("rel", 0, "trigger", "word")?.value).toBe("noteOff");
    expect(meaning("rr 3", 1, "repeat", "count")).toMatchObject({ value: 3, likely: 1 });
    expect(meaning("b", 0, "repeat", "letter")?.value).toBe(2);
    expect(meaning("wheel", 0, "repeat", "count")).toBeNull();
  });
});
