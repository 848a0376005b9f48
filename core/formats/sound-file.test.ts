import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { type Audio, seededRandom } from "../audio";
import { writeAiff } from "./aiff-write";
import { readFlac } from "./flac-read";
import { writeFlac } from "./flac-write";
import { FormatError } from "./format-error";
import { quantiseChannels } from "./quantise";
import { readSound, soundKindOf } from "./sound-file";
import { readWav } from "./wav-read";
import { type WavDepth, writeWav } from "./wav-write";

/** A tone with noise whose values are whole steps of a depth, so that nothing is lost by writing it. */
function exact(frames: number, channels: number, depth: number, seed = 1): Audio {
  const random = seededRandom(seed);
  const scale = 2 ** (depth - 1);
  const { sin, round } = Math;
  return {
    rate: 44100,
    channels: Array.from({ length: channels }, (_, c) =>
      Float32Array.from(
        { length: frames },
        // Never −0, which integers cannot hold.
        (_, i) => round((0.5 * sin(i * 0.03 * (c + 1)) + (random() - 0.5) * 0.01) * scale) / scale + 0,
      ),
    ),
  };
}

/** A big-endian AIFF file of one or two channels, with two markers and a base note. */
function aiff(audio: Audio, bits: 8 | 16 | 24 | 32): Uint8Array {
  const frames = audio.channels[0]?.length ?? 0;
  const width = bits / 8;
  const bytes: number[] = [];
  const text = (s: string) => bytes.push(...[...s].map((c) => c.charCodeAt(0)));
  const big = (x: number, n: number) => {
    for (let k = n - 1; k >= 0; k--) bytes.push(Math.floor(x / 256 ** k) & 255);
  };
  text("FORM");
  big(0, 4);
  text("AIFF");
  text("COMM");
  big(18, 4);
  big(audio.channels.length, 2);
  big(frames, 4);
  big(bits, 2);
  // 44,100 as an 80-bit float: 1.345… × 2^15.
  big(0x400e, 2);
  big(0xac440000, 4);
  big(0, 4);
  text("MARK");
  big(2 + 2 * (6 + 6), 4);
  big(2, 2);
  for (const [id, at, name] of [
    [1, 100, "first"],
    [2, 20, "again"],
  ] as const) {
    big(id, 2);
    big(at, 4);
    big(5, 1);
    text(name);
  }
  text("INST");
  big(20, 4);
  big(62, 1);
  big(256 - 7, 1);
  for (let i = 0; i < 18; i++) big(0, 1);
  text("SSND");
  big(8 + frames * audio.channels.length * width, 4);
  big(0, 8);
  for (let i = 0; i < frames; i++) {
    for (const c of audio.channels) {
      const q = Math.round((c[i] as number) * 2 ** (bits - 1));
      big(q < 0 ? q + 2 ** bits : q, width);
    }
  }
  return Uint8Array.from(bytes);
}

describe("AIFF", () => {
  test.each([8, 16, 24] as const)("%i bits are read exactly, with markers in order and the base note", (bits) => {
    const audio = exact(300, 2, bits);
    const { audio: back, info } = readSound(aiff(audio, bits));
    expect(back).toEqual(audio);
    expect(info.markers).toEqual([
      { at: 20, length: 0, name: "again" },
      { at: 100, length: 0, name: "first" },
    ]);
    // It is to be played 7 cents lower, so it is 7 cents too high.
    expect(info.root).toEqual({ note: 62, cents: expect.closeTo(7, 6) });
  });

  test("a file that was cut off says where; what is there can be had", () => {
    const bytes = aiff(exact(300, 1, 16), 16).slice(0, -200);
    expect(() => readSound(bytes)).toThrow(/SSND.*promises/);
    const { info } = readSound(bytes, { salvage: true });
    expect(info.frames).toBe(200);
    expect(info.warnings[0]).toMatch(/cut off/);
  });
});

describe("AIFF, written and read", () => {
  test("gives the same frames, root, loop, ranges and markers, at any rate", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 600 }),
        fc.constantFrom(16 as const, 24 as const),
        fc.constantFrom(1, 2),
        fc.constantFrom(8000, 44100, 48000, 96000, 192000),
        fc.integer({ min: 0, max: 127 }),
        fc.integer({ min: 0, max: 99 }),
        fc.string({ maxLength: 40, unit: "grapheme" }),
        (frames, depth, channels, rate, root, fine, name) => {
          const audio = { ...exact(frames, channels, depth), rate };
          const loop = frames > 4 ? { start: 1, end: frames - 1, mode: "forward" as const } : null;
          const instrument = { root, fine: -fine, gain: -3, keyLow: 3, keyHigh: 99, velLow: 2, velHigh: 80 };
          const markers = [{ at: 0, length: 0, name }];
          const back = readSound(writeAiff(audio, depth, { sampler: { root, fine, loop }, instrument, markers }));
          expect(back.audio).toEqual(audio);
          const { root: own, loop: round, range, markers: marks } = back.info;
          expect((own?.note ?? 0) + (own?.cents ?? 0) / 100).toBeCloseTo(root + fine / 100, root < 127 ? 6 : 0);
          expect(round).toEqual(loop);
          expect(range).toEqual({ keyLow: 3, keyHigh: 99, velLow: 2, velHigh: 80 });
          expect(marks).toContainEqual({ at: 0, length: 0, name });
        },
      ),
      { numRuns: 60, seed: 3 },
    );
  });
});

describe("FLAC", () => {
  test("what is written is read back exactly, whatever the length, depth and channels", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9000 }),
        fc.constantFrom(16 as const, 24 as const),
        fc.constantFrom(1, 2),
        fc.integer({ min: 1, max: 999 }),
        (frames, depth, channels, seed) => {
          const audio = exact(frames, channels, depth, seed);
          expect(readFlac(writeFlac(audio, depth)).audio).toEqual(audio);
        },
      ),
      { numRuns: 25, seed: 5 },
    );
  });

  test("silence, full scale and a step are read back, and silence is tiny", () => {
    const silent = { rate: 48000, channels: [new Float32Array(50000)] };
    const bytes = writeFlac(silent, 24);
    expect(bytes.length).toBeLessThan(300);
    expect(readFlac(bytes).audio).toEqual(silent);
    const extremes = {
      rate: 48000,
      channels: [Float32Array.from({ length: 5000 }, (_, i) => (i % 7 < 3 ? -1 : 32767 / 32768))],
    };
    expect(readFlac(writeFlac(extremes, 16)).audio).toEqual(extremes);
  });

  test("a header that promises days is refused before anything is decoded", () => {
    const bytes = writeFlac({ rate: 48000, channels: [new Float32Array(5000)] }, 16);
    bytes[22] = 0xff;
    expect(() => readFlac(bytes, { salvage: true })).toThrow(/promises more than 4,194,304 frames/);
  });

  test("a small file that stands for hours of one number is refused on the way, and real silence is read", () => {
    const blockOf = (size: number): number[] => [
      // A frame of 65,536 frames of one channel at 16 bits that are all alike.
      ...[0xff, 0xf8, 0x70, 0x08, 0, (size - 1) >> 8, (size - 1) & 255, 0, 0, 0, 0, 0, 0],
    ];
    const head = writeFlac({ rate: 48000, channels: [new Float32Array(16)] }, 16).slice(0, 42);
    // One channel of 16 bits at 48 kHz, of unknown length.
    head.set([0x0b, 0xb8, 0x00, 0xf0, 0, 0, 0, 0], 18);
    head[4] = 0x80;
    const made = (blocks: number) =>
      Uint8Array.from([...head, ...Array.from({ length: blocks }, () => blockOf(65536)).flat()]);
    expect(readFlac(made(3)).audio.channels[0]?.length).toBe(3 * 65536);
    expect(() => readFlac(made(4000))).toThrow(/promises more than/);
    const silence = writeFlac({ rate: 48000, channels: [new Float32Array(2e6), new Float32Array(2e6)] }, 16);
    expect(readFlac(silence).info.frames).toBe(2e6);
  });

  test("a tone is smaller than as WAV", () => {
    const audio = exact(44100, 2, 16);
    expect(writeFlac(audio, 16).length).toBeLessThan(writeWav(audio, 16).length * 0.75);
  });

  test("two channels alike cost no more than one, and 16 bits in 24 no more than 16", () => {
    const one = exact(30000, 1, 16);
    const [x] = one.channels as [Float32Array];
    const alike = writeFlac({ rate: one.rate, channels: [x, x] }, 16);
    expect(alike.length).toBeLessThan(writeFlac(one, 16).length + 200);
    expect(readFlac(alike).audio.channels).toEqual([x, x]);
    const opposite = { rate: one.rate, channels: [x, x.map((v) => -v + 0)] };
    expect(readFlac(writeFlac(opposite, 24)).audio).toEqual(opposite);
    const wide = writeFlac(one, 24);
    expect(wide.length).toBeLessThan(writeFlac(one, 16).length + 200);
    expect(readFlac(wide).audio).toEqual(one);
  });

  test("noise at full scale in opposite channels is written, though their difference needs another bit", () => {
    const random = seededRandom(9);
    const left = Float32Array.from({ length: 9000 }, () => (random() < 0.5 ? -1 : 8388607 / 8388608));
    const audio = { rate: 44100, channels: [left, left.map((v) => (v < 0 ? 8388607 / 8388608 : -1))] };
    expect(readFlac(writeFlac(audio, 24)).audio).toEqual(audio);
  });

  test("a file that was cut off says so; salvaged, its whole blocks are there", () => {
    const audio = exact(20000, 1, 16);
    const whole = writeFlac(audio, 16);
    const bytes = whole.slice(0, Math.round(whole.length * 0.7));
    expect(() => readFlac(bytes)).toThrow(FormatError);
    const { audio: back, info } = readFlac(bytes, { salvage: true });
    expect(info.frames % 4096).toBe(0);
    expect(info.frames).toBeGreaterThan(8000);
    expect(back.channels[0]).toEqual(audio.channels[0]?.slice(0, info.frames));
  });
});

describe("WAV extras", () => {
  test("any audio, depth and extras are read back", () => {
    const marker = fc.record({
      at: fc.integer({ min: 0, max: 99 }),
      length: fc.integer({ min: 0, max: 0 }),
      name: fc.stringMatching(/^[\w äöü.-]{0,20}$/),
    });
    fc.assert(
      fc.property(
        fc.constantFrom<WavDepth>(16, 24, 32),
        fc.constantFrom(1, 2),
        fc.array(marker, { maxLength: 6 }),
        fc.integer({ min: 0, max: 127 }),
        (depth, channels, markers, root) => {
          const audio = exact(100, channels, Math.min(depth, 24));
          const instrument = { root, fine: -12, gain: 3, keyLow: 1, keyHigh: 99, velLow: 2, velHigh: 90 };
          const bytes = writeWav(audio, depth, { markers, instrument, sampler: { root, fine: 25, loop: null } });
          const back = readWav(bytes);
          expect(back.audio).toEqual(audio);
          expect(back.info.instrument).toEqual(instrument);
          expect(back.info.sampler?.root).toBe(root);
          expect(back.info.markers).toEqual([...markers].sort((a, b) => a.at - b.at));
          expect(back.info.warnings).toEqual([]);
        },
      ),
      { numRuns: 60, seed: 3 },
    );
  });

  test("a region keeps its length", () => {
    const markers = [{ at: 10, length: 30, name: "odd" }];
    expect(readWav(writeWav(exact(100, 1, 16), 16, { markers })).info.markers).toEqual(markers);
  });

  test("16 bits are dithered by a step or two either way, evenly; whole steps stay", () => {
    const half = { rate: 44100, channels: [new Float32Array(20000).fill(0.5 / 32768)] };
    const [x] = quantiseChannels(half, 16) as [Int32Array];
    const mean = x.reduce((a, b) => a + b, 0) / x.length;
    expect(mean).toBeGreaterThan(0.45);
    expect(mean).toBeLessThan(0.55);
    expect(Math.max(...x) - Math.min(...x)).toBeLessThanOrEqual(3);
    const steps = exact(500, 1, 16);
    expect(readWav(writeWav(steps, 16, { dither: true })).audio).toEqual(steps);
  });
});

describe("damage", () => {
  test.each([
    [
      "WAV",
      writeWav(exact(400, 2, 16), 16, {
        markers: [{ at: 3, length: 9, name: "x" }],
        sampler: { root: 60, fine: 0, loop: null },
      }),
    ],
    ["AIFF", aiff(exact(400, 2, 16), 16)],
    ["FLAC", writeFlac(exact(400, 2, 16), 16)],
  ] as const)("random damage to a %s file never hangs and throws nothing but FormatError", (_, whole) => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.integer({ min: 0, max: Math.min(whole.length, 260) - 1 }), fc.integer({ min: 0, max: 255 })),
          { maxLength: 8 },
        ),
        fc.integer({ min: 0, max: whole.length }),
        fc.boolean(),
        (changes, length, salvage) => {
          const bytes = whole.slice(0, length);
          for (const [at, value] of changes) if (at < bytes.length) bytes[at] = value;
          try {
            const { audio, info } = readSound(bytes, { salvage });
            expect(audio.channels[0]?.length).toBe(info.frames);
          } catch (error) {
            if (!(error instanceof FormatError)) throw error;
          }
        },
      ),
      { numRuns: 400, seed: 11 },
    );
  });

  test("kinds are told by their first bytes", () => {
    expect(soundKindOf(writeFlac(exact(10, 1, 16), 16))).toBe("flac");
    expect(soundKindOf(aiff(exact(10, 1, 16), 16))).toBe("aiff");
    expect(soundKindOf(writeWav(exact(10, 1, 16), 16))).toBe("wav");
    expect(soundKindOf(Uint8Array.of(0xff, 0xfb))).toBeNull();
    expect(() => readSound(new Uint8Array(0))).toThrow(/empty/);
  });
});
