import { type Figure, round } from "./figure";
import { inPage } from "./in-page";

/** Voices for one core in Chromium, against the same chain of the browser's own nodes in the same run. */
export function voices(): Promise<Figure[]> {
  return inPage("voices-page.ts", async (page) => {
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
  });
}
