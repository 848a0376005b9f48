import { type Browser, type BrowserContext, chromium, type Page } from "playwright-core";

const CHROMIUM = process.env.CHROMIUM ?? "/usr/bin/chromium";

const ARGUMENTS = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--autoplay-policy=no-user-gesture-required",
];

/** Debian's Chromium; `more` adds switches, such as a fake microphone's. */
export const openBrowser = (more: readonly string[] = []): Promise<Browser> =>
  chromium.launch({ executablePath: CHROMIUM, args: [...ARGUMENTS, ...more] });

/** How many times slower than it is the processor shall be: `SLOW=4 npm test`, as on a busy machine. */
const SLOW = Math.max(1, Number(process.env.SLOW ?? 1));

export interface Visit {
  readonly context: BrowserContext;
  readonly page: Page;
  /** What the page complained about: uncaught errors and console errors. */
  readonly complaints: string[];
}

/** A fresh visitor: empty storage, 1280 × 800. */
export async function visit(browser: Browser, options: { dark?: boolean; audible?: boolean } = {}): Promise<Visit> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    colorScheme: options.dark ? "dark" : "light",
    acceptDownloads: true,
    bypassCSP: options.audible === true,
    permissions: ["microphone"],
  });
  const page = await context.newPage();
  const complaints: string[] = [];
  page.on("pageerror", (error) => complaints.push(`uncaught: ${error.message}`));
  page.on("console", (message) => {
    if (message.type() === "error") complaints.push(message.text());
  });
  // Long enough for whatever machine it is: what never comes is what fails.
  page.setDefaultTimeout(60000 * SLOW);
  if (SLOW > 1) {
    const session = await context.newCDPSession(page);
    await session.send("Emulation.setCPUThrottlingRate", { rate: SLOW });
  }
  return { context, page, complaints };
}
