import assert from "node:assert/strict";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { writeWav } from "../core/formats";
import { RATE, testBeat } from "../core/looping/test-sounds";
import { bringInFolder, freshMap } from "./mapped";
import { arrive, notice, openHarp, type Scenario, station, storedDocument, type World } from "./scenario";

interface StoredLoop {
  readonly start: number;
  readonly end: number;
  readonly flat: { readonly amount: number } | null;
}
interface StoredZone {
  readonly id: string;
  readonly sample: string;
  readonly start: number;
  readonly end: number;
  readonly loop: StoredLoop | null;
  readonly variants: readonly StoredLoop[];
  readonly variant: number;
  readonly oneShot: boolean;
}
const zonesOf = async (page: Page): Promise<readonly StoredZone[]> => {
  const { layers } = (await storedDocument(page)) as unknown as { layers: { groups: { zones: StoredZone[] }[] }[] };
  return layers.flatMap((l) => l.groups.flatMap((g) => g.zones));
};
const firstLooped = async (page: Page): Promise<StoredZone> => {
  const zone = (await zonesOf(page)).find((z) => z.loop);
  assert.ok(zone?.loop);
  return zone;
};
const well = (page: Page, name: string) => page.getByRole("textbox", { name, exact: true });
const type = async (page: Page, name: string, text: string): Promise<void> => {
  await well(page, name).fill(text);
  await page.keyboard.press("Enter");
};
const loopsOf = async (page: Page): Promise<(StoredLoop | null)[]> => {
  const { layers } = (await storedDocument(page)) as unknown as {
    layers: { groups: { zones: { loop: StoredLoop | null }[] }[] }[];
  };
  return layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => z.loop)));
};

export const looping: readonly Scenario[] = [
  {
    name: "loop: candidates are taken by press and by key, found for all zones, gone through worst first, and all taken back",
    run: async (world: World) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await station(page, "Loop");
      const candidate = (n: number) => page.getByRole("button", { name: new RegExp(`^Loop ${n}: score`) });
      await candidate(1).click();
      await page.getByRole("heading", { name: "Level over time" }).waitFor();
      assert.equal(await candidate(1).getAttribute("aria-pressed"), "true");
      await page.getByText("both sides of the joint are alike", { exact: false }).first().waitFor();
      const [first] = (await loopsOf(page)).filter((l) => l !== null);
      assert.ok(first && first.end > first.start);
      await page.keyboard.press("Alt+ArrowDown");
      await page.waitForFunction(
        () => document.querySelector('[aria-label^="Loop 2: score"]')?.getAttribute("aria-pressed") === "true",
      );
      await page.keyboard.press("Alt+1");
      await page.waitForFunction(
        () => document.querySelector('[aria-label^="Loop 1: score"]')?.getAttribute("aria-pressed") === "true",
      );
      assert.deepEqual(
        (await loopsOf(page)).filter((l) => l !== null),
        [first],
      );
      // On to the next zone and back, by keys.
      const zone = page.getByRole("combobox", { name: "Zone" });
      const name = await zone.textContent();
      await page.keyboard.press("Alt+n");
      await page.waitForFunction((was) => document.querySelector('[aria-label="Zone"]')?.textContent !== was, name);
      await page.keyboard.press("Alt+p");
      await candidate(1).waitFor();
      // By hand it is no candidate any more, and that is said.
      await page.getByRole("slider", { name: "Loop end" }).focus();
      await page.keyboard.press("ArrowLeft");
      await page.getByText("None of those that are found here", { exact: false }).waitFor();
      // For all others at once: given up on the way, nothing but what was found by then is there, and one step takes it back.
      await page.getByRole("button", { name: "Find for all" }).click();
      await page.getByRole("button", { name: "Cancel", exact: true }).click();
      await page.getByText("Finding loops for 47 zones").waitFor({ state: "detached" });
      const some = (await loopsOf(page)).filter((l) => l !== null).length;
      assert.ok(some < 48, `${some} loops by then`);
      if (some > 1) await page.keyboard.press("Control+z");
      assert.equal((await loopsOf(page)).filter((l) => l !== null).length, 1);
      await page.getByRole("button", { name: "Find for all" }).click();
      await notice(page, "47 loops found").waitFor({ timeout: 90000 });
      const all = await loopsOf(page);
      assert.equal(all.filter((l) => l !== null).length, 48);
      await page.getByText("worst first", { exact: false }).first().waitFor();
      await page.getByRole("combobox", { name: "Zone" }).click();
      const scores = (await page.getByRole("option").allTextContents()).flatMap((text) => {
        const score = /· (\d+)$/.exec(text)?.[1];
        return score === undefined ? [] : [Number(score)];
      });
      assert.equal(scores.length, 48, "that which was made by hand was judged too");
      assert.deepEqual(
        scores,
        [...scores].sort((a, b) => a - b),
      );
      await page.keyboard.press("Escape");
      await page.keyboard.press("Control+z");
      assert.equal((await loopsOf(page)).filter((l) => l !== null).length, 1, "one step takes all of them back");
      await page.keyboard.press("Control+Shift+z");
      assert.deepEqual(await loopsOf(page), all);
      await page.reload();
      await page.getByRole("navigation", { name: "Stations" }).waitFor();
      assert.deepEqual(await loopsOf(page), all);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "loop: kept even, undone in part, in any unit, one end alone, with variants; taken back and done again",
    run: async (world: World) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await station(page, "Loop");
      await page
        .getByRole("button", { name: /^Loop \d: score .* levelled out by/ })
        .first()
        .click();
      const even = await firstLooped(page);
      assert.equal(even.loop?.flat?.amount, 1);
      await type(page, "Amount of levelling out", "60 %");
      assert.equal((await firstLooped(page)).loop?.flat?.amount, 0.6);
      await page.getByRole("switch", { name: "Level out the loop" }).click();
      assert.equal((await firstLooped(page)).loop?.flat, null);
      await page.getByRole("switch", { name: "Level out the loop" }).click();
      await well(page, "Amount of levelling out").waitFor();
      // In periods, as they are shown; any unit is understood, what means nothing is marked.
      await page.getByRole("combobox", { name: "In what places and lengths are shown" }).click();
      await page.getByRole("option", { name: "periods" }).click();
      await type(page, "Loop length", "20");
      assert.match(await well(page, "Loop length").inputValue(), /^20(\.\d+)? periods$|^19\.99 periods$/);
      await type(page, "Loop length", "12000 samples");
      const long = await firstLooped(page);
      assert.equal((long.loop?.end ?? 0) - (long.loop?.start ?? 0), 12000);
      // Steps that follow one another faster than anything is drawn all count.
      await page.getByRole("combobox", { name: "In what places and lengths are shown" }).click();
      await page.getByRole("option", { name: "samples" }).click();
      await well(page, "Loop length").focus();
      for (let n = 0; n < 12; n++) await page.keyboard.press("ArrowUp");
      assert.equal(await well(page, "Loop length").inputValue(), "12012 smp");
      for (let n = 0; n < 12; n++) await page.keyboard.press("ArrowDown");
      assert.equal(await well(page, "Loop length").inputValue(), "12000 smp");
      await type(page, "Loop length", "3 apples");
      assert.equal(await well(page, "Loop length").getAttribute("aria-invalid"), "true");
      await page.keyboard.press("Escape");
      // One end goes on to where it fits, the other stays.
      const was = await well(page, "Loop length").inputValue();
      await page.getByRole("button", { name: "Loop end: next place that fits" }).click();
      await page.waitForFunction(
        (text) => (document.querySelector('[aria-label="Loop length"]') as HTMLInputElement).value !== text,
        was,
      );
      const moved = await firstLooped(page);
      assert.equal(moved.loop?.start, long.loop?.start);
      // A variant is kept, another is made, and they are switched.
      await page.getByRole("button", { name: "Keep this loop and try another" }).click();
      await type(page, "Loop length", "30 periods");
      const second = await firstLooped(page);
      assert.deepEqual([second.variants.length, second.variant], [2, 1]);
      await page.getByRole("button", { name: /^Variant 1:/ }).click();
      const first = await firstLooped(page);
      assert.deepEqual([first.loop?.end, first.variant], [moved.loop?.end, 0]);
      await page.getByRole("button", { name: /^Variant 2:/ }).click();
      assert.deepEqual((await firstLooped(page)).loop, second.loop);
      // Pluckier and softer, by one press each; a second takes it away.
      const mover = page.getByRole("button", { name: "velocity", exact: true });
      const routes = async () => ((await storedDocument(page)) as unknown as { routes: unknown[] }).routes.length;
      const before = await routes();
      await mover.click();
      assert.equal(await routes(), before + 1);
      await mover.click();
      assert.equal(await routes(), before);
      const last = await storedDocument(page);
      for (let n = 0; n < 16; n++) await page.keyboard.press("Control+z");
      assert.equal((await zonesOf(page)).filter((z) => z.loop).length, 0);
      for (let n = 0; n < 16; n++) await page.keyboard.press("Control+Shift+z");
      assert.deepEqual(await storedDocument(page), last);
      await page.reload();
      await page.getByRole("navigation", { name: "Stations" }).waitFor();
      assert.deepEqual(await storedDocument(page), last);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "loop: the beat of a sample is found, loops by whole bars, is sliced onto keys, and stretched to another tempo",
    run: async (world: World) => {
      const { page, complaints } = await arrive(world);
      const folder = join(world.folder, "beat");
      mkdirSync(folder, { recursive: true });
      writeFileSync(join(folder, "C3.wav"), writeWav({ rate: RATE, channels: [testBeat(3, 96, 4)] }, 16));
      await freshMap(page);
      await bringInFolder(page, folder);
      await page
        .getByRole("button", { name: /^Place 1/ })
        .first()
        .click();
      await page
        .getByRole("button", { name: /^Place/ })
        .last()
        .click();
      await station(page, "Loop");
      await page.getByRole("tab", { name: "Beat" }).click();
      await page.getByRole("button", { name: "Find the beat" }).click();
      await well(page, "Tempo of the sample").waitFor();
      assert.match(await well(page, "Tempo of the sample").inputValue(), /^(96|95\.99\d|96\.00\d) bpm$/);
      await page.getByRole("button", { name: "2", exact: true }).click();
      const { loop } = await firstLooped(page);
      assert.ok(loop && Math.abs(loop.end - loop.start - 8 * 0.625 * RATE) <= 0.005 * RATE);
      await page.getByRole("button", { name: "Slice to keys" }).click();
      await notice(page, "slices from C2 up").waitFor();
      const slices = (await zonesOf(page)).filter((z) => z.oneShot);
      assert.ok(slices.length >= 24, `${slices.length} slices`);
      await page.getByRole("combobox", { name: "Phrase" }).getByText("Slices in their order").waitFor();
      await type(page, "Tempo", "120");
      await page.getByRole("button", { name: "Stretch to 120 bpm" }).click();
      await notice(page, "It plays at 120 bpm now").waitFor();
      const zones = await zonesOf(page);
      const stretched = zones.find((z) => !z.oneShot);
      const bars = (stretched?.loop?.end ?? 0) - (stretched?.loop?.start ?? 0);
      assert.ok(Math.abs(bars - 8 * 0.5 * RATE) <= 0.005 * RATE, `${bars} frames`);
      await page.keyboard.press("Control+z");
      assert.deepEqual((await firstLooped(page)).loop, loop);
      assert.deepEqual(complaints, []);
    },
  },
];
