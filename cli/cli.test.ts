import { mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeAll, describe, expect, test } from "@jest/globals";
import { PitchFinder } from "../core/analysis";
import { hertzOf, makeSweep, seededRandom } from "../core/audio";
import { readFlac, readWav, writeFlac, writeWav } from "../core/formats";
import { runNode, runVise as vise } from "./run-vise";

const folder = mkdtempSync(join(tmpdir(), "vise-cli-"));
const at = (name: string) => join(folder, name);
mkdirSync(at("empty"));
const RATE = 44100;

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
      expect(Object.keys(slice)).toEqual([
        ...["start", "end", "note", "cents", "strength", "repeat", "confidence", "peakDb", "file"],
      ]);
      expect(Math.abs(Number(slice.cents) - 10)).toBeLessThan(2);
      const { info } = readWav(new Uint8Array(readFileSync(String(slice.file))));
      expect(info.frames).toBe(Number(slice.end) - Number(slice.start));
    }
    expect(readdirSync(at("cuts"))).toContain("take-D4-03.wav");
    expect(slices.map((s) => s.strength)).toEqual([1, 2, 1, 2, 1, 2]);
  });

  test("cut by a plan, a pattern and a level into FLAC; pitch reads them; a folder is taken whole", async () => {
    const plan = at("plan.json");
    writeFileSync(
      plan,
      JSON.stringify(["A3", "A3", "D4", "D4", "A4", "A4"].map((note, i) => ({ note, repeat: 1 + (i % 2) }))),
    );
    const { code, err } = await vise(
      ...["cut", at("take.wav"), "--out", at("flacs"), "--plan", plan, "--pattern", "{note}_r{repeat}"],
      ...["--normalise", "peak:-6:each", "--format", "flac", "--depth", "16", "--by", "attack"],
    );
    expect([code, err]).toEqual([0, ""]);
    expect(readdirSync(at("flacs")).sort()).toEqual(
      ["A3_r1", "A3_r2", "A4_r1", "A4_r2", "D4_r1", "D4_r2"].map((n) => `${n}.flac`),
    );
    const { audio } = readFlac(new Uint8Array(readFileSync(at("flacs/D4_r1.flac"))));
    expect(20 * Math.log10(Math.max(...(audio.channels[0] ?? [])))).toBeCloseTo(-6, 0);
    const { out } = await vise("pitch", at("flacs"), "--json");
    const found = JSON.parse(out) as { note: string; cents: number }[];
    expect(found.map((f) => f.note)).toEqual(["A3", "A3", "A4", "A4", "D4", "D4"]);
    for (const { cents } of found) expect(Math.abs(cents - 10)).toBeLessThan(3);
  });

  test("impulse makes a room of a recorded sweep", async () => {
    const sweep = makeSweep({ from: 40, to: 3600, seconds: 0.5 }, 8000);
    const heard = new Float32Array(6000);
    for (let i = 0; i < sweep.length; i++) {
      heard[i + 200] = (heard[i + 200] ?? 0) + (sweep[i] ?? 0);
      heard[i + 600] = (heard[i + 600] ?? 0) + 0.5 * (sweep[i] ?? 0);
    }
    writeFileSync(at("sweep.wav"), writeWav({ rate: 8000, channels: [sweep] }, 24));
    writeFileSync(at("heard.wav"), writeWav({ rate: 8000, channels: [heard] }, 24));
    const { code } = await vise("impulse", at("heard.wav"), at("sweep.wav"), at("room.wav"));
    expect(code).toBe(0);
    const [room] = readWav(new Uint8Array(readFileSync(at("room.wav")))).audio.channels as [Float32Array];
    const echo = room.slice(300, 500);
    expect(echo.indexOf(Math.max(...echo)) + 300).toBe(400);
    expect(Math.max(...echo) / Math.max(...room)).toBeCloseTo(0.5, 1);
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

  test("kernels with fused multiply-add give the same sound, apart by less than −120 dB", async () => {
    const { code } = await runNode([
      ...["--experimental-wasm-relaxed-simd", "scripts/vise.mjs"],
      ...["render", at("x.vise"), at("song.mid"), at("fused.wav")],
    ]);
    expect(code).toBe(0);
    const read = (name: string) => readWav(new Uint8Array(readFileSync(at(name)))).audio.channels[0] as Float32Array;
    const plain = read("a.wav");
    const worst = read("fused.wav").reduce((most, x, i) => Math.max(most, Math.abs(x - (plain[i] as number))), 0);
    // Not the same bits, or these were not the fused ones.
    expect(worst).toBeGreaterThan(0);
    expect(20 * Math.log10(worst)).toBeLessThan(-120);
  });

  test("map reads the names in a folder, whatever their kind, says what it doubts, and leaves out what is no sound", async () => {
    mkdirSync(at("spokes/leise"), { recursive: true });
    mkdirSync(at("spokes/laut"), { recursive: true });
    for (const [name, called, sounds] of [
      ["Cis", 49, 49],
      ["Es", 51, 51],
      ["Fis", 54, 54],
      ["As", 56, 56],
      ["H", 59, 61],
    ] as const)
      for (const [word, gain] of [
        ["leise", 0.05],
        ["laut", 0.5],
      ] as const) {
        const tone = Float32Array.from(
          { length: RATE },
          (_, i) => gain * Math.exp((-3 * i) / RATE) * Math.sin((2 * Math.PI * hertzOf(sounds) * i) / RATE),
        );
        const audio = { rate: RATE, channels: [tone] };
        const path = at(`spokes/${word}/Speiche ${name}${Math.floor(called / 12) - 2}`);
        if (word === "leise") writeFileSync(`${path}.flac`, writeFlac(audio, 16));
        else writeFileSync(`${path}.wav`, writeWav(audio, 24));
      }
    writeFileSync(at("spokes/lies mich.txt"), "Speichen");
    const { code, out } = await vise("map", at("spokes"), "--out", at("spokes.vise"), "--json");
    expect(code).toBe(0);
    const found = JSON.parse(out) as {
      zones: { file: string; root: number; velHigh: number; doubts: string[] }[];
      leftOut: { file: string; reason: string }[];
      octaveShift: number;
    };
    expect(found.octaveShift).toBe(12);
    expect(found.leftOut).toEqual([{ file: at("spokes/lies mich.txt"), reason: expect.stringContaining("no WAV") }]);
    expect(found.zones).toHaveLength(10);
    for (const { file, root, velHigh, doubts } of found.zones) {
      const note = { Cis: 49, Es: 51, Fis: 54, As: 56, H: 59 }[/ (\w+?)\d/.exec(file)?.[1] ?? ""];
      expect(root).toBe(note);
      expect(velHigh === 127).toBe(file.includes("laut"));
      expect(doubts.length).toBe(note === 59 ? 1 : 0);
    }
  });

  test("map tells what is odd about a file, and takes what is there of it", async () => {
    mkdirSync(at("odd"));
    const tone = Float32Array.from({ length: RATE }, (_, i) => 0.4 * Math.sin((2 * Math.PI * hertzOf(69) * i) / RATE));
    const whole = writeWav({ rate: RATE, channels: [tone] }, 16);
    writeFileSync(at("odd/torn A4.wav"), whole.subarray(0, 40000));
    writeFileSync(at("odd/empty.wav"), writeWav({ rate: RATE, channels: [new Float32Array(0)] }, 16));
    const { code, out } = await vise("map", at("odd"), "--out", at("odd.vise"), "--json");
    const found = JSON.parse(out) as Record<"zones" | "leftOut" | "warnings", { file: string }[]>;
    expect(code).toBe(0);
    for (const [list, file] of [
      ["zones", "torn A4.wav"],
      ["warnings", "torn A4.wav"],
      ["leftOut", "empty.wav"],
    ] as const)
      expect(found[list].map((f) => f.file)).toEqual([at(`odd/${file}`)]);
    // What was written is whole.
    expect((await vise("check", at("odd.vise"))).out).not.toContain("problem");
  });

  test("map reads names by a pattern, and says what is wrong with one", async () => {
    const by = async (pattern: string) =>
      vise("map", at("spokes"), "--out", at("pattern.vise"), "--pattern", pattern, "--json");
    const { zones, pattern } = JSON.parse((await by("{strength}/* {note}")).out) as {
      zones: { root: number }[];
      pattern: string;
    };
    expect([...new Set(zones.map((z) => z.root))]).toEqual([49, 51, 54, 56, 59]);
    expect(pattern).toBe("{layer}/Speiche {note}");
    expect((await by("{loud}")).err).toContain("{loud} means nothing");
    expect((await by("zzz{note}")).err).toContain("no name is made so");
  });

  test("check says what is doubtful about a map, and nothing of a good one", async () => {
    const { out } = await vise("check", at("spokes.vise"), "--json");
    const { findings, zones } = JSON.parse(out) as {
      findings: { kind: string; repair: string | null }[];
      zones: number;
    };
    expect(zones).toBe(10);
    // The one whose name was believed although it sounds otherwise.
    expect(findings.map((f) => f.kind)).toEqual(["tuning", "tuning"]);
    expect(findings.every((f) => f.repair !== null)).toBe(true);
    expect((await vise("check", at("x.vise"))).out).toContain("no warnings");
  });

  test("inspect describes each of them", async () => {
    const kinds = await Promise.all(
      ["take.wav", "x.vise", "song.mid", "flacs/D4_r1.flac"].map(
        async (f) => JSON.parse((await vise("inspect", at(f), "--json")).out).kind,
      ),
    );
    expect(kinds).toEqual(["audio", "package", "song", "audio"]);
  });
});

describe("mistakes", () => {
  test.each([
    [["frobnicate"], "there is no command"],
    [["cut", "none.wav", "--out", folder], "none.wav: there is no such file"],
    [["cut", at("empty"), "--out", folder], "no WAV, AIFF or FLAC file in this folder"],
    [["cut", at("take.wav"), "--out", folder, "--by", "luck"], "--by is one of level, attack, grid, markers"],
    [["cut", at("take.wav"), "--out", folder, "--normalise", "loud"], "peak:-1"],
    [["cut", at("take.wav"), "--out", folder, "--plan", "C3 ?"], "“?” is neither a note nor a name"],
    [["pitch"], "vise pitch FILES"],
    [["impulse", "a"], "vise impulse RECORDED SWEEP OUT.wav"],
    [["cut"], "vise cut TAKE… --out DIR"],
    [["map", "package.json", "--out", join(folder, "y.vise")], "package.json: it is no WAV, AIFF or FLAC file"],
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
