import { describe, expect, test } from "@jest/globals";
import { PHRASES, type Phrase, phraseEvents, phraseFor } from "./phrases";

const phrase = (id: string) => PHRASES.find((p) => p.id === id) as Phrase;
const keysOf = (p: Phrase) => p.notes.map((n) => n.key);
const range = (low: number, high: number) => Array.from({ length: high - low + 1 }, (_, i) => low + i);

describe("a phrase for the keys that sound", () => {
  test.each(PHRASES.map((p) => p.id))("%s: each of its notes sounds, wherever the keys are", (id) => {
    for (const keys of [
      range(0, 127),
      range(36, 47),
      range(84, 108),
      [36, 38, 40, 41],
      [60],
      range(48, 74).filter((k) => k % 2),
    ]) {
      const fitted = phraseFor(phrase(id), keys);
      for (const key of keysOf(fitted)) expect(keys).toContain(key);
      expect(fitted.notes.map((n) => n.at)).toEqual(phrase(id).notes.map((n) => n.at));
    }
  });

  test("what sounds as it is stays; a bass gets it whole octaves lower; a kit gets each of its sounds", () => {
    expect(phraseFor(phrase("arpeggio"), range(36, 84))).toEqual(phrase("arpeggio"));
    expect(keysOf(phraseFor(phrase("arpeggio"), range(24, 48)))).toEqual(keysOf(phrase("arpeggio")).map((k) => k - 24));
    expect(new Set(keysOf(phraseFor(phrase("arpeggio"), [36, 38, 40, 42, 44])))).toEqual(new Set([36, 38, 40, 42, 44]));
  });

  test("the ends are asked for by name; where nothing sounds nothing is moved", () => {
    expect(keysOf(phraseFor(phrase("ends"), [40, 50, 90]))).toEqual([40, 90, 40, 90]);
    expect(phraseFor(phrase("chords"), [])).toEqual(phrase("chords"));
    expect(phraseEvents(phrase("ends"), 60)[0]).toEqual({ seconds: 0, status: 0x90, data1: 48, data2: 30 });
  });
});
