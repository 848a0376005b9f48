import assert from "node:assert/strict";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import type { Page } from "playwright-core";
import { AXE, RULES, violations } from "./accessible";
import { visit } from "./browser";
import { addControl, choose, dragOut } from "./face-tools";
import { freshMap } from "./mapped";
import { arrive, near, notice, type Scenario, station, storedDocument } from "./scenario";

interface Item {
  readonly id: string;
  readonly kind: string;
  readonly page: string | null;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly moves: readonly { readonly address: string; readonly from: number }[];
}
interface Stored {
  readonly face: {
    readonly theme: string;
    readonly pages: readonly { name: string }[];
    readonly items: readonly Item[];
  };
  readonly layers: readonly { readonly source: { readonly table?: readonly { readonly level: number }[] } }[];
}
const stored = async (page: Page) => (await storedDocument(page)) as unknown as Stored;
const items = async (page: Page) => (await stored(page)).face.items;

/** The face, drawn by hand. */
export const facing: readonly Scenario[] = [
  {
    name: "face: made from the instrument, columns bound to all partials and drawn, copies that move the next, aligned, paged, greyed, checked, tried and played by a guest",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await freshMap(page);
      await station(page, "Sound");
      await page.getByRole("button", { name: "Samples", exact: true }).click();
      await page.getByRole("combobox", { name: "Source" }).click();
      await page.getByRole("option", { name: "Partials", exact: true }).click();
      await page.getByRole("region", { name: "Partials", exact: true }).waitFor();
      await station(page, "Face");
      await page.getByRole("button", { name: "A row of dials" }).first().click();
      await page.getByTestId("face-page").waitFor();
      assert.ok((await items(page)).length > 2, "a face from what there is");

      // Shift chooses one more, and lets it go again; a press on the page lets all go.
      const placed = page.locator("[data-face-item]");
      const chosen = page.locator("[data-face-item].outline-cobalt");
      await placed.nth(1).click();
      await placed.nth(2).click({ modifiers: ["Shift"] });
      assert.equal(await chosen.count(), 2);
      await placed.nth(2).click({ modifiers: ["Shift"] });
      assert.equal(await chosen.count(), 1);
      await page.getByTestId("face-page").click({ position: { x: 4, y: 4 } });
      assert.equal(await chosen.count(), 0);

      // From the tree onto the page it becomes a control there; onto an item it binds that.
      const onto = await page.getByTestId("face-page").boundingBox();
      assert.ok(onto);
      await dragOut(page, "stretch", /stretch/i, 0.5, 1 - 80 / onto.height);
      const dropped = (await items(page)).at(-1);
      assert.deepEqual([dropped?.kind, dropped?.moves[0]?.address], ["dial", "layers/main/source/stretch"]);
      near((dropped?.x ?? 0) + (dropped?.width ?? 0) / 2, 320, 8, "where it was let go");
      await page.keyboard.press("Delete");

      // A bank: all partials' levels in one action, drawn across while trying.
      await addControl(page, "Columns");
      await choose(page, "Bound to", "level of all", /level of all 16 partials/);
      const bank = (await items(page)).at(-1);
      assert.deepEqual([bank?.kind, bank?.moves.length], ["columns", 16]);
      await page.getByRole("switch", { name: "Try it" }).click();
      const columns = page.getByRole("slider", { name: /^Level: left and right/ });
      const box = await columns.boundingBox();
      assert.ok(box);
      await page.mouse.move(box.x + 2, box.y + box.height / 2);
      await page.mouse.down();
      await page.mouse.move(box.x + box.width - 2, box.y + box.height / 2, { steps: 10 });
      await page.mouse.up();
      const levels = (await stored(page)).layers[0]?.source.table?.map((r) => r.level) ?? [];
      assert.equal(levels.length, 16);
      for (const level of levels) near(level, -48, 2, "half way up");
      // All that one stroke drew is one step.
      await page.keyboard.press("Control+z");
      assert.notEqual((await stored(page)).layers[0]?.source.table?.[3]?.level, levels[3]);
      await page.keyboard.press("Control+Shift+z");
      assert.deepEqual(
        (await stored(page)).layers[0]?.source.table?.map((r) => r.level),
        levels,
      );
      await columns.focus();
      await page.keyboard.press("End");
      await page.keyboard.press("Home");
      await page.keyboard.press("ArrowLeft");
      await page.keyboard.press("End");
      const keyed = (await stored(page)).layers[0]?.source.table?.map((r) => r.level) ?? [];
      assert.deepEqual(keyed.slice(-2), [0, -96], "by keys: the last off, the one before it full");
      await page.getByRole("switch", { name: "Try it" }).click();

      // A dial for one partial, and copies that move the next ones.
      await addControl(page, "Dial");
      await choose(page, "Bound to", "level of partial 3", "Partials: level of partial 3");
      await page.getByRole("textbox", { name: "Goes from" }).fill("-30,0 dB");
      await page.keyboard.press("Enter");
      near((await items(page)).at(-1)?.moves[0]?.from ?? 0, 66 / 96, 1e-6, "it begins at −30 dB");
      await page
        .getByTestId("face-page")
        .getByRole("group", { name: /partial 3|Level/ })
        .last()
        .focus();
      const before = (await items(page)).length;
      await page.keyboard.press("Control+Shift+d");
      await page.keyboard.press("Control+Shift+d");
      const dials = (await items(page)).slice(before - 1);
      assert.deepEqual(
        dials.map((d) => d.moves[0]?.address.split("/rows/")[1]),
        ["3/level", "4/level", "5/level"],
        "each copy moves the next",
      );
      // All three by the outline, put in a row; one undo takes the order back.
      await page.getByRole("tab", { name: "Outline" }).click();
      const list = page.getByRole("list", { name: /^Items of the face/ });
      await list
        .getByRole("button", { name: /^Dial .*partial 5/ })
        .first()
        .click();
      for (const n of [4, 3])
        await list
          .getByRole("button", { name: new RegExp(`^Dial .*partial ${n}`) })
          .first()
          .click({ modifiers: ["Shift"] });
      await page.getByRole("button", { name: "Arrange" }).click();
      await page.getByRole("menuitem", { name: "In a row" }).click();
      const row = (await items(page)).slice(before - 1);
      assert.equal(new Set(row.map((i) => i.y)).size, 1, "in one row");
      assert.equal((row[1]?.x ?? 0) - (row[0]?.x ?? 0), (row[0]?.width ?? 0) + 16);
      await page.keyboard.press("Control+z");
      assert.deepEqual((await items(page)).slice(before - 1), dials);

      // A switch greys a slider, which is bound by listening: it moves what is moved next, elsewhere.
      await addControl(page, "Slider");
      await page.getByRole("button", { name: "Learn", exact: true }).click();
      await station(page, "Sound");
      await page.getByRole("textbox", { name: "Partials tilt value" }).fill("-3");
      await page.keyboard.press("Enter");
      await notice(page, /moves .*tilt now/i).waitFor();
      await station(page, "Face");
      await choose(page, "Condition depends on", "Filter on", /Filter on/);
      // The filter is on: where it is to be off the slider is pale, and can't be turned.
      const greyed = async () => {
        await page.getByRole("switch", { name: "Try it" }).click();
        const state = await page.getByRole("slider", { name: "Tilt", exact: true }).getAttribute("aria-disabled");
        await page.getByRole("switch", { name: "Try it" }).click();
        return state;
      };
      const goesBy = async (way: string) => {
        await page.getByRole("combobox", { name: "Condition is" }).click();
        await page.getByRole("option", { name: way, exact: true }).click();
      };
      assert.equal(await greyed(), "false");
      await goesBy("Below");
      assert.equal(await greyed(), "true");
      await goesBy("At least");
      await page.getByRole("textbox", { name: "Name of the item" }).fill("Tilted");
      await page.keyboard.press("Enter");

      // Another page: nobody reaches it, until the check puts it right.
      await page.getByRole("button", { name: "Add a page" }).click();
      await addControl(page, "XY");
      await choose(page, "Bound to", "cutoff", /cutoff/);
      await page.getByRole("tab", { name: /^Check/ }).click();
      await page.getByText("Nobody reaches 1 page").waitFor();
      await page.getByRole("button", { name: "Add a row of pages" }).click();
      await page.getByText("Nobody reaches 1 page").waitFor({ state: "detached" });
      await page.getByRole("tab", { name: "Look" }).click();
      await page.getByRole("radio", { name: "Enamel sign" }).click();
      const made = await stored(page);
      assert.equal(made.face.theme, "enamel");
      assert.equal(made.face.pages.length, 2);

      // After a reload all of it is there; then a guest plays it from a file.
      await page.reload();
      await page.getByTestId("face-page").waitFor();
      assert.deepEqual(await stored(page), made);
      await station(page, "Ship");
      const [file] = await Promise.all([
        page.waitForEvent("download"),
        page.getByRole("button", { name: "Export the player" }).click(),
      ]);
      const path = join(world.folder, "face.html");
      await file.saveAs(path);
      const guest = await visit(world.browser);
      await guest.page.goto(pathToFileURL(path).href);
      const pages = guest.page.getByRole("navigation", { name: "Pages" });
      await pages.waitFor();
      const tilted = guest.page.getByRole("slider", { name: "Tilt", exact: true });
      assert.equal(await tilted.getAttribute("aria-disabled"), "false");
      await tilted.focus();
      await guest.page.keyboard.press("Home");
      assert.equal(await tilted.getAttribute("aria-valuetext"), "−24.0 dB");
      // Turned back and forth, kept and fetched again, also after the page was closed.
      await guest.page.keyboard.press("Control+z");
      const at = (text: string) =>
        guest.page
          .getByRole("slider", { name: "Tilt", exact: true })
          .and(guest.page.locator(`[aria-valuetext="${text}"]`))
          .waitFor();
      await at("−3.0 dB");
      await guest.page.keyboard.press("Control+Shift+z");
      await at("−24.0 dB");
      await guest.page.getByRole("button", { name: "Save", exact: true }).click();
      await guest.page.getByRole("combobox", { name: "Preset" }).selectOption({ label: "Factory" });
      await at("−3.0 dB");
      await guest.page.reload();
      await at("−3.0 dB");
      await guest.page.getByRole("combobox", { name: "Preset" }).selectOption({ label: "Preset 1" });
      await at("−24.0 dB");
      await guest.page.evaluate(AXE);
      assert.deepEqual(
        await violations(guest.page, RULES),
        [],
        "the player is accessible as far as a program can tell",
      );
      await pages.getByRole("button").nth(1).click();
      await guest.page.getByRole("slider", { name: "Cutoff", exact: true }).waitFor();
      assert.equal(await tilted.count(), 0, "the other page");
      assert.deepEqual(guest.complaints, []);
      assert.deepEqual(complaints, []);
    },
  },
];
