import assert from "node:assert/strict";
import type { Page } from "playwright-core";
import { PitchFinder } from "../core/analysis";
import { heard, listen, onsetOf, rateOf } from "./hearing";
import { station, storedDocument } from "./scenario";

/** Picks a folder, as its picker would. */
export async function bringInFolder(page: Page, folder: string): Promise<void> {
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Import a folder" }).click(),
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

/** The zones as they are stored. */
export const zonesOf = async (page: Page): Promise<readonly StoredZone[]> => {
  const { layers } = (await storedDocument(page)) as unknown as { layers: { groups: { zones: StoredZone[] }[] }[] };
  return layers.flatMap((l) => l.groups.flatMap((g) => g.zones));
};

/** The zones that are stored once they are as they are expected to be. */
export async function zonesOnce(
  page: Page,
  expected: (zones: readonly StoredZone[]) => boolean,
): Promise<readonly StoredZone[]> {
  // Looked at frame after frame of the page, for as many as a slow machine draws in a minute.
  for (let frame = 0; ; frame++) {
    const zones = await zonesOf(page);
    if (expected(zones) || frame > 1000) return zones;
    await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(drawn)));
  }
}

/** The Map of a fresh instrument, without takes and samples. */
export async function freshMap(page: Page): Promise<void> {
  await page.getByRole("link", { name: "Library" }).click();
  await page.getByRole("button", { name: "New instrument" }).first().click();
  await page
    .getByRole("navigation", { name: "Stations" })
    .locator('[aria-current="page"]', { hasText: "Take" })
    .waitFor();
  await station(page, "Map");
}

/** The pitch that a key of the computer makes. */
export async function pitchOf(page: Page, key: string): Promise<number> {
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
