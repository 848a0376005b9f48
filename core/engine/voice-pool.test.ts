import { describe, expect, test } from "@jest/globals";
import { Heap } from "./heap";
import type { Voice } from "./voice";
import { VoicePool } from "./voice-pool";

const RATE = 48000;

function pool() {
  const p = new VoicePool(new Heap(new WebAssembly.Memory({ initial: 16, maximum: 256 }), 1024), RATE);
  const begin = (limit: number, serial: number, loudness = 1): Voice => {
    const voice = p.take(limit);
    if (!voice) throw new Error("no voice");
    voice.active = true;
    voice.serial = serial;
    voice.born = serial;
    voice.released = false;
    voice.sustained = false;
    voice.fadeFrames = 0;
    voice.gainLeft = loudness;
    voice.gainRight = loudness;
    voice.env.start();
    p.began(voice);
    return voice;
  };
  return { p, begin, givingWay: () => p.voices.filter((v) => v.active && v.fadeFrames > 0).map((v) => v.serial) };
}

describe("which voice gives way", () => {
  test("none below the limit", () => {
    const { p, begin, givingWay } = pool();
    for (let i = 0; i < 4; i++) begin(4, i);
    expect(p.gaveWay).toBe(false);
    expect(givingWay()).toEqual([]);
  });

  test("the oldest, when all are held", () => {
    const { p, begin, givingWay } = pool();
    for (let i = 0; i < 5; i++) begin(4, i);
    expect(p.gaveWay).toBe(true);
    expect(givingWay()).toEqual([0]);
    begin(4, 5);
    expect(givingWay()).toEqual([0, 1]);
  });

  test("a released one rather than a held one, and the quietest of those", () => {
    const { p, begin, givingWay } = pool();
    begin(4, 0);
    begin(4, 1, 0.9);
    begin(4, 2, 0.1);
    begin(4, 3);
    p.release(1);
    p.release(2);
    begin(4, 4);
    expect(givingWay()).toEqual([2]);
  });

  test("even thousands at once leave a voice for the next", () => {
    const { p, begin } = pool();
    for (let i = 0; i < 3000; i++) expect(begin(256, i).active).toBe(true);
    expect(p.voices.filter((v) => v.active && v.fadeFrames === 0).length).toBeLessThanOrEqual(256);
  });
});

describe("keys and pedal", () => {
  test("a note's voices are released together; while the pedal is down they wait for it", () => {
    const { p, begin } = pool();
    const [a, b, c] = [begin(9, 1), begin(9, 1), begin(9, 2)];
    p.release(1);
    expect([a.released, b.released, c.released]).toEqual([true, true, false]);
    p.setSustain(true);
    p.release(2);
    expect([c.released, c.sustained]).toEqual([false, true]);
    p.setSustain(false);
    expect(c.released).toBe(true);
  });

  test("silence gives up every voice and lifts the pedal", () => {
    const { p, begin, givingWay } = pool();
    for (let i = 0; i < 3; i++) begin(9, i);
    p.setSustain(true);
    p.silence();
    expect(givingWay()).toEqual([0, 1, 2]);
    const late = begin(9, 7);
    p.release(7);
    expect(late.released).toBe(true);
    p.reset();
    expect(p.voices.some((v) => v.active)).toBe(false);
    expect([p.active, p.pairCount]).toEqual([0, 0]);
  });
});
