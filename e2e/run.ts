import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
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
  ...path,
  ...placing,
  ...dropping,
  ...openFormats,
  ...fieldEditing,
  ...outline,
  ...looping,
  ...facing,
  ...facingAll,
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
  ...accessible,
  ...frame,
  ...keysAlone,
];
const wanted = process.argv[2] ?? "";
const { server, address } = await serve();
const folder = mkdtempSync(join(tmpdir(), "vise-e2e-"));
let passed = 0;
let failed = 0;

async function perform({ name, run, switches }: Scenario): Promise<void> {
  const began = Date.now();
  const browser = await openBrowser(switches?.(folder) ?? []);
  const world: World = { browser, address, folder: mkdtempSync(join(folder, "one-")) };
  try {
    await run(world);
    passed++;
    console.log(`  ✓ ${name} (${((Date.now() - began) / 1000).toFixed(1)} s)`);
  } catch (error) {
    failed++;
    console.log(`  ✕ ${name}\n${error instanceof Error ? (error.stack ?? error.message) : String(error)}`);
    const [page] = browser.contexts().flatMap((c) => c.pages());
    await page
      ?.screenshot({ path: join(".cache", `failed-${name.replace(/\W+/g, "-").slice(0, 60)}.png`) })
      .catch(() => {});
  } finally {
    closing.push(browser.close());
  }
}

/** Browsers that are on their way out: nothing waits for them before the end. */
const closing: Promise<void>[] = [];

/** Runs scenarios one after the other, or several at a time. */
async function performAll(list: readonly Scenario[], atOnce: number): Promise<void> {
  const left = [...list];
  const work = async () => {
    for (let next = left.shift(); next; next = left.shift()) await perform(next);
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
