import { describe, expect, test } from "@jest/globals";
import { compileKernels, startKernels } from "../dsp";
import { Heap } from "./heap";
import type { Voice } from "./voice";
import { MOST_VOICES, VoicePool } from "./voice-pool";

const pool = () => {
  const heap = new Heap(startKernels(compileKernels()).memory, 4096);
  const p = new VoicePool(heap, 48000);
  let frame = 0;
  const begin = (
    limit: number,
    given: { layer?: number; serial?: number; loudness?: number; layerLimit?: number } = {},
  ) => {
    const { layer = 0, serial = ++frame, loudness = 1, layerLimit = 0 } = given;
    const voice = p.take(layer, 0, limit, layerLimit, 0, serial, 0);
    if (!voice) throw new Error("no voice was given");
    voice.active = true;
    voice.layer = layer;
    voice.serial = serial;
    voice.born = ++frame;
    voice.released = false;
    voice.leaving = false;
    p.numbers.forget(voice.index);
    p.numbers.gainLeft[voice.index] = loudness;
    p.numbers.gainRight[voice.index] = loudness;
    return voice;
  };
  const leaving = () => p.voices.filter((v) => v.active && v.leaving);
  return { p, heap, begin, leaving };
};

describe("which voice gives way", () => {
  test("none below the limit", () => {
    const { p, begin, leaving } = pool();
    for (let i = 0; i < 8; i++) begin(8);
    expect(p.gaveWay).toBe(0);
    expect(leaving()).toEqual([]);
  });

  test("the oldest, when all are held", () => {
    const { p, begin, leaving } = pool();
    const first = begin(3);
    begin(3);
    begin(3);
    begin(3);
    expect(p.gaveWay).toBe(1);
    expect(leaving()).toEqual([first]);
  });

  test("a released one rather than a held one, and the quietest of those", () => {
    const { begin, leaving } = pool();
    begin(4);
    const loud = begin(4, { loudness: 0.9 });
    const quiet = begin(4, { loudness: 0.1 });
    begin(4);
    loud.released = true;
    quiet.released = true;
    begin(4);
    expect(leaving()).toEqual([quiet]);
  });

  test("a layer's own limit counts its own voices only", () => {
    const { begin, leaving } = pool();
    const other = begin(64, { layer: 1 });
    const own = [begin(64, { layerLimit: 2 }), begin(64, { layerLimit: 2 })];
    begin(64, { layerLimit: 2 });
    expect(leaving()).toEqual([own[0]]);
    expect(other.leaving).toBe(false);
  });

  test("thousands at once: none is cut short, some give way while there is still room, and what finds none is counted", () => {
    const { p, begin, leaving } = pool();
    let begun = 0;
    for (let i = 0; i < 5000; i++) {
      try {
        expect(begin(5000, { layer: i % 3 }).active).toBe(true);
        begun++;
      } catch {
        expect(p.refused).toBe(i + 1 - begun);
      }
    }
    // All that began still sound or fade.
    expect(p.voices.filter((v) => v.active).length).toBe(begun);
    expect(begun).toBeGreaterThan(MOST_VOICES - 4);
    expect(leaving().length).toBeGreaterThan(8);
  });

  test("thinning takes released and quiet voices first, and no more than there are", () => {
    const { p, begin, leaving } = pool();
    const voices = [1, 2, 3, 4].map((n) => begin(8, { loudness: n / 10 }));
    (voices[2] as Voice).released = true;
    expect(p.thin(2)).toBe(2);
    expect(leaving()).toEqual([voices[0], voices[2]]);
    expect(p.thin(9)).toBe(2);
  });
});

describe("pairs", () => {
  test("both voices of a pair belong to one layer", () => {
    const { p, begin } = pool();
    for (let i = 0; i < 60; i++) begin(512, { layer: (i * 7) % 3 });
    for (let v = 0; v < p.voices.length; v += 2) {
      const [a, b] = [p.voices[v] as Voice, p.voices[v + 1] as Voice];
      if (a.active && b.active) expect(a.layer).toBe(b.layer);
    }
    p.listVoices();
    expect(p.active).toBe(60);
    expect(p.pairCount).toBeLessThanOrEqual(32);
  });

  test("silence fades every voice, a reset ends it", () => {
    const { p, begin, leaving } = pool();
    for (let i = 0; i < 5; i++) begin(8);
    p.silence();
    expect(leaving()).toHaveLength(5);
    p.reset();
    expect(p.voices.some((v) => v.active)).toBe(false);
    expect(p.pairCount).toBe(0);
  });
});
