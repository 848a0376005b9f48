import { execFile } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { beforeAll, describe, expect, test } from "@jest/globals";
import { PitchFinder } from "../core/analysis";
import { hertzOf, seededRandom } from "../core/audio";
import { readWav, writeWav } from "../core/formats";

const folder = mkdtempSync(join(tmpdir(), "vise-cli-"));
const at = (name: string) => join(folder, name);
const RATE = 44100;

async function vise(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  try {
    const { stdout, stderr } = await promisify(execFile)("node", ["scripts/vise.mjs", ...args]);
    return { code: 0, out: stdout, err: stderr };
  } catch (error) {
    const failed = error as { code: number; stdout: string; stderr: string };
    return { code: failed.code, out: failed.stdout, err: failed.stderr };
  }
}

/** A take of three notes, soft and hard, over a little noise. */
beforeAll(() => {
  const random = seededRandom(2);
  const x = Float32Array.from({ length: RATE * 8 }, () => (random() - 0.5) * 0.0008);
  [57, 57, 62, 62, 69, 69].forEach((note, i) => {
    const from = Math.round((0.5 + i * 1.2) * RATE);
    for (let k = 0; k < RATE * 0.8; k++) {
      const t = k / RATE;
      const tone =
        Math.sin(2 * Math.PI * hertzOf(note + 0.1) * t) + 0.4 * Math.sin(4 * Math.PI * hertzOf(note + 0.1) * t);
      x[from + k] = (x[from + k] ?? 0) + (i % 2 ? 0.5 : 0.1) * tone * Math.exp(-6 * t) * Math.min(1, k / 40);
    }
  });
  writeFileSync(at("take.wav"), writeWav({ rate: RATE, channels: [x] }, 16));
});

describe("from a take to a rendered song", () => {
  test("cut writes named WAVs and prints the slices", async () => {
    const { code, out } = await vise("cut", at("take.wav"), "--out", at("cuts"), "--json");
    expect(code).toBe(0);
    const { slices } = JSON.parse(out) as { slices: Record<string, unknown>[] };
    expect(slices.map((s) => s.note)).toEqual(["A3", "A3", "D4", "D4", "A4", "A4"]);
    for (const slice of slices) {
      expect(Object.keys(slice)).toEqual(["start", "end", "note", "cents", "confidence", "peakDb", "file"]);
      expect(Math.abs(Number(slice.cents) - 10)).toBeLessThan(2);
      const { info } = readWav(new Uint8Array(readFileSync(String(slice.file))));
      expect(info.frames).toBe(Number(slice.end) - Number(slice.start));
    }
    expect(readdirSync(at("cuts"))).toContain("take-D4-03.wav");
  });

  test("map places them and prints the zones", async () => {
    const files = readdirSync(at("cuts")).map((f) => at(`cuts/${f}`));
    const { code, out } = await vise("map", ...files, "--out", at("x.vise"), "--low", "C3", "--high", "C5", "--json");
    expect(code).toBe(0);
    const { zones, detuneCents } = JSON.parse(out) as { zones: Record<string, number>[]; detuneCents: number };
    expect(detuneCents).toBeCloseTo(10, 0);
    expect(zones).toHaveLength(6);
    expect([...new Set(zones.map((z) => `${z.keyLow}-${z.keyHigh}@${z.root}`))]).toEqual([
      "48-59@57",
      "60-65@62",
      "66-72@69",
    ]);
    expect(new Set(zones.map((z) => `${z.velLow}-${z.velHigh}`)).size).toBe(2);
  });

  test("render plays a MIDI file, in tune, the same each time", async () => {
    const track = [0, 0x90, 64, 110, 0x83, 0x00, 0x80, 64, 0, 0, 0xff, 0x2f, 0];
    const song = Uint8Array.from(
      [..."MThd"]
        .map((c) => c.charCodeAt(0))
        .concat(
          [0, 0, 0, 6, 0, 0, 0, 1, 0, 192],
          [..."MTrk"].map((c) => c.charCodeAt(0)),
          [0, 0, 0, track.length],
          track,
        ),
    );
    writeFileSync(at("song.mid"), song);
    const { code, out } = await vise("render", at("x.vise"), at("song.mid"), at("a.wav"), "--json");
    expect(code).toBe(0);
    expect(JSON.parse(out)).toMatchObject({ notes: 1, rate: 48000 });
    await vise("render", at("x.vise"), at("song.mid"), at("b.wav"));
    const bytes = readFileSync(at("a.wav"));
    expect(readFileSync(at("b.wav")).equals(bytes)).toBe(true);
    const { audio } = readWav(new Uint8Array(bytes));
    const { note } = new PitchFinder(48000).find(audio.channels[0] as Float32Array, 0, 24000);
    expect(Math.abs((note ?? 0) - 64) * 100).toBeLessThan(5);
  });

  test("inspect describes each of them", async () => {
    const kinds = await Promise.all(
      ["take.wav", "x.vise", "song.mid"].map(
        async (f) => JSON.parse((await vise("inspect", at(f), "--json")).out).kind,
      ),
    );
    expect(kinds).toEqual(["audio", "package", "song"]);
  });
});

describe("mistakes", () => {
  test.each([
    [["frobnicate"], "there is no command"],
    [["cut", "none.wav", "--out", folder], "none.wav: there is no such file"],
    [["cut", folder, "--out", folder], "that is a folder"],
    [["cut"], "vise cut TAKE.wav --out DIR"],
    [["map", "package.json", "--out", join(folder, "y.vise")], "package.json: it isn't a WAV file"],
    [["map", "--nonsense"], "known options"],
    [["render", "package.json", "x.mid", "y.wav"], "package.json: it isn't a Vise package"],
    [["inspect", "README.md"], "README.md: it is neither"],
  ])("%j: one line on stderr, exit code 1", async (args, words) => {
    const { code, out, err } = await vise(...args);
    expect(code).toBe(1);
    expect(out).toBe("");
    expect(err.trim().split("\n")).toHaveLength(1);
    expect(err).toContain(words);
  });
});
