import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { CDPSession, Page } from "playwright-core";
import { sha256Of, writePackage, writeWav } from "../core/formats";
import { addSamples, newInstrument, newSample, newZone, placeZones, together } from "../core/instrument";
import { openBrowser, visit } from "../e2e/browser";
import { serve } from "../e2e/serve";
import { type Figure, round } from "./figure";

const KEYS = 100;
const LAYERS = 10;
const REPEATS = 5;
const MOVES = 150;

/** A package of one sound and 5,000 zones, or of every tenth key's first repeats, which are 100. */
function bigPackage(few = false): Uint8Array {
  const wave = Float32Array.from({ length: 44100 }, (_, i) => 0.3 * Math.sin(i * 0.05) * Math.exp(-i / 9000));
  const file = writeWav({ rate: 44100, channels: [wave] }, 24);
  const sha = sha256Of(file);
  const zones = Array.from({ length: KEYS * LAYERS * REPEATS }, (_, i) => {
    const key = 10 + (i % KEYS);
    const layer = Math.floor(i / KEYS) % LAYERS;
    return newZone({
      id: `z${i}`,
      sample: sha,
      end: wave.length,
      root: key,
      keyLow: key,
      keyHigh: key,
      velLow: 1 + layer * 12,
      velHigh: layer === LAYERS - 1 ? 127 : 12 + layer * 12,
      repeat: 1 + Math.floor(i / (KEYS * LAYERS)),
    });
  });
  const instrument = together("", [
    addSamples([newSample({ sha, name: "one", frames: wave.length })]),
    placeZones(
      "main",
      "main",
      zones.filter((z) => !few || (z.root % 10 === 1 && z.repeat === 1)),
      true,
    ),
  ]).apply(newInstrument("many", "Many zones"));
  return writePackage(instrument, () => file);
}

/** Time that the page's thread has worked, in milliseconds. */
async function worked(cdp: CDPSession): Promise<number> {
  const { metrics } = await cdp.send("Performance.getMetrics");
  return (metrics.find((m) => m.name === "TaskDuration")?.value ?? 0) * 1000;
}

/** What each of many pointer moves costs the page, in milliseconds, until what it changed is on screen. */
async function costs(page: Page, cdp: CDPSession, x: number, y: number): Promise<number[]> {
  const found: number[] = [];
  for (let i = 0; i < MOVES; i++) {
    const before = await worked(cdp);
    // A key further with each, so that every move changes something.
    await page.mouse.move(x + ((i * 3) % 7) * 23 - 69, y + ((i * 11) % 60) - 30);
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => setTimeout(done))));
    found.push((await worked(cdp)) - before);
  }
  return found;
}

const share = (values: readonly number[], part: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) * part)] ?? 0;

/** What pointer moves cost that drag a zone of the package, while it is being stored as it is in any longer drag. */
async function dragging(packed: Uint8Array): Promise<{ median: number; slow: number }> {
  const folder = mkdtempSync(join(tmpdir(), "vise-edit-"));
  const path = join(folder, "many.vise");
  writeFileSync(path, packed);
  const { server, address } = await serve();
  const browser = await openBrowser();
  try {
    const { page } = await visit(browser);
    await page.goto(`${address}/ship`);
    await page.getByTestId("import-package").setInputFiles(path);
    await page.getByRole("heading", { name: "Keys × velocity" }).waitFor({ timeout: 60000 });
    const field = await page.getByTestId("zone-field").boundingBox();
    if (!field) throw new Error("there is no field of zones");
    await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
    const cdp = await page.context().newCDPSession(page);
    await cdp.send("Performance.enable");
    const [x, y] = [field.x + field.width / 2 + 3, field.y + field.height / 2];
    // What looking costs, and a pointer that moves over it and changes nothing.
    const idle = share(await costs(page, cdp, x, y), 0.5);
    await page.mouse.move(x, y);
    await page.mouse.down();
    const dragged = await costs(page, cdp, x, y);
    await page.mouse.up();
    await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
    await page.getByRole("button", { name: "Undo", exact: true }).and(page.locator(":enabled")).waitFor();
    return { median: share(dragged, 0.5) - idle, slow: share(dragged, 0.95) - idle };
  } finally {
    await browser.close();
    await server.close();
    rmSync(folder, { recursive: true });
  }
}

/** One pointer move that drags a zone of an instrument with 5,000, on the page's thread, against one with 100. */
export async function editCost(): Promise<Figure[]> {
  const few = await dragging(bigPackage(true));
  const many = await dragging(bigPackage());
  return (["median", "slow"] as const).map((key) => ({
    name: `edit-cost, ${key === "median" ? "half" : "95 of 100"} of the pointer moves with ${KEYS * LAYERS * REPEATS} zones, while it is being stored`,
    value: round(many[key], 1),
    unit: "ms",
    ratio: round(many[key] / few[key]),
    against: `100 zones (${round(few[key], 1)} ms)`,
    hold: "≤ 8 ms",
    pass: many[key] <= 8,
  }));
}
