import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { FIND_DEFAULTS, findSlices, measureLevels, measureSlices } from "../core/analysis";
import { framesOf, monoOf } from "../core/audio";
import { readSound } from "../core/formats";
import { openBrowser, visit } from "../e2e/browser";
import { writeTake } from "../e2e/long-take";
import { station } from "../e2e/scenario";
import { serve } from "../e2e/serve";
import { type Figure, round } from "./figure";

const COUNT = 900;
const APART = 1.999;

/** The longest task of the page while a take of 30 minutes is opened, searched and measured in the application. */
async function longestTask(path: string): Promise<number> {
  const { server, address } = await serve();
  const browser = await openBrowser();
  try {
    const { page } = await visit(browser);
    await page.goto(address);
    await page.getByRole("list", { name: "Takes" }).waitFor();
    await page.evaluate(() => {
      const long: number[] = [];
      (globalThis as unknown as { long: number[] }).long = long;
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) long.push(entry.duration);
      }).observe({ entryTypes: ["longtask"] });
    });
    await page.getByTestId("open-files").setInputFiles(path);
    await page
      .getByRole("list", { name: "Takes" })
      .getByText("half-hour", { exact: true })
      .waitFor({ timeout: 120000 });
    await station(page, "Cut");
    await page.getByRole("button", { name: "Find sounds" }).click();
    await page.getByRole("button", { name: `Make ${COUNT} samples` }).waitFor({ timeout: 180000 });
    const tasks = await page.evaluate(() => (globalThis as unknown as { long: number[] }).long);
    return Math.max(0, ...tasks);
  } finally {
    await browser.close();
    await server.close();
  }
}

/** How fast a take of 30 minutes is cut: found, pitch and loudness measured; against reading its file alone. */
export async function cutSpeed(): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), "vise-cut-"));
  const path = join(folder, "half-hour.wav");
  writeTake(path, COUNT, APART);
  try {
    const began = performance.now();
    const { audio } = readSound(readFileSync(path));
    const read = performance.now();
    const levels = measureLevels(monoOf(audio), audio.rate);
    const slices = findSlices(levels);
    const found = performance.now();
    measureSlices(audio, slices);
    const measured = performance.now();
    const times: number[] = [];
    for (let threshold = 12; threshold < 40; threshold++) {
      const from = performance.now();
      findSlices(levels, { ...FIND_DEFAULTS, threshold });
      times.push(performance.now() - from);
    }
    const seconds = framesOf(audio) / audio.rate;
    const again = Math.max(...times);
    const longest = await longestTask(path);
    return [
      {
        name: "a take of 30 min: levels and slices",
        value: Math.round(seconds / ((found - read) / 1000)),
        unit: "seconds of audio a second",
        ratio: round((found - read) / (read - began)),
        against: "reading and decoding the file alone",
        hold: "report",
        pass: slices.length === COUNT,
      },
      {
        name: `a take of 30 min: found, pitch and loudness of ${slices.length} sounds`,
        value: Math.round(seconds / ((measured - read) / 1000)),
        unit: "seconds of audio a second",
        ratio: round((measured - read) / (read - began)),
        against: "reading and decoding the file alone",
        hold: "report",
        pass: true,
      },
      {
        name: "a new threshold to new slices, 30 min",
        value: round(again),
        unit: "ms, the slowest of 28",
        hold: "≤ 50 ms",
        pass: again <= 50,
      },
      {
        name: "longest task of the page while 30 min are opened, found and measured",
        value: Math.round(longest),
        unit: "ms (0: none of 50 ms or more)",
        hold: "≤ 50 ms",
        pass: longest <= 50,
      },
    ];
  } finally {
    rmSync(folder, { recursive: true });
  }
}
