import type { Page } from "playwright-core";
import { type Figure, round } from "./figure";

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

/** So much slower than this machine a page is looked at too. */
const SLOWER = 4;

/** Two series of frames: while somebody works, and while a pointer moves and nothing follows it. */
interface Work {
  /** "loop-draw", and what is done. */
  readonly bench: string;
  readonly name: string;
  readonly still: () => Promise<number[]>;
  readonly busy: () => Promise<number[]>;
}

/** Frames while somebody works, of which 95 of 100 take no longer than one of the screen; and on a page a quarter as fast, against those of a pointer that moves nothing. */
export async function workFrames(page: Page, { bench, name, still, busy }: Work): Promise<Figure[]> {
  const session = await page.context().newCDPSession(page);
  const figures: Figure[] = [];
  for (const rate of [1, SLOWER]) {
    await session.send("Emulation.setCPUThrottlingRate", { rate });
    const idle = share(await still(), 0.95);
    const times = await busy();
    const slow = share(times, 0.95);
    const late = round((100 * times.filter((t) => t > 17.5).length) / times.length, 1);
    figures.push({
      name: `${bench}, 95 of 100 frames while ${name}${rate > 1 ? `, with the processor slowed by ${rate}` : ""}`,
      value: round(slow, 1),
      unit: "ms",
      ratio: round(slow / idle),
      against: `a pointer that drags nothing (${round(idle, 1)} ms; of those while dragging ${late} % came late)`,
      hold: rate > 1 ? "≤ 1.5 ×" : "≤ 17 ms",
      pass: rate > 1 ? slow <= 1.5 * idle : slow <= 17,
    });
  }
  await session.send("Emulation.setCPUThrottlingRate", { rate: 1 });
  await session.detach();
  return figures;
}
