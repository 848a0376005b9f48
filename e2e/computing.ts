import assert from "node:assert/strict";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { hertzOf } from "../core/audio";
import { writeWav } from "../core/formats";
import { RATE } from "../demo/room";
import { recordTap } from "../demo/tap";
import { heard, levelOf, onsetOf, rateOf, untilHeard, untilQuiet } from "./hearing";
import { bringInFolder, freshMap } from "./mapped";
import { arrive, notice, type Scenario, station, storedDocument } from "./scenario";

interface Stored {
  readonly layers: readonly {
    readonly source: { readonly kind: string; readonly params: Readonly<Record<string, number | string>> };
    readonly stages: readonly {
      readonly kind: string;
      readonly table?: readonly { readonly ratio: number; readonly level: number }[];
    }[];
  }[];
  readonly routes: readonly { readonly source: string; readonly target: string }[];
}
const stored = async (page: Page) => (await storedDocument(page)) as unknown as Stored;
const typed = async (page: Page, field: string, text: string) => {
  await page.getByRole("textbox", { name: field, exact: true }).fill(text);
  await page.keyboard.press("Enter");
};

/** What a key makes after its beginning, as loud as it may be. Where the machine was too busy to hear all of it, it is played again. */
async function played(page: Page, key: string, seconds = 0.7): Promise<Float32Array> {
  const rate = await rateOf(page);
  for (let tries = 0; tries < 5; tries++) {
    await page.getByRole("main").focus();
    await untilQuiet(page);
    await heard(page);
    await page.keyboard.down(key);
    await untilHeard(page, seconds + 0.1);
    await page.keyboard.up(key);
    const { samples, gaps } = await heard(page);
    if (gaps > 0) continue;
    const from = onsetOf(samples, 1e-3);
    return samples.subarray(from + Math.round(0.2 * rate), from + Math.round(seconds * rate));
  }
  throw new Error(`of five times that ${key} was played none was heard without gaps`);
}

/** Gives the open layer another source. */
async function sourceOf(page: Page, now: string, next: string): Promise<void> {
  await page.getByRole("button", { name: now, exact: true }).first().click();
  await page.getByRole("combobox", { name: "Source" }).click();
  await page.getByRole("option", { name: next, exact: true }).click();
  await page.locator('[data-unit$="/source"][aria-pressed="true"]', { hasText: next }).waitFor();
}

async function addLayer(page: Page, word: string, name: string): Promise<void> {
  await page.getByRole("button", { name: "Add a layer", exact: true }).click();
  await page.getByPlaceholder("find by what it does").fill(word);
  await page.keyboard.press("Enter");
  await page.getByRole("region", { name, exact: true }).waitFor();
}

/** Names the layer of the open unit. */
const named = (page: Page, name: string) => typed(page, "Name of the layer", name);

/** Draws a line from a layer's dot to another in the picture of links. */
async function lead(page: Page, from: string, to: string): Promise<void> {
  const boxOf = async (name: string) => {
    const box = await page.locator("[data-entry]", { hasText: name }).boundingBox();
    assert.ok(box, `${name} stands in the picture`);
    return box;
  };
  const [a, b] = [await boxOf(from), await boxOf(to)];
  await page.mouse.move(a.x + a.width, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(b.x + 30, b.y + b.height / 2, { steps: 8 });
  await page.mouse.up();
}

/** Computed sound, built through the interface from an empty instrument. */
export const computing: readonly Scenario[] = [
  {
    name: "a frame from nothing: a strike drives what was found in a recorded tap; columns drawn and dragged; settings saved; what sounds is what was found",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await freshMap(page);
      const folder = join(world.folder, "taps");
      mkdirSync(folder);
      writeFileSync(join(folder, "tap D3.wav"), writeWav({ rate: RATE, channels: [recordTap()] }, 16));
      await bringInFolder(page, folder);
      await page.getByRole("button", { name: "Not now" }).click();

      // The source, and a body behind it.
      await station(page, "Sound");
      await page.getByRole("button", { name: "Samples", exact: true }).click();
      await page.getByRole("combobox", { name: "Source" }).click();
      await page.getByRole("option", { name: "Strike" }).click();
      await page
        .getByRole("region", { name: "Strike", exact: true })
        .waitFor()
        .catch(() => page.getByRole("region").last().waitFor());
      await page.getByRole("button", { name: "Preset", exact: true }).click();
      await page.getByRole("menuitem", { name: "Steel spanner" }).click();
      assert.equal((await stored(page)).layers[0]?.source.params.noiseLength, 0.004);
      await page.getByRole("button", { name: "Add to the voices of Main", exact: true }).click();
      await page.getByPlaceholder("find by what it does").fill("modal");
      await page.keyboard.press("Enter");
      await page.getByRole("region", { name: "Resonator", exact: true }).waitFor();

      // What rings in the tap: counted live, heard before it is taken.
      await page.getByRole("combobox", { name: "Modes from a sample" }).click();
      await page.getByRole("option", { name: /tap/ }).click();
      const count = page.getByText(/^\d+ of \d+ modes$/);
      await count.waitFor();
      const all = Number((await count.textContent())?.split(" ")[0]);
      assert.ok(all >= 9, `${all} modes found`);
      await typed(page, "Softest that is taken value", "-8,5 dB");
      const few = Number((await count.textContent())?.split(" ")[0]);
      assert.ok(few < all && few > 2, `${few} of them are louder`);
      await typed(page, "Softest that is taken value", "-60");
      await page.getByRole("button", { name: "Take", exact: true }).click();
      await notice(page, /modes taken from/).waitFor();
      const modes = (await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table ?? [];
      // What the ratio 1 is comes from the sample's measured pitch: between two modes that are six cents apart.
      const first = modes[0]?.ratio ?? 0;
      assert.ok(Math.abs(1200 * Math.log2(first)) < 12, `the lowest is the key: ${first}`);
      for (const ratio of [2.757, 5.404])
        assert.ok(
          modes.some((m) => Math.abs(1200 * Math.log2(m.ratio / first / ratio)) < 2),
          `a mode at ${ratio}`,
        );
      await typed(page, "Resonator level value", "24");

      // Only they sound, at the key that was hit, and another key moves them all.
      const rate = await rateOf(page);
      const strike = async (key: string, note: number) => {
        await page.getByRole("main").focus();
        await untilQuiet(page);
        await heard(page);
        await page.keyboard.down(key);
        await untilHeard(page, 0.9);
        await page.keyboard.up(key);
        const { samples } = await heard(page);
        const from = onsetOf(samples, 1e-3);
        const part = samples.subarray(from + 2000, from + 2000 + rate / 2);
        const lowest = hertzOf(note) * first;
        return [1, 2.757, 1.7].map((ratio) => levelOf(part, rate, lowest * ratio));
      };
      const [lowest = 0, second = 0, between = 0] = await strike("d", 52);
      assert.ok(
        lowest > between + 25 && second > between + 15,
        `modes ring: ${lowest}, ${second}, not between: ${between}`,
      );

      // A stroke across draws levels; one undo takes all of it back. Then one column is moved by velocity.
      const columns = page.getByRole("slider", { name: /^Columns of modes/ });
      const box = await columns.boundingBox();
      assert.ok(box);
      await page.mouse.move(box.x + box.width * 0.46, box.y + box.height * 0.45);
      await page.mouse.down();
      await page.mouse.move(box.x + box.width * 0.98, box.y + box.height * 0.45, { steps: 12 });
      await page.mouse.up();
      const drawn = (await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table ?? [];
      const above = drawn.filter((m) => m.ratio > 6);
      assert.ok(
        above.length > 2 && above.every((m) => Math.abs(m.level - (above[0]?.level ?? 0)) < 0.5),
        "a straight stroke",
      );
      await page.keyboard.press("Control+z");
      assert.deepEqual((await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table, modes);
      await columns.focus();
      await page.keyboard.press("ArrowRight");
      await page.getByRole("button", { name: "Move it by", exact: true }).click();
      await page.getByRole("menuitem", { name: "Ratio by Velocity" }).click();
      assert.ok(
        (await stored(page)).routes.some((r) => /\/rows\/\d+\/ratio$/.test(r.target) && r.source === "velocity"),
      );

      // Saved under its name it is among the presets of all resonators, also after a reload.
      await typed(page, "Name of the unit", "My frame");
      await page.getByRole("button", { name: "Preset", exact: true }).click();
      await page.getByRole("menuitem", { name: "Save as “My frame”" }).click();
      await notice(page, /among the presets/).waitFor();
      await page.getByText("saved", { exact: true }).waitFor();
      await page.reload();
      await page.getByRole("region", { name: "My frame", exact: true }).waitFor();
      await page.getByRole("button", { name: "Preset", exact: true }).click();
      await page.getByRole("menuitem", { name: "Cast bell" }).click();
      assert.equal((await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table?.length, 12);
      await page.getByRole("button", { name: "Preset", exact: true }).click();
      await page.getByRole("menuitem", { name: "My frame (saved)" }).click();
      assert.equal(
        (await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table?.length,
        modes.length,
      );
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "a tube choir from nothing: impulses ring in a tube, partials below, low keys of another kind, places by key, a level on the face",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await freshMap(page);
      await station(page, "Sound");
      await sourceOf(page, "Samples", "Impulses");
      await named(page, "Tubes");
      await page.getByRole("button", { name: "Add to the voices of Tubes", exact: true }).click();
      await page.getByPlaceholder("find by what it does").fill("modal");
      await page.keyboard.press("Enter");
      await page.getByRole("region", { name: "Resonator", exact: true }).waitFor();
      await page.getByRole("button", { name: "Preset", exact: true }).click();
      await page.getByRole("menuitem", { name: "Tube, closed at one end" }).click();
      await page.getByRole("button", { name: "Add to the voices of Tubes", exact: true }).click();
      await page.getByPlaceholder("find by what it does").fill("pan by key");
      await page.keyboard.press("Enter");
      await page.getByRole("region", { name: "Pan by key", exact: true }).waitFor();

      // Partials below: one alone, an octave down; locked it stays whatever is done with all.
      await addLayer(page, "additive", "Partials");
      await named(page, "Below");
      await page.getByRole("button", { name: "List", exact: true }).click();
      await typed(page, "Ratio of partial 1", "0,5");
      await page.getByRole("button", { name: "Lock partial 1", exact: true }).click();
      await page.getByRole("button", { name: "Shape", exact: true }).click();
      await page.getByRole("menuitem", { name: "Duller by 3 dB an octave" }).click();
      const rows = (await storedDocument(page)) as unknown as {
        layers: { source: { table?: { ratio: number; level: number; locked: number }[] } }[];
      };
      const [lowest, second] = rows.layers[1]?.source.table ?? [];
      assert.deepEqual([lowest?.ratio, lowest?.level, lowest?.locked], [0.5, 0, 1], "what is locked stays");
      assert.ok((second?.level ?? 0) < -6.1, "the others are duller");

      // The low keys are of another kind.
      await addLayer(page, "waveforms", "Oscillator");
      await named(page, "Thick");
      await station(page, "Map");
      await page.getByRole("tab", { name: "List" }).click();
      const zone = async (n: number, field: string, text: string) => {
        await page.getByText("computed").nth(n).click();
        await typed(page, field, text);
      };
      await zone(0, "Lowest key", "C3");
      await zone(1, "Lowest key", "C3");
      await zone(2, "Highest key", "B2");

      const rate = await rateOf(page);
      const high = await played(page, "d");
      const at = (x: Float32Array, hertz: number) => levelOf(x, rate, hertz);
      const key = hertzOf(52);
      assert.ok(at(high, key / 2) > -50, `the partial below sounds: ${at(high, key / 2)}`);
      // A tube that is closed at one end has the odd ones.
      assert.ok(at(high, 3 * key) > at(high, 2 * key) + 6, `odd: ${at(high, 3 * key)}, even: ${at(high, 2 * key)}`);
      await page.keyboard.press("PageDown");
      const low = await played(page, "d");
      await page.keyboard.press("PageUp");
      assert.ok(at(low, key / 4) < at(low, key / 2) - 40, "no partial below the low keys");
      // A saw falls by 6 dB an octave.
      const fall = at(low, key / 2) - at(low, key);
      assert.ok(Math.abs(fall - 6) < 2, `a simple wave: ${fall} dB to the octave`);

      // A dial moves the level of what is below.
      await station(page, "Face");
      await page.getByRole("button", { name: "+ Control" }).click();
      await page.getByRole("menuitem", { name: "Dial", exact: true }).click();
      await page.getByRole("combobox", { name: "Bound to" }).click();
      await page.getByRole("option", { name: "Below: Layer level", exact: true }).click();
      await page.getByRole("switch", { name: "Try it" }).click();
      const dial = page.getByRole("slider", { name: "Below" });
      await dial.focus();
      await page.keyboard.press("Home");
      const without = await played(page, "d");
      assert.ok(at(without, key / 2) < at(high, key / 2) - 20, "turned down it is gone");
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "a bearing hum from nothing: noise moves a sine that moves another, drawn as lines; a ring is refused; cut and taken back it sounds as before",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await freshMap(page);
      await station(page, "Sound");
      await sourceOf(page, "Samples", "Oscillator");
      await named(page, "Axle");
      const sine = async () => {
        await page.getByRole("combobox", { name: /wave$/i }).first().click();
        await page.getByRole("option", { name: "Sine", exact: true }).click();
      };
      await sine();
      await addLayer(page, "waveforms", "Oscillator");
      await named(page, "Race");
      await sine();
      await addLayer(page, "hiss", "Noise");
      await named(page, "Balls");
      await page.getByRole("button", { name: "Layer routing", exact: true }).click();
      await page.getByText("Draw a line from a layer’s dot").waitFor();
      const rate = await rateOf(page);
      const key = hertzOf(52);
      const second = async () => {
        const x = await played(page, "d");
        return levelOf(x, rate, 2 * key) - levelOf(x, rate, key);
      };
      for (const layer of ["Race", "Balls"]) await page.getByRole("button", { name: `Mute ${layer}` }).click();
      const plain = await second();
      assert.ok(plain < -50, `a sine alone has no second harmonic: ${plain}`);

      await lead(page, "Race", "Axle");
      await page.getByRole("menuitem", { name: "Move the phase of its Oscillator" }).click();
      await typed(page, "Phase modulation of Oscillator", "0,4");
      const moved = await second();
      assert.ok(moved > -25, `moved by another it has one: ${moved}`);
      await lead(page, "Balls", "Race");
      await page.getByRole("menuitem", { name: "Move the phase of its Oscillator" }).click();
      // What feeds can't be fed by it.
      await lead(page, "Axle", "Balls");
      await notice(page, "it would be a feedback loop").waitFor();
      const links = async () =>
        ((await storedDocument(page)) as unknown as { layers: { source: { from?: string } }[] }).layers.map(
          (l) => l.source.from !== undefined,
        );
      assert.deepEqual(await links(), [true, true, false]);
      const rough = async () => {
        const x = await played(page, "d");
        const between = [1.13, 1.31, 1.44, 1.57, 1.69, 2.23, 2.41, 2.63].map((n) => levelOf(x, rate, key * n));
        return between.reduce((a, b) => a + b, 0) / between.length - levelOf(x, rate, key);
      };
      await page.getByRole("textbox", { name: "Phase modulation of Oscillator" }).last().fill("4");
      await page.keyboard.press("Enter");
      const noisy = await rough();
      await page.getByRole("button", { name: "Take the line into Oscillator away" }).last().click();
      await page.getByRole("button", { name: "Take the line into Oscillator away" }).last().click();
      assert.deepEqual(await links(), [false, false, false]);
      const clean = await rough();
      assert.ok(clean < noisy - 15, `between the harmonics: ${noisy}, without the noise ${clean}`);
      await page.keyboard.press("Control+z");
      await page.keyboard.press("Control+z");
      assert.deepEqual(await links(), [true, true, false]);
      await page.getByText("saved", { exact: true }).waitFor();
      await page.reload();
      await page.locator('[data-unit$="/source"]').first().waitFor();
      assert.deepEqual(await links(), [true, true, false], "the same after a reload");
      assert.deepEqual(complaints, []);
    },
  },
];
