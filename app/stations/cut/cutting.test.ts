import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../../../core/audio";
import { readSound } from "../../../core/formats";
import { newSample, newSlice, newTake, type Slice } from "../../../core/instrument";
import { normalisingGains } from "../../../core/mapping";
import { estimateBytes, sliceFile } from "../../workers/export-slice";
import { recutOf } from "./recut";
import { columnsOf } from "./slice-columns";
import { remarkOf } from "./slice-order";

const slice = (id: string, change: Partial<Slice> = {}): Slice =>
  newSlice({ id, start: 100, end: 900, pitch: 60.1, confidence: 0.9, peak: -6, loudness: -20, ...change });
const take = newTake({
  id: "t",
  name: "t",
  sha: "a".repeat(64),
  rate: 8000,
  channels: 1,
  frames: 2000,
  origin: "recorded",
});

describe("normalising", () => {
  const slices = [slice("a", { strength: 1 }), slice("b", { strength: 1 }), slice("c", { strength: 2 })];
  const levels = [
    { peak: -20, loudness: -40 },
    { peak: -18, loudness: -35 },
    { peak: -6, loudness: -22 },
  ];
  const gains = (how: Parameters<typeof normalisingGains>[2]) => [...normalisingGains(slices, levels, how).values()];

  test("each lands on the level; each strength keeps its own dynamics; one gain keeps them all", () => {
    expect(gains({ to: "peak", level: -1, keep: "each" })).toEqual([19, 17, 5]);
    expect(gains({ to: "peak", level: -1, keep: "strength" })).toEqual([17, 17, 5]);
    expect(gains({ to: "peak", level: -1, keep: "all" })).toEqual([5, 5, 5]);
    expect(gains({ to: "loudness", level: -20, keep: "each" })).toEqual([20, 15, 2]);
  });

  test("silence stays silence, and no gain runs off", () => {
    const silent = normalisingGains([slice("a")], [{ peak: -120, loudness: -120 }], {
      to: "peak",
      level: -1,
      keep: "each",
    });
    expect(silent.size).toBe(0);
    const faint = normalisingGains([slice("a")], [{ peak: -100, loudness: -100 }], {
      to: "peak",
      level: 0,
      keep: "each",
    });
    expect([...faint.values()]).toEqual([60]);
  });
});

test("a new cut is asked about only where the keys play an old one that differs", () => {
  const sample = (n: number, id: string, of = "t") =>
    newSample({ sha: String(n).repeat(64), name: id, frames: 10, from: { take: of, slice: id, cut: null } });
  const old = [sample(1, "a"), sample(2, "b"), sample(3, "c"), sample(4, "a", "other")];
  const fresh = [sample(5, "a"), sample(2, "b"), sample(6, "c")];
  const played = new Set(["1", "2", "4"].map((n) => n.repeat(64)));
  const { mapped } = recutOf(take, fresh, old, played);
  expect([...mapped].map(([sha, s]) => [sha[0], s.sha[0]])).toEqual([["1", "5"]]);
});

describe("the list", () => {
  const row = (s: Slice, number: number) => ({ slice: s, number, remark: remarkOf(s, undefined) });

  test("sorts by any column; what has no value comes last", () => {
    const rows = [
      row(slice("a", { strength: 2, loudness: -10 }), 1),
      row(slice("b", { strength: null, loudness: -30, note: 40 }), 2),
      row(slice("c", { strength: 1, loudness: -20, keep: false, doubt: "a bump" }), 3),
    ];
    const columns = columnsOf(take);
    const by = (id: string) => {
      const value = columns.find((c) => c.id === id)?.sort ?? (() => undefined);
      const compare = (a: number | string | undefined, b: number | string | undefined) =>
        a === b ? 0 : a === undefined ? 1 : b === undefined ? -1 : a < b ? -1 : 1;
      return [...rows].sort((a, b) => compare(value(a), value(b))).map((r) => r.number);
    };
    expect(by("strength")).toEqual([3, 1, 2]);
    expect(by("loudness")).toEqual([2, 3, 1]);
    expect(by("note")).toEqual([2, 1, 3]);
    expect(by("keep")).toEqual([1, 2, 3]);
    expect(by("remark")).toEqual([3, 2, 1]);
  });

  test("a remark says the most pressing thing", () => {
    expect(remarkOf(slice("a"), undefined)).toBe("");
    expect(remarkOf(slice("a", { keep: false, doubt: "a click" }), "louder")).toBe("a click");
    expect(remarkOf(slice("a", { note: 61 }), "6 dB louder")).toBe("6 dB louder");
    expect(remarkOf(slice("a", { note: 61 }), undefined)).toBe("set by hand");
    expect(remarkOf(slice("a", { confidence: 0.3 }), undefined)).toBe("pitch unsure");
  });
});

describe("files", () => {
  const audio = { rate: 8000, channels: [Float32Array.from({ length: 2000 }, (_, i) => Math.sin(i * 0.3) / 2)] };
  const cut = slice("a", { onset: 150, note: 62, cents: -10 });

  test("a WAV holds root, tuning, key and the attack; a FLAC the same audio", () => {
    const wav = readSound(sliceFile(audio, take, cut, { format: "wav", depth: 24 }));
    expect(wav.info).toMatchObject({ frames: 800, markers: [{ at: 50, length: 0, name: "attack" }] });
    expect(wav.info.root?.note).toBe(61);
    expect(wav.info.root?.cents).toBeCloseTo(90, 3);
    const flac = readSound(sliceFile(audio, take, cut, { format: "flac", depth: 24 }));
    expect(flac.audio).toEqual(wav.audio);
  });

  test.each([
    [-70, 16],
    [-40, 16],
    [-60, 24],
    [-20, 24],
  ] as const)("the estimate of a FLAC of a tone in noise at %i dBFS, in %i bits, is within a tenth", (floor, depth) => {
    const random = seededRandom(3);
    // Even noise of ±a has an effective value of a/√3.
    const level = 10 ** (floor / 20) * Math.sqrt(3);
    const channel = Float32Array.from(
      { length: 60000 },
      (_, i) => 0.3 * Math.sin(i * 0.05) + level * (2 * random() - 1),
    );
    const options = { format: "flac", depth } as const;
    const long = slice("a", { start: 0, end: 60000 });
    const noisy = { ...take, floor };
    const real = sliceFile({ rate: 44100, channels: [channel] }, noisy, long, options).length;
    expect(estimateBytes(noisy, [long], options) / real).toBeGreaterThan(0.9);
    expect(estimateBytes(noisy, [long], options) / real).toBeLessThan(1.1);
  });

  test("the estimate of a WAV is within a kilobyte", () => {
    const options = { format: "wav", depth: 24 } as const;
    const real = sliceFile(audio, take, cut, options).length;
    expect(Math.abs(estimateBytes(take, [cut], options) - real)).toBeLessThan(1000);
  });
});
