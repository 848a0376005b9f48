import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser } from "playwright-core";
import { accessible } from "./accessible";
import { bad } from "./bad-input";
import { openBrowser } from "./browser";
import { keysAlone } from "./by-keys";
import { computing } from "./computing";
import { cutting } from "./cutting";
import { dropping } from "./dropping";
import { editing } from "./editing";
import { engineFields } from "./engine-fields";
import { facing } from "./facing";
import { facingAll } from "./facing-all";
import { facingFiles } from "./facing-files";
import { fieldEditing } from "./field-editing";
import { frame } from "./frame";
import { holding } from "./holding";
import { library } from "./library";
import { looping } from "./looping";
import { openFormats } from "./open-formats";
import { outline } from "./outline";
import { path } from "./path";
import { placing } from "./placing";
import { recording } from "./recording";
import { rules } from "./rules";
import type { Scenario, World } from "./scenario";
import { serve } from "./serve";
import { sounding } from "./sounding";

const scenarios: readonly Scenario[] = [
  // The longest first, so that no lane is left alone with one of them at the end.
  ...facingAll,
  ...accessible,
  ...path,
  ...placing,
  ...dropping,
  ...openFormats,
  ...fieldEditing,
  ...outline,
  ...looping,
  ...facing,
  ...facingFiles,
  ...rules,
  ...editing,
  ...cutting,
  ...engineFields,
  ...sounding,
  ...computing,
  ...recording,
  ...library,
  ...holding,
  ...bad,
  ...frame,
  ...keysAlone,
];
const wanted = process.argv[2] ?? "";
const { server, address } = await serve();
const folder = mkdtempSync(join(tmpdir(), "vise-e2e-"));
let passed = 0;
let failed = 0;

/** Browsers that are on their way out: nothing waits for them before the end. */
const closing: Promise<void>[] = [];

/** The browser in which scenarios are performed one after the other, each as a visitor of its own; one that needs switches, or has failed, leaves none behind. */
class Lane {
  private kept: Browser | null = null;
  /** Visitors of the browser that are on their way out: it is closed behind them. */
  private readonly leaving: Promise<void>[] = [];

  async perform({ name, run, switches }: Scenario): Promise<void> {
    const began = Date.now();
    const browser = (!switches && this.kept) || (await openBrowser(switches?.(folder) ?? []));
    const world: World = { browser, address, folder: mkdtempSync(join(folder, "one-")) };
    let good = false;
    try {
      await run(world);
      good = true;
      passed++;
      console.log(`  ✓ ${name} (${((Date.now() - began) / 1000).toFixed(1)} s)`);
    } catch (error) {
      failed++;
      console.log(`  ✕ ${name}\n${error instanceof Error ? (error.stack ?? error.message) : String(error)}`);
      const [page] = browser.contexts().flatMap((c) => c.pages());
      await page
        ?.screenshot({ path: join(".cache", `failed-${name.replace(/\W+/g, "-").slice(0, 60)}.png`) })
        .catch(() => {});
    }
    if (good && !switches) {
      this.kept = browser;
      for (const context of browser.contexts()) this.leaving.push(context.close().catch(() => {}));
      return;
    }
    if (this.kept === browser) this.kept = null;
    closing.push(Promise.all(this.leaving).then(() => browser.close()));
  }

  end(): void {
    const { kept } = this;
    if (kept) closing.push(Promise.all(this.leaving).then(() => kept.close()));
  }
}

/** Performs scenarios one after the other, or several at a time. */
async function performAll(list: readonly Scenario[], atOnce: number): Promise<void> {
  const left = [...list];
  const work = async () => {
    const lane = new Lane();
    for (let next = left.shift(); next; next = left.shift()) await lane.perform(next);
    lane.end();
  };
  await Promise.all(Array.from({ length: atOnce }, work));
}

const chosen = scenarios.filter((s) => s.name.toLowerCase().includes(wanted.toLowerCase()));
await performAll(
  chosen.filter((s) => !s.alone),
  2,
);
await performAll(
  chosen.filter((s) => s.alone),
  1,
);
await Promise.all(closing);
await server.close();
writeFileSync(".cache/e2e.json", JSON.stringify({ passed, failed }));
console.log(`browser tests: ${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
