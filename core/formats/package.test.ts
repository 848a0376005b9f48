import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import Ajv from "ajv/dist/2020.js";
import fc from "fast-check";
import { strToU8, unzipSync, zipSync } from "fflate";
import {
  addSamples,
  addTake,
  DOCUMENT_VERSION,
  newInstrument,
  newSample,
  newTake,
  newZone,
  placeZones,
  setRoom,
  setShots,
  together,
} from "../instrument";
import { FormatError } from "./format-error";
import { sha256Of } from "./hash";
import { instrumentJsonSchema } from "./json-schema";
import { readPackage, writePackage } from "./package";
import { writeWav } from "./wav-write";

const wav = (level: number) => writeWav({ rate: 44100, channels: [new Float32Array(300).fill(level)] }, 16);
const wavs = [wav(0.1), wav(0.2), wav(0.3)];
const bySha = new Map(wavs.map((w) => [sha256Of(w), w]));
const shas = [...bySha.keys()];

const instrument = together("", [
  addSamples(
    shas.map((sha, i) =>
      newSample({
        sha,
        name: `sound ${i}`,
        frames: 300,
        pitch: 60,
        confidence: 1,
        from: { take: "t", slice: "s", cut: null },
      }),
    ),
  ),
  addTake(
    newTake({
      id: "t",
      name: "take",
      sha: shas[0] ?? "",
      rate: 44100,
      channels: 1,
      frames: 300,
      origin: "recorded",
    }),
  ),
  placeZones(
    "main",
    "main",
    shas.slice(0, 2).map((sample, i) => newZone({ id: `z${i}`, sample, end: 300 })),
    true,
  ),
]).apply(newInstrument("packed", "Packed"));

const packed = writePackage(instrument, (sha) => bySha.get(sha) ?? null);
const codeOf = (bytes: Uint8Array): string => {
  try {
    readPackage(bytes);
    return "none";
  } catch (error) {
    if (error instanceof FormatError) return error.code;
    throw error;
  }
};
const rezip = (change: (files: Record<string, Uint8Array>) => void): Uint8Array => {
  const files = unzipSync(packed);
  change(files);
  return zipSync(files);
};

describe("package", () => {
  test("what was written is read back: everything used and nothing else", () => {
    const { instrument: back, samples, problems } = readPackage(packed);
    expect(problems).toEqual([]);
    expect(back.layers).toEqual(instrument.layers);
    expect(back.takes).toEqual([]);
    expect([...samples.keys()].sort()).toEqual(shas.slice(0, 2).sort());
    for (const [sha, bytes] of samples) expect(bytes).toEqual(bySha.get(sha));
    expect(writePackage(back, (sha) => samples.get(sha) ?? null)).toEqual(packed);
  });

  test("a damaged and a missing sample are told by name, the rest opens", () => {
    const damaged = readPackage(
      rezip((files) => {
        const bytes = files[`samples/${shas[0]}.wav`];
        if (bytes) bytes[100] = 77;
        delete files[`samples/${shas[1]}.wav`];
      }),
    );
    expect(damaged.problems).toEqual([
      "The audio of sample “sound 0” is damaged and was skipped; its zones stay silent.",
      "The audio of sample “sound 1” is missing; its zones stay silent.",
    ]);
    expect(damaged.instrument.about.name).toBe("Packed");
  });

  test("names that point outside, bombs, newer versions and broken documents are refused", () => {
    const evil = (name: string) => rezip((files) => Object.assign(files, { [name]: strToU8("x") }));
    for (const name of ["../evil.txt", "samples/../../evil", "/etc/evil", "C:\\evil", "a\\..\\b"])
      expect(codeOf(evil(name))).toBe("unsafe-name");
    expect(
      codeOf(rezip((files) => Object.assign(files, { [`samples/${"0".repeat(64)}.wav`]: new Uint8Array(80e6) }))),
    ).toBe("too-large");
    const document = (change: object) =>
      rezip((files) =>
        Object.assign(files, { "instrument.json": strToU8(JSON.stringify({ ...instrument, ...change })) }),
      );
    expect(codeOf(document({ version: DOCUMENT_VERSION + 1 }))).toBe("newer-version");
    expect(codeOf(document({ layers: "none" }))).toBe("invalid-document");
    // Asked to, it opens what is there.
    expect(readPackage(document({ layers: "none" }), true).instrument.layers).toHaveLength(1);
    expect(codeOf(rezip((files) => Object.assign(files, { "instrument.json": strToU8("{") })))).toBe(
      "invalid-document",
    );
    expect(codeOf(new Uint8Array(0))).toBe("empty");
    expect(codeOf(strToU8("just text"))).toBe("not-this-format");
    expect(codeOf(zipSync({ "other.txt": strToU8("hello") }))).toBe("not-this-format");
  });

  test("a size that the package lies about is not believed", () => {
    const bytes = zipSync({ "instrument.json": strToU8("x".repeat(5000)) });
    const view = new DataView(bytes.buffer);
    // The uncompressed size stands at 22 in the local header and at 24 in the central one.
    for (let i = 0; i < bytes.length - 4; i++) if (view.getUint32(i, true) === 5000) view.setUint32(i, 64, true);
    expect(["too-large", "damaged", "invalid-document"]).toContain(codeOf(bytes));
  });

  test("random damage throws nothing but FormatError", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(packed.length - 1), fc.nat(255)), { minLength: 1, maxLength: 8 }),
        fc.nat(packed.length),
        (changes, length) => {
          const bytes = packed.slice(0, length);
          for (const [at, value] of changes) if (at < length) bytes[at] = value;
          try {
            readPackage(bytes);
          } catch (error) {
            expect(error).toBeInstanceOf(FormatError);
          }
        },
      ),
      { numRuns: 400, seed: 3 },
    );
  });

  test("a package without the audio it needs is not written", () => {
    expect(() => writePackage(instrument, () => null)).toThrow("audio of sample sound 0 is missing");
  });
});

test("an impulse that an effect uses goes along, the shot list stays behind", () => {
  const sha = shas[2] ?? "";
  const room = newSample({ sha, name: "shop", frames: 300, use: "impulse" });
  const bare = { ...instrument, samples: instrument.samples.filter((s) => s.sha !== sha) };
  const doc = together("", [
    setRoom(room),
    setShots("", [{ id: "a", name: "C4", note: 60, strength: 1, strengths: 1, repeat: 1, state: "open" }]),
  ]).apply(bare);
  const opened = readPackage(writePackage(doc, (s) => bySha.get(s) ?? null));
  expect(opened.problems).toEqual([]);
  expect(opened.samples.has(sha)).toBe(true);
  expect(opened.instrument.effects.at(-1)).toMatchObject({ kind: "convolution", sample: sha });
  expect(opened.instrument.shots).toEqual([]);
});

describe("JSON Schema", () => {
  const schema = instrumentJsonSchema();
  const validate = new Ajv({ strict: false }).compile(schema);

  test("what a package holds is valid, what is off is not", () => {
    const { instrument: back } = readPackage(packed);
    expect(validate(JSON.parse(JSON.stringify(back)))).toBe(true);
    expect(validate({ ...back, play: { ...back.play, params: { voices: 9999 } } })).toBe(false);
  });

  test("docs/instrument.schema.json is the one that the code makes", () => {
    expect(JSON.parse(readFileSync("docs/instrument.schema.json", "utf8"))).toEqual(schema);
  });
});
