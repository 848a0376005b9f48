import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { CDPSession, Page } from "playwright-core";
import { sha256Of, writePackage, writeWav } from "../core/formats";
import { addSamples, newInstrument, newSample, newZone, placeZones, together } from "../core/instrument";
import { openBrowser, visit } from "../e2e/browser";
import { serve } from "../e2e/serve";
import { type Figure, round } from "./figure";
import { frames, share, workFrames } from "./page-frames";

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

/** Opens a package in a browser and gives its field to `look`. */
async function withField<T>(
  packed: Uint8Array,
  look: (page: Page, cdp: CDPSession, field: { x: number; y: number; width: number; height: number }) => Promise<T>,
): Promise<T> {
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
    return await look(page, cdp, field);
  } finally {
    await browser.close();
    await server.close();
    rmSync(folder, { recursive: true });
  }
}

const stored = async (page: Page): Promise<void> => {
  await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
};

/** What pointer moves cost that drag a zone of the package, while it is being stored as it is in any longer drag. */
const dragging = (packed: Uint8Array): Promise<{ median: number; slow: number }> =>
  withField(packed, async (page, cdp, field) => {
    const [x, y] = [field.x + field.width / 2 + 3, field.y + field.height / 2];
    // What looking costs, and a pointer that moves over it and changes nothing.
    const idle = share(await costs(page, cdp, x, y), 0.5);
    await page.mouse.move(x, y);
    await page.mouse.down();
    const dragged = await costs(page, cdp, x, y);
    await page.mouse.up();
    await stored(page);
    await page.getByRole("button", { name: "Undo", exact: true }).and(page.locator(":enabled")).waitFor();
    return { median: share(dragged, 0.5) - idle, slow: share(dragged, 0.95) - idle };
  });

/** Zones of so many keys that are dragged at once: 50 of each. */
const DRAGGED_KEYS = 10;

/** Frames while 500 of 5,000 zones are dragged, which are stored meanwhile, against those of a pointer that drags nothing. */
export async function field(): Promise<Figure[]> {
  return withField(bigPackage(), async (page, _cdp, box) => {
    const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    const key = box.width / 41;
    for (let k = 0; k < DRAGGED_KEYS; k++) {
      if (k > 0) await page.keyboard.down("Shift");
      await page.mouse.click(middle.x + (k - 5 + 0.5) * key, box.y + 6);
      if (k > 0) await page.keyboard.up("Shift");
    }
    const chosen = page.getByRole("heading", { name: `${DRAGGED_KEYS * LAYERS * REPEATS} zones` });
    await chosen.waitFor();
    return workFrames(page, {
      bench: "field",
      name: `${DRAGGED_KEYS * LAYERS * REPEATS} of ${KEYS * LAYERS * REPEATS} zones are dragged and stored`,
      still: () => frames(page, middle.x, middle.y, 2),
      busy: async () => {
        await page.mouse.move(middle.x + 3, middle.y);
        await page.mouse.down();
        const times = await frames(page, middle.x + 3, middle.y, 5);
        await page.mouse.move(middle.x + 3, middle.y);
        await page.mouse.up();
        await stored(page);
        return times;
      },
    });
  });
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
