import { type Figure, round } from "./figure";
import { inPage } from "./in-page";

/** How many times as many voices as the browser's own nodes give. */
const HOLD = 5;

interface Bench {
  readonly sourceCases: readonly string[];
  readonly measureSource: (name: string) => Promise<{ ours: number; native: number }>;
}

/** Voices for one core of computed sources and resonators in Chromium, against the same built of the browser's own nodes in the same run. */
export function sources(): Promise<Figure[]> {
  return inPage("sources-page.ts", async (page) => {
    const names = await page.evaluate(() => (globalThis as unknown as Bench).sourceCases);
    const figures: Figure[] = [];
    for (const name of names) {
      const { ours, native } = await page.evaluate((n) => (globalThis as unknown as Bench).measureSource(n), name);
      const ratio = ours / native;
      figures.push({
        name: `source: ${name}`,
        value: Math.round(ours),
        unit: "voices for one core",
        ratio: round(ratio),
        against: `the browser's own nodes (${Math.round(native)} voices)`,
        hold: `ratio ≥ ${HOLD}`,
        pass: ratio >= HOLD,
      });
    }
    return figures;
  });
}
