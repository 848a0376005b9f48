import { describe, expect, test } from "@jest/globals";
import { newSlice, newUnit, type Slice } from "../instrument";
import { sha256Of } from "./hash";
import { makeSample, noteOfSlice, pitchOfSlice } from "./make-sample";
import { soundOfSlice } from "./treat-slice";
import { readWav } from "./wav-read";

const slice = (change: Partial<Slice> = {}): Slice =>
  newSlice({
    id: "s",
    start: 1000,
    end: 9000,
    onset: 1100,
    pitch: 62.2,
    confidence: 0.8,
    peak: -6,
    loudness: -20,
    ...change,
  });
const TAKE = { id: "t", treatments: [] };

describe("SHA-256", () => {
  test("the standard's own examples", () => {
    expect(sha256Of(new Uint8Array(0))).toBe("e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855");
    expect(sha256Of(new TextEncoder().encode("abc"))).toBe(
      "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad",
    );
  });
});

describe("the pitch of a slice", () => {
  test.each([
    [{}, 62, 62.2],
    [{ note: 74 }, 74, 74.2],
    [{ note: 50 }, 50, 50.2],
    [{ note: 65 }, 65, 65],
    [{ cents: -15 }, 62, 61.85],
    [{ note: 60, cents: 5 }, 60, 60.05],
    [{ pitch: null }, null, null],
    [{ pitch: null, note: 48 }, 48, 48],
  ])("%j", (change, note, pitch) => {
    expect(noteOfSlice(slice(change))).toBe(note);
    if (pitch === null) expect(pitchOfSlice(slice(change))).toBeNull();
    else expect(pitchOfSlice(slice(change))).toBeCloseTo(pitch, 9);
  });
});

describe("a sample", () => {
  const audio = { rate: 44100, channels: [Float32Array.from({ length: 20000 }, (_, i) => 0.5 * Math.sin(i * 0.2))] };
  const made = makeSample(audio, TAKE, slice(), "rear-wheel-D4-07");

  test("holds just the slice, faded at its ends, with root and fine tuning inside", () => {
    const { audio: back, info } = readWav(made.bytes);
    expect(info.frames).toBe(8000);
    expect(info.sampler).toMatchObject({ root: 62, fine: expect.closeTo(20, 4), loop: null });
    const x = back.channels[0] as Float32Array;
    expect(x[0]).toBe(0);
    expect(Math.abs(x.at(-1) ?? 1)).toBeLessThan(1e-4);
    for (const i of [500, 4000, 7000]) expect(x[i]).toBeCloseTo(audio.channels[0]?.[1000 + i] ?? 9, 6);
  });

  test("is named by its content, and called by take, note and number", () => {
    expect(made.sample).toMatchObject({
      sha: sha256Of(made.bytes),
      name: "rear-wheel-D4-07",
      frames: 8000,
      pitch: 62.2,
      from: { take: "t", slice: "s", cut: expect.objectContaining({ ratio: 1 }) },
    });
    expect(makeSample(audio, TAKE, slice(), "x").sample.sha).toBe(made.sample.sha);
  });

  test("treatments follow one another in their order, the take's before the slice's", () => {
    const unit = (kind: "gain" | "reverse" | "fadeIn" | "stretch", params: Record<string, number>) => {
      const made = newUnit(kind, kind);
      return { ...made, params: { ...made.params, ...params } };
    };
    const louder = { id: "t", treatments: [unit("gain", { level: -6.0206 })] };
    const plain = readWav(makeSample(audio, TAKE, slice(), "x").bytes).audio.channels[0] as Float32Array;
    const half = makeSample(audio, louder, slice({ treatments: [unit("reverse", {})] }), "x");
    const x = readWav(half.bytes).audio.channels[0] as Float32Array;
    expect(x.length).toBe(8000);
    for (const i of [500, 4000, 7000]) expect(x[i]).toBeCloseTo((plain[7999 - i] ?? 9) / 2, 5);
    expect(half.sample.peak).toBeCloseTo(20 * Math.log10(0.25), 1);
    const faded = readWav(makeSample(audio, TAKE, slice({ treatments: [unit("fadeIn", { time: 0.1 })] }), "x").bytes);
    expect(Math.max(...(faded.audio.channels[0]?.slice(0, 400) ?? [1]))).toBeLessThan(0.02);
    const long = makeSample(audio, TAKE, slice({ treatments: [unit("stretch", { ratio: 2 })] }), "x");
    expect(long.sample.frames).toBe(16000);
    expect(long.sample.sha).not.toBe(half.sample.sha);
  });

  test("the noise of a take is learnt once for all its slices, and makes no difference to any", () => {
    const denoise = newUnit("denoise", "n");
    const take = { treatments: [denoise] };
    const memory = new Map();
    const alone = soundOfSlice(audio, take, slice());
    expect(soundOfSlice(audio, take, slice(), memory)).toEqual(alone);
    expect([...memory.keys()]).toEqual(["0/0"]);
    // What was learnt is what counts from now on.
    const silent = new Map([["0/0", { channels: [new Float64Array(1025)] }]]);
    expect(soundOfSlice(audio, take, slice(), silent)).not.toEqual(alone);
  });
});
