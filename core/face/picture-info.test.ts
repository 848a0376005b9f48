import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { fontType, pictureInfo } from "./picture-info";

const bytesOf = (...parts: readonly (string | readonly number[])[]): Uint8Array =>
  new Uint8Array(parts.flatMap((p) => (typeof p === "string" ? [...p].map((c) => c.charCodeAt(0)) : [...p])));

describe("what a picture’s file says of itself", () => {
  test("PNG, JPEG, WebP and SVG by their content, with their sizes", () => {
    const png = bytesOf([0x89], "PNG\r\n\u001a\n", [0, 0, 0, 13], "IHDR", [0, 0, 1, 0, 0, 0, 0, 64, 8, 6]);
    expect(pictureInfo(png)).toEqual({ type: "png", width: 256, height: 64 });
    const jpeg = bytesOf([0xff, 0xd8, 0xff, 0xe0, 0, 4, 1, 2, 0xff, 0xc2, 0, 11, 8, 0, 30, 0, 40, 3, 1, 2, 3]);
    expect(pictureInfo(jpeg)).toEqual({ type: "jpeg", width: 40, height: 30 });
    const webp = (kind: string, rest: readonly number[]) =>
      pictureInfo(bytesOf("RIFF", [0, 0, 0, 0], "WEBP", kind, rest, new Array<number>(20).fill(0)));
    expect(webp("VP8X", [10, 0, 0, 0, 0, 0, 0, 0, 99, 0, 0, 49, 0, 0])).toEqual({
      type: "webp",
      width: 100,
      height: 50,
    });
    expect(webp("VP8L", [0, 0, 0, 0, 0x2f, 99, 0x40, 12, 0])).toEqual({ type: "webp", width: 100, height: 50 });
    expect(webp("VP8 ", [0, 0, 0, 0, 0, 0, 0, 0x9d, 1, 0x2a, 100, 0, 50, 0])).toEqual({
      type: "webp",
      width: 100,
      height: 50,
    });
    expect(pictureInfo(bytesOf('<svg viewBox="0 0 30 40" xmlns="x"/>'))).toEqual({
      type: "svg+xml",
      width: 30,
      height: 40,
    });
    expect(pictureInfo(bytesOf('<?xml version="1.0"?><!-- a --><svg width="12px" height="9">'))).toMatchObject({
      width: 12,
      height: 9,
    });
    expect(pictureInfo(bytesOf("<svg>"))).toEqual({ type: "svg+xml", width: null, height: null });
  });

  test("what is none is none: other files, torn ones, impossible sizes; anything is answered", () => {
    for (const bytes of [
      bytesOf(),
      bytesOf("GIF89a"),
      bytesOf("<html><svg>"),
      bytesOf([0x89], "PNG"),
      bytesOf([0xff, 0xd8]),
    ])
      expect(pictureInfo(bytes)).toBeNull();
    const none = bytesOf([0x89], "PNG\r\n\u001a\n", [0, 0, 0, 13], "IHDR", [0, 0, 0, 0, 0xff, 0xff, 0xff, 0xff]);
    expect(pictureInfo(none)).toBeNull();
    const heads = [
      [0x89, 0x50, 0x4e, 0x47],
      [0xff, 0xd8, 0xff],
      [0x52, 0x49, 0x46, 0x46],
      [0x3c, 0x73, 0x76, 0x67],
    ];
    fc.assert(
      fc.property(fc.constantFrom(...heads), fc.uint8Array({ maxLength: 60 }), (head, rest) => {
        const info = pictureInfo(new Uint8Array([...head, ...rest]));
        expect(info === null || info.width === null || (info.width >= 1 && info.width <= 20000)).toBe(true);
        fontType(rest);
      }),
      { seed: 8 },
    );
  });

  test("fonts", () => {
    const rest = new Array<number>(12).fill(0);
    expect(["wOFF", "wOF2", "OTTO", "\0\u0001\0\0", "nope"].map((head) => fontType(bytesOf(head, rest)))).toEqual([
      "woff",
      "woff2",
      "otf",
      "ttf",
      null,
    ]);
  });
});
