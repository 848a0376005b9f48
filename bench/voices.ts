import { build } from "esbuild";
import { openBrowser } from "../e2e/browser";
import { type Figure, round } from "./figure";

/** Voices for one core in Chromium, against the same chain of the browser's own nodes in the same run. */
export async function voices(): Promise<Figure[]> {
  const bundled = await build({
    entryPoints: ["bench/voices-page.ts"],
    bundle: true,
    write: false,
    format: "iife",
    target: "es2022",
  });
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    await page.goto("about:blank");
    await page.addScriptTag({ content: bundled.outputFiles[0]?.text ?? "" });
    const figures: Figure[] = [];
    for (const count of [64, 256]) {
      const { ours, native } = await page.evaluate(
        (n) =>
          (
            globalThis as unknown as { measureVoices: (n: number) => Promise<{ ours: number; native: number }> }
          ).measureVoices(n),
        count,
      );
      const ratio = ours / native;
      figures.push({
        name: `voices for one core, ${count} at once`,
        value: Math.round(ours),
        unit: "voices",
        ratio: round(ratio),
        against: `the browser's own nodes (${Math.round(native)} voices)`,
        hold: "ratio ≥ 5, aim 8",
        pass: ratio >= 5,
      });
    }
    return figures;
  } finally {
    await browser.close();
  }
}
