import assert from "node:assert/strict";
import { arrive, openHarp, type Scenario, station, storedDocument } from "./scenario";

export const library: readonly Scenario[] = [
  {
    name: "a database that was left half made is completed, and nothing waits for ever",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", {
        before: () => {
          const request = indexedDB.open("vise", 3);
          request.onupgradeneeded = () => request.result.createObjectStore("settings");
          request.onsuccess = () => request.result.close();
        },
      });
      await openHarp(page);
      const stores = await page.evaluate(
        () =>
          new Promise<{ version: number; names: string[] }>((resolve) => {
            const request = indexedDB.open("vise");
            request.onsuccess = () => {
              resolve({ version: request.result.version, names: [...request.result.objectStoreNames] });
              request.result.close();
            };
          }),
      );
      assert.equal(stores.version, 4, "one step completes it");
      assert.deepEqual(
        stores.names.filter((n) => !n.startsWith("local")),
        ["blobs", "index", "instruments", "recordings", "settings", "touched"],
      );
      await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "several instruments: open, duplicate, delete and take it back",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/library");
      const list = page.getByRole("list", { name: "Instruments", exact: true });
      await list.getByText("Spoke harp").waitFor();
      await page.getByRole("button", { name: "Duplicate Spoke harp" }).click();
      await list.getByText("Spoke harp copy").waitFor();
      await page.getByRole("button", { name: "Delete Spoke harp copy" }).click();
      await list.getByText("Spoke harp copy").waitFor({ state: "detached" });
      await page.getByRole("button", { name: "Undo", exact: true }).last().click();
      await list.getByText("Spoke harp copy").click();
      await page.getByText("48 zones · 8 roots").waitFor();
      assert.equal(await page.getByRole("textbox", { name: "Name of the instrument" }).inputValue(), "Spoke harp copy");
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "edits: typed values with units, several zones at once, one undo history over all stations",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      const original = await storedDocument(page);
      await station(page, "Sound");
      const cutoff = page.getByRole("textbox", { name: "Filter cutoff value" });
      await cutoff.fill("A4");
      await page.keyboard.press("Enter");
      assert.equal(await cutoff.inputValue(), "440.0 Hz");
      await cutoff.fill("loud");
      await page.keyboard.press("Enter");
      assert.equal(await cutoff.getAttribute("aria-invalid"), "true");
      await page.keyboard.press("Escape");
      await page.getByRole("slider", { name: "Layer level", exact: true }).focus();
      await page.keyboard.press("ArrowRight");
      await station(page, "Map");
      const field = page.getByTestId("zone-field");
      await field.click({ position: { x: 440, y: 200 } });
      await page.getByText("3 zones", { exact: true }).first().waitFor();
      await page.getByRole("textbox", { name: "Tuning" }).fill("12 ct");
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: /^Remove 3 zones/ }).click();
      await page.getByText(/^45 zones ·/).waitFor();
      await station(page, "Motion");
      await page.getByRole("button", { name: "Add route" }).click();
      await page.getByText(/5 routes · 2 macros/).waitFor();
      await station(page, "Face");
      await page.getByRole("button", { name: "+ Control" }).click();
      await page.getByRole("menuitem", { name: "Dial", exact: true }).click();
      await page.getByText("This dial does nothing until it is bound.").waitFor();
      await page.getByRole("combobox", { name: "Bound to" }).click();
      await page.getByRole("option", { name: "Filter resonance" }).click();
      await page.getByRole("switch", { name: "Try it" }).click();
      const dial = page.getByRole("slider", { name: "Resonance" });
      await dial.focus();
      await page.keyboard.press("Shift+ArrowUp");
      assert.equal(await dial.getAttribute("aria-valuetext"), "20 %");
      const undo = page.getByRole("button", { name: "Undo", exact: true });
      for (let steps = 0; await undo.isEnabled(); steps++) {
        assert.ok(steps < 20, "undo comes to an end");
        await undo.click();
      }
      assert.deepEqual(await storedDocument(page), original, "undoing everything gives back what was opened");
      const redo = page.getByRole("button", { name: "Redo", exact: true });
      while (await redo.isEnabled()) await redo.click();
      assert.equal(await dial.getAttribute("aria-valuetext"), "20 %");
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "the keyboard alone: stations, palette, shortcuts, notes",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await page.getByRole("heading", { name: "Keys × velocity" }).click();
      await page.keyboard.press("5");
      await page.getByRole("heading", { name: "Sound", exact: true }).waitFor();
      await page.keyboard.press("?");
      await page.getByRole("dialog", { name: "Shortcuts" }).waitFor();
      await page.keyboard.press("Escape");
      await page.keyboard.press("Control+k");
      await page.keyboard.type("night");
      await page.keyboard.press("Enter");
      assert.equal(await page.evaluate(() => document.documentElement.dataset.theme), "night");
      await page.keyboard.down("j");
      await page.getByTestId("trace").getByText("B3 · 96").waitFor();
      await page.keyboard.up("j");
      assert.deepEqual(complaints, []);
    },
  },
];
