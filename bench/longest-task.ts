import type { Browser, Page } from "playwright-core";

/** One event of a trace (the trace event format that Chromium writes): times in microseconds. */
interface TraceEvent {
  readonly name: string;
  readonly ph: string;
  readonly pid: number;
  readonly tid: number;
  readonly dur?: number;
  readonly tdur?: number;
  readonly args?: { readonly name?: string };
}

/**
 * The longest task of pages' threads while something is done, in milliseconds: of the processor's time, which the page answers for, and by the clock, which
 * workers, the drawing process and other programs on the same cores make longer.
 */
export async function longestTask(
  browser: Browser,
  page: Page,
  act: () => Promise<void>,
): Promise<{ readonly worked: number; readonly lasted: number }> {
  await browser.startTracing(page, { categories: ["toplevel", "devtools.timeline"] });
  await act();
  const text = (await browser.stopTracing()).toString();
  const { traceEvents } = JSON.parse(text) as { traceEvents: TraceEvent[] };
  const threadOf = ({ pid, tid }: TraceEvent) => `${pid} ${tid}`;
  const pages = new Set(
    traceEvents.filter((e) => e.name === "thread_name" && e.args?.name === "CrRendererMain").map(threadOf),
  );
  const tasks = traceEvents.filter((e) => e.ph === "X" && pages.has(threadOf(e)));
  if (tasks.length === 0) throw new Error("the trace holds no task of a page");
  const longest = (of: (e: TraceEvent) => number | undefined) => Math.max(...tasks.map((e) => (of(e) ?? 0) / 1000));
  return { worked: longest((e) => e.tdur), lasted: longest((e) => e.dur) };
}
