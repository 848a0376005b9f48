// Takes the pictures of docs/screenshots: every station with the demo data, by day and by night, and the exported player.
import { mkdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import type { Page } from "playwright-core";
import { openBrowser, visit } from "./browser";
import { command, openHarp, station } from "./scenario";
import { serve } from "./serve";

const folder = process.argv[2] ?? "docs/screenshots";
mkdirSync(folder, { recursive: true });
const { server, address } = await serve();
const browser = await openBrowser();

async function tour(page: Page, dark: boolean): Promise<void> {
  const shot = async (name: string) => {
    // Fonts and drawings settle within two frames.
    await page.evaluate(async () => {
      await document.fonts.ready;
      await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
    });
    await page.screenshot({ path: `${folder}/${name}${dark ? "-night" : ""}.png` });
  };
  await page.goto(address);
  await page.getByRole("img", { name: "Waveform of spokes" }).waitFor();
  await shot("take");
  if (!dark) {
    await page.getByRole("tab", { name: "Shot list" }).click();
    await page.getByRole("textbox", { name: "Shot list by hand" }).fill("D3..D5/3 v2 x3");
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Record the list" }).click();
    await page
      .getByTestId("shot-last")
      .getByText(/is good/)
      .waitFor();
    await shot("take-shots");
    await page.getByRole("region", { name: "Recording the shot list" }).getByRole("button", { name: "Stop" }).click();
    await page.locator("[data-kind]", { hasText: "in the take, with note, velocity layer" }).waitFor();
    await page.getByRole("button", { name: "Close", exact: true }).click();
  }
  await openHarp(page);
  await page.locator("[data-testid=voices]", { hasText: "voice" }).waitFor();
  await page.getByTestId("zone-field").click({ position: { x: 470, y: 200 } });
  await page.getByTestId("trace").getByText(/rate/).waitFor();
  if (dark) await kit(page);
  await shot("map");
  if (dark) {
    await page.keyboard.press("Control+z");
    await page.keyboard.press("Control+z");
    await page.getByRole("tab", { name: "Zones" }).click();
    await page.getByTestId("zone-field").click({ position: { x: 6, y: 300 } });
    await page.getByTestId("zone-field").click({ position: { x: 470, y: 200 } });
  }
  if (!dark) {
    await page.getByRole("button", { name: "Place 48 samples" }).click();
    await page.getByText("48 to be placed").waitFor();
    await page.getByRole("button", { name: "spokes: means nothing" }).first().waitFor();
    await shot("map-placing");
    await page.getByRole("button", { name: "Not now" }).click();
    await page.getByTestId("zone-field").click({ position: { x: 470, y: 200 } });
  }
  await page.getByRole("button", { name: /repeat 2$/ }).click();
  await station(page, "Cut");
  await page.getByRole("row").nth(4).click();
  for (let i = 0; i < 25; i++) await page.keyboard.press("ArrowDown");
  await page.locator('[aria-rowindex="30"] [data-column="8"]').dblclick();
  await page.getByRole("slider", { name: "Start of the slice" }).waitFor();
  if (!dark) {
    await shot("cut");
    await page.getByRole("tab", { name: "Matrix" }).click();
    await page.getByRole("grid").waitFor();
    await shot("cut-matrix");
  }
  await station(page, "Loop");
  await page.getByRole("button", { name: /^Loop 1: score/ }).click();
  await page.getByRole("img", { name: "The sound around the seam" }).waitFor();
  await shot("loop");
  await station(page, "Sound");
  if (dark) await computed(page);
  else await effects(page);
  await page.getByRole("main").focus();
  await page.keyboard.down("d");
  await page.waitForFunction(
    () => Number.parseFloat((document.querySelector('[data-after="effects"]') as HTMLElement).style.height) > 5,
  );
  await shot("sound");
  await page.keyboard.up("d");
  if (dark) await page.keyboard.press("Alt+m");
  await station(page, "Motion");
  await shot("motion");
  await station(page, "Face");
  await page.getByRole("group", { name: "dial Brightness" }).click();
  await shot("face");
  if (dark) return;
  await station(page, "Rules");
  await page.getByRole("switch", { name: "Rules on" }).click();
  // The script is tried first: until it is on, notes sound as played.
  const ruled = page.getByTestId("trace").getByText(/rules/);
  for (let i = 0; i < 50 && (await ruled.count()) === 0; i++) {
    await page.keyboard.press("d");
    await ruled.waitFor({ timeout: 300 }).catch(() => {});
  }
  await ruled.waitFor();
  await shot("rules");
  await station(page, "Ship");
  await shot("ship");
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Export the player" }).click(),
  ]);
  const path = join(tmpdir(), "vise-player.html");
  await file.saveAs(path);
  await page.goto(pathToFileURL(path).href);
  await page.getByRole("heading", { name: "Spoke harp" }).waitFor();
  await page.keyboard.down("d");
  await page.locator(".key.down").waitFor();
  await shot("player");
}

/** The outline, with a group for each sound. */
async function kit(page: Page): Promise<void> {
  await page.getByTestId("zone-field").focus();
  await page.keyboard.press("Control+a");
  await command(page, "Make a kit: a group for each root");
  await page.locator("[data-outlined] [data-name]").nth(2).click();
  await page.getByRole("combobox", { name: "Mark of the group" }).click();
  await page.getByRole("option", { name: "Teal" }).click();
}

/** An echo in a send and an equaliser over the whole. */
async function effects(page: Page): Promise<void> {
  for (const [where, what] of [
    ["Send 1", "delay"],
    ["Master", "equaliser"],
  ] as const) {
    await page.getByRole("button", { name: `Add to ${where}`, exact: true }).click();
    await page.getByPlaceholder("find by what it does").fill(what);
    await page.keyboard.press("Enter");
    await page.getByRole("region", { name: new RegExp(`^${what}$`, "i") }).waitFor();
  }
  for (const [field, text] of [
    ["Gain of band 3", "-5 dB"],
    ["Gain of band 4", "6 dB"],
  ] as const) {
    await page.getByRole("textbox", { name: field }).fill(text);
    await page.keyboard.press("Enter");
  }
}

/** A computed layer whose voices ring, with the measures above the keys. */
async function computed(page: Page): Promise<void> {
  const pick = async (button: string, words: string, region: string) => {
    await page.getByRole("button", { name: button, exact: true }).click();
    await page.getByPlaceholder("find by what it does").fill(words);
    await page.keyboard.press("Enter");
    await page.getByRole("region", { name: region, exact: true }).waitFor();
  };
  await pick("Add a layer", "knock", "Strike");
  await pick("Add to the voices of Strike", "modal", "Resonator");
  await page.keyboard.press("Alt+m");
  await page.getByRole("region", { name: "Measures" }).waitFor();
}

for (const dark of process.argv[3] === "night" ? [true] : process.argv[3] === "day" ? [false] : [false, true]) {
  const { page, context } = await visit(browser, { dark });
  await tour(page, dark);
  await context.close();
}
await browser.close();
await server.close();
