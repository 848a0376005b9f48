import assert from "node:assert/strict";
import type { Page } from "playwright-core";
import { arrive, notice, openHarp, type Scenario, station, storedDocument, type World } from "./scenario";

interface StoredLoop {
  readonly start: number;
  readonly end: number;
}
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
      await page.getByRole("heading", { name: "Unrolled" }).waitFor();
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
      // By hand it is no candidate any more, and that is said.
      await page.getByRole("slider", { name: "Loop end" }).focus();
      await page.keyboard.press("ArrowLeft");
      await page.getByText("Made by hand", { exact: false }).waitFor();
      // For all others at once.
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
      assert.equal(scores.length, 47);
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
];
