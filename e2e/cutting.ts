import assert from "node:assert/strict";
import { execFileSync } from "node:child_process";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { unzipSync } from "fflate";
import type { Page } from "playwright-core";
import { readSound, soundOfSlice } from "../core/formats";
import type { Slice, Take } from "../core/instrument";
import { writeTake } from "./long-take";
import { arrive, near, notice, type Scenario, shownWide, station, storedDocument, type World } from "./scenario";

const takesOf = async (page: Page): Promise<readonly Take[]> =>
  (await storedDocument(page)).takes as unknown as readonly Take[];

async function openTake(page: Page, world: World, name: string, count: number, apart: number): Promise<void> {
  const path = join(world.folder, `${name}.wav`);
  writeTake(path, count, apart);
  await page.getByTestId("open-files").setInputFiles(path);
  await page.getByRole("list", { name: "Takes" }).getByText(name, { exact: true }).waitFor({ timeout: 60000 });
}

export const cutting: readonly Scenario[] = [
  {
    name: "a shot list is walked hands-free with the bench mic, mistakes and all, from first to last entry",
    alone: true,
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await page.getByRole("tab", { name: "Shot list" }).click();
      await page.getByRole("textbox", { name: "Shot list by hand" }).fill("C4 G4 v2 x2");
      await page.keyboard.press("Enter");
      assert.equal(await page.getByRole("list", { name: "Shot list" }).getByRole("listitem").count(), 8);
      await page.getByRole("button", { name: "Record the list" }).click();
      const last = page.getByTestId("shot-last");
      await last.getByText(/it clipped/).waitFor();
      await last.getByText("it sounds like A4, but G4 was asked for", { exact: false }).waitFor({ timeout: 30000 });
      await page.getByTestId("shot-now").getByText("Done").waitFor({ timeout: 60000 });
      await page.getByRole("button", { name: "Keep the take" }).click();
      await notice(page, "8 sounds are in the take").waitFor();
      const take = (await takesOf(page)).at(-1);
      assert.ok(take);
      assert.equal(take.channels, 1, "two channels alike are one");
      assert.ok(take.clips.length > 0, "the clipped place is marked");
      const kept = take.slices.filter((s) => s.keep);
      assert.deepEqual(
        kept.map((s) => [s.note, s.strength, s.repeat]),
        [60, 67].flatMap((note) => [1, 2].flatMap((strength) => [1, 2].map((repeat) => [note, strength, repeat]))),
      );
      for (const slice of kept)
        near((slice.pitch ?? 0) * 100, (slice.note ?? 0) * 100, 8, "pitch of what landed, in cents");
      assert.deepEqual(
        take.slices.filter((s) => !s.keep).map((s) => s.doubt.split(":")[0]),
        ["it clipped", "it sounds like A4, but G4 was asked for"],
      );
      await station(page, "Cut");
      await page.getByRole("tab", { name: "Matrix" }).click();
      await page.getByText("nothing is missing").waitFor();
      // The matrix is walked by keys; Delete leaves out, and what is missing is said.
      await page.getByRole("button", { name: "C4 velocity layer 1 repeat 1" }).click();
      await page.keyboard.press("ArrowRight");
      await page.keyboard.press("Delete");
      await page.getByRole("grid").getByText("1 missing").waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "the room is recorded by a sweep and becomes an effect that rings on",
    alone: true,
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await page.getByRole("tab", { name: "Room" }).click();
      await page.getByRole("button", { name: "Play the sweep and record" }).click();
      await page.getByRole("button", { name: "Stop", exact: true }).waitFor();
      await page.getByRole("button", { name: "Record", exact: true }).waitFor({ timeout: 30000 });
      await page.getByRole("heading", { name: "sweep 5" }).waitFor();
      await page.getByRole("button", { name: "It holds the sweep" }).click();
      await notice(page, "is among the effects now").waitFor({ timeout: 30000 });
      const doc = await storedDocument(page);
      const [impulse] = doc.samples as { use: string; frames: number; rate: number; sha: string }[];
      assert.equal(impulse?.use, "impulse");
      near(
        (impulse?.frames ?? 0) / (impulse?.rate ?? 1),
        0.79,
        0.08,
        "length of the bench's room of 0.7 s, in seconds",
      );
      const room = (doc.effects as { kind: string; sample?: string }[]).find((e) => e.kind === "convolution");
      assert.equal(room?.sample, impulse?.sha);
      await station(page, "Sound");
      await page.getByRole("button", { name: "Convolution reverb" }).click();
      await page.getByRole("combobox", { name: "Impulse of the room" }).waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "slices are sorted by a list, split, merged, treated and renamed; a new cut updates the keys after asking",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openTake(page, world, "tuned things", 16, 0.9);
      await station(page, "Cut");
      await page.getByRole("button", { name: "Find sounds" }).click();
      await page.getByRole("button", { name: "Make 16 samples" }).waitFor();
      const list = page.getByRole("textbox", { name: "List of notes in order" });
      await list.fill("C3 D3 E3 F3 G3 A3 B3 ?3 x2");
      await page.keyboard.press("Enter");
      await page.getByText("“?3” is neither a note nor a name").waitFor();
      await list.fill("C3 D3 E3 F3 G3 A3 B3 C4 x2");
      await page.keyboard.press("Enter");
      await notice(page, "16 sounds sorted").waitFor();
      const sorted = (await takesOf(page)).at(-1)?.slices ?? [];
      assert.deepEqual(
        sorted.slice(0, 3).map((s) => [s.note ?? Math.round(s.pitch ?? 0), s.repeat]),
        [
          [48, 1],
          [48, 2],
          [50, 1],
        ],
      );

      // Names: a clash is told and mended.
      await page.getByRole("tab", { name: "Names" }).click();
      await page.getByRole("textbox", { name: "Name pattern" }).fill("{note}");
      await page.keyboard.press("Enter");
      await page.getByText("16 of 16 need mending").waitFor();
      await page.getByRole("textbox", { name: "Name pattern" }).fill("{take} {note} r{repeat}");
      await page.keyboard.press("Enter");
      await page.getByRole("list", { name: "Names" }).getByText("tuned things D3 r2").waitFor();

      // Parted where the wave was clicked, and made one again.
      await page.getByRole("tab", { name: "List" }).click();
      // By its length: a double press on what can be written writes.
      await page.getByRole("row").nth(1).getByRole("gridcell").nth(8).dblclick();
      await shownWide(page);
      const wave = page.getByRole("img", { name: /^Waveform of tuned things/ });
      const box = await wave.boundingBox();
      assert.ok(box);
      await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
      await page.getByRole("button", { name: "Split" }).click();
      await page.getByRole("button", { name: "Make 17 samples" }).waitFor();
      await page.getByRole("row").nth(1).click();
      await page
        .getByRole("row")
        .nth(2)
        .click({ modifiers: ["Shift"] });
      await page.getByRole("heading", { name: "2 slices" }).waitFor();
      await page.getByRole("button", { name: "Join", exact: true }).click();
      await page.getByRole("button", { name: "Make 16 samples" }).click();
      await page.getByRole("button", { name: "Place them on keys" }).click();
      await page.getByRole("heading", { name: "Keys × velocity" }).waitFor();
      const zonesOf = async () =>
        ((await storedDocument(page)).layers as { groups: { zones: { sample: string; end: number }[] }[] }[])[0]
          ?.groups[0]?.zones ?? [];
      const before = await zonesOf();
      assert.equal(before.length, 16);

      // Treated: all are stretched to twice their length, and the keys take the new cut only when asked to.
      await station(page, "Cut");
      await page.getByRole("row").nth(1).click();
      await page
        .getByRole("row")
        .nth(3)
        .click({ modifiers: ["Shift"] });
      await page.getByRole("combobox", { name: "Add a treatment" }).click();
      await page.getByRole("option", { name: "Stretch" }).click();
      await page.getByRole("textbox", { name: "Stretch length value" }).fill("2");
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "Make 16 samples" }).click();
      await page.getByRole("button", { name: "Update the keys" }).click();
      await notice(page, "3 samples in use now sound as they are cut here").waitFor();
      const after = await zonesOf();
      const longer = after.filter((z, i) => z.end > (before[i]?.end ?? 0) * 1.9 && z.sample !== before[i]?.sample);
      assert.equal(longer.length, 3, "three zones play a sample twice as long");
      assert.equal(after.filter((z, i) => z.sample === before[i]?.sample).length, 13);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "200 slices are written as WAV and as FLAC, and other programs read the same audio",
    run: async (world) => {
      const { page } = await arrive(world);
      await openTake(page, world, "two hundred", 200, 0.45);
      await station(page, "Cut");
      await page.getByRole("button", { name: "Find sounds" }).click();
      await page.getByRole("button", { name: "Make 200 samples" }).waitFor({ timeout: 60000 });
      const [take] = (await takesOf(page)).slice(-1);
      assert.ok(take);
      const { audio } = readSound(readFileSync(join(world.folder, "two hundred.wav")));
      for (const [format, depth] of [
        ["WAV, 24 bits", 24],
        ["FLAC, 16 bits, dithered", 16],
      ] as const) {
        await page.getByRole("button", { name: "Export files" }).click();
        await page.getByRole("combobox", { name: "Format" }).click();
        await page.getByRole("option", { name: format }).click();
        const [file] = await Promise.all([
          page.waitForEvent("download", { timeout: 60000 }),
          page.getByRole("button", { name: "As one zip" }).click(),
        ]);
        const path = join(world.folder, `slices-${depth}.zip`);
        await file.saveAs(path);
        const folder = join(world.folder, `slices-${depth}`);
        mkdirSync(folder);
        const names = Object.entries(unzipSync(readFileSync(path))).map(([name, bytes]) => {
          writeFileSync(join(folder, name), bytes);
          return join(folder, name);
        });
        assert.equal(names.length, 200);
        if (depth === 16) execFileSync("flac", ["--test", "--silent", ...names]);
        // One program of somebody else's joins them all; what it read is compared with what was cut.
        const raw = execFileSync("sox", [...names, "-t", "f32", "-"], { maxBuffer: 1e9 });
        const read = new Float32Array(raw.buffer, raw.byteOffset, raw.length / 4);
        let at = 0;
        let most = 0;
        for (const slice of take.slices as readonly Slice[]) {
          const [sound = new Float32Array(0)] = soundOfSlice(audio, take, slice).channels;
          for (let i = 0; i < sound.length; i++)
            most = Math.max(most, Math.abs((sound[i] as number) - (read[at + i] as number)));
          at += sound.length;
        }
        assert.equal(read.length, at, "as many frames as were cut");
        assert.ok(most < (depth === 24 ? 2 ** -23 : 2.6 * 2 ** -15), `${format}: off by ${most}`);
      }
    },
  },
  {
    name: "a take of 30 minutes is opened, zoomed to single samples and back, and searched anew by each threshold",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openTake(page, world, "half an hour", 900, 1.999);
      await station(page, "Cut");
      const picture = page.getByRole("img", { name: /^Waveform of half an hour/ });
      await picture.waitFor({ timeout: 60000 });
      const wave = await picture.boundingBox();
      assert.ok(wave);
      await page.mouse.move(wave.x + wave.width / 2, wave.y + wave.height / 2);
      await page.keyboard.down("Control");
      for (let i = 0; i < 55; i++) await page.mouse.wheel(0, -120);
      await page.keyboard.up("Control");
      // At single samples now: the window of them is fetched while it scrolls.
      for (let i = 0; i < 20; i++) await page.mouse.wheel(0, 240);
      await page.keyboard.down("Control");
      for (let i = 0; i < 60; i++) await page.mouse.wheel(0, 120);
      await page.keyboard.up("Control");
      const scale = page.getByRole("slider", { name: "Threshold", exact: true });
      const box = await scale.boundingBox();
      assert.ok(box);
      await page.mouse.move(box.x + box.width * 0.3, box.y + 10);
      await page.mouse.down();
      const all = page.getByText("900 sounds", { exact: true });
      // There and back: each place of the threshold has its own slices (how long that takes is the bench's, cut-speed).
      for (let round = 0; round < 2; round++) {
        await page.mouse.move(box.x + box.width * 0.32, box.y + 10);
        await all.waitFor({ timeout: 60000 });
        await page.mouse.move(box.x + box.width * 0.98, box.y + 10);
        await all.waitFor({ state: "detached" });
      }
      await page.mouse.up();
      assert.deepEqual(complaints, []);
    },
  },
];
