// `npm run kills [-- count]`: kills the page at random moments while it records, edits, packs, imports, places, cuts and sweeps; in a new one looks for what was lost. One JSON line a kind.
import type { BrowserContext, Page } from "playwright-core";
import { type Random, seededRandom } from "../core/audio";
import { openBrowser, visit } from "./browser";
import { beginJob, JOBS, type Job, lossesOf, Material } from "./killed-jobs";
import { openHarp, station, storedDocument } from "./scenario";
import { serve } from "./serve";

const count = Number(process.argv[2] ?? 100);
const random: Random = seededRandom(Number(process.argv[3] ?? 1));
const { server, address } = await serve();
const browser = await openBrowser();

async function crash(page: Page): Promise<void> {
  const killer = await page.context().newCDPSession(page);
  const gone = page.waitForEvent("crash");
  void killer.send("Page.crash").catch(() => {});
  await gone;
  await page.close();
}

async function begin(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  page.setDefaultTimeout(20000);
  await page.goto(`${address}/map`);
  // What stands there instead is told: that is the fault that is looked for.
  const there = page.getByRole("navigation", { name: "Stations" }).waitFor({ timeout: 60000 });
  await there.catch(async () => {
    const shown = ((await page.locator("body").textContent()) ?? "").replaceAll(/\s+/g, " ");
    throw new Error(`not opened within a minute: ${shown.slice(0, 300)}`);
  });
  return page;
}

const saved = (page: Page) => page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
const moment = (page: Page, most: number) => page.waitForTimeout(random() * most);
const lost = { edits: 0, edited: 0, seconds: 0, recorded: 0, packed: 0, unopened: 0 };

const { page: first, context } = await visit(browser);
await first.goto(address);
await openHarp(first);
await saved(first);
await first.close();
let name = "Spoke harp";
const material = new Material();
const atWork: Record<Job, number> = { import: 0, placing: 0, cut: 0, sweep: 0 };
const losses: string[] = [];
/** Kills until now, so that a run that is ended early has said what it found. */
const told = (n: number): void => {
  if (n % 10 === 0) console.error(`${n} kills, losses: ${losses.join("; ") || "none"}`);
};
for (let n = 0; n < count; n++) {
  told(n);
  const page = await begin(context);
  const kind = n % (3 + JOBS.length);
  if (kind === 0) {
    // What was shown as saved must be there; what came after it may be.
    await page.getByRole("textbox", { name: "Name of the instrument" }).fill(`kept ${n}`);
    await saved(page);
    name = `kept ${n}`;
    await page.getByRole("textbox", { name: "Name of the instrument" }).fill(`kept ${n} and more`);
    await moment(page, 400);
    await crash(page);
    const again = await begin(context).catch(() => null);
    lost.edited++;
    if (!again) lost.unopened++;
    else {
      const found = await again.getByRole("textbox", { name: "Name of the instrument" }).inputValue();
      if (!found.startsWith(name)) lost.edits++;
      await again.close();
    }
  } else if (kind === 1) {
    await station(page, "Take");
    const strip = page.getByRole("region", { name: "Recording" });
    await strip.getByRole("button", { name: "Record", exact: true }).click();
    await strip.getByText(/^[1-9]\.\d\d s$/).waitFor();
    await moment(page, 1200);
    const shown = Number.parseFloat((await strip.getByText(/^\d+\.\d\d s$/).textContent()) ?? "0");
    await crash(page);
    const again = await begin(context);
    await station(again, "Take");
    await again.getByRole("button", { name: "Recover it" }).first().click();
    await again.getByText("was being recorded when Vise closed").first().waitFor({ state: "detached" });
    const takes = (await storedDocument(again)).takes as { name: string; frames: number; rate: number }[];
    const take = takes.at(-1);
    const gone = shown - (take ? take.frames / take.rate : 0);
    lost.recorded++;
    lost.seconds = Math.max(lost.seconds, gone);
    await again.getByRole("button", { name: "Undo", exact: true }).click();
    await saved(again);
    await again.close();
  } else if (kind > 2) {
    const job = JOBS[kind - 3] as Job;
    const before = await beginJob(page, job, material, n);
    await moment(page, 900);
    await crash(page);
    const again = await begin(context);
    atWork[job]++;
    losses.push(...(await lossesOf(again, before)).map((loss) => `${job}: ${loss}`));
    await again.close();
  } else {
    await station(page, "Ship");
    await page.getByRole("button", { name: "Export the package" }).click();
    await moment(page, 600);
    const before = await storedDocument(page);
    await crash(page);
    const again = await begin(context);
    if (JSON.stringify(await storedDocument(again)) !== JSON.stringify(before)) lost.packed++;
    await again.close();
  }
}
console.log(
  JSON.stringify({
    kills: count,
    "saved edits lost": lost.edits,
    "of edits": lost.edited,
    "most sound lost, seconds": Math.round(lost.seconds * 100) / 100,
    "of recordings": lost.recorded,
    "documents changed while packing": lost.packed,
    "not opened": lost.unopened,
    "at work": atWork,
    losses,
  }),
);
material.remove();
await context.close();
await browser.close();
await server.close();
process.exitCode = lost.edits + lost.packed + lost.unopened + losses.length > 0 || lost.seconds > 1 ? 1 : 0;
