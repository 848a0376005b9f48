import assert from "node:assert/strict";
import type { Page } from "playwright-core";
import { arrive, notice, openHarp, type Scenario, station, storedDocument } from "./scenario";

type Layers = { groups: { zones: { id: string; keyLow: number }[] }[] }[];
const zonesOf = async (page: Page) =>
  ((await storedDocument(page)).layers as Layers).flatMap((l) => l.groups.flatMap((g) => g.zones));

const undo = (page: Page) => page.getByRole("button", { name: "Undo", exact: true });

export const frame: readonly Scenario[] = [
  {
    name: "addresses hold the instrument and what is looked at: Back, reload and links lead to it",
    run: async (world) => {
      const { page, context, complaints } = await arrive(world);
      await openHarp(page);
      await page.getByTestId("zone-field").click({ position: { x: 470, y: 200 } });
      await page.getByRole("heading", { name: "3 zones" }).waitFor();
      await page.waitForURL(/[?&]zones=/);
      await page.getByRole("tab", { name: "List" }).click();
      await page.waitForURL(/show=list/);
      await page.goBack();
      await page.getByTestId("zone-field").waitFor();
      await page.getByRole("heading", { name: "3 zones" }).waitFor();
      await page.goForward();
      await page.getByRole("grid", { name: "Zones" }).waitFor();
      const address = page.url();
      await page.reload();
      await page.getByRole("grid", { name: "Zones" }).waitFor();
      await page.getByRole("heading", { name: "3 zones" }).waitFor();
      assert.match(await page.title(), /^Keys × velocity · Spoke harp · Vise$/);

      // Another instrument in between; the link still leads to this one.
      await page.getByRole("link", { name: "Library" }).click();
      await page.getByRole("button", { name: /^New instrument\b.*(no maker|open now)/ }).click();
      await page
        .locator('input[aria-label="Name of the instrument"]')
        .and(page.locator('[value="New instrument"]'))
        .waitFor();
      await page.goto(address);
      await page.getByRole("heading", { name: "3 zones" }).waitFor();
      const other = await context.newPage();
      await other.goto(`${world.address}/map?of=nobody`);
      await other.getByRole("navigation", { name: "Stations" }).waitFor();
      await notice(other, "isn’t in this browser").waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "controls: the wheel turns only what has the focus, Escape gives a drag up, a notice undoes only what it speaks of",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await station(page, "Sound");
      const pan = page.getByRole("slider", { name: "Layer pan" });
      const text = () => pan.getAttribute("aria-valuetext");
      const place = async () => {
        const box = await pan.boundingBox();
        assert.ok(box);
        return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
      };
      // F1 opens the reference at what has the focus, from a field of text too, and is closed by Escape.
      await page.getByRole("textbox", { name: "Layer pan value" }).focus();
      await page.keyboard.press("F1");
      const reference = page.getByRole("dialog", { name: "Reference" });
      await reference.getByText("Pan, constant power.").waitFor();
      assert.ok(await reference.locator(".bg-tint-cobalt", { hasText: "Pan, constant power." }).isVisible());
      await reference.getByRole("searchbox").fill("vibrato");
      await reference.getByText("the usual target for vibrato", { exact: false }).first().waitFor();
      await page.keyboard.press("Escape");
      await reference.waitFor({ state: "detached" });
      let at = await place();
      await page.mouse.move(at.x, at.y);
      await page.mouse.wheel(0, 240);
      await page.mouse.wheel(0, -240);
      assert.equal(await text(), "centre");
      await pan.focus();
      at = await place();
      await page.mouse.move(at.x, at.y);
      await page.mouse.wheel(0, -200);
      await page.waitForFunction(
        (name) => document.querySelector(`[aria-label="${name}"]`)?.getAttribute("aria-valuetext") !== "centre",
        "Layer pan",
      );
      await undo(page).click();
      assert.equal(await text(), "centre");

      // A drag that is given up leaves nothing behind, not even a step.
      at = await place();
      await page.mouse.move(at.x, at.y);
      await page.mouse.down();
      await page.mouse.move(at.x + 20, at.y, { steps: 4 });
      assert.notEqual(await text(), "centre");
      await page.keyboard.press("Escape");
      assert.equal(await text(), "centre");
      await page.mouse.move(at.x + 40, at.y);
      await page.mouse.up();
      assert.equal(await text(), "centre");
      assert.equal(await undo(page).getAttribute("aria-disabled"), "true");

      // What a corner of the envelope does is one step.
      await page.getByRole("button", { name: "Amp envelope" }).click();
      const corner = page.getByRole("slider", { name: "Decay and sustain" });
      await corner.scrollIntoViewIfNeeded();
      const box = await corner.boundingBox();
      assert.ok(box);
      await page.mouse.move(box.x + 4, box.y + 12);
      await page.mouse.down();
      await page.mouse.move(box.x + 40, box.y + 40, { steps: 5 });
      await page.mouse.up();
      await undo(page).click();
      assert.equal(await undo(page).getAttribute("aria-disabled"), "true");

      // A notice undoes what it speaks of, and offers it no more once that is no longer the newest.
      await station(page, "Map");
      const placeAll = async () => {
        await page.getByRole("button", { name: "Place 48 samples" }).click();
        await page.getByText("48 to be placed").waitFor();
        await page.getByRole("button", { name: "Place 48 samples" }).click();
      };
      const undone = notice(page, "48 samples placed").getByRole("button", { name: "Undo" });
      const layers = async () => ((await storedDocument(page)).layers as unknown[]).length;
      const before = await layers();
      await placeAll();
      await undone.click();
      await undone.waitFor({ state: "detached" });
      assert.equal(await layers(), before);
      await placeAll();
      await undone.waitFor();
      await page.getByTestId("zone-field").click({ position: { x: 470, y: 200 } });
      await page.keyboard.press("Delete");
      await page.getByText(/^45 zones ·/).waitFor();
      await undone.waitFor({ state: "detached" });
      await page.getByText(/^45 zones ·/).waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "menus, clipboard and borders: zones are copied, pasted and doubled, panels are sized, the keybed folds",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      const field = page.getByTestId("zone-field");
      await field.click({ button: "right", position: { x: 470, y: 200 } });
      await page.getByRole("menuitem", { name: /^Duplicate Ctrl/ }).click();
      await page.getByText(/^51 zones ·/).waitFor();
      await page.keyboard.press("Control+c");
      await page.keyboard.press("Delete");
      await page.getByText(/^48 zones ·/).waitFor();
      await page.keyboard.press("Control+v");
      await page.getByText(/^51 zones ·/).waitFor();
      const ids = (await zonesOf(page)).map((z) => z.id);
      assert.equal(new Set(ids).size, 51, "every zone has an id of its own");
      // Into another instrument, with the samples that they play.
      await page.getByRole("link", { name: "Library" }).click();
      await page.getByRole("button", { name: "New instrument", exact: true }).click();
      await page.getByRole("heading", { name: "No recording yet" }).waitFor();
      await station(page, "Map");
      await page.getByRole("heading", { name: "No key has a sound yet" }).waitFor();
      await page.keyboard.press("Control+v");
      await page.getByText(/^3 zones ·/).waitFor();
      assert.equal(((await storedDocument(page)).samples as unknown[]).length, 3);

      // The list: typed in a cell, gone through by keys.
      await page.getByRole("tab", { name: "List" }).click();
      const list = page.getByRole("grid", { name: "Zones" });
      await list.getByRole("row").nth(1).click();
      await list.locator('[role="gridcell"][tabindex="0"]').first().focus();
      await page.keyboard.press("Home");
      await page.keyboard.press("ArrowRight");
      await page.keyboard.press("F2");
      await list.getByRole("textbox", { name: /^root of/ }).waitFor();
      await page.keyboard.type("C2");
      await page.keyboard.press("Enter");
      await list.getByRole("gridcell", { name: "C2" }).first().waitFor();
      await page.keyboard.press("ArrowDown");
      await page.keyboard.press("End");
      await page.keyboard.press("Control+a");
      await page.getByRole("heading", { name: "3 zones" }).waitFor();
      // Its head by keys: up from the first row, to another column, sorted by it, turned round, and down again.
      await page.keyboard.press("Control+Home");
      await page.keyboard.press("ArrowUp");
      for (let i = 0; i < 4; i++) await page.keyboard.press("ArrowRight");
      await page.keyboard.press("Enter");
      await list
        .getByRole("columnheader", { name: /to vel/ })
        .and(page.locator('[aria-sort="ascending"]'))
        .waitFor();
      await page.keyboard.press("Enter");
      await list
        .getByRole("columnheader", { name: /to vel/ })
        .and(page.locator('[aria-sort="descending"]'))
        .waitFor();
      await page.keyboard.press("ArrowDown");
      await list.locator('[role="gridcell"]:focus').waitFor();

      // Movers and routes too: copied here, pasted there.
      await station(page, "Motion");
      const count = async (what: string) => ((await storedDocument(page))[what] as unknown[]).length;
      const [lfos, routes] = [await count("lfos"), await count("routes")];
      for (const what of ["Copy", "Paste"]) {
        await page.getByRole("button", { name: "What can be done with the LFO" }).click();
        await page.getByRole("menuitem", { name: what, exact: true }).click();
      }
      await page.getByRole("button", { name: "Add route" }).click();
      await page
        .getByRole("group", { name: /^Route from/ })
        .first()
        .click({ button: "right", position: { x: 6, y: 10 } });
      await page.getByRole("menuitem", { name: "Duplicate" }).click();
      assert.equal(await count("lfos"), lfos + 1);
      assert.equal(await count("routes"), routes + 2);

      const border = page.getByRole("separator", { name: "Width of the inspector" });
      const inspector = page.getByRole("complementary", { name: "Inspector" });
      const width = async () => (await inspector.boundingBox())?.width ?? 0;
      const before = await width();
      await border.focus();
      await page.keyboard.press("ArrowLeft");
      await page.waitForFunction(
        (was) => (document.querySelector('[aria-label="Inspector"]')?.clientWidth ?? 0) > was + 10,
        before,
      );
      const wide = await width();
      await page.reload();
      await inspector.waitFor();
      assert.ok(Math.abs((await width()) - wide) <= 2, "and stays where it was put");
      await page.keyboard.press("Alt+k");
      await page.getByRole("button", { name: "Fold the keyboard out" }).waitFor();
      assert.deepEqual(complaints, []);
    },
  },
];
