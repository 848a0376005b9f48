import assert from "node:assert/strict";
import type { Page } from "playwright-core";
import { heard, listen, onsetOf } from "./hearing";
import { zonesOf } from "./mapped";
import { arrive, command, current, notice, openHarp, type Scenario, station, type World } from "./scenario";

/** Drags over the field in steps, as a hand does; with a key of the keyboard held if one is given. */
async function drag(
  page: Page,
  from: [number, number],
  by: [number, number],
  held: string | null = null,
): Promise<void> {
  await page.mouse.move(...from);
  if (held) await page.keyboard.down(held);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(from[0] + (by[0] * i) / 8, from[1] + (by[1] * i) / 8);
  await page.mouse.up();
  if (held) await page.keyboard.up(held);
}

const undo = async (page: Page): Promise<void> => {
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
};

/** Whether a key makes a sound. */
async function sounds(page: Page, key: string): Promise<boolean> {
  // What rang before has died away.
  let quiet = false;
  for (let i = 0; i < 100 && !quiet; i++) {
    await listen(page, 0.2);
    const { samples } = await heard(page);
    quiet = samples.length > 4800 && samples.slice(-4800).every((x) => Math.abs(x) < 2e-4);
  }
  assert.ok(quiet, "it is quiet before a key is pressed");
  await page.keyboard.down(key);
  await listen(page, 0.5);
  await page.keyboard.up(key);
  return onsetOf((await heard(page)).samples) >= 0;
}

export const fieldEditing: readonly Scenario[] = [
  {
    name: "field: shared boundaries, boxes, columns, fades, rules and numbers of several zones, by hand",
    run: async (world: World) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await station(page, "Map");
      const before = await zonesOf(page);
      const box = await page.getByTestId("zone-field").boundingBox();
      assert.ok(box);
      const key = box.width / 41;
      const x = (k: number) => box.x + (k - 41) * key;
      const ranges = async (root: number, hard: boolean) =>
        (await zonesOf(page))
          .filter((z) => z.root === root && (z.velHigh === 127) === hard)
          .map((z) => `${z.keyLow}–${z.keyHigh}`);
      // The boundary between the soft D3 and F3: both sides move, and what is read tells so.
      const edge = before.find((z) => z.root === 50 && z.velHigh < 127)?.keyHigh ?? 0;
      await page.mouse.move(x(edge + 1) - 3, box.y + 420);
      await page.mouse.down();
      for (let i = 1; i <= 6; i++) await page.mouse.move(x(edge + 1) - 3 + (2 * key * i) / 6, box.y + 420);
      await page.getByRole("status").getByText("the neighbours too", { exact: false }).waitFor();
      await page.mouse.up();
      assert.equal((await ranges(50, false))[0]?.split("–")[1], String(edge + 2));
      assert.equal((await ranges(53, false))[0]?.split("–")[0], String(edge + 3));
      assert.equal((await ranges(50, true))[0]?.split("–")[1], String(edge), "the other layer stays");
      await undo(page);
      assert.deepEqual(await zonesOf(page), before, "one drag, one step");
      await drag(page, [x(edge + 1) - 3, box.y + 420], [2 * key, 0], "Alt");
      assert.equal((await ranges(53, false))[0]?.split("–")[0], String(edge + 1), "with Alt the neighbour stays");
      await undo(page);
      // A body with its roots; a box; a column by the name of its key.
      await drag(page, [x(62.5), box.y + 80], [key * 2, 0], "Alt");
      assert.equal((await zonesOf(page)).filter((z) => z.root === 64).length, 3, "the roots went along");
      await undo(page);
      await drag(page, [box.x + 6, box.y + 200], [x(55) - box.x, 150]);
      const heading = page
        .getByRole("heading", { level: 2 })
        .filter({ hasText: /zones$/ })
        .first();
      const boxed = Number.parseInt((await heading.textContent()) ?? "", 10);
      assert.ok(boxed >= 12 && boxed % 6 === 0, `whole columns of both layers are in the box, not ${boxed}`);
      await page.mouse.click(x(62.5), box.y + 6);
      await page.getByRole("heading", { name: "6 zones" }).waitFor();
      // Numbers of several at once.
      const level = page.getByRole("textbox", { name: "Zone level" });
      await level.fill("+3");
      await page.keyboard.press("Enter");
      await level.fill("×0,5");
      await page.keyboard.press("Enter");
      assert.deepEqual(
        [
          ...new Set(
            ((await zonesOf(page)) as unknown as { root: number; gain: number }[])
              .filter((z) => z.root === 62)
              .map((z) => z.gain),
          ),
        ],
        [1.5],
      );
      await page.getByRole("textbox", { name: "Tuning" }).fill("loud");
      await page.keyboard.press("Enter");
      assert.equal(await page.getByRole("textbox", { name: "Tuning" }).getAttribute("aria-invalid"), "true");
      await page.keyboard.press("Escape");
      // Velocity layers fade into one another, and are parted again.
      await command(page, "Fade velocity layers into one another");
      const faded = (await zonesOf(page)).filter((z) => z.root === 62);
      const [soft, hard] = [faded.find((z) => z.velLow === 1), faded.find((z) => z.velHigh === 127)];
      assert.equal((soft?.velHigh ?? 0) - (hard?.velLow ?? 0), 15, "sixteen velocities in which both sound");
      await command(page, "Part what fades into one another");
      const parted = (await zonesOf(page)).filter((z) => z.root === 62).map((z) => `${z.velLow}–${z.velHigh}`);
      assert.deepEqual(
        [...new Set(parted)].sort(),
        [...new Set(before.filter((z) => z.root === 62).map((z) => `${z.velLow}–${z.velHigh}`))].sort(),
      );
      // By rule, and by what is alike.
      await page.getByRole("button", { name: "Select", exact: true }).click();
      await page.getByRole("combobox", { name: "What is looked at" }).click();
      await page.getByRole("option", { name: "velocity layer" }).click();
      await page.getByRole("combobox", { name: "How it is compared" }).click();
      await page.getByRole("option", { name: "is", exact: true }).click();
      await page.getByRole("button", { name: "Select 24 zones" }).click();
      await page.getByRole("heading", { name: "24 zones" }).waitFor();
      await page.getByRole("button", { name: "Select", exact: true }).click();
      await page.getByRole("button", { name: "Select all others" }).click();
      await page.getByRole("heading", { name: "24 zones" }).waitFor();
      // A group that is muted isn't heard, and nothing of that is in the document.
      await page.mouse.click(box.x + 6, box.y + 300);
      await page.getByText("loading", { exact: false }).waitFor({ state: "detached" });
      assert.ok(await sounds(page, "d"), "a key sounds");
      const saved = JSON.stringify(await zonesOf(page));
      await page.getByRole("tab", { name: "Outline" }).click();
      await page.getByRole("button", { name: "Mute: Main" }).click();
      // The engine takes it over with the next blocks; on a busy machine a key can be faster.
      let silent = false;
      for (let i = 0; i < 5 && !silent; i++) silent = !(await sounds(page, "d"));
      assert.ok(silent, "muted, it doesn't");
      // What is handed over is whole, and it is said that it isn't what one hears.
      await station(page, "Ship");
      await page.getByText("You hear only part of it just now (1 muted)").waitFor();
      await page.getByRole("button", { name: "Hear all of it" }).click();
      await page.getByText("You hear only part of it").waitFor({ state: "detached" });
      await station(page, "Map");
      assert.ok(await sounds(page, "d"), "and sounds again");
      assert.equal(JSON.stringify(await zonesOf(page)), saved);
      await page.getByRole("button", { name: "Lock: Main" }).click();
      await drag(page, [x(62.5), box.y + 80], [key * 2, 0]);
      assert.equal(JSON.stringify(await zonesOf(page)), saved, "what is locked stays");
      // Another instrument begins heard and free, though its groups have the same ids.
      await page.getByRole("button", { name: "Mute: Main" }).click();
      await command(page, "New instrument");
      await current(page, "Take");
      await station(page, "Map");
      for (const name of ["Mute: Main", "Lock: Main"])
        assert.equal(await page.getByRole("button", { name }).getAttribute("aria-pressed"), "false", name);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "field: the whole of editing by the keyboard alone, and spreading by the keys that are played",
    run: async (world: World) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await page.keyboard.press("3");
      const field = page.getByTestId("zone-field");
      await field.focus();
      await page.keyboard.press("ArrowRight");
      await page.getByRole("heading", { name: "3 zones" }).waitFor();
      const first = (await zonesOf(page)).filter((z) => z.velLow === 1 && z.root === 50);
      await command(page, "Select all of the same velocities");
      await page.getByRole("heading", { name: "24 zones" }).waitFor();
      await field.focus();
      await page.keyboard.press("Alt+Shift+ArrowRight");
      await page.keyboard.press("Alt+Shift+ArrowRight");
      const moved = (await zonesOf(page)).filter((z) => z.velLow === 1 && z.root === 52);
      assert.deepEqual(
        moved.map((z) => z.keyLow),
        first.map((z) => z.keyLow + 2),
        "keys and roots together, one step of two presses",
      );
      await page.keyboard.press("Control+z");
      await field.focus();
      await page.keyboard.press("Control+Shift+D");
      await page.getByRole("heading", { name: "24 zones" }).waitFor();
      assert.equal((await zonesOf(page)).length, 72, "copies at the next note");
      await page.keyboard.press("Control+z");
      // Spread by the keyboard: the two ends are played.
      await page.getByRole("button", { name: "Spread" }).focus();
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "Play them" }).focus();
      await page.keyboard.press("Enter");
      await page.keyboard.press("s");
      await page.getByRole("button", { name: "… highest" }).waitFor();
      await page.keyboard.press("k");
      await page.getByRole("button", { name: "Play them" }).waitFor();
      assert.equal(await page.getByRole("textbox", { name: "Lowest key" }).inputValue(), "D3 · 50");
      assert.equal(await page.getByRole("textbox", { name: "Highest key" }).inputValue(), "C4 · 60");
      await page.getByRole("dialog").getByRole("button", { name: "Spread" }).focus();
      await page.keyboard.press("Enter");
      const spread = await zonesOf(page);
      const inside = spread.filter((z) => z.root >= 50 && z.root <= 60);
      assert.equal(Math.min(...inside.map((z) => z.keyLow)), 50);
      assert.equal(Math.max(...inside.map((z) => z.keyHigh)), 60);
      // A song of one's own, every key at every strength, both ends by one key.
      await page.getByRole("textbox", { name: "Fixed velocity" }).fill("12");
      await page.keyboard.press("Enter");
      await field.focus();
      await page.keyboard.press("k");
      await page.getByText("C4 · 12").waitFor();
      await page.keyboard.press("Shift+Enter");
      await page
        .getByText(/ · 127$/)
        .first()
        .waitFor();
      await command(page, "Play every key at every velocity");
      await page.getByRole("button", { name: "Stop the phrase" }).waitFor();
      await page.keyboard.press("Space");
      await page.getByRole("button", { name: "Play the phrase" }).waitFor();
      // The table, filtered, copied for a spreadsheet and taken back.
      await page.getByRole("tab", { name: "List" }).click();
      await page.getByRole("searchbox", { name: "Show only some zones" }).fill("a4");
      await page.getByText("6 of 48").waitFor();
      await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
      const id = ((await zonesOf(page)) as unknown as { id: string }[])[0]?.id ?? "";
      await page.evaluate(
        (zone) => navigator.clipboard.writeText(`zone\ttuning (cents)\trepeat\n${zone}\t-7,5\tnine\n`),
        id,
      );
      await page.keyboard.press("Escape");
      await command(page, "Paste a table from a spreadsheet");
      await notice(page, "1 zone was changed by the table").waitFor();
      const tuned = ((await zonesOf(page)) as unknown as { id: string; tune: number }[]).find((z) => z.id === id);
      assert.equal(tuned?.tune, -7.5);
      assert.deepEqual(complaints, []);
    },
  },
];
