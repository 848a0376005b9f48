import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import { type Audio, seededRandom } from "../core/audio";
import { type Broadcast, readSound, type SoundExtras, writeAiff, writeFlac, writeWav } from "../core/formats";

// Files that other programs wrote, and ours as other programs read them: sox and flac, from Debian's packages.
const folder = mkdtempSync(join(tmpdir(), "vise-foreign-"));
const at = (name: string) => join(folder, name);
afterAll(() => rmSync(folder, { recursive: true }));

/** Two channels that are much alike, in whole steps of a depth: what an encoder finds worth predicting. */
function music(depth: number, wasted = 0): Audio {
  const random = seededRandom(depth);
  const scale = 2 ** (depth - 1 - wasted);
  const { sin, round } = Math;
  const middle = Float64Array.from(
    { length: 30000 },
    (_, i) => 0.4 * sin(i * 0.021) + 0.2 * sin(i * 0.13) + (random() - 0.5) * 0.01,
  );
  const channel = (sign: number) =>
    Float32Array.from(middle, (x, i) => round((x + sign * 0.05 * sin(i * 0.007)) * scale) / scale + 0);
  return { rate: 44100, channels: [channel(1), channel(-1)] };
}

describe("read as they are", () => {
  test.each([
    ["the fastest", 16, ["-0"]],
    ["the tightest", 16, ["-8", "-e", "-p"]],
    ["24 bits with 4 wasted", 24, ["-8"]],
    ["no prediction to speak of", 16, ["-l", "0", "--blocksize=1000"]],
    ["joint stereo, odd blocks", 24, ["-m", "-l", "12", "--blocksize=4608"]],
  ] as const)("FLAC by flac: %s", (name, depth, options) => {
    const audio = music(depth, name.includes("wasted") ? 4 : 0);
    writeFileSync(at("in.wav"), writeWav(audio, depth));
    execFileSync("flac", ["--silent", "--force", ...options, "-o", at("out.flac"), at("in.wav")]);
    const { audio: back, info } = readSound(readFileSync(at("out.flac")));
    expect(info).toMatchObject({ frames: 30000, rate: 44100, channels: 2, warnings: [] });
    expect(back).toEqual(audio);
  });

  test.each([
    ["AIFF, 16 bits", "x.aiff", ["-b", "16"], 16],
    ["AIFF, 24 bits", "y.aiff", ["-b", "24"], 24],
    ["AIFF, 8 bits", "e.aiff", ["-b", "8"], 8],
    ["WAV, 32-bit float", "f.wav", ["-b", "32", "-e", "floating-point"], 24],
    ["WAV, 32-bit integers", "i.wav", ["-b", "32", "-e", "signed-integer"], 24],
  ] as const)("%s by sox", (_, file, options, depth) => {
    const audio = music(depth);
    writeFileSync(at("in.wav"), writeWav(audio, 24));
    execFileSync("sox", ["-D", at("in.wav"), ...options, at(file)]);
    const back = readSound(readFileSync(at(file))).audio;
    expect(back.rate).toBe(44100);
    let most = 0;
    back.channels.forEach((channel, c) => {
      const truth = audio.channels[c] as Float32Array;
      for (let i = 0; i < truth.length; i++)
        most = Math.max(most, Math.abs((channel[i] as number) - (truth[i] as number)));
    });
    expect(most).toBe(0);
  });
});

describe("written so that others read the same", () => {
  test.each([16, 24] as const)(
    "FLAC of %i bits passes flac's own test, with its checksum, and decodes to the same samples",
    (depth) => {
      const audio = music(depth);
      writeFileSync(at("ours.flac"), writeFlac(audio, depth));
      execFileSync("flac", ["--test", "--silent", at("ours.flac")]);
      execFileSync("flac", ["--decode", "--silent", "--force", "-o", at("back.wav"), at("ours.flac")]);
      expect(readSound(readFileSync(at("back.wav"))).audio).toEqual(audio);
      // As small as the other program makes it at its best, within a few hundredths.
      execFileSync("flac", ["--best", "--silent", "--force", "-o", at("best.flac"), at("back.wav")]);
      expect(statSync(at("ours.flac")).size).toBeLessThan(statSync(at("best.flac")).size * 1.03);
    },
  );

  const broadcast = bext("The long tube, struck softly", "Workshop", "2026-11-20");
  const extras: SoundExtras = {
    sampler: { root: 61, fine: 12, loop: { start: 100, end: 2000, mode: "alternating" } },
    instrument: { root: 61, fine: -12, gain: 2, keyLow: 50, keyHigh: 70, velLow: 1, velHigh: 90 },
    broadcast,
    markers: [{ at: 5, length: 0, name: "odd" }],
  };

  /** Frames as sox reads them, of the first channel. */
  const bySox = (file: string): Float32Array => {
    const raw = execFileSync("sox", [at(file), "-t", "f32", "-"], { maxBuffer: 1e8 });
    const both = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length));
    return both.filter((_, i) => i % 2 === 0);
  };

  test.each([
    ["extras.wav", (audio: Audio) => writeWav(audio, 24, extras)],
    ["extras.aiff", (audio: Audio) => writeAiff(audio, 24, extras)],
    ["extras.flac", (audio: Audio) => writeFlac(audio, 24, 1, extras)],
  ] as const)("%s with every extra is read by sox to the last bit, and by us with all that it says", (file, write) => {
    const audio = music(24);
    writeFileSync(at(file), write(audio));
    expect(bySox(file)).toEqual(audio.channels[0]);
    const { info } = readSound(readFileSync(at(file)));
    expect(info).toMatchObject({
      root: { note: 61, cents: expect.closeTo(12, 1) },
      loop: { start: 100, end: 2000, mode: "alternating" },
      range: { keyLow: 50, keyHigh: 70, velLow: 1, velHigh: 90 },
      text: "The long tube, struck softly",
      warnings: [],
    });
    expect(info.markers).toContainEqual({ at: 5, length: 0, name: "odd" });
    if (!file.endsWith("aiff")) expect(info.extras.broadcast).toEqual(broadcast);
  });

  test("what FLAC keeps of a WAV file comes back byte for byte by flac's own hand, and the other way round", () => {
    const wav = writeWav(music(24), 24, extras);
    writeFileSync(at("ours.flac"), writeFlac(music(24), 24, 1, extras));
    execFileSync("flac", [
      "--decode",
      "--silent",
      "--force",
      "--keep-foreign-metadata",
      "-o",
      at("back.wav"),
      at("ours.flac"),
    ]);
    expect(readSound(readFileSync(at("back.wav"))).info).toMatchObject({ ...readSound(wav).info });
    writeFileSync(at("theirs.wav"), wav);
    execFileSync("flac", ["--silent", "--force", "--keep-foreign-metadata", "-o", at("theirs.flac"), at("theirs.wav")]);
    expect(readSound(readFileSync(at("theirs.flac"))).info.extras).toEqual(readSound(wav).info.extras);
  });
});

/** A `bext` chunk as a recorder writes it. */
function bext(description: string, originator: string, date: string): Broadcast {
  const bytes = new Uint8Array(602 + 40);
  const put = (text: string, at: number) => bytes.set(Buffer.from(text, "latin1"), at);
  put(description, 0);
  put(originator, 256);
  put(date, 320);
  put("12:30:00", 330);
  put("A=PCM,F=44100,W=24,M=stereo\r\n", 602);
  return { description, originator, date, bytes };
}
