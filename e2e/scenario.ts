import assert from "node:assert/strict";
import type { Browser, Page } from "playwright-core";
import { type Visit, visit } from "./browser";
import { makeAudible } from "./hearing";

/** What a scenario is given: a browser in which it is a visitor of its own, the server's address, a folder to write in. */
export interface World {
  readonly browser: Browser;
  readonly address: string;
  readonly folder: string;
}

/** One thing that somebody does in the real interface, and what must come of it. */
export interface Scenario {
  readonly name: string;
  readonly run: (world: World) => Promise<void>;
  /** It records in real time or measures time, so that nothing else may run meanwhile. (What is heard is taken from the graph, frame by frame, however late.) */
  readonly alone?: true;
  /** Switches of the browser that it needs. */
  readonly switches?: (folder: string) => string[];
}

/** Opens the application as a first-time visitor would. */
export async function arrive(
  world: World,
  path = "/",
  options: { audible?: boolean; before?: () => void; away?: string } = {},
): Promise<Visit> {
  const visitor = await visit(world.browser, options);
  if (options.audible) await makeAudible(visitor.page);
  if (options.before) await visitor.page.addInitScript(options.before);
  if (options.away) await visitor.context.route(options.away, (route) => route.abort());
  await visitor.page.goto(world.address + path);
  await visitor.page.getByRole("navigation", { name: "Stations" }).waitFor();
  return visitor;
}

const stationsOf = (page: Page) => page.getByRole("navigation", { name: "Stations" });

/** Waits until a station is the one that is shown. */
export const current = (page: Page, name: string): Promise<void> =>
  stationsOf(page).locator('[aria-current="page"]', { hasText: name }).waitFor();

/** Goes to a station, and waits until it is there. */
export async function station(page: Page, name: string): Promise<void> {
  await stationsOf(page)
    .getByRole("link", { name: new RegExp(`\\b${name}\\b`) })
    .click();
  await current(page, name);
}

/** The document of the open instrument as it is stored, once it is saved. */
export async function storedDocument(page: Page): Promise<{ id: string; [key: string]: unknown }> {
  await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
  return page.evaluate(async () => {
    const database = await new Promise<IDBDatabase>((resolve, reject) => {
      const request = indexedDB.open("vise");
      request.onsuccess = () => resolve(request.result);
      request.onerror = () => reject(request.error);
    });
    const read = (store: string, key: string) =>
      new Promise<unknown>((resolve, reject) => {
        const request = database.transaction(store).objectStore(store).get(key);
        request.onsuccess = () => resolve(request.result);
        request.onerror = () => reject(request.error);
      });
    const id = (await read("settings", "open")) as string;
    const head = (await read("instruments", id)) as { parts: Record<string, string> };
    const part = async (name: string) => read("instruments", head.parts[name] ?? "");
    interface Rest {
      id: string;
      face: object;
      layers: { id: string; groups: { id: string; zones: unknown }[] }[];
    }
    const rest = (await part("rest")) as Rest;
    for (const layer of rest.layers) {
      for (const group of layer.groups) {
        const names = Object.keys(head.parts).filter((name) => name.startsWith(`zones/${layer.id}/${group.id}/`));
        group.zones = (await Promise.all(names.map(part))).flat();
      }
    }
    const face = { ...rest.face, ...((await part("pictures")) as object) };
    const document = { ...rest, face, takes: await part("takes"), samples: await part("samples") };
    database.close();
    return document;
  });
}

/** Opens the finished demo instrument from the library. */
export async function openHarp(page: Page): Promise<void> {
  await page.getByRole("link", { name: "Library" }).click();
  await page.getByRole("button", { name: /^Spoke harp/ }).click();
  await page.getByRole("heading", { name: "Keys × velocity" }).waitFor();
}

/** A notice that tells something. */
export const notice = (page: Page, text: string | RegExp) => page.locator("[data-kind]").filter({ hasText: text });

export function near(actual: number, expected: number, within: number, what: string): void {
  assert.ok(Math.abs(actual - expected) <= within, `${what}: ${actual}, expected ${expected} ± ${within}`);
}

/** Finds a command by its name and does it. */
export async function command(page: Page, name: string): Promise<void> {
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox", { name: "Commands" }).waitFor();
  await page.keyboard.type(name);
  await page.locator('[role="option"][data-selected="true"]', { hasText: name }).waitFor();
  await page.keyboard.press("Enter");
  await page.getByRole("dialog").waitFor({ state: "detached" });
}

/** Waits until the slice that was asked for fills the wave: before, its edges stand where they are no more when a hand gets there. */
export async function shownWide(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    const at = (label: string) => document.querySelector(`[aria-label="${label}"]`)?.getBoundingClientRect().x;
    return (at("End of the slice") ?? 0) - (at("Start of the slice") ?? Number.POSITIVE_INFINITY) > 300;
  });
}
