import assert from "node:assert/strict";
import type { Page } from "playwright-core";
import { heard, listen, onsetOf } from "./hearing";
import { arrive, command, openHarp, type Scenario, station, storedDocument, type World } from "./scenario";

interface Stored {
  readonly sets: readonly { readonly params: { readonly selected: number } }[];
  readonly layers: readonly {
    readonly id: string;
    readonly name: string;
    readonly groups: readonly {
      readonly name: string;
      readonly mark: string;
      readonly note: string;
      readonly settings: { readonly params: { readonly level: number; readonly pan: number } };
      readonly zones: readonly { readonly root: number; readonly mic: string | null; readonly gain: number }[];
    }[];
  }[];
}

const stored = async (page: Page): Promise<Stored> => (await storedDocument(page)) as unknown as Stored;
/** Layers with their groups and how many zones are in each. */
const shape = async (page: Page): Promise<string[]> =>
  (await stored(page)).layers.map((l) => `${l.name}: ${l.groups.map((g) => `${g.name} ${g.zones.length}`).join(", ")}`);

/** Drags something onto another in steps, as a hand does. */
async function dragOnto(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  for (let i = 1; i <= 12; i++)
    await page.mouse.move(from[0] + ((to[0] - from[0]) * i) / 12, from[1] + ((to[1] - from[1]) * i) / 12);
  await page.mouse.up();
}

const middle = async (page: Page, selector: string): Promise<[number, number]> => {
  const box = await page.locator(selector).boundingBox();
  assert.ok(box, selector);
  return [box.x + box.width / 2, box.y + Math.min(14, box.height / 2)];
};

async function sounds(page: Page, key: string): Promise<boolean> {
  await listen(page, 0.3);
  await heard(page);
  await page.keyboard.down(key);
  await listen(page, 0.5);
  await page.keyboard.up(key);
  const loud = onsetOf((await heard(page)).samples) >= 0;
  await page.keyboard.press("Escape");
  return loud;
}

/** The group of the second layer that is there from the start. */
const MAIN_OF_SECOND = '[data-outlined$="groups/main"]:not([data-outlined="layers/main/groups/main"])';

export const outline: readonly Scenario[] = [
  {
    name: "outline: a kit of groups, marked, noted, levelled and dragged; zones into groups, a set chosen by name, a microphone alone",
    run: async (world: World) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await station(page, "Map");
      const field = page.getByTestId("zone-field");
      await field.focus();
      await page.keyboard.press("Control+a");
      await command(page, "Make a kit: a group for each root");
      assert.deepEqual(await shape(page), ["Main: D3 6, F3 6, G3 6, A#3 6, D4 6, F4 6, A4 6, C5 6"]);
      // Mark, note, level and pan of one; levels of all stand in their rows.
      const row = (name: string) =>
        page.locator("[data-outlined]").filter({ has: page.getByText(name, { exact: true }) });
      await row("F3").getByRole("button", { name: "F3", exact: true }).click();
      await page.getByRole("combobox", { name: "Mark of the group" }).click();
      await page.getByRole("option", { name: "Teal" }).click();
      await page.getByRole("textbox", { name: "Note of the group" }).fill("rim of the front wheel");
      await page.getByRole("textbox", { name: "Level: F3 value" }).fill("-4,5");
      await page.keyboard.press("Enter");
      await page.getByRole("textbox", { name: "Pan: F3 value" }).fill("left 50");
      await page.keyboard.press("Enter");
      const f3 = (await stored(page)).layers[0]?.groups.find((g) => g.name === "F3");
      assert.deepEqual([f3?.mark, f3?.note, f3?.settings.params.level], ["teal", "rim of the front wheel", -4.5]);
      assert.ok(Number(f3?.settings.params.pan) < 0);
      // What a zone of it is made of, and given back to what it inherits.
      await page.getByRole("button", { name: "What can be done with F3" }).click();
      await page.getByRole("menuitem", { name: "Select its zones" }).click();
      await page.getByRole("heading", { name: "6 zones" }).waitFor();
      await page.getByRole("button", { name: "Reset level of group F3" }).click();
      assert.equal((await stored(page)).layers[0]?.groups.find((g) => g.name === "F3")?.settings.params.level, 0);
      await page.keyboard.press("Control+z");
      // A group to another layer, by hand; back by undo.
      await page.getByRole("tab", { name: "Outline" }).click();
      await page.getByRole("button", { name: "Levels" }).click();
      await page.getByRole("button", { name: "Add layer", exact: true }).click();
      const grip = (name: string) => `[data-outlined] [aria-label="Move ${name}"]`;
      await page.getByRole("button", { name: "Layer 2", exact: true }).click();
      await dragOnto(page, await middle(page, grip("C5")), await middle(page, MAIN_OF_SECOND));
      assert.deepEqual((await shape(page)).slice(1), ["Layer 2: Main 0, C5 6"]);
      // The same by the keyboard: it goes a place up.
      await page.locator(grip("A4")).focus();
      await page.keyboard.press("Space");
      await page.getByRole("status").getByText("A4: over A4.").waitFor();
      // What it can go over is measured in the frame behind that.
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
      await page.keyboard.press("ArrowUp");
      await page.getByRole("status").getByText("A4: over F4.").waitFor();
      await page.keyboard.press("Space");
      assert.match((await shape(page))[0] ?? "", /D4 6, A4 6, F4 6$/);
      await page.keyboard.press("Control+z");
      // Zones from the field onto a group; the keys that they passed on their way don't matter.
      const box = await field.boundingBox();
      assert.ok(box);
      const before = await stored(page);
      await page.mouse.click(box.x + 160, box.y + 60);
      const target = await middle(page, MAIN_OF_SECOND);
      await dragOnto(page, [box.x + 160, box.y + 60], target);
      const after = await stored(page);
      assert.equal(after.layers[1]?.groups.find((g) => g.name === "Main")?.zones.length, 3);
      const zones = (doc: Stored) =>
        doc.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => JSON.stringify(z)))).sort();
      assert.deepEqual(zones(after), zones(before), "they are as they were, but in another group");
      await page.keyboard.press("Control+z");
      assert.deepEqual(zones(await stored(page)), zones(before));
      // The selected zones, by what stands for them.
      await dragOnto(page, await middle(page, "text=3 selected zones"), await middle(page, MAIN_OF_SECOND));
      assert.match((await shape(page))[1] ?? "", /Main 3, C5 6/);
      await page.keyboard.press("Control+z");
      // Of a set one layer sounds: by name, and the next one.
      await page.getByRole("button", { name: "Add layer set" }).click();
      await page.getByRole("switch", { name: "Main" }).click();
      await page.getByRole("switch", { name: "Layer 2" }).click();
      assert.equal((await stored(page)).sets[0]?.params.selected, 1);
      await page.getByText("loading", { exact: false }).waitFor({ state: "detached" });
      assert.ok(await sounds(page, "d"), "the first layer's keys sound");
      await page.getByRole("button", { name: "Next layer of Set 1" }).click();
      assert.equal((await stored(page)).sets[0]?.params.selected, 2);
      let silent = false;
      for (let i = 0; i < 5 && !silent; i++) silent = !(await sounds(page, "d"));
      assert.ok(silent, "the other layer has none there");
      await page.getByRole("combobox", { name: "Layer of Set 1 that sounds" }).click();
      await page.getByRole("option", { name: "Main" }).click();
      assert.equal((await stored(page)).sets[0]?.params.selected, 1);
      // A microphone that has no zones, heard alone: nothing sounds, every station says so, and one press ends it.
      await page.getByRole("button", { name: "Add microphone" }).click();
      await page.getByRole("button", { name: "Solo: Mic 1" }).click();
      for (let i = 0, quiet = false; i < 5 && !quiet; i++) {
        quiet = !(await sounds(page, "d"));
        assert.ok(quiet || i < 4, "nothing is of that microphone");
      }
      await station(page, "Loop");
      await page.getByRole("button", { name: "1 soloed" }).click();
      assert.ok(await sounds(page, "d"), "and all sounds again");
      // All of it is there after a reload.
      const last = await stored(page);
      await page.reload();
      await page.getByRole("navigation", { name: "Stations" }).waitFor();
      assert.deepEqual(await stored(page), last);
      assert.deepEqual(complaints, []);
    },
  },
];
