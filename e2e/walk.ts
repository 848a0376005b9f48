// `npm run walk [-- seed steps]`: random actions over all stations, with a reload every 25; prints what went wrong as JSON lines, then one line for the whole.
import type { Locator, Page } from "playwright-core";
import { type Random, seededRandom } from "../core/audio";
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
const LEFT_ALONE = /open files|import a package|save it as a file/i;
const EVERY = 25;

class Walk {
  readonly trouble: string[] = [];
  readonly done = new Map<string, number>();
  private last = "";

  constructor(
    readonly page: Page,
    private readonly random: Random,
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
page.on("dialog", (dialog) => void dialog.accept());
await page.goto(address);
await page.getByRole("navigation", { name: "Stations" }).waitFor();
await openHarp(page);
const walk = new Walk(page, seededRandom(seed));
for (let n = 1; n <= steps; n++) {
  try {
    recent.push(await walk.step());
  } catch (error) {
    // What moved away or is covered can't be pressed, as it couldn't by hand.
    missed++;
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
process.exitCode = trouble > 0 ? 1 : 0;
