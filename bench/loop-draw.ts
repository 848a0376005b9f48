import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { seededRandom } from "../core/audio";
import { sha256Of, writePackage, writeWav } from "../core/formats";
import { addSamples, newInstrument, newLoop, newSample, newZone, placeZones, together } from "../core/instrument";
import { openBrowser, visit } from "../e2e/browser";
import { serve } from "../e2e/serve";
import { type Figure, round } from "./figure";
import { longestTask } from "./longest-task";
import { frames, workFrames } from "./page-frames";

const RATE = 44100;
const MINUTES = 10;

/** A package of one sound of ten minutes with a loop of one, crossfaded. */
function longPackage(): Uint8Array {
  const random = seededRandom(4);
  const wave = Float32Array.from(
    { length: MINUTES * 60 * RATE },
    (_, i) => 0.3 * Math.sin(i * 0.05) * (1 + 0.3 * Math.sin(i * 1e-5)) + 0.01 * (random() - 0.5),
  );
  const file = writeWav({ rate: RATE, channels: [wave] }, 16);
  const sha = sha256Of(file);
  const loop = newLoop({ start: 120 * RATE, end: 180 * RATE, fade: RATE / 2 });
  const instrument = together("", [
    addSamples([newSample({ sha, name: "ten minutes", frames: wave.length, rate: RATE })]),
    placeZones("main", "main", [newZone({ id: "z1", sample: sha, end: wave.length, root: 60, loop })], true),
  ]).apply(newInstrument("long", "Ten minutes"));
  return writePackage(instrument, () => file);
}

/** Frames while the flag of a loop in ten minutes of sound is dragged, seam and unrolled level open, against those of a pointer that drags nothing. */
export async function loopDraw(): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), "vise-loop-"));
  const path = join(folder, "long.vise");
  writeFileSync(path, longPackage());
  const { server, address } = await serve();
  const browser = await openBrowser();
  try {
    const { page } = await visit(browser);
    await page.goto(`${address}/ship`);
    await page.getByTestId("import-package").setInputFiles(path);
    await page.getByRole("heading", { name: "Keys × velocity" }).waitFor({ timeout: 120000 });
    await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
    // Looked for by plain selectors: to find something by its role takes the page's own time, up to a tenth of a second.
    const appears = (selector: string, text = "") =>
      page.waitForFunction(
        ([sought, word]) => [...document.querySelectorAll(sought)].some((e) => e.textContent?.includes(word)),
        [selector, text] as const,
        { polling: 100, timeout: 60000 },
      );
    const opening = await longestTask(browser, page, async () => {
      await page.evaluate(() => document.querySelector<HTMLElement>('nav a[href^="/loop"]')?.click());
      await appears('[aria-label="Level over time"]');
      await appears('[aria-label^="Loop 1: score"]');
      // Until it was judged a worker is busy with it.
      await appears("aside", "None of those that are found here, score");
    });
    const flag = await page.getByRole("slider", { name: "Loop end", exact: true }).boundingBox();
    if (!flag) throw new Error("the loop has no flag");
    const [x, y] = [flag.x + flag.width / 2, flag.y + 40];
    const dragged = await workFrames(page, {
      bench: "loop-draw",
      name: `a flag is dragged in ${MINUTES} minutes of sound`,
      still: () => frames(page, x + 200, y, 2, 40),
      busy: async () => {
        await page.mouse.move(x, y);
        await page.mouse.down();
        const times = await frames(page, x, y, 5, 40);
        await page.mouse.move(x, y);
        await page.mouse.up();
        return times;
      },
    });
    return [
      ...dragged,
      {
        name: "loop-draw, the longest task of the page while the station opens and loops are found",
        value: round(opening.worked, 0),
        unit: "ms",
        against: `${round(opening.lasted, 0)} ms by the clock, workers beside it`,
        hold: "≤ 50 ms of the processor's time",
        pass: opening.worked <= 50,
      },
    ];
  } finally {
    await browser.close();
    await server.close();
    rmSync(folder, { recursive: true });
  }
}
