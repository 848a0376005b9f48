import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { readPackage, readSound, sha256Of, writeFlac, writePackage, writeWav } from "../core/formats";
import { addSamples, listZones, newInstrument, newSample, newZone, placeZones, together } from "../core/instrument";
import type { LoopCandidate } from "../core/looping";
import { made, RATE } from "../core/looping/test-sounds";
import { runVise as vise } from "./run-vise";

const folder = mkdtempSync(join(tmpdir(), "vise-loop-"));
const at = (name: string) => join(folder, name);
afterAll(() => rmSync(folder, { recursive: true }));

const tube = made(2, (t) => 0.3 * Math.sin(2 * Math.PI * 220 * t) + 0.1 * Math.sin(2 * Math.PI * 660 * t));
const audio = { rate: RATE, channels: [tube] };
const wav = writeWav(audio, 24, { sampler: { root: 57, fine: 0, loop: null } });

beforeAll(() => {
  writeFileSync(at("tube.wav"), wav);
  writeFileSync(at("tube.flac"), writeFlac(audio, 16, 1));
  writeFileSync(at("silence.wav"), writeWav({ rate: RATE, channels: [new Float32Array(RATE)] }, 16));
  const sha = sha256Of(wav);
  const instrument = together("", [
    addSamples([newSample({ sha, name: "tube", frames: tube.length, rate: RATE })]),
    placeZones("main", "main", [newZone({ id: "z", sample: sha, end: tube.length })], true),
  ]).apply(newInstrument("tubes", "Tubes"));
  writeFileSync(
    at("tubes.vise"),
    writePackage(instrument, () => wav),
  );
});

interface Row {
  readonly file: string;
  readonly none: string | null;
  readonly candidates: readonly LoopCandidate[];
}

describe("vise loop", () => {
  test("proposes loops of each file, best first, and says why there is none", async () => {
    const { code, out } = await vise("loop", at("tube.wav"), at("tube.flac"), at("silence.wav"), "--json");
    expect(code).toBe(0);
    const rows = JSON.parse(out) as Row[];
    expect(rows.map((r) => r.candidates.length > 0)).toEqual([true, true, false]);
    expect(rows[2]?.none).toMatch(/silent/);
    for (const { candidates } of rows.slice(0, 2)) {
      expect(Object.keys(candidates[0] ?? {}).sort()).toEqual(
        ["crossfade", "end", "flat", "law", "mode", "parts", "reason", "score", "start"].sort(),
      );
      const scores = candidates.map((c) => c.score);
      expect(scores).toEqual([...scores].sort((a, b) => b - a));
      expect(candidates[0]?.parts.periods).toBeCloseTo(Math.round(candidates[0]?.parts.periods ?? 0.5), 1);
    }
  });

  test("--write stores the best in the file, and nothing else of it changes", async () => {
    for (const name of ["tube.wav", "tube.flac"]) {
      const before = readSound(new Uint8Array(readFileSync(at(name))));
      const { out } = await vise("loop", at(name), "--write", "--json");
      const [best] = (JSON.parse(out) as Row[])[0]?.candidates ?? [];
      const after = readSound(new Uint8Array(readFileSync(at(name))));
      expect(after.info.loop).toEqual({ start: best?.start, end: best?.end, mode: "forward" });
      expect(after.audio).toEqual(before.audio);
      expect(after.info.bits).toBe(before.info.bits);
      if (before.info.root) expect(after.info.root).toEqual(before.info.root);
    }
  });

  test("--instrument does all zones, and --write keeps the best of each in the package", async () => {
    const { code, out } = await vise("loop", "--instrument", at("tubes.vise"), "--write");
    expect(code).toBe(0);
    expect(out).toMatch(/loops for 1 of 1 zones, the best of each stored/);
    const { instrument } = readPackage(new Uint8Array(readFileSync(at("tubes.vise"))));
    expect(listZones(instrument)[0]?.loop?.end).toBeGreaterThan(0);
  });

  test("mistakes are told in one line", async () => {
    for (const args of [
      [],
      [at("none.wav")],
      [at("tube.wav"), "--shortest", "3", "--longest", "1"],
      ["--instrument", at("tube.wav")],
    ]) {
      const { code, err } = await vise("loop", ...args);
      expect(code).toBe(1);
      expect(err.trim().split("\n")).toHaveLength(1);
    }
  });
});
