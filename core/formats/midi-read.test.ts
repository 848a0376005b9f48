import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { FormatError } from "./format-error";
import { readMidi } from "./midi-read";

const bytes = (...parts: (string | number[])[]): Uint8Array =>
  Uint8Array.from(parts.flatMap((p) => (typeof p === "string" ? [...p].map((c) => c.charCodeAt(0)) : p)));

const track = (...body: number[]): (string | number[])[] => ["MTrk", [0, 0, 0, body.length], body];
const header = (format: number, tracks: number, division = 96): (string | number[])[] => [
  "MThd",
  [0, 0, 0, 6, 0, format, 0, tracks, division >> 8, division & 255],
];

const song = bytes(
  ...header(1, 2),
  // 120 BPM, and after two beats 60 BPM.
  ...track(0, 0xff, 0x51, 3, 0x07, 0xa1, 0x20, 0x81, 0x40, 0xff, 0x51, 3, 0x0f, 0x42, 0x40, 0, 0xff, 0x2f, 0),
  // A note at 0, off (by running status and velocity 0) after a beat; another after three beats.
  ...track(0, 0x90, 60, 100, 96, 60, 0, 0x81, 0x40, 62, 90, 96, 0x80, 62, 0, 0, 0xff, 0x2f, 0),
);

describe("readMidi", () => {
  test("times follow tempo changes, running status is understood", () => {
    const read = readMidi(song);
    expect(read.events.map((e) => [e.seconds, e.status, e.data1, e.data2])).toEqual([
      [0, 0x90, 60, 100],
      [0.5, 0x90, 60, 0],
      [2, 0x90, 62, 90],
      [3, 0x80, 62, 0],
    ]);
    expect(read).toMatchObject({ seconds: 3, tempo: 120 });
  });

  test.each([
    // 25 frames of 40 parts: a tick is a millisecond, whatever the tempo says; then 24, 29.97 and 30 frames.
    [0xe728, 0.096],
    [0xe804, 1],
    [0xe304, (96 * 1001) / 120000],
    [0xe202, 1.6],
  ])("time in film frames: %p", (division, seconds) => {
    const read = readMidi(
      bytes(
        ...header(0, 1, division),
        ...track(0, 0xff, 0x51, 3, 0x07, 0xa1, 0x20, 0, 0x90, 60, 100, 96, 0x80, 60, 0, 0, 0xff, 0x2f, 0),
      ),
    );
    expect(read.events[1]?.seconds).toBeCloseTo(seconds, 9);
    expect(read.seconds).toBeCloseTo(seconds, 9);
  });

  test.each([
    ["empty", new Uint8Array(0)],
    ["not-this-format", bytes("RIFF and then some more text")],
    ["truncated", song.slice(0, song.length - 10)],
    ["unsupported", bytes(...header(2, 1), ...track(0, 0xff, 0x2f, 0))],
    ["damaged", bytes(...header(0, 1, 0), ...track(0, 0xff, 0x2f, 0))],
    ["damaged", bytes(...header(0, 1, 0xe700), ...track(0, 0xff, 0x2f, 0))],
    ["damaged", bytes(...header(0, 1, 0x9928), ...track(0, 0xff, 0x2f, 0))],
  ])("%s", (code, file) => {
    expect(() => readMidi(file)).toThrow(expect.objectContaining({ code }));
  });

  test.each([
    ["as it is", []],
    ["padded to an even length", [0]],
  ])("a chunk of another kind and an odd size, %s, is passed over and no track", (_, padding) => {
    const notes = track(0, 0x90, 60, 100, 96, 60, 0, 0, 0xff, 0x2f, 0);
    const file = bytes(...header(1, 1), "XFIH", [0, 0, 0, 5, 1, 2, 3, 4, 200], padding, ...notes);
    expect(readMidi(file)).toMatchObject({ seconds: 0.5, warnings: [] });
    expect(readMidi(file).events).toHaveLength(2);
  });

  test("one that promises more tracks than it has is read as far as it goes, and says so; one without any is refused", () => {
    const notes = track(0, 0x90, 60, 100, 96, 60, 0, 0, 0xff, 0x2f, 0);
    const read = readMidi(bytes(...header(1, 7), ...notes));
    expect(read.events).toHaveLength(2);
    expect(read.warnings).toEqual(["It promises 7 tracks; 1 of them is there."]);
    expect(() => readMidi(bytes(...header(1, 2)))).toThrow(expect.objectContaining({ code: "no-audio" }));
  });

  test("random damage throws nothing but FormatError", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(song.length - 1), fc.nat(255)), { maxLength: 12 }), (changes) => {
        const damaged = song.slice();
        for (const [at, value] of changes) damaged[at] = value;
        try {
          for (const event of readMidi(damaged).events) expect(Number.isFinite(event.seconds)).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
      { numRuns: 1500, seed: 6 },
    );
  });
});
