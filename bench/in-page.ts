import { build } from "esbuild";
import type { Page } from "playwright-core";
import { openBrowser } from "../e2e/browser";

/** Runs a file of this folder in an empty page of a browser of its own, and gives the page to `use`: what the file offers stands on its global object. */
export async function inPage<T>(file: string, use: (page: Page) => Promise<T>): Promise<T> {
  const bundled = await build({
    entryPoints: [`bench/${file}`],
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
    return await use(page);
  } finally {
    await browser.close();
  }
}
