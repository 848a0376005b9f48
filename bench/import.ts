import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { hertzOf } from "../core/audio";
import { readSound, writeFlac } from "../core/formats";
import { openBrowser, visit } from "../e2e/browser";
import { bringInFolder, freshMap } from "../e2e/mapped";
import { serve } from "../e2e/serve";
import { type Figure, round } from "./figure";

const FILES = 500;
const RATE = 44100;

/** A struck tube of three seconds, as FLAC: what has to be decoded. */
function tube(index: number): Uint8Array {
  const note = 36 + (index % 60);
  const level = 0.1 + 0.08 * Math.floor(index / 60);
  const x = Float32Array.from({ length: RATE * 3 }, (_, i) => {
    const t = i / RATE;
    const f = 2 * Math.PI * hertzOf(note) * t;
    return level * (Math.sin(f) + 0.5 * Math.sin(2 * f + 1) + 0.25 * Math.sin(3 * f)) * Math.exp(-3 * t);
  });
  return writeFlac({ rate: RATE, channels: [x] }, 16, index);
}

/** How long 500 finished samples take to come in, measured and stored, against decoding them alone; and what it costs the page. */
export async function importing(): Promise<Figure[]> {
  const root = mkdtempSync(join(tmpdir(), "vise-import-"));
  const folder = join(root, "tubes");
  mkdirSync(folder);
  for (let i = 0; i < FILES; i++)
    writeFileSync(join(folder, `tube ${36 + (i % 60)} v${Math.floor(i / 60)}.flac`), tube(i));
  const { server, address } = await serve();
  const browser = await openBrowser();
  try {
    const { page } = await visit(browser);
    await page.goto(address);
    // A first start fetches the demo's instruments, which is no part of importing.
    await page.getByRole("link", { name: "Library" }).click();
    await page.getByRole("button", { name: "Spoke harp", exact: false }).first().waitFor();
    await freshMap(page);
    await page.evaluate(() => {
      const kept = globalThis as unknown as { tasks: { startTime: number; duration: number }[] };
      kept.tasks = [];
      new PerformanceObserver((list) => {
        for (const { startTime, duration } of list.getEntries()) kept.tasks.push({ startTime, duration });
      }).observe({ entryTypes: ["longtask"] });
    });
    const began = performance.now();
    await bringInFolder(page, folder);
    const progress = page.getByText(`Bringing in ${FILES} files`);
    await progress.waitFor();
    // What the browser itself takes to hand 500 picked files over is over by now.
    const handed = await page.evaluate(() => performance.now());
    await progress.waitFor({ state: "detached", timeout: 180000 });
    const brought = performance.now() - began;
    await page.getByRole("heading", { name: `How ${FILES} names are read` }).waitFor({ timeout: 60000 });
    // A task is told of in a later one.
    await page.evaluate(
      () => new Promise((told) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(told, 50)))),
    );
    const tasks = await page.evaluate(
      () => (globalThis as unknown as { tasks: { startTime: number; duration: number }[] }).tasks,
    );
    const longest = Math.max(0, ...tasks.filter((t) => t.startTime >= handed).map((t) => t.duration));
    const start = performance.now();
    for (let i = 0; i < FILES; i++)
      readSound(new Uint8Array(readFileSync(join(folder, `tube ${36 + (i % 60)} v${Math.floor(i / 60)}.flac`))));
    const decoded = performance.now() - start;
    return [
      {
        name: `import, ${FILES} files of 3 s brought in, measured and stored`,
        value: round(brought / 1000, 1),
        unit: "s",
        ratio: round(brought / decoded),
        against: `decoding them alone, one after the other (${round(decoded / 1000, 1)} s)`,
        hold: "≤ 1.2 ×",
        pass: brought <= 1.2 * decoded,
      },
      {
        name: "import, longest task of the page meanwhile and until they are proposed to be placed",
        value: round(longest, 0),
        unit: "ms",
        hold: "≤ 50 ms",
        pass: longest <= 50,
      },
    ];
  } finally {
    await browser.close();
    await server.close();
    rmSync(root, { recursive: true });
  }
}
