import assert from "node:assert/strict";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { hertzOf, seededRandom } from "../core/audio";
import { writeWav } from "../core/formats";
import { bringInFolder, freshMap, pitchOf, zonesOf } from "./mapped";
import { arrive, near, notice, openHarp, type Scenario, storedDocument, type World } from "./scenario";

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

/** A knock of noise that dies away; the tube among them rings at a pitch. */
function knock(name: string, strength: number, random: () => number): Float32Array {
  const gain = strength === 1 ? 0.05 : 0.4;
  const phase = random();
  return Float32Array.from({ length: RATE / 2 }, (_, i) => {
    const t = i / RATE;
    const ring = name === "tube" ? Math.sin(2 * Math.PI * 220 * t + phase) : random() * 2 - 1;
    return gain * ring * Math.exp(-t * (name === "tube" ? 6 : 30));
  });
}

/** Writes a kit of four sounds, two strengths and two repeats each, with its keys in front of the names. */
function writeKit(folder: string): void {
  const random = seededRandom(5);
  mkdirSync(folder, { recursive: true });
  for (const [name, key] of [
    ["stand", 36],
    ["bell cup", 38],
    ["tube", 41],
    ["rim", 45],
  ] as const)
    for (const strength of [1, 2])
      for (const repeat of [1, 2])
        writeFileSync(
          join(folder, `${key}_${name}_v${strength}_${repeat}.wav`),
          writeWav({ rate: RATE, channels: [knock(name, strength, random)] }, 16),
        );
}

export const placing: readonly Scenario[] = [
  {
    name: "map: a folder of a kit has a key and a group for each sound, the one that rings too; as notes where that is asked",
    run: async (world: World) => {
      const folder = join(world.folder, "bench kit");
      writeKit(folder);
      const { page, complaints } = await arrive(world);
      await freshMap(page);
      await bringInFolder(page, folder);
      await page.getByText("16 to be placed").waitFor();
      await page.getByText("4 sounds on a key each, C2 to A2; nothing is tuned").waitFor();
      await page.getByRole("combobox", { name: "What the samples are" }).click();
      await page.getByRole("option", { name: "Notes of one instrument" }).click();
      await page.getByRole("combobox", { name: "Keys between the roots" }).waitFor();
      await page.getByRole("combobox", { name: "What the samples are" }).click();
      await page.getByRole("option", { name: "A kit: a key for each sound" }).click();
      await page.getByRole("button", { name: "Place 16 samples" }).click();
      await notice(page, "A kit: 4 keys, one for each sound.").waitFor();
      const zones = await zonesOf(page);
      assert.equal(zones.length, 16);
      assert.deepEqual([...new Set(zones.map((z) => `${z.keyLow}–${z.keyHigh}`))].sort(), [
        "36–36",
        "38–38",
        "41–41",
        "45–45",
      ]);
      assert.equal(new Set(zones.map((z) => `${z.keyLow} ${z.velHigh} ${z.repeat}`)).size, 16);
      const { layers } = (await storedDocument(page)) as unknown as { layers: { groups: { name: string }[] }[] };
      assert.deepEqual(
        layers.flatMap((l) => l.groups.map((g) => g.name)),
        ["stand", "bell cup", "tube", "rim"],
      );
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "map: a folder of oddly named files is read, seen and heard, then placed in one step",
    run: async (world: World) => {
      const folder = join(world.folder, "tubes");
      writeTubes(folder);
      writeFileSync(join(folder, "notes on the tubes.txt"), "not a sound");
      writeFileSync(join(folder, "broken.wav"), "RIFF");
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await freshMap(page);
      await bringInFolder(page, folder);
      await notice(page, "54 samples of 56 files").waitFor({ timeout: 60000 });
      await notice(page, "2 files were not opened").waitFor();
      await page.getByText("54 to be placed · 1 warning").waitFor();
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
      await page.getByText("54 to be placed · 1 warning").waitFor();
      // A piece is taken for something else, and back.
      await page.getByRole("button", { name: "ff: velocity layer" }).first().click();
      await page.getByRole("dialog").getByRole("button", { name: "means nothing" }).click();
      await page.getByRole("button", { name: "ff: means nothing" }).first().click();
      await page.getByRole("dialog").getByRole("button", { name: "velocity layer" }).click();
      await page.getByRole("button", { name: "ff: velocity layer" }).first().waitFor();
      // The same by a pattern, which is saved; one that can't be read is told and changes nothing.
      const pattern = page.getByRole("textbox", { name: "Pattern of the names" });
      assert.equal(await pattern.inputValue(), "old tube - take{repeat} - {layer} - {note}");
      await pattern.fill("{nonsense}");
      await page.keyboard.press("Enter");
      await page.getByRole("alert").getByText("means nothing", { exact: false }).waitFor();
      await pattern.fill("*take{repeat} - {layer} - {note}");
      await page.keyboard.press("Enter");
      await page.getByText("54 to be placed · 1 warning").waitFor();
      await page.getByRole("button", { name: "Save the pattern" }).click();
      await page.getByRole("button", { name: "Saved 1" }).waitFor();
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
  {
    name: "map: what the check doubts is shown and repaired until nothing is left, one undo step each",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await page.getByRole("tab", { name: /^Check/ }).click();
      await page.getByText("No warnings", { exact: false }).waitFor();
      const before = await zonesOf(page);
      // The lowest notes go three keys down, and the highest are tuned to something else.
      await page.getByTestId("zone-field").focus();
      await page.keyboard.press("ArrowRight");
      for (let i = 0; i < 3; i++) await page.keyboard.press("Alt+ArrowLeft");
      await page.getByText("Velocities at which a key is silent").waitFor();
      await page.getByRole("tab", { name: "Zones" }).click();
      const field = page.getByRole("textbox", { name: "Tuning", exact: true });
      await field.fill("80");
      await page.keyboard.press("Enter");
      await page.getByRole("tab", { name: /^Check/ }).click();
      await page.getByText("Roots off the measured pitch").waitFor();
      await page.getByRole("button", { name: "Show and hear" }).first().click();
      for (let round = 0; round < 6; round++) {
        const all = page.getByRole("button", { name: "Repair all", exact: true });
        const one = page.getByTestId("map-check").locator("li button.text-cobalt\\!").first();
        if (await page.getByText("No warnings", { exact: false }).isVisible()) break;
        const count = await page.getByTestId("map-check").locator("li").count();
        if (await all.isVisible()) await all.click();
        else await one.click();
        await page.waitForFunction((n) => document.querySelectorAll("[data-testid=map-check] li").length !== n, count);
      }
      await page.getByText("No warnings", { exact: false }).waitFor();
      assert.equal((await zonesOf(page)).length, before.length);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "map: the pool is searched, samples renamed, heard, dragged onto keys, removed and brought back",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await page.getByRole("tab", { name: /^Pool/ }).click();
      const table = page.getByRole("grid", { name: "Samples" });
      await page.getByRole("searchbox", { name: "Search the samples" }).fill("d4");
      await page.getByText("6 of 48 samples").waitFor();
      const row = table.locator("[role=row][data-item]").first();
      await row.getByRole("gridcell").nth(1).click();
      await page.keyboard.press("F2");
      await page.getByRole("textbox", { name: "Name of spokes-D4-" }).fill("the D that rings, 4");
      await page.keyboard.press("Enter");
      const renamed = table.locator("[role=row][data-item]", { hasText: "the D that rings, 4" });
      await renamed.waitFor();
      const zones = (await zonesOf(page)).length;
      await renamed.dragTo(page.getByTestId("zone-field"), { targetPosition: { x: 100, y: 200 } });
      await page.getByRole("status").getByText("1 sample from").waitFor();
      const laid = await zonesOf(page);
      assert.equal(laid.length, zones + 1);
      const last = laid.find((z) => z.keyLow === z.keyHigh);
      assert.ok(last && last.root === last.keyLow, "it sounds as it is on the key where it was dropped");
      // Laid otherwise, as often as one likes, it stays one step.
      await page.getByRole("combobox", { name: "Which keys they take" }).click();
      await page.getByRole("option", { name: "every octave" }).click();
      await page.getByRole("switch", { name: "and those between" }).click();
      const wide = (await zonesOf(page)).filter((z) => z.root === last.root && z.keyLow === last.keyLow);
      assert.ok(wide.some((z) => z.keyHigh - z.keyLow === 11));
      await page.getByRole("combobox", { name: "Where the samples go" }).click();
      await page.getByRole("option", { name: "into the zone, as repeats" }).click();
      assert.ok((await zonesOf(page)).some((z) => z.repeat === 4));
      await page.keyboard.press("Control+z");
      assert.equal((await zonesOf(page)).length, zones, "one step");
      await page.getByRole("region", { name: "How they were laid" }).waitFor({ state: "detached" });
      await page.keyboard.press("Control+Shift+z");
      await page.getByRole("tab", { name: /^Pool/ }).click();
      await page.getByRole("searchbox", { name: "Search the samples" }).fill("rings");
      await page.getByText("1 of 48 samples").waitFor();
      await renamed.click({ button: "right" });
      await page.getByRole("menuitem", { name: "Remove from the instrument" }).click();
      await notice(page, "1 sample removed, and 2 zones with them").waitFor();
      await page.keyboard.press("Control+z");
      assert.equal((await zonesOf(page)).length, zones + 1);
      assert.deepEqual(complaints, []);
    },
  },
];
