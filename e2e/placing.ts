import assert from "node:assert/strict";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { PitchFinder } from "../core/analysis";
import { hertzOf, seededRandom } from "../core/audio";
import { writeWav } from "../core/formats";
import { heard, listen, onsetOf, rateOf } from "./hearing";
import { arrive, near, notice, type Scenario, station, storedDocument, type World } from "./scenario";

const RATE = 44100;
const NAMES = ["C", "Cs", "D", "Ds", "E", "F", "Fs", "G", "Gs", "A", "As", "B"];
const STRENGTHS = ["p", "mf", "ff"];

/** A struck tube: a few partials that die away, the softer the duller. */
function tube(note: number, strength: number, random: () => number): Float32Array {
  const out = new Float32Array(RATE * 1.2);
  const gain = 10 ** ((-30 + strength * 11) / 20);
  for (let h = 1; h <= 6; h++) {
    const f = hertzOf(note) * h;
    const level = (gain * (1 + strength) ** (-(h - 1) * 0.2)) / h;
    const phase = random() * 6;
    for (let i = 0; i < out.length; i++)
      out[i] =
        (out[i] as number) + level * Math.exp((-i / RATE) * (3 + h)) * Math.sin(phase + (2 * Math.PI * f * i) / RATE);
  }
  return out;
}

/** Writes 54 samples in a folder, named by somebody whose middle C is C3; one is called A and sounds G sharp. */
function writeTubes(folder: string): void {
  const random = seededRandom(11);
  mkdirSync(folder, { recursive: true });
  for (let note = 48; note <= 72; note += 3)
    for (const [strength, word] of STRENGTHS.entries())
      for (let take = 1; take <= 2; take++) {
        const called = `${NAMES[note % 12]}${Math.floor(note / 12) - 2}`;
        const wrong = note === 57 && word === "ff" && take === 2;
        const path = join(folder, `old tube - take${take} - ${word} - ${called}.wav`);
        writeFileSync(path, writeWav({ rate: RATE, channels: [tube(wrong ? 56 : note, strength, random)] }, 16));
      }
}

/** Picks a folder, as its picker would. */
async function bringInFolder(page: Page, folder: string): Promise<void> {
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Bring in a folder" }).click(),
  ]);
  await chooser.setFiles(folder);
}

interface StoredZone {
  readonly root: number;
  readonly keyLow: number;
  readonly keyHigh: number;
  readonly velLow: number;
  readonly velHigh: number;
  readonly repeat: number;
}

const zonesOf = async (page: Page): Promise<readonly StoredZone[]> => {
  const { layers } = (await storedDocument(page)) as unknown as { layers: { groups: { zones: StoredZone[] }[] }[] };
  return layers.flatMap((l) => l.groups.flatMap((g) => g.zones));
};

/** A fresh instrument, without takes and samples. */
async function fresh(page: Page): Promise<void> {
  await page.getByRole("link", { name: "Library" }).click();
  await page.getByRole("button", { name: "New instrument" }).first().click();
  await station(page, "Map");
}

async function pitchOf(page: Page, key: string): Promise<number> {
  await listen(page, 0.4);
  await heard(page);
  await page.keyboard.down(key);
  await listen(page, 0.7);
  await page.keyboard.up(key);
  const { samples } = await heard(page);
  const from = onsetOf(samples);
  assert.ok(from >= 0, `${key} makes a sound`);
  const rate = await rateOf(page);
  return (
    new PitchFinder(rate, 32, 4200).find(samples, from, Math.min(samples.length, from + Math.round(rate * 0.5))).note ??
    0
  );
}

export const placing: readonly Scenario[] = [
  {
    name: "map: a folder of oddly named files is read, seen and heard, then placed in one step",
    alone: true,
    run: async (world: World) => {
      const folder = join(world.folder, "tubes");
      writeTubes(folder);
      writeFileSync(join(folder, "notes on the tubes.txt"), "not a sound");
      writeFileSync(join(folder, "broken.wav"), "RIFF");
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await fresh(page);
      await bringInFolder(page, folder);
      await notice(page, "54 samples of 56 files").waitFor({ timeout: 60000 });
      await notice(page, "2 files were not opened").waitFor();
      await page.getByText("54 to be placed · 1 doubt").waitFor();
      await page.getByText("loading", { exact: false }).waitFor({ state: "detached" });
      // What would be is heard before it is: D key of the middle octave is C.
      near(await pitchOf(page, "d"), 52, 0.3, "the E that the middle letter plays, before anything is placed");
      assert.equal((await zonesOf(page)).length, 0, "nothing is placed yet");
      await page.getByText("their C4 is our C5").waitFor();
      await page.getByText("it is called A3, but sounds G#3", { exact: false }).waitFor();
      if (process.env.VISE_SHOTS) await page.screenshot({ path: join(process.env.VISE_SHOTS, "placing.png") });
      // The sound is right about that one.
      await page.getByRole("button", { name: "Believe the sound" }).click();
      await page.getByText("the sound is believed").waitFor();
      await page.getByRole("button", { name: "Believe the name" }).click();
      await page.getByText("54 to be placed · 1 doubt").waitFor();
      // A piece is taken for something else, and back.
      await page.getByRole("button", { name: "p: velocity layer" }).first().click();
      await page.getByRole("dialog").getByRole("button", { name: "means nothing" }).click();
      await page.getByRole("button", { name: "p: means nothing" }).first().click();
      await page.getByRole("dialog").getByRole("button", { name: "velocity layer" }).click();
      await page.getByRole("button", { name: "p: velocity layer" }).first().waitFor();
      await page.getByRole("button", { name: "Place 54 samples" }).click();
      await notice(page, "54 samples placed").waitFor();
      const zones = await zonesOf(page);
      assert.equal(zones.length, 54);
      assert.deepEqual(
        [...new Set(zones.map((z) => z.root))].sort((a, b) => a - b),
        [48, 51, 54, 57, 60, 63, 66, 69, 72],
      );
      for (const zone of zones) {
        const layer = zones.filter((z) => z.root === zone.root && z.repeat === zone.repeat);
        assert.equal(layer.length, 3, "three strengths of each note and repeat");
        assert.ok(zone.keyLow <= zone.root && zone.keyHigh >= zone.root);
      }
      for (const [key, note] of [
        ["s", 50],
        ["d", 52],
        ["f", 53],
        ["h", 57],
      ] as const)
        near(await pitchOf(page, key), note, 0.3, `pitch of ${key}`);
      await page.keyboard.press("Control+z");
      assert.equal((await zonesOf(page)).length, 0, "one step back");
      await page.keyboard.press("Control+Shift+z");
      assert.equal((await zonesOf(page)).length, 54, "and on again");
      await page.reload();
      await page.getByRole("heading", { name: "Keys × velocity" }).waitFor();
      assert.equal((await zonesOf(page)).length, 54, "and there after a reload");
      assert.deepEqual(complaints, []);
    },
  },
];
