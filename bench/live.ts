import { build } from "esbuild";
import type { Page as BrowserPage } from "playwright-core";
import { seededRandom } from "../core/audio";
import { bench, RATE } from "../core/engine/test-bench";
import { openBrowser } from "../e2e/browser";
import { serve } from "../e2e/serve";
import type { Figure } from "./figure";

const VOICES = 512;
const SECONDS = 10;
const RUNS = 3;

interface Page {
  measureIdle: (w: string, seconds: number, latencyHint: string) => Promise<number>;
  measureUnderruns: (
    w: string,
    voices: number,
    seconds: number,
    latencyHint: string,
  ) => Promise<{ events: number; voices: number; load: number }>;
  measureTiming: (w: string, frames: readonly number[]) => Promise<{ peaks: number[]; wave: number[] }>;
}

async function codeOf(entry: string, format: "iife" | "esm"): Promise<string> {
  const bundled = await build({
    entryPoints: [entry],
    bundle: true,
    write: false,
    format,
    target: "es2022",
    conditions: ["browser"],
    define: { "import.meta.url": '""' },
    logLevel: "error",
  });
  return bundled.outputFiles[0]?.text ?? "";
}

/** Runs something in a page that is allowed to have worklets, with the engine's worklet as text. */
async function inPage<T>(run: (page: BrowserPage, worklet: string) => Promise<T>): Promise<T> {
  const { server, address } = await serve();
  const browser = await openBrowser();
  try {
    const context = await browser.newContext({ bypassCSP: true });
    const page = await context.newPage();
    await page.goto(`${address}/`);
    await page.addScriptTag({ content: await codeOf("bench/live-page.ts", "iife") });
    return await run(page, await codeOf("app/audio/engine.worklet.ts", "esm"));
  } finally {
    await browser.close();
    await server.close();
  }
}

/**
 * Live in the worklet: 512 voices for 10 s without the sound breaking off, the best of three runs beside the best of three without
 * any voice: this machine gives the browser's audio thread no precedence, and now and then the sound breaks off, voices or not.
 */
export async function live(): Promise<Figure[]> {
  const figures: Figure[] = [];
  for (const hint of ["playback", "interactive"]) {
    const about = { n: VOICES, s: SECONDS, hint };
    const runs: { events: number; voices: number; load: number }[] = [];
    const idle: number[] = [];
    for (let run = 0; run < RUNS; run++) {
      runs.push(
        await inPage((page, worklet) =>
          page.evaluate(({ w, n, s, hint }) => (globalThis as unknown as Page).measureUnderruns(w, n, s, hint), {
            w: worklet,
            ...about,
          }),
        ),
      );
      idle.push(
        await inPage((page, worklet) =>
          page.evaluate(({ w, s, hint }) => (globalThis as unknown as Page).measureIdle(w, s, hint), {
            w: worklet,
            ...about,
          }),
        ),
      );
    }
    const all = runs.map((r) => r.events);
    const voices = Math.min(...runs.map((r) => r.voices));
    const load = Math.max(...runs.map((r) => r.load));
    figures.push({
      name: `live, ${voices} voices for ${SECONDS} s in the worklet, ${hint}, best of ${all.join(", ")} (load ${Math.round(load * 100)} %)`,
      value: Math.min(...all),
      unit: "underruns",
      against: `no voice at all, same browser, best of ${idle.join(", ")}: ${Math.min(...idle)}`,
      hold: `0, with ${VOICES} voices`,
      pass: all.includes(0) && voices === VOICES,
    });
  }
  return figures;
}

/** How far what the worklet played is from what the same engine plays in Node, in decibels of full scale. */
function apart(frames: readonly number[], wave: readonly number[]): number {
  const click = new Float32Array(4000);
  click[20] = 1;
  for (let i = 120; i < 4000; i++) click[i] = 0.02 * Math.sin(i * i * 1e-4);
  const b = bench([{ rate: RATE, channels: [click] }], [{ root: 60, track: 0, oneShot: true }]);
  frames.forEach((f, i) => {
    b.engine.midi(0x90, 40 + (i % 60), 127, f);
  });
  const { left } = b.play(wave.length);
  return 20 * Math.log10(Math.max(1e-9, ...wave.map((v, i) => Math.abs(v - (left[i] ?? 0)))));
}

/** Notes at random frames, live: how far from them they sound. */
export async function timing(): Promise<Figure[]> {
  const random = seededRandom(9);
  const frames = [0];
  for (let i = 0; i < 60; i++) frames.push((frames.at(-1) ?? 0) + 200 + Math.floor(random() * 2500));
  const { peaks, wave } = await inPage((page, worklet) =>
    page.evaluate(({ w, f }) => (globalThis as unknown as Page).measureTiming(w, f), { w: worklet, f: frames }),
  );
  const errors = frames.map((f, i) => Math.abs(f - (peaks[i] ?? Number.POSITIVE_INFINITY)));
  const worst = peaks.length === frames.length ? Math.max(...errors) : Number.POSITIVE_INFINITY;
  return [
    {
      name: `timing, ${frames.length} notes at random frames in the worklet, farthest from its frame`,
      value: Number.isFinite(worst) ? worst : -1,
      unit: "frames",
      hold: "0",
      pass: worst === 0,
    },
    {
      name: "timing, worklet against Node, farthest apart",
      value: Math.round(apart(frames, wave)),
      unit: "dB",
      hold: "≤ −120 dB",
      pass: wave.length > 20000 && apart(frames, wave) <= -120,
    },
  ];
}
