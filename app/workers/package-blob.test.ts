import { describe, expect, test } from "@jest/globals";
import { strToU8, unzipSync, zipSync } from "fflate";
import { FormatError, guardPackage, readPackage, sha256Of, writePackage, writeWav } from "../../core/formats";
import {
  addSamples,
  newFaceItem,
  newInstrument,
  newPictureLayer,
  newSample,
  newZone,
  placeZones,
  together,
} from "../../core/instrument";
import { openBlob, packBlob } from "./package-blob";

const wavs = [0.1, 0.2].map((level) => writeWav({ rate: 44100, channels: [new Float32Array(3000).fill(level)] }, 16));
const bySha = new Map(wavs.map((w) => [sha256Of(w), w]));
const shas = [...bySha.keys()];
const instrument = together("", [
  addSamples(shas.map((sha, i) => newSample({ sha, name: `sound ${i}`, frames: 3000 }))),
  placeZones(
    "main",
    "main",
    shas.map((sample, i) => newZone({ id: `z${i}`, sample, end: 3000 })),
    true,
  ),
]).apply(newInstrument("packed", "Packed"));
const audioOf = async (sha: string) => {
  const bytes = bySha.get(sha);
  return bytes ? new Blob([bytes]) : null;
};

async function opened(file: Blob, repair = false) {
  const kept = new Map<string, Uint8Array>();
  const read = await openBlob(file, repair, async (sha, bytes) => void kept.set(sha, bytes));
  return { ...read, kept };
}
const codeOf = async (file: Blob): Promise<string> => {
  try {
    await opened(file);
    return "none";
  } catch (error) {
    return error instanceof FormatError ? error.code : String(error);
  }
};
const changed = (change: (files: Record<string, Uint8Array>) => void): Blob => {
  const files = unzipSync(writePackage(instrument, (sha) => bySha.get(sha) ?? null));
  change(files);
  return new Blob([zipSync(files) as Uint8Array<ArrayBuffer>]);
};

describe("packages of any size", () => {
  test("what is written is read back, by this reader and by the one that has it all in its memory", async () => {
    const shares: number[] = [];
    const blob = await packBlob(instrument, audioOf, (share) => shares.push(share));
    expect(shares).toEqual([0.5, 1]);
    const { instrument: back, problems, kept } = await opened(blob);
    expect([back.layers, problems]).toEqual([instrument.layers, []]);
    for (const sha of shas) expect(kept.get(sha)).toEqual(new Uint8Array(bySha.get(sha) ?? []));
    const whole = readPackage(new Uint8Array(await blob.arrayBuffer()));
    expect(whole.instrument).toEqual(back);
    expect([...whole.samples.keys()]).toEqual([...kept.keys()]);
    // The same instrument gives the same bytes.
    expect(sha256Of(new Uint8Array(await (await packBlob(instrument, audioOf)).arrayBuffer()))).toBe(
      sha256Of(new Uint8Array(await blob.arrayBuffer())),
    );
  });

  test("a damaged and a missing sample are told by name, the rest opens", async () => {
    const { problems, kept } = await opened(
      changed((files) => {
        const bytes = files[`samples/${shas[0]}.wav`];
        if (bytes) bytes[100] = 77;
        delete files[`samples/${shas[1]}.wav`];
      }),
    );
    expect(problems.join(" ")).toMatch(/“sound 0” is damaged.*“sound 1” is missing/);
    expect(kept.size).toBe(0);
  });

  test("unsafe names, bombs, newer versions, broken documents and what is no package are refused", async () => {
    expect(await codeOf(changed((files) => Object.assign(files, { "../evil": strToU8("x") })))).toBe("unsafe-name");
    expect(
      await codeOf(
        changed((files) => Object.assign(files, { [`samples/${"0".repeat(64)}.wav`]: new Uint8Array(12e6) })),
      ),
    ).toBe("too-large");
    const document = (change: object) =>
      changed((files) =>
        Object.assign(files, { "instrument.json": strToU8(JSON.stringify({ ...instrument, ...change })) }),
      );
    expect(await codeOf(document({ version: 99 }))).toBe("newer-version");
    expect(await codeOf(document({ macros: "none" }))).toBe("invalid-document");
    expect((await opened(document({ macros: "none" }), true)).instrument.macros).toEqual([]);
    expect(await codeOf(new Blob([]))).toBe("empty");
    expect(await codeOf(new Blob(["PK and then just text"]))).toBe("damaged");
    expect(await codeOf(new Blob([zipSync({ other: strToU8("x") }) as Uint8Array<ArrayBuffer>]))).toBe(
      "not-this-format",
    );
    const whole = new Uint8Array(await (await packBlob(instrument, audioOf)).arrayBuffer());
    expect(["damaged", "not-this-format"]).toContain(await codeOf(new Blob([whole.slice(0, whole.length - 40)])));
  });

  test("without the audio that it needs it is not written", async () => {
    await expect(packBlob(instrument, async () => null)).rejects.toThrow("audio of sample sound 0 is missing");
  });
});

test("what nobody could open again isn't written: too many samples, too many bytes", async () => {
  const sized = (size: number) => ({ size }) as Blob;
  await expect(packBlob(instrument, async () => sized(2 ** 31 - 10))).rejects.toThrow(/nobody could open it again/);
  expect(() =>
    guardPackage(
      100,
      Array.from({ length: 20001 }, (_, i) => ({ name: `samples/${i}.wav`, size: 1 })),
    ),
  ).toThrow(/holds more than 20000 files/);
  expect(() => guardPackage(65 * 2 ** 20, [])).toThrow(/more than a package may hold/);
  expect(() => guardPackage(1e6, [{ name: `samples/${"a".repeat(64)}.wav`, size: 1e9 }])).not.toThrow();
});

test("pictures that nothing draws stay behind", async () => {
  const picture = (id: string) => ({ id, name: id, width: 8, height: 8, data: "data:image/png;base64,AAAA" });
  const drawn = newPictureLayer("drawn");
  const face = {
    ...instrument.face,
    pictures: [picture("drawn"), picture("left")],
    items: [newFaceItem({ id: "i", kind: "picture", pictures: [drawn] })],
  };
  const { instrument: back } = await opened(await packBlob({ ...instrument, face }, audioOf));
  expect(back.face.pictures.map((p) => p.id)).toEqual(["drawn"]);
});
