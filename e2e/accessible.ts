import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import type { Page } from "playwright-core";
import { arrive, openHarp, type Scenario, station } from "./scenario";

/** What looks for them, to be run in a page first. */
export const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

interface Violation {
  readonly id: string;
  readonly help: string;
  readonly nodes: readonly { readonly target: readonly string[]; readonly failureSummary?: string }[];
}

export const RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];
/** The one of them that another theme can break. */
const COLOUR = ["color-contrast"];

/** What the rules of WCAG 2.2 AA that can be checked by a program find wrong with a page, each with its places. */
export async function violations(page: Page, runOnly: readonly string[]): Promise<string[]> {
  const { violations: found } = await page.evaluate(
    async (only) => {
      const axe = (globalThis as unknown as { axe: { run: (options: object) => Promise<{ violations: Violation[] }> } })
        .axe;
      return axe.run({ runOnly: only, resultTypes: ["violations"] });
    },
    [...runOnly],
  );
  return found.map(
    (v) =>
      `${v.id}: ${v.help}\n${v.nodes
        .slice(0, 4)
        .map((n) => `    ${n.target.join(" ")} ${n.failureSummary?.replace(/\s+/g, " ").slice(0, 200) ?? ""}`)
        .join("\n")}`,
  );
}

const STATIONS = ["Take", "Cut", "Map", "Loop", "Sound", "Motion", "Face", "Rules", "Ship"] as const;

/** Shows the page in a theme as the button does, without a press that would close what is open. */
const inTheme = (page: Page, theme: "day" | "night"): Promise<void> =>
  page.evaluate((name) => {
    document.documentElement.dataset.theme = name;
  }, theme);

const stations: Scenario = {
  name: "every station is accessible as far as a program can tell, and can be read by night as by day",
  run: async (world) => {
    const { page, complaints } = await arrive(world);
    await page.evaluate(AXE);
    await inTheme(page, "day");
    const wrong: string[] = [];
    const look = async (where: string) => {
      for (const violation of await violations(page, RULES)) wrong.push(`${where}: ${violation}`);
      await inTheme(page, "night");
      for (const violation of await violations(page, COLOUR)) wrong.push(`${where}, by night: ${violation}`);
      await inTheme(page, "day");
    };
    await look("Take, empty instrument");
    await openHarp(page);
    for (const name of STATIONS) {
      await station(page, name);
      await page.getByRole("main").waitFor();
      if (name === "Cut") await page.getByRole("row").nth(3).click();
      if (name === "Map") {
        await page.getByRole("tab", { name: "List" }).click();
        await page.getByRole("row").nth(3).click();
        await look("Map, list");
        await page.getByRole("tab", { name: "Field" }).click();
        await page.getByRole("tab", { name: /^Pool/ }).click();
        await page.getByText("all are on the keys").waitFor();
        await look("Map, pool");
        await page.getByRole("tab", { name: "Outline" }).click();
        await page.getByRole("button", { name: "Add microphone" }).click();
        await page.getByRole("button", { name: "Add layer set" }).click();
        await page.getByRole("button", { name: "Main", exact: true }).last().click();
        await look("Map, outline");
        await page.getByRole("tab", { name: /^Check/ }).click();
        await page.getByText("No warnings", { exact: false }).waitFor();
        await page.getByRole("figure", { name: /^Level/ }).waitFor();
        await look("Map, check");
        await page.getByRole("tab", { name: "Zones" }).click();
        await page.getByRole("button", { name: "Place 48 samples" }).click();
        await page.getByText("48 to be placed").waitFor();
        await look("Map, placing");
        await page.getByRole("button", { name: "Not now" }).click();
      }
      await look(name);
      if (name === "Face") {
        await page.getByRole("group", { name: /^dial Brightness/ }).click();
        await look("Face, an item");
        for (const tab of ["Outline", "Look"]) {
          await page.getByRole("tab", { name: tab }).click();
          await look(`Face, ${tab}`);
        }
      }
      if (name === "Sound") {
        await page.keyboard.press("Alt+m");
        await page.getByRole("region", { name: "Measures" }).waitFor();
        await page.getByRole("button", { name: "Add a layer", exact: true }).click();
        await page.getByPlaceholder("find by what it does").fill("additive");
        await look("Sound, adding a layer");
        await page.keyboard.press("Enter");
        await page.getByRole("region", { name: "Partials", exact: true }).waitFor();
        await look("Sound, partials and measures");
        await page.keyboard.press("Alt+m");
      }
    }
    await page.getByRole("link", { name: "Library" }).click();
    await page.getByRole("heading", { name: "Library" }).waitFor();
    await look("Library");
    await page.keyboard.press("?");
    await page.getByRole("dialog").waitFor();
    await look("Shortcuts");
    assert.equal(wrong.join("\n"), "");
    assert.deepEqual(complaints, []);
  },
};

export const accessible: readonly Scenario[] = [stations];
