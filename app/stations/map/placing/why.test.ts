import { describe, expect, test } from "@jest/globals";
import { nameOfNote } from "../../../../core/audio";
import { newInstrument, newSample, type Sample } from "../../../../core/instrument";
import { placeSounds, readNames, weigh } from "../../../../core/mapping";
import { reasonsOf } from "./why";

const SPREAD = { mode: "nearest", low: 0, high: 127 } as const;

/** What the reasons are for samples of some names, pitches and levels. */
function reasons(sounds: readonly (readonly [string, number | null, number])[], into: "replace" | "add" = "replace") {
  const samples: Sample[] = sounds.map(([path, pitch, loudness], i) =>
    newSample({
      sha: String(i).padStart(64, "0"),
      name: path,
      frames: 100,
      pitch,
      confidence: pitch === null ? 0 : 0.9,
      loudness,
      file: { path, root: null, loop: null, further: [], range: null, text: "" },
    }),
  );
  const evident = samples.map((s) => ({ path: s.name, pitch: s.pitch, loudness: s.loudness, root: null }));
  const readings = readNames(evident);
  const weighed = weigh(evident, readings[0] ?? null);
  const placement = placeSounds(
    samples.map((sample, i) => ({ sample, says: weighed[i] as (typeof weighed)[number] })),
    SPREAD,
    (i) => `z${i}`,
  );
  const found = reasonsOf({
    of: "i",
    samples,
    sounds: evident,
    readings,
    shown: readings.length > 0 ? 0 : -1,
    evidence: { weighed, pieces: [], pattern: "" },
    heard: new Set(),
    octaves: 0,
    into,
    kit: placement.kit,
    spread: SPREAD,
    placement,
    preview: newInstrument("i", "Tubes"),
  });
  return Object.fromEntries(found.map((r) => [r.about, r.text]));
}

const NOTES = [48, 50, 52, 53, 55, 57];

describe("why samples would be placed so", () => {
  test("names that mean another middle C, strengths by words, repeats, and what becomes of velocity", () => {
    const sounds = NOTES.flatMap((note) =>
      ["p", "ff"].flatMap((word, layer) =>
        [1, 2].map((r) => [`${nameOfNote(note - 12)} ${word} rr${r}`, note, -30 + layer * 12] as const),
      ),
    );
    const why = reasons(sounds);
    expect(why.Note).toBe("from the name; their C4 is our C5; 24 of 24 sound as they are called");
    expect(why.Layers).toContain("2 by words; every harder one is louder");
    expect(why.Repeats).toBe("up to 2, from the name");
    expect(why.Velocity).toContain("0 dB");
    expect(reasons(sounds, "add").Velocity).toContain("stays");
  });

  test("nothing but the sound: notes, levels and order", () => {
    const why = reasons(
      NOTES.flatMap((note, n) => [0, 1].map((r) => [`x${"abcdefghijkl"[n * 2 + r]}q`, note + 0.2, -20] as const)),
    );
    expect(why.Note).toContain("from the sound");
    expect(why.Note).toContain("+20 cents off");
    expect(why.Layers).toContain("leave no gap");
    expect(why.Repeats).toContain("up to 2");
    expect(why.Velocity).toBeUndefined();
  });

  test("a kit says on which keys its sounds are", () => {
    const why = reasons([
      ["hub", null, -20],
      ["rim", null, -20],
    ]);
    expect(why.Note).toBeUndefined();
    expect(why.Keys).toBe("2 sounds on a key each, C2 to C#2; nothing is tuned");
    expect(why.Groups).toBe("one for each name: 2");
    expect([why.Layers, why.Repeats]).toEqual(["one", "none"]);
  });

  test("what is let go is told as a group", () => {
    const why = reasons(
      NOTES.flatMap((note) => ["on", "release"].map((word) => [`${nameOfNote(note)} ${word}`, note, -20] as const)),
    );
    expect(why.Groups).toContain("at note off");
  });
});
