import assert from "node:assert/strict";
import type { Page } from "playwright-core";
import { heard, listen, rms } from "./hearing";
import { arrive, notice, openHarp, type Scenario, station, storedDocument } from "./scenario";

/** Types into a field and leaves it. */
async function type(page: Page, name: string | RegExp, text: string): Promise<void> {
  await page.getByRole("textbox", { name }).first().fill(text);
  await page.keyboard.press("Enter");
}

/** What holds whatever happens: documents that open again, tabs, double presses, the server out of reach, sound that comes back. */
export const holding: readonly Scenario[] = [
  {
    name: "values at their limits and odd ones are settled, and the instrument opens again after a reload",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await page.getByRole("textbox", { name: "Name of the instrument" }).fill("n".repeat(500));
      await station(page, "Motion");
      for (let i = 0; i < 2; i++)
        await page.getByRole("region", { name: "LFO" }).getByRole("button", { name: "LFO", exact: true }).click();
      await station(page, "Rules");
      await page.getByRole("switch", { name: "Rules on" }).click();
      await type(page, "Seed", "4294967295");
      await page.getByRole("textbox", { name: "Seed" }).focus();
      await page.keyboard.press("ArrowUp");
      await station(page, "Map");
      await page.getByTestId("zone-field").click({ position: { x: 440, y: 200 } });
      await page.getByText("3 zones", { exact: true }).first().waitFor();
      for (const value of ["1,5", "0", "99999"]) await type(page, "Repeat", value);
      const stored = (await storedDocument(page)) as unknown as { about: { name: string }; rules: { seed: number } };
      assert.equal(stored.about.name.length, 200);
      assert.equal(stored.rules.seed, 4294967295);
      await page.reload();
      await page.getByText("48 zones · 8 roots").waitFor();
      assert.deepEqual(await storedDocument(page), stored);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "a stored document that can't be read is shown with its faults, put right, and opened",
    run: async (world) => {
      const { page } = await arrive(world);
      await openHarp(page);
      const { id } = await storedDocument(page);
      await page.evaluate(async (wanted) => {
        const database = await new Promise<IDBDatabase>((resolve) => {
          const request = indexedDB.open("vise");
          request.onsuccess = () => resolve(request.result);
        });
        const store = database.transaction("instruments", "readwrite").objectStore("instruments");
        const get = (key: string) =>
          new Promise<never>((resolve) => {
            const request = store.get(key);
            request.onsuccess = () => resolve(request.result as never);
          });
        const head = (await get(wanted)) as { parts: { rest: string } };
        const rest = (await get(head.parts.rest)) as { macros: unknown; rules: { seed: unknown } };
        rest.macros = "none";
        rest.rules.seed = 1.5;
        const done = store.put(rest, head.parts.rest);
        await new Promise((resolve) => {
          done.onsuccess = resolve;
        });
        database.close();
      }, id);
      await page.reload();
      await page.getByRole("button", { name: "See what is wrong with it" }).click();
      const dialog = page.getByRole("dialog");
      await dialog.getByText("macros", { exact: true }).waitFor();
      assert.ok(await dialog.getByRole("button", { name: "Put right and open" }).isDisabled());
      await dialog.getByRole("button", { name: "Agree to all" }).click();
      await dialog.getByRole("button", { name: "Put right and open" }).click();
      await page.getByRole("navigation", { name: "Stations" }).waitFor();
      const stored = (await storedDocument(page)) as unknown as { macros: unknown[]; rules: { seed: number } };
      assert.deepEqual([stored.macros, stored.rules.seed], [[], 2]);
    },
  },
  {
    name: "two tabs: the second reads, takes over, and neither loses an edit",
    run: async (world) => {
      const { page, context } = await arrive(world);
      await openHarp(page);
      const name = (p: Page) => p.getByRole("textbox", { name: "Name of the instrument" });
      const second = await context.newPage();
      await second.goto(`${world.address}/map`);
      await second.getByText("Another tab has this instrument open").waitFor();
      await name(page).fill("By the first");
      await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
      await second.waitForFunction(
        () =>
          document.querySelector<HTMLInputElement>('[aria-label="Name of the instrument"]')?.value === "By the first",
      );
      await name(second).fill("Overwritten");
      assert.equal(await name(second).inputValue(), "By the first");
      await second.getByRole("button", { name: "Take it over" }).click();
      await second.getByText("Another tab has this instrument open; here").waitFor({ state: "detached" });
      await page.getByText("Another tab has this instrument open; here").waitFor();
      await name(second).fill("By the second");
      await second.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
      await page.waitForFunction(
        () =>
          document.querySelector<HTMLInputElement>('[aria-label="Name of the instrument"]')?.value === "By the second",
      );
      // What one records, the other doesn't take for lost.
      await station(page, "Take");
      await page.getByRole("button", { name: "Record", exact: true }).click();
      await page.getByRole("link", { name: /^Recording take/ }).waitFor();
      await station(second, "Take");
      await second.reload();
      await second.getByRole("region", { name: "Recording" }).waitFor();
      await second
        .getByRole("list", { name: "Takes" })
        .waitFor({ state: "detached", timeout: 500 })
        .catch(() => {});
      assert.equal(await second.getByText("was being recorded when Vise closed").count(), 0);
    },
  },
  {
    name: "while something is recorded its input can't change, every station says so, a double press does no harm, and it lands where it began",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      const strip = page.getByRole("region", { name: "Recording" });
      const takes = async () =>
        ((await storedDocument(page)).takes as { name: string; frames: number; rate: number }[]).map((t) => t.name);
      await strip.getByRole("button", { name: "Record", exact: true }).dblclick();
      await strip.getByText(/^[1-9]\.\d\d s$/).waitFor();
      for (const label of ["Input", "Channels", "Rate"])
        assert.ok(await strip.getByRole("combobox", { name: label }).isDisabled(), `${label} is shut`);
      const began = (await storedDocument(page)).id;
      await page.keyboard.press("6");
      await page.getByRole("link", { name: /^Recording take 5/ }).waitFor();
      // Another instrument is opened meanwhile.
      await openHarp(page);
      await page.getByRole("link", { name: /^Recording take 5/ }).click();
      await strip.getByRole("button", { name: "Stop" }).dblclick();
      await notice(page, /take 5 is in “New instrument”/).waitFor();
      assert.deepEqual(await takes(), ["spokes"]);
      await page.getByRole("link", { name: "Library" }).click();
      await page
        .getByRole("button", { name: /^New instrument/ })
        .last()
        .click();
      await page.getByRole("heading", { name: "Keys × velocity" }).waitFor();
      assert.equal((await storedDocument(page)).id, began);
      assert.equal((await takes()).at(-1), "take 5");
      assert.equal((await takes()).length, 5);
      await station(page, "Take");
      assert.equal(await page.getByText("was being recorded when Vise closed").count(), 0);
      await page.getByRole("tab", { name: "Room" }).click();
      await page.getByRole("button", { name: "Play the sweep and record" }).dblclick();
      await page.getByText(/^[1-9]\.\d\d s$/).waitFor();
      await strip.getByRole("button", { name: "Stop" }).click();
      await page.getByText("sweep 6").first().waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "versions are kept, looked at, heard, and gone back to",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      const original = await storedDocument(page);
      await page.getByRole("button", { name: "Versions" }).click();
      await page.getByRole("textbox", { name: "Name of the version" }).fill("as it came");
      await page.getByRole("button", { name: "Keep", exact: true }).click();
      await page.getByRole("list", { name: "Kept versions" }).getByText("as it came").waitFor();
      await page.keyboard.press("Escape");
      await page.getByTestId("zone-field").click({ position: { x: 440, y: 200 } });
      await page.getByRole("button", { name: /^Remove 3 zones/ }).click();
      await page.getByText(/^45 zones ·/).waitFor();
      await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
      await page.reload();
      await page.getByText(/^45 zones ·/).waitFor();
      await page.getByRole("button", { name: "Versions" }).click();
      await page.getByRole("list", { name: "Kept versions" }).getByText("as it came").click();
      await page.getByText(/^48 zones ·/).waitFor();
      await page.getByText("You look at and hear the version “as it came”").waitFor();
      await page.getByRole("heading", { name: "Keys × velocity" }).click();
      await page.keyboard.press("v");
      await page.getByText(/^45 zones ·/).waitFor();
      await page.keyboard.press("v");
      await page.getByRole("button", { name: "Go back to it" }).click();
      await page.getByText(/^48 zones ·/).waitFor();
      assert.deepEqual(await storedDocument(page), original);
      await page.getByRole("button", { name: "Undo", exact: true }).click();
      await page.getByText(/^45 zones ·/).waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "a version and the present are compared by one key, as loud as each other",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await page.getByRole("button", { name: "Versions" }).click();
      await page.getByRole("textbox", { name: "Name of the version" }).fill("loud");
      await page.getByRole("button", { name: "Keep", exact: true }).click();
      await page.getByRole("list", { name: "Kept versions" }).getByText("loud").waitFor();
      await page.keyboard.press("Escape");
      await page.getByTestId("zone-field").focus();
      await page.keyboard.press("Control+a");
      await page.getByRole("textbox", { name: "Zone level", exact: true }).fill("-9 dB");
      await page.keyboard.press("Enter");
      await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
      await page.getByRole("button", { name: "Versions" }).click();
      await page.getByRole("list", { name: "Kept versions" }).getByText("loud").click();
      await page.getByText("play both to match their levels").waitFor();
      await page.getByRole("heading", { name: "Keys × velocity" }).click();
      const trim = page.getByText(/^trim [−-](8|9)\.\d dB$/);
      for (let side = 0; side < 12 && (await trim.count()) === 0; side++) {
        for (const key of ["d", "f", "d"]) {
          await page.keyboard.down(key);
          await trim.waitFor({ timeout: 700 }).catch(() => {});
          await page.keyboard.up(key);
        }
        await page.keyboard.press("v");
      }
      await trim.waitFor();
      await page.getByRole("button", { name: "Leave it" }).click();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "with the server out of reach every station opens and the player is exported",
    run: async (world) => {
      const { page, context } = await arrive(world);
      await openHarp(page);
      // What is fetched last of all that comes from the server.
      await page.waitForFunction(() =>
        globalThis.performance
          .getEntriesByType("resource")
          .some((r) => r.name.endsWith("player-template.html") && (r as PerformanceResourceTiming).responseEnd > 0),
      );
      await page.waitForLoadState("networkidle");
      await context.setOffline(true);
      for (const name of ["Loop", "Sound", "Motion", "Face", "Rules", "Ship"]) await station(page, name);
      const [download] = await Promise.all([
        page.waitForEvent("download"),
        page.getByRole("button", { name: "Export the player" }).click(),
      ]);
      assert.match(download.suggestedFilename(), /\.html$/);
      await context.setOffline(false);
    },
  },
  {
    name: "with the server away the workshop opens anew, and goes to stations that were never opened",
    run: async (world) => {
      const { page, context, complaints } = await arrive(world);
      await openHarp(page);
      await storedDocument(page);
      await page.evaluate(async () => {
        await navigator.serviceWorker.ready;
        const { controller } = navigator.serviceWorker;
        if (!controller)
          await new Promise((tell) => navigator.serviceWorker.addEventListener("controllerchange", tell));
      });
      await context.setOffline(true);
      await page.reload();
      await page.getByText("48 zones · 8 roots").waitFor();
      assert.equal(await page.evaluate(() => crossOriginIsolated), true);
      for (const name of ["Sound", "Rules", "Ship"]) await station(page, name);
      const other = await context.newPage();
      await other.goto(new URL("/library", page.url()).href);
      await other.getByText("Spoke harp").first().waitFor();
      await context.setOffline(false);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "a station that can't be fetched says so in a page that goes on, and opens when it can",
    run: async (world) => {
      const away = "**/assets/RulesStation*";
      const { page, context } = await arrive(world, "/", {
        away,
        before: () => Reflect.deleteProperty(Navigator.prototype, "serviceWorker"),
      });
      await openHarp(page);
      await page.getByRole("link", { name: "Rules" }).click();
      await page.getByText("This page could not be shown").waitFor();
      await page.getByRole("link", { name: "Sound" }).click();
      await page.getByText("This page could not be shown").waitFor({ state: "detached" });
      await page.getByRole("link", { name: "Rules" }).click();
      await page.getByText("This page could not be shown").waitFor();
      await context.unroute(away);
      await page.getByRole("button", { name: "Try again" }).click();
      await page.getByRole("switch", { name: "Rules on" }).waitFor();
    },
  },
  {
    name: "a sound engine that has died is begun anew, told, and sounds",
    run: async (world) => {
      const { page } = await arrive(world, "/", { audible: true, before: catchEngine });
      await openHarp(page);
      await page.getByRole("heading", { name: "Keys × velocity" }).click();
      const play = async () => {
        await heard(page);
        await page.keyboard.down("d");
        await listen(page, 0.7);
        await page.keyboard.up("d");
        return rms((await heard(page)).samples);
      };
      await play();
      const before = await play();
      assert.ok(before > 0.003, `the harp sounds: ${before}`);
      // What no host would send: the processor throws, and the browser ends it.
      await page.evaluate(() => {
        const { engines } = globalThis as unknown as { engines: AudioWorkletNode[] };
        engines.at(-1)?.port.postMessage({ type: "audition", id: 99, channels: [null], loop: false });
      });
      await notice(page, "was restarted").first().waitFor();
      await page.waitForFunction(() => (globalThis as unknown as { engines: AudioWorkletNode[] }).engines.length >= 2);
      await page.waitForFunction(() => !document.body.textContent?.includes("loading"));
      await play();
      const after = await play();
      assert.ok(after > before / 3, `it sounds again: ${after} after ${before}`);
    },
  },
];

/** Runs in the page before anything else: keeps hold of the engines' nodes. */
function catchEngine(): void {
  const engines: AudioWorkletNode[] = [];
  (globalThis as unknown as { engines: AudioWorkletNode[] }).engines = engines;
  const Plain = globalThis.AudioWorkletNode;
  globalThis.AudioWorkletNode = class extends Plain {
    constructor(context: BaseAudioContext, name: string, options?: AudioWorkletNodeOptions) {
      super(context, name, options);
      if (name === "vise-engine") engines.push(this);
    }
  };
}
