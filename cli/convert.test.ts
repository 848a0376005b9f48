import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { hertzOf } from "../core/audio";
import { readPackage, readSound, readWav, writePackage, writeWav } from "../core/formats";
import { type Instrument, listZones, newRoute, newUnit } from "../core/instrument";
import { runVise as vise } from "./run-vise";

const folder = mkdtempSync(join(tmpdir(), "vise-convert-"));
const at = (...names: string[]) => join(folder, ...names);
afterAll(() => rmSync(folder, { recursive: true }));
const RATE = 44100;

/** A struck tube: a tone that dies away, with a loop where it is steady enough. */
function tube(note: number, loud: number): Uint8Array {
  const x = Float32Array.from({ length: RATE }, (_, i) => {
    const t = i / RATE;
    return loud * Math.sin(2 * Math.PI * hertzOf(note) * t) * Math.exp(-2 * t) * Math.min(1, i / 60);
  });
  return writeWav({ rate: RATE, channels: [x] }, 24);
}

beforeAll(() => {
  mkdirSync(at("tubes"));
  for (const note of [48, 55, 60, 67])
    for (const [strength, loud] of [0.1, 0.5].entries())
      writeFileSync(at("tubes", `tube ${note} v${strength + 1}.wav`), tube(note, loud));
});

/** Some notes at different strengths, as a Standard MIDI File. */
function song(): Uint8Array {
  const events = [48, 52, 60, 64, 67, 72].flatMap((key, i) => [0, 0x90, key, 30 + i * 18, 0x60, 0x80, key, 64]);
  const track = [...events, 0, 0xff, 0x2f, 0];
  const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, track.length];
  return Uint8Array.from([...head, ...track]);
}

describe("instruments", () => {
  test("as SFZ and back again sound the same, note for note", async () => {
    const mapped = await vise("map", at("tubes"), "--out", at("tubes.vise"), "--json");
    expect(mapped.err).toBe("");
    // A filter that velocity opens, an envelope of its own, a little vibrato.
    const { instrument, samples } = readPackage(new Uint8Array(readFileSync(at("tubes.vise"))));
    const [layer] = instrument.layers;
    if (!layer) throw new Error("there is no layer");
    const params = (unit: typeof layer.amp, more: Record<string, number | string>) => ({
      ...unit,
      params: { ...unit.params, ...more },
    });
    const shaped: Instrument = {
      ...instrument,
      effects: [],
      layers: [
        {
          ...layer,
          stages: [params(newUnit("filter", "filter"), { cutoff: 700, slope: "24", resonance: 0.3 })],
          amp: params(layer.amp, { attack: 0.02, decay: 0.4, sustain: 0.5, release: 0.2 }),
          strip: params(layer.strip, { velocity: 12, level: -4 }),
        },
      ],
      lfos: [params(newUnit("lfo", "lfo1", "Vibrato"), { rate: 5 })],
      routes: [
        newRoute({ id: "r1", source: "velocity", target: `layers/${layer.id}/stages/filter/cutoff`, amount: 2 }),
        newRoute({ id: "r2", source: "key", target: `layers/${layer.id}/stages/filter/cutoff`, amount: 5 }),
        newRoute({ id: "r3", source: "lfos/lfo1", target: `layers/${layer.id}/source/fine`, amount: 30 }),
      ],
    };
    writeFileSync(
      at("shaped.vise"),
      writePackage(shaped, (sha) => samples.get(sha) ?? null),
    );
    writeFileSync(at("song.mid"), song());
    expect(JSON.parse((await vise("convert", at("shaped.vise"), at("kit", "shaped.sfz"), "--json")).out)).toMatchObject(
      { zones: 8, samples: 8, notWritten: [] },
    );
    expect(readdirSync(at("kit", "samples"))).toHaveLength(8);
    expect(JSON.parse((await vise("convert", at("kit", "shaped.sfz"), at("again.vise"), "--json")).out)).toMatchObject({
      ...{ zones: 8, samples: 8, lost: [], missing: [], problems: [] },
    });
    for (const name of ["shaped", "again"])
      expect(await vise("render", at(`${name}.vise`), at("song.mid"), at(`${name}.wav`))).toMatchObject({ code: 0 });
    const [before, after] = ["shaped", "again"].map(
      (n) => readWav(new Uint8Array(readFileSync(at(`${n}.wav`)))).audio.channels[0],
    );
    expect(after?.length).toBe(before?.length);
    let [most, peak] = [0, 0];
    before?.forEach((x, i) => {
      most = Math.max(most, Math.abs(x - (after?.[i] ?? 0)));
      peak = Math.max(peak, Math.abs(x));
    });
    expect(peak).toBeGreaterThan(0.02);
    // Velocity's law is written as points with straight lines between them: within a fiftieth of a decibel.
    expect(most / peak).toBeLessThan(0.005);
  }, 60_000);

  test("of others come in with what they include, whatever the case of names, and tell what is amiss", async () => {
    mkdirSync(at("bells", "Samples"), { recursive: true });
    writeFileSync(at("bells", "Samples", "Low Bell.WAV"), tube(60, 0.4));
    writeFileSync(at("bells", "Samples", "torn.wav"), "RIFF");
    writeFileSync(at("bells", "keys.txt"), "#define $LOW 40\r\n");
    writeFileSync(
      at("bells", "bells.sfz"),
      '#include "keys.txt"\r\n<control> default_path=samples\\\r\n<group> lokey=$LOW hikey=50 sustain_sw=off\r\n<region> sample=low bell.wav\r\n<region> sample=gone.wav\r\n<region> sample=torn.wav\r\n<region> sample=..\\..\\tubes\\tube 48 v1.wav',
    );
    const { code, out } = await vise("convert", at("bells", "bells.sfz"), at("bells.vise"), "--json");
    expect(code).toBe(0);
    const told = JSON.parse(out) as {
      zones: number;
      missing: string[];
      problems: string[];
      lost: { opcode: string; count: number }[];
    };
    expect(told.zones).toBe(1);
    expect(told.missing).toEqual(["samples/gone.wav", "samples/torn.wav"]);
    expect(told.problems).toEqual([
      expect.stringMatching(/1 region skipped.*leads out of the folder/),
      expect.stringMatching(/^samples\/torn.wav: /),
    ]);
    expect(told.lost).toEqual([expect.objectContaining({ opcode: "sustain_sw", count: 3, line: 3 })]);
    const { instrument } = readPackage(new Uint8Array(readFileSync(at("bells.vise"))));
    expect(listZones(instrument)[0]).toMatchObject({ keyLow: 40, keyHigh: 50, kept: "sustain_sw=off" });
    const inspected = await vise("inspect", at("bells", "bells.sfz"), "--json");
    expect(JSON.parse(inspected.out)).toMatchObject({
      kind: "sfz",
      zones: 3,
      missing: ["samples/gone.wav", "samples/torn.wav"],
    });
  });
});

describe("sounds", () => {
  test("as one another keep their frames, root and loop", async () => {
    const audio = readSound(tube(60, 0.5)).audio;
    const sampler = { root: 60, fine: 25, loop: { start: 1000, end: 9000, mode: "forward" as const } };
    writeFileSync(at("a.wav"), writeWav(audio, 24, { sampler }));
    for (const [from, to] of [
      ["a.wav", "b.aiff"],
      ["b.aiff", "c.flac"],
      ["c.flac", "d.wav"],
    ] as const)
      expect(await vise("convert", at(from), at(to))).toMatchObject({ code: 0, err: "" });
    const back = readSound(new Uint8Array(readFileSync(at("d.wav"))));
    expect(back.audio).toEqual(audio);
    expect(back.info).toMatchObject({ loop: sampler.loop, root: { note: 60, cents: expect.closeTo(25, 1) } });
    const small = await vise("convert", at("a.wav"), at("e.flac"), "--bits", "16", "--json");
    expect(JSON.parse(small.out)).toMatchObject({ bits: 16, frames: RATE });
  });

  test("mistakes are told in one line", async () => {
    for (const [args, told] of [
      [["a.wav"], /takes a file and what it is to become/],
      [["a.wav", "b.vise"], /a sound becomes a sound/],
      [["a.wav", "b.txt"], /b\.txt: convert knows/],
      [["a.wav", "b.flac", "--bits", "32"], /--bits is 16 or 24/],
      [["gone.wav", "b.flac"], /gone\.wav: there is no such file/],
    ] as const) {
      const { code, err } = await vise("convert", ...args.map((a) => (a.includes(".") ? at(a) : a)));
      expect([code, err.trim().split("\n").length]).toEqual([1, 1]);
      expect(err).toMatch(told);
    }
  });
});
