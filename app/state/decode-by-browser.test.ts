import { expect, test } from "@jest/globals";
import { rateOfHead } from "./decode-by-browser";

test.each([
  ["MP3 at 44.1 kHz", [0xff, 0xfb, 0x90, 0x00], 44100],
  ["MP3 at 48 kHz", [0xff, 0xfb, 0x94, 0x00], 48000],
  ["MPEG 2 at 22.05 kHz", [0xff, 0xf3, 0x80, 0x00], 22050],
  [
    "MP3 behind a tag of 20 bytes",
    [0x49, 0x44, 0x33, 4, 0, 0, 0, 0, 0, 20, ...Array(20).fill(0xff), 0xff, 0xfb, 0x98, 0],
    32000,
  ],
  ["Opus in Ogg", [0x4f, 0x67, 0x67, 0x53, ...Array(60).fill(0)], 48000],
  [
    "an MP4 file by its sound entry",
    [
      0,
      0,
      0,
      32,
      0x66,
      0x74,
      0x79,
      0x70,
      0xff,
      0xfb,
      0x98,
      0,
      0x6d,
      0x70,
      0x34,
      0x61,
      ...Array(24).fill(0),
      0xbb,
      0x80,
      0,
      0,
      0,
    ],
    48000,
  ],
  ["nothing known", [1, 2, 3, 4], 44100],
])("%s", (_, bytes, rate) => {
  expect(rateOfHead(Uint8Array.from(bytes))).toBe(rate);
});
