import assert from "node:assert/strict";
import { closeSync, ftruncateSync, openSync, readFileSync, writeFileSync, writeSync } from "node:fs";
import { join } from "node:path";
import { strToU8, unzipSync, zipSync } from "fflate";
import { writeWav } from "../core/formats";
import { DOCUMENT_VERSION } from "../core/instrument";
import { arrive, notice, openHarp, type Scenario, station, storedDocument } from "./scenario";

const tone = { rate: 44100, channels: [Float32Array.from({ length: 44100 }, (_, i) => 0.5 * Math.sin(i * 0.06))] };

/** A WAV file of two hours: a true header, and a hole where the sound would be. */
function twoHours(path: string): void {
  const head = writeWav({ rate: 44100, channels: [new Float32Array(1)] }, 16).slice(0, 44);
  const bytes = 2 * 3600 * 44100 * 2;
  new DataView(head.buffer).setUint32(40, bytes, true);
  const file = openSync(path, "w");
  writeSync(file, head);
  ftruncateSync(file, 44 + bytes);
  closeSync(file);
}

/** An MP3 file of 62 minutes of silence: 8 kbit/s at 8 kHz, 72 bytes and 72 ms a frame (ISO/IEC 11172-3 and its extensions). */
function longSong(): Uint8Array {
  const bytes = new Uint8Array(72 * Math.ceil((62 * 60) / 0.072));
  for (let at = 0; at < bytes.length; at += 72) bytes.set([0xff, 0xe3, 0x18, 0xc0], at);
  return bytes;
}

export const bad: readonly Scenario[] = [
  {
    name: "bad files: each is told by name, and nothing else changes",
    run: async (world) => {
      const { page } = await arrive(world);
      await openHarp(page);
      await station(page, "Take");
      const before = await storedDocument(page);
      const write = (name: string, bytes: Uint8Array) => {
        const path = join(world.folder, name);
        writeFileSync(path, bytes);
        return path;
      };
      const whole = writeWav(tone, 16);
      const packed = unzipSync(readFileSync("dist/demo/spoke-harp.vise"));
      const document = JSON.parse(new TextDecoder().decode(packed["instrument.json"]));
      const rezip = (change: Record<string, Uint8Array>) => zipSync({ ...packed, ...change }, { level: 0 });
      twoHours(join(world.folder, "long.wav"));
      const cases: [string, RegExp][] = [
        [
          write("notes.wav", strToU8("a shopping list, not a sound")),
          /notes\.wav was not opened: it is no WAV, AIFF or FLAC file/,
        ],
        [write("empty.wav", new Uint8Array(0)), /empty\.wav was not opened: the file is empty/],
        [
          write("silent.wav", writeWav({ rate: 44100, channels: [new Float32Array(0)] }, 16)),
          /silent\.wav was not opened: it holds no audio/,
        ],
        [join(world.folder, "long.wav"), /long\.wav was not opened: it is 2 h 0 min long/],
        [write("song.mp3", longSong()), /song\.mp3 was not opened: it is 1 h [12] min long; takes of up to an hour/],
        [
          write("outside.vise", rezip({ "../evil.txt": strToU8("x") })),
          /outside\.vise was not opened: .*points outside/,
        ],
        [
          write("bomb.vise", zipSync({ "instrument.json": new Uint8Array(90e6) })),
          /bomb\.vise was not opened: .*more than a package may hold/,
        ],
        [
          write(
            "newer.vise",
            rezip({ "instrument.json": strToU8(JSON.stringify({ ...document, version: DOCUMENT_VERSION + 1 })) }),
          ),
          /newer\.vise was not opened: it was made by a newer Vise/,
        ],
      ];
      const input = page.getByTestId("open-files");
      for (const [path, message] of cases) {
        await input.setInputFiles(path);
        const notice = page.locator("[data-kind]").filter({ hasText: message });
        await notice.waitFor();
        await notice.getByRole("button", { name: "Close" }).click();
      }
      assert.deepEqual(await storedDocument(page), before, "what was open stays as it was");

      // What is there of a file that was cut off is opened, and that it is not whole is told.
      await input.setInputFiles(write("half.wav", whole.slice(0, 40000)));
      await notice(page, /half\.wav: It was cut off: 39956 of 88200 bytes/).waitFor();
      await page.getByRole("list", { name: "Takes" }).getByText("half").waitFor();
      const takes = (await storedDocument(page)).takes as { name: string; frames: number }[];
      assert.equal(takes.find((t) => t.name === "half")?.frames, (40000 - 44) / 2);

      // A damaged sample is told by its name; the rest opens and plays.
      const [first] = document.samples as { sha: string; name: string }[];
      assert.ok(first);
      const audio = packed[`samples/${first.sha}.wav`]?.slice();
      assert.ok(audio);
      audio[5000] = (audio[5000] ?? 0) ^ 255;
      await input.setInputFiles(write("scratched.vise", rezip({ [`samples/${first.sha}.wav`]: audio })));
      await notice(page, `scratched.vise: The audio of sample “${first.name}” is damaged`).waitFor();
      await page.getByText("48 zones · 8 roots").waitFor();
    },
  },
];
