import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { FormatError } from "./format-error";
import { readSound } from "./sound-file";
import { readWav, readWavInfo } from "./wav-read";
import { writeWav } from "./wav-write";

const ramp = (frames: number, channels = 1) => ({
  rate: 44100,
  channels: Array.from({ length: channels }, (_, c) =>
    Float32Array.from({ length: frames }, (_, i) => Math.sin(i * 0.1 + c) * 0.9),
  ),
});
/** A RIFF file of given chunks, for headers that our own writer never makes. */
function riff(...chunks: [string, Uint8Array][]): Uint8Array {
  const size = chunks.reduce((sum, [, body]) => sum + 8 + body.length + (body.length & 1), 12);
  const bytes = new Uint8Array(size);
  const view = new DataView(bytes.buffer);
  bytes.set(new TextEncoder().encode("RIFF"));
  view.setUint32(4, size - 8, true);
  bytes.set(new TextEncoder().encode("WAVE"), 8);
  let at = 12;
  for (const [tag, body] of chunks) {
    bytes.set(new TextEncoder().encode(tag), at);
    view.setUint32(at + 4, body.length, true);
    bytes.set(body, at + 8);
    at += 8 + body.length + (body.length & 1);
  }
  return bytes;
}
function fmt(tag: number, channels: number, rate: number, bits: number, extensible = false): Uint8Array {
  const body = new Uint8Array(extensible ? 40 : 16);
  const view = new DataView(body.buffer);
  view.setUint16(0, extensible ? 0xfffe : tag, true);
  view.setUint16(2, channels, true);
  view.setUint32(4, rate, true);
  view.setUint16(14, bits, true);
  if (extensible) {
    view.setUint16(16, 22, true);
    view.setUint16(24, tag, true);
  }
  return body;
}
const codeOf = (run: () => unknown): string => {
  try {
    run();
    return "none";
  } catch (error) {
    return error instanceof FormatError ? error.code : `threw ${error}`;
  }
};

describe("broadcast data", () => {
  const withDate = (date: string, description: string) => {
    const bytes = new Uint8Array(602);
    bytes.set(new TextEncoder().encode(description.slice(0, 256)));
    bytes.set(new TextEncoder().encode(date), 320);
    return readSound(riff(["fmt ", fmt(1, 1, 8000, 16)], ["bext", bytes], ["data", Uint8Array.of(0, 1, 0, 2)])).info;
  };

  test("tell what was recorded and on which day, where that is one", () => {
    expect(withDate("2026-11-20", "The long tube")).toMatchObject({ text: "The long tube", date: "2026-11-20" });
    expect(withDate("2026:11:20", "x")).toMatchObject({ date: "2026-11-20" });
    for (const odd of ["0000-00-00", "2026-13-40", "yesterday", ""]) expect(withDate(odd, "x").date).toBe("");
  });

  test("that are torn are passed over", () => {
    const { info } = readWav(
      riff(["fmt ", fmt(1, 1, 8000, 16)], ["bext", new Uint8Array(100)], ["data", Uint8Array.of(0, 1)]),
    );
    expect(info.broadcast).toBeNull();
  });
});

describe("files beyond 4 GB", () => {
  const rf64 = (dataBytes: number) => {
    const ds64 = new Uint8Array(28);
    const view = new DataView(ds64.buffer);
    view.setUint32(8, dataBytes, true);
    view.setUint32(16, dataBytes / 2, true);
    const samples = Uint8Array.of(0, 1, 0, 2, 0, 3, 0, 4);
    const bytes = riff(["ds64", ds64], ["fmt ", fmt(1, 1, 8000, 16)], ["data", samples], ["cue ", cues(2)]);
    bytes.set([0x52, 0x46, 0x36, 0x34]);
    // The length of the audio stands in ds64 alone.
    const at = 12 + 8 + 28 + 8 + 16 + 4;
    bytes.set([255, 255, 255, 255], at);
    return bytes;
  };
  const cues = (at: number) => {
    const chunk = new Uint8Array(28);
    const view = new DataView(chunk.buffer);
    view.setUint32(0, 1, true);
    view.setUint32(24, at, true);
    return chunk;
  };

  test("say in ds64 how long they are; what comes after is no audio", () => {
    const { audio, info } = readWav(rf64(8));
    expect(audio.channels[0]).toEqual(Float32Array.of(256, 512, 768, 1024).map((x) => x / 32768));
    expect(info.markers).toEqual([{ at: 2, length: 0, name: "" }]);
  });

  test("that promise more than there is are read as far as they go, and say so; so are those of the newer mark", () => {
    const cut = readWav(rf64(2 ** 31));
    expect(cut.info.warnings[0]).toMatch(/cut off/);
    const newer = rf64(8);
    newer.set([0x42, 0x57, 0x36, 0x34]);
    expect(readWav(newer).info.frames).toBe(4);
  });
});

describe("what others write", () => {
  test("8-bit, 32-bit integer and 64-bit float", () => {
    const eight = readWav(riff(["fmt ", fmt(1, 1, 8000, 8)], ["data", Uint8Array.of(0, 128, 255)]));
    expect(Array.from(eight.audio.channels[0] ?? [])).toEqual([-1, 0, 127 / 128]);
    const long = new Uint8Array(Int32Array.of(-(2 ** 31), 2 ** 30).buffer);
    expect(Array.from(readWav(riff(["fmt ", fmt(1, 1, 96000, 32)], ["data", long])).audio.channels[0] ?? [])).toEqual([
      -1, 0.5,
    ]);
    const double = new Uint8Array(Float64Array.of(0.25, Number.NaN).buffer);
    expect(Array.from(readWav(riff(["fmt ", fmt(3, 1, 48000, 64)], ["data", double])).audio.channels[0] ?? [])).toEqual(
      [0.25, 0],
    );
  });

  test("WAVE_FORMAT_EXTENSIBLE, odd and unknown chunks, six channels of which two are used", () => {
    const data = new Uint8Array(Int16Array.from({ length: 12 }, (_, i) => i * 1000).buffer);
    const { audio, info } = readWav(
      riff(
        ["junk", new Uint8Array(3)],
        ["fmt ", fmt(1, 6, 44100, 16, true)],
        ["odd ", new Uint8Array(5)],
        ["data", data],
      ),
    );
    expect(audio.channels.map((c) => Array.from(c, (x) => Math.round(x * 32768)))).toEqual([
      [0, 6000],
      [1000, 7000],
    ]);
    expect(info.warnings).toContain("It has 6 channels; the first two are used.");
  });

  test("inst gives ranges", () => {
    const inst = Uint8Array.of(60, 0xfb, 3, 48, 72, 1, 127);
    const { info } = readWav(riff(["fmt ", fmt(1, 1, 8000, 8)], ["inst", inst], ["data", Uint8Array.of(1)]));
    expect(info.instrument).toEqual({ root: 60, fine: -5, gain: 3, keyLow: 48, keyHigh: 72, velLow: 1, velHigh: 127 });
  });
});

describe("bad input", () => {
  test.each([
    ["empty", () => readWav(new Uint8Array(0))],
    ["not-this-format", () => readWav(new TextEncoder().encode("this is a text file that was named .wav by mistake"))],
    ["no-audio", () => readWav(riff(["fmt ", fmt(1, 1, 44100, 16)], ["data", new Uint8Array(0)]))],
    ["no-audio", () => readWav(riff(["fmt ", fmt(1, 1, 44100, 16)]))],
    ["unsupported", () => readWav(riff(["fmt ", fmt(85, 1, 44100, 16)], ["data", new Uint8Array(4)]))],
    ["unsupported", () => readWav(riff(["fmt ", fmt(1, 0, 44100, 16)], ["data", new Uint8Array(4)]))],
  ])("%s", (code, run) => {
    expect(codeOf(run)).toBe(code);
  });

  test.each([0, 0xffffffff])(
    "a length that a crashed recorder left as %i: all that is there is read, and said",
    (length) => {
      const whole = writeWav(ramp(1000), 16);
      new DataView(whole.buffer).setUint32(40, length, true);
      const { audio, info } = readWav(whole);
      expect(audio.channels[0]?.length).toBe(1000);
      expect(info.warnings[0]).toMatch(/doesn’t say how long it is/);
      // A file that holds no audio, but other chunks, isn't one of those.
      expect(
        codeOf(() =>
          readWav(riff(["fmt ", fmt(1, 1, 44100, 16)], ["data", new Uint8Array(0)], ["LIST", new Uint8Array(26)])),
        ),
      ).toBe("no-audio");
    },
  );

  test("samples that are no numbers, and files of a frame or two, are read and told", () => {
    const odd = new Uint8Array(Float32Array.of(0.5, Number.NaN, Number.POSITIVE_INFINITY, 0.25).buffer);
    const { audio, info } = readWav(riff(["fmt ", fmt(3, 1, 48000, 32)], ["data", odd]));
    expect(Array.from(audio.channels[0] ?? [])).toEqual([0.5, 0, 0, 0.25]);
    expect(info.warnings).toEqual([
      "It is 4 frames long: too short to be heard.",
      "2 samples are no numbers and are silent now.",
    ]);
  });

  test("all loops of a file are read, and written again", () => {
    const loops = [
      { start: 10, end: 100, mode: "forward" as const },
      { start: 200, end: 300, mode: "alternating" as const },
      { start: 400, end: 500, mode: "backward" as const },
    ];
    const [loop, ...further] = loops;
    const file = writeWav(ramp(1000), 16, { sampler: { root: 60, fine: 0, loop: loop ?? null, further } });
    expect(readWav(file).info.sampler).toEqual({ root: 60, fine: 0, loop, further });
  });

  test("of a file that was cut off what is there is read, and said", () => {
    const whole = writeWav(ramp(1000), 16);
    const half = whole.slice(0, 44 + 1001);
    const { audio, info } = readWav(half);
    expect(audio.channels[0]?.length).toBe(500);
    expect(info.warnings[0]).toContain("cut off");
  });

  test("random damage never hangs and throws nothing but FormatError", () => {
    const whole = writeWav(ramp(200, 2), 24, {
      sampler: { root: 60, fine: 0, loop: { start: 10, end: 90, mode: "forward" } },
    });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 30 }),
        fc.nat(whole.length),
        fc.boolean(),
        (changes, length, salvage) => {
          const bytes = whole.slice(0, length);
          for (const [at, value] of changes) if (at < length) bytes[at] = value;
          try {
            const { audio, info } = readWav(bytes, { salvage });
            expect(audio.channels[0]?.length).toBeLessThanOrEqual(info.frames);
          } catch (error) {
            expect(error).toBeInstanceOf(FormatError);
          }
        },
      ),
      { numRuns: 2000, seed: 5 },
    );
  });

  test("the head alone tells the length of a file that is too long to read", () => {
    const head = riff(["fmt ", fmt(1, 2, 48000, 16)], ["data", new Uint8Array(0)]);
    const bytes = 2 * 3600 * 48000 * 4;
    new DataView(head.buffer).setUint32(head.length - 4, bytes, true);
    expect(readWavInfo(head, { size: head.length + bytes }).frames).toBe(2 * 3600 * 48000);
  });
});
