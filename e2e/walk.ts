// `npm run walk [-- seed steps]`: random actions over all stations, with a reload every 25; prints what went wrong as JSON lines, then one line for the whole.
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Locator, Page } from "playwright-core";
import { type Random, seededRandom } from "../core/audio";
import { writeWav } from "../core/formats";
import { openBrowser, visit } from "./browser";
import { openHarp, station } from "./scenario";
import { serve } from "./serve";

const STATIONS = ["Take", "Cut", "Map", "Loop", "Sound", "Motion", "Face", "Rules", "Ship"];
const ODD = [
  "",
  "0",
  "-1",
  "1,5",
  "1.5",
  "99999999",
  "-99999999",
  "1/8",
  "440 hz",
  "1 000",
  "NaN",
  "x".repeat(400),
  "C4",
  "−6 dB",
  "loud",
  "1e9",
];
const KEYS = [
  "a",
  "w",
  "s",
  "e",
  "d",
  "Space",
  "Escape",
  "Control+z",
  "Control+Shift+z",
  "Control+y",
  "Tab",
  "Enter",
  "v",
  "r",
  "Delete",
  "PageDown",
  "Shift+PageUp",
  "Control+a",
  "Control+c",
  "Control+x",
  "Control+v",
  "Control+d",
  "Alt+ArrowLeft",
  "Alt+Shift+ArrowRight",
  "Alt+ArrowUp",
  "Alt+s",
  "Alt+j",
  "Alt+k",
  "Alt+Enter",
  "Alt+m",
  "F2",
  "ArrowRight",
  "Shift+ArrowDown",
];
const STEER = ["ArrowUp", "ArrowDown", "ArrowLeft", "ArrowRight", "Home", "End", "Shift+ArrowUp", "PageUp"];
/** What opens a window of the browser's own, or throws the walk's own ground away. */
const LEFT_ALONE = /import files|import a package|save it as a file/i;
const EVERY = 25;
/** Of so many steps one begins work that takes time, and goes elsewhere in the middle of it. */
const ERRANDS = 0.06;
/** Names of what begins such work, where it is to be found. */
const JOBS: readonly (readonly [string, RegExp])[] = [
  ["Cut", /^Find sounds$/],
  ["Cut", /^Make \d+ samples?$/],
  ["Loop", /^Find for all/],
  ["Map", /^Spread/],
  ["Ship", /^Export the package$/],
  ["Ship", /^Bounce the phrase$/],
];

class Walk {
  readonly trouble: string[] = [];
  readonly done = new Map<string, number>();
  private last = "";

  constructor(
    readonly page: Page,
    private readonly random: Random,
    /** Sound files that are brought in. */
    private readonly files: readonly string[],
  ) {}

  private pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)] as T;
  }

  private async one(all: Locator): Promise<Locator | null> {
    const count = await all.count();
    return count === 0 ? null : all.nth(Math.floor(this.random() * count));
  }

  async step(): Promise<string> {
    const { page } = this;
    if (this.random() < ERRANDS) return `${await this.begin()}, then ${await this.goElsewhere()}`;
    const x = this.random();
    if (x < 0.12) {
      this.last = this.pick(STATIONS);
      await station(page, this.last);
      return `go to ${this.last}`;
    }
    if (x < 0.44) return this.press();
    if (x < 0.62) {
      const field = await this.one(
        page.locator("main input:visible, aside input:visible, header input:visible, main textarea:visible"),
      );
      const text = this.pick(ODD);
      if (!field) return "nothing to type into";
      const name = (await field.getAttribute("aria-label")) ?? "a field";
      if ((await field.getAttribute("type")) === "checkbox") await field.click({ timeout: 700 });
      else {
        await field.fill(text, { timeout: 700 });
        await field.press("Enter", { timeout: 700 });
      }
      return `type “${text.slice(0, 12)}” into ${name}`;
    }
    if (x < 0.74) {
      const slider = await this.one(page.locator("[role=slider]:visible"));
      const key = this.pick(STEER);
      if (!slider) return "nothing to steer";
      await slider.focus({ timeout: 700 });
      await page.keyboard.press(key);
      return `${key} on ${await slider.getAttribute("aria-label")}`;
    }
    if (x < 0.86) {
      const key = this.pick(KEYS);
      await page.keyboard.press(key);
      return `press ${key}`;
    }
    if (x < 0.94) return this.drag();
    const box = await this.one(
      page.locator("main [role=combobox]:visible:not([disabled]), aside [role=combobox]:visible:not([disabled])"),
    );
    if (!box) return "nothing to choose";
    await box.click({ timeout: 700 });
    const option = await this.one(page.locator("[role=option]:visible"));
    if (option) await option.click({ timeout: 700 });
    return "choose an option";
  }

  /** Begins work that takes time, and doesn't wait for it. */
  private async begin(): Promise<string> {
    const { page } = this;
    if (this.random() < 0.4) {
      await station(page, "Take");
      const count = 1 + Math.floor(this.random() * this.files.length);
      await page.getByTestId("open-files").setInputFiles(this.files.slice(0, count));
      return `bring in ${count} files`;
    }
    const [where, name] = this.pick(JOBS);
    await station(page, where);
    await page.getByRole("button", { name }).first().click({ timeout: 1500 });
    return `begin ${name.source} at ${where}`;
  }

  /** Another instrument, a version, or another tab that takes over. */
  private async goElsewhere(): Promise<string> {
    const { page } = this;
    const x = this.random();
    if (x < 0.45) {
      await page.getByRole("link", { name: "Library" }).click({ timeout: 1500 });
      const other = await this.one(page.locator("main li button:visible, main [role=row] button:visible"));
      const name = (await other?.textContent())?.slice(0, 30) ?? "nothing";
      await other?.click({ timeout: 1500 });
      return `press ${name} in the library`;
    }
    if (x < 0.75) {
      await page.getByRole("button", { name: "Versions" }).click({ timeout: 1500 });
      const version = await this.one(page.getByRole("list", { name: "Kept versions" }).getByRole("button"));
      await version?.click({ timeout: 1500 });
      await page.keyboard.press("Escape");
      const on = await this.one(page.getByRole("button", { name: /^(Leave it|Go back to it|Hear the present)$/ }));
      await on?.click({ timeout: 1500 });
      return "look at a version";
    }
    const second = await page.context().newPage();
    try {
      await second.goto(page.url());
      await second.getByRole("button", { name: "Take it over" }).click({ timeout: 3000 });
      await second.getByRole("textbox", { name: "Tempo" }).fill(String(60 + Math.floor(this.random() * 90)));
      await second.keyboard.press("Enter");
      return "take it over in another tab";
    } finally {
      await second.close();
      await page
        .getByRole("button", { name: "Take it over" })
        .click({ timeout: 3000 })
        .catch(() => {});
    }
  }

  private async press(): Promise<string> {
    const button = await this.one(
      this.page.locator("button:visible:not([disabled]):not([role=combobox]), [role=switch]:visible"),
    );
    if (!button) return "nothing to press";
    const name = ((await button.getAttribute("aria-label")) ?? (await button.textContent()) ?? "").trim().slice(0, 40);
    if (LEFT_ALONE.test(name)) return `leave ${name}`;
    await button.click({ timeout: 700, clickCount: this.random() < 0.2 ? 2 : 1 });
    return `press ${name}`;
  }

  private async drag(): Promise<string> {
    const canvas = await this.one(this.page.locator("main canvas:visible, [data-handle]:visible"));
    const bounds = await canvas?.boundingBox();
    if (!bounds) return "nothing to drag";
    const at = () => [bounds.x + bounds.width * this.random(), bounds.y + bounds.height * this.random()] as const;
    const { mouse } = this.page;
    const from = at();
    await mouse.move(...from);
    await mouse.down();
    for (let i = 0; i < 3; i++) await mouse.move(...at());
    if (this.random() < 0.3) await mouse.move(...from);
    await mouse.up();
    return "drag";
  }
}

const seed = Number(process.argv[2] ?? 1);
const steps = Number(process.argv[3] ?? 2000);
const { server, address } = await serve();
const browser = await openBrowser();
const { page, complaints, context } = await visit(browser);
const say = (line: object) => console.log(JSON.stringify(line));
let trouble = 0;
let missed = 0;
const recent: string[] = [];
const report = (what: string) => {
  trouble++;
  say({ trouble: what.slice(0, 400), after: recent.slice(-6) });
};
// What can't be reached is passed over soon: it may well be covered.
page.setDefaultTimeout(4000);
page.on("dialog", (dialog) => void dialog.accept());
await page.goto(address);
await page.getByRole("navigation", { name: "Stations" }).waitFor();
await openHarp(page);
/** A dozen short sounds to be brought in. */
const folder = mkdtempSync(join(tmpdir(), "vise-walk-"));
const files = Array.from({ length: 12 }, (_, n) => {
  const path = join(folder, `${["rim", "spoke", "bell"][n % 3]}_${36 + n}_v${1 + (n % 2)}.wav`);
  const frames = Float32Array.from({ length: 22050 }, (_v, i) => Math.sin(i * 0.02 * (n + 1)) * Math.exp(-i / 5000));
  writeFileSync(path, writeWav({ rate: 44100, channels: [frames] }, 16));
  return path;
});
const walk = new Walk(page, seededRandom(seed), files);
for (let n = 1; n <= steps; n++) {
  try {
    recent.push(await walk.step());
    if (process.env.TALK) say({ n, did: recent.at(-1) });
  } catch (error) {
    // What moved away or is covered can't be pressed, as it couldn't by hand.
    missed++;
    if (process.env.TALK) say({ n, missed: String(error).split("\n")[0] });
    recent.push(`missed: ${String(error).split("\n")[0]}`);
    await page.keyboard.press("Escape").catch(() => {});
  }
  for (const complaint of complaints.splice(0)) report(complaint);
  if (n % EVERY !== 0) continue;
  // A note is held over the reload, and nothing is typed by it.
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur()).catch(() => {});
  await page.keyboard.down("d").catch(() => {});
  await page
    .locator("[data-testid=saved]", { hasText: /^saved$/ })
    .waitFor({ timeout: 15000 })
    .catch(() => report("it isn't saved"));
  const name = await page
    .locator('[aria-label="Name of the instrument"]')
    .inputValue()
    .catch(() => "");
  await page.goto(`${address}/map`);
  try {
    await page.getByRole("navigation", { name: "Stations" }).waitFor({ timeout: 15000 });
    const after = await page.locator('[aria-label="Name of the instrument"]').inputValue();
    if (after !== name) report(`its name was “${name.slice(0, 30)}” and is “${after.slice(0, 30)}”`);
  } catch {
    report(`it doesn't open: ${((await page.locator("body").textContent()) ?? "").slice(0, 200)}`);
    await page.goto(address);
    await page
      .getByRole("button", { name: "Begin with an empty instrument" })
      .click({ timeout: 3000 })
      .catch(() => {});
  }
}
await station(page, "Map").catch(() => {});
await page.keyboard.press("Escape");
await page.keyboard.press("Escape");
try {
  await page.getByText(/^0 voices/).waitFor({ timeout: 30000 });
} catch {
  report(`notes are stuck: ${await page.locator("header").textContent()}`);
}
say({ walk: seed, steps, missed, trouble });
await context.close();
await browser.close();
await server.close();
rmSync(folder, { recursive: true });
process.exitCode = trouble > 0 ? 1 : 0;
