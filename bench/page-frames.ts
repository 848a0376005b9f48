import type { Page } from "playwright-core";

/** The value below which a share of some values lies. */
export const share = (values: readonly number[], part: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) * part)] ?? 0;

/** Times between frames, in milliseconds, while a pointer goes to and fro for some seconds. */
export async function frames(page: Page, x: number, y: number, seconds: number, reach = 120): Promise<number[]> {
  await page.evaluate(() => {
    const kept = globalThis as unknown as { frameTimes: number[]; going: boolean };
    kept.frameTimes = [];
    kept.going = true;
    let last = performance.now();
    const look = (now: number) => {
      kept.frameTimes.push(now - last);
      last = now;
      if (kept.going) requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  const end = performance.now() + seconds * 1000;
  for (let i = 0; performance.now() < end; i++) await page.mouse.move(x + Math.sin(i / 9) * reach, y);
  return page.evaluate(() => {
    const kept = globalThis as unknown as { frameTimes: number[]; going: boolean };
    kept.going = false;
    return kept.frameTimes.slice(2);
  });
}
