import assert from "node:assert/strict";
import { closeSync, openSync, truncateSync, writeFileSync, writeSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { crc32, deflateSync } from "node:zlib";
import type { Page } from "playwright-core";
import { openBrowser, visit } from "./browser";
import { arrive, current, notice, openHarp, type Scenario, station, storedDocument } from "./scenario";

interface Stored {
  readonly face: {
    readonly ground: { readonly kind: string; readonly outline: readonly number[] };
    readonly pictures: readonly {
      readonly name: string;
      readonly width: number;
      readonly height: number;
      readonly data: string;
    }[];
    readonly phone: { readonly width: number } | null;
    readonly items: readonly {
      readonly id: string;
      readonly kind: string;
      readonly x: number;
      readonly phone: { readonly x: number; readonly y: number } | null;
      readonly moves: readonly { readonly address: string }[];
      readonly pictures: readonly { readonly does: string; readonly frames: number }[];
    }[];
  };
}
const stored = async (page: Page) => (await storedDocument(page)) as unknown as Stored;

/** A PNG of some frames below each other, each of another grey (ISO/IEC 15948, no filter). */
function strip(side: number, frames: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const named = Buffer.concat([Buffer.from(type), data]);
    const out = Buffer.alloc(named.length + 8);
    out.writeUInt32BE(data.length, 0);
    named.copy(out, 4);
    out.writeUInt32BE(crc32(named), named.length + 4);
    return out;
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(side, 0);
  head.writeUInt32BE(side * frames, 4);
  head.set([8, 0, 0, 0, 0], 8);
  const rows = Buffer.concat(
    Array.from({ length: side * frames }, (_, y) =>
      Buffer.concat([Buffer.from([0]), Buffer.alloc(side, Math.round((Math.floor(y / side) / frames) * 255))]),
    ),
  );
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]),
    chunk("IHDR", head),
    chunk("IDAT", deflateSync(rows)),
    chunk("IEND", Buffer.alloc(0)),
  ]);
}

const DRAWING = `<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40" onload="globalThis.acted = 1">
  <script>globalThis.acted = 2; fetch("http://elsewhere.example/x")</script>
  <image href="http://elsewhere.example/spy.png" width="4" height="4"/>
  <a href="javascript:globalThis.acted = 3"><rect width="9" height="9"/></a>
  <foreignObject><iframe src="http://elsewhere.example/"></iframe></foreignObject>
  <circle cx="20" cy="20" r="18" fill="#2b49c0"/></svg>`;

/** Chooses files where a picker asks for them. */
async function pick(page: Page, button: string, files: readonly string[]): Promise<void> {
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: button, exact: true }).click(),
  ]);
  await chooser.setFiles([...files]);
}

/** Stands for the browser's Web MIDI: a keyboard whose bytes a test sends. */
function plugIn(): void {
  const input: { name: string; onmidimessage: ((event: { data: Uint8Array }) => void) | null } = {
    name: "Bench keyboard",
    onmidimessage: null,
  };
  const access = { inputs: new Map([["one", input]]), onstatechange: null };
  Object.assign(navigator, { requestMIDIAccess: () => Promise.resolve(access) });
  Object.assign(globalThis, {
    sendMidi: (bytes: readonly number[]) => input.onmidimessage?.({ data: Uint8Array.from(bytes) }),
  });
}
const sendMidi = (page: Page, ...bytes: readonly number[]) =>
  page.evaluate((b) => (globalThis as unknown as { sendMidi: (bytes: readonly number[]) => void }).sendMidi(b), bytes);

/** The face with what comes from files, on other screens, and in the hands of a guest. */
export const facingFiles: readonly Scenario[] = [
  {
    name: "face: pictures of one’s own are taken, cleaned or refused; a filmstrip, a drawn ground, pages by a value, a phone’s layout; a guest’s knob is learnt",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      const asked: string[] = [];
      page.on("request", (request) => request.url().includes("elsewhere") && asked.push(request.url()));
      await openHarp(page);
      // A parameter is carried by its name from another station onto the face; there macros can stand between.
      await station(page, "Sound");
      await page.getByRole("button", { name: "Filter", exact: true }).first().click();
      await page
        .getByText(/^Cutoff/)
        .first()
        .dragTo(page.getByRole("navigation", { name: "Stations" }).getByRole("link", { name: /\bFace\b/ }));
      await current(page, "Face");
      await notice(page, /stands on the face now/).waitFor();
      const carried = (await stored(page)).face.items.at(-1);
      assert.deepEqual([carried?.kind, carried?.moves[0]?.address], ["dial", "layers/main/stages/filter/cutoff"]);
      await page.getByRole("button", { name: "Insert macros" }).click();
      assert.match((await stored(page)).face.items.at(-1)?.moves[0]?.address ?? "", /^macros\//);
      await page.keyboard.press("Control+z");
      assert.equal((await stored(page)).face.items.at(-1)?.moves[0]?.address, carried?.moves[0]?.address);
      await page.keyboard.press("Control+z");
      await station(page, "Face");
      await page.getByRole("tab", { name: "Look" }).click();
      const file = (name: string) => join(world.folder, name);
      writeFileSync(file("knob.png"), strip(40, 11));
      writeFileSync(file("odd.png"), strip(7, 3));
      writeFileSync(file("drawing.svg"), DRAWING);
      writeFileSync(file("none.png"), "these are words");
      writeFileSync(file("torn.png"), strip(40, 11).subarray(0, 60));
      const large = openSync(file("large.png"), "w");
      writeSync(large, strip(8, 1));
      closeSync(large);
      truncateSync(file("large.png"), 100 * 2 ** 20);
      await pick(
        page,
        "Pictures …",
        ["knob.png", "odd.png", "drawing.svg", "none.png", "torn.png", "large.png"].map(file),
      );
      await notice(page, /none\.png: it is no PNG/).waitFor();
      await notice(page, /large\.png: it is 100 MB large/).waitFor();
      await notice(page, /torn\.png: it is damaged/).waitFor();
      await notice(page, /parts? of the drawing removed/)
        .first()
        .waitFor();
      const { pictures } = (await stored(page)).face;
      assert.deepEqual(
        pictures.map(({ name, width, height }) => [name, width, height]),
        [
          ["knob", 40, 440],
          ["odd", 7, 21],
          ["drawing", 80, 40],
        ],
      );
      const drawn = Buffer.from(pictures[2]?.data.split(",")[1] ?? "", "base64").toString();
      assert.match(drawn, /<circle/);
      assert.doesNotMatch(drawn, /script|onload|elsewhere|javascript|iframe|foreignObject/i);
      assert.equal(await page.evaluate(() => (globalThis as { acted?: number }).acted), undefined);

      // A dial drawn by a filmstrip: as many frames as squares; the ground drawn of the instrument's own sound.
      await page.getByRole("combobox", { name: "Ground", exact: true }).click();
      await page.getByRole("option", { name: "A sample’s spectrum" }).click();
      await page.locator('[data-testid="face-page"] svg path').first().waitFor();
      await page.locator("[data-face-item]").filter({ hasText: "Room" }).click();
      await page.getByRole("tab", { name: "Item" }).click();
      await page.getByText("Looks as its theme").click();
      await page.getByRole("combobox", { name: "Draw with a picture" }).click();
      await page.getByRole("option", { name: /^knob/ }).click();
      const skinned = (await stored(page)).face;
      assert.deepEqual(
        skinned.items.filter((i) => i.pictures.length > 0).map((i) => i.pictures.map((p) => [p.does, p.frames])),
        [[["frames", 11]]],
      );
      assert.equal(skinned.ground.kind, "spectrum");
      assert.ok(skinned.ground.outline.some((x) => x > 0.5) && skinned.ground.outline.some((x) => x < 0.2));
      // A picture that is removed is drawn nowhere any more, until that is undone.
      await page.getByRole("tab", { name: "Look" }).click();
      await page.getByRole("button", { name: "Remove the picture knob" }).click();
      assert.ok((await stored(page)).face.items.every((i) => i.pictures.length === 0));
      await page.keyboard.press("Control+z");
      assert.deepEqual((await stored(page)).face.items, skinned.items);

      // A page over the others by hand, another by a value.
      await page.getByRole("button", { name: "Add a page" }).click();
      await page.getByRole("switch", { name: "Lies over the other pages" }).click();
      await page.getByRole("switch", { name: "Page has a size of its own" }).click();
      await page.getByRole("textbox", { name: "Width of this page" }).fill("10");
      await page.keyboard.press("Enter");
      await page.getByRole("textbox", { name: "Width of this page" }).fill("300");
      await page.keyboard.press("Enter");
      await page.getByRole("textbox", { name: "Name of the page" }).fill("About");
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "Add a page" }).click();
      await page.getByRole("textbox", { name: "Name of the page" }).fill("Loud");
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "Show it by a value" }).click();
      await page.getByRole("combobox", { name: "Page depends on" }).click();
      await page.keyboard.type("room");
      await page.getByRole("option", { name: "Room", exact: true }).first().click();
      await page.getByRole("textbox", { name: "Place on its travel" }).fill("90 %");
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "+ Control" }).click();
      await page.getByRole("menuitem", { name: "Dial", exact: true }).click();
      await page.getByRole("combobox", { name: "Bound to", exact: true }).click();
      await page.keyboard.type("room");
      await page.getByRole("option", { name: /^Room/ }).first().click();
      await page.getByRole("tab", { name: /^Check/ }).click();
      await page.getByRole("button", { name: "Add a row of pages" }).click();

      // A layout for phones of its own: what is moved there stays where it was elsewhere.
      await page.getByRole("radio", { name: "Phone" }).click();
      await page.getByRole("button", { name: "Front", exact: true }).first().click();
      const flowing = (await stored(page)).face;
      const dial = page.locator("[data-face-item]").filter({ hasText: "Release" });
      await dial.click();
      for (let n = 0; n < 3; n++) await page.keyboard.press("Shift+ArrowDown");
      const moved = (await stored(page)).face;
      const release = await dial.getAttribute("data-face-item");
      const [before, after] = [flowing, moved].map((face) => face.items.find((i) => i.id === release));
      assert.equal(after?.x, before?.x, "elsewhere it stays");
      assert.equal((after?.phone?.y ?? 0) - (before?.phone?.y ?? 0), 24);
      await page.reload();
      await page.getByTestId("face-page").waitFor();
      assert.deepEqual((await stored(page)).face, moved);
      assert.deepEqual(asked, [], "nothing was fetched from elsewhere");

      await station(page, "Ship");
      const [exported] = await Promise.all([
        page.waitForEvent("download"),
        page.getByRole("button", { name: "Export the player" }).click(),
      ]);
      const path = file("guest.html");
      await exported.saveAs(path);
      assert.deepEqual(complaints, []);

      // On a phone: its own layout, nothing wider than the window, nothing moves when the sound begins.
      const browser = await openBrowser();
      try {
        const guest = await visit(browser);
        await guest.page.setViewportSize({ width: 360, height: 740 });
        await guest.page.addInitScript(plugIn);
        await guest.page.goto(pathToFileURL(path).href);
        const room = guest.page.getByRole("slider", { name: "Room", exact: true });
        await room.waitFor();
        const wide = await guest.page.evaluate(() => document.documentElement.scrollWidth);
        assert.ok(wide <= 360, `${wide} px wide`);
        const shifts = await guest.page.evaluate(
          () =>
            new Promise<number>((resolve) => {
              let sum = 0;
              new PerformanceObserver((list) => {
                for (const entry of list.getEntries()) sum += (entry as unknown as { value: number }).value;
              }).observe({ type: "layout-shift", buffered: false });
              const key = (type: string) =>
                dispatchEvent(new KeyboardEvent(type, { code: "KeyA", key: "a", bubbles: true }));
              key("keydown");
              setTimeout(() => key("keyup"), 400);
              setTimeout(() => resolve(sum), 900);
            }),
        );
        assert.ok(shifts < 0.01, `layout shift ${shifts}`);
        // The filmstrip: its first frame at the one end, its last before the page changes by its value.
        const image = guest.page.locator(".face img").first();
        const top = () => image.evaluate((e) => (e as HTMLImageElement).style.top);
        assert.ok(await image.evaluate((e) => (e as HTMLImageElement).naturalHeight === 440));
        await room.focus();
        await guest.page.keyboard.press("Home");
        assert.equal(await top(), "0%");
        for (let n = 0; n < 8; n++) await guest.page.keyboard.press("PageUp");
        assert.equal(await top(), "-800%");

        // A knob is learnt: it moves what was touched last, and still does after the page was closed.
        await guest.page.getByText("MIDI", { exact: true }).click();
        await guest.page.getByRole("button", { name: "Play by MIDI" }).click();
        await guest.page.getByText("Listening to Bench keyboard.").waitFor();
        const brightness = guest.page.getByRole("slider", { name: "Brightness", exact: true });
        await brightness.focus();
        await guest.page.keyboard.press("ArrowUp");
        await guest.page.getByRole("button", { name: "Learn a knob" }).click();
        await sendMidi(guest.page, 0xb0, 21, 0);
        await guest.page.getByRole("list", { name: "Knobs that are learnt" }).getByText("Brightness").waitFor();
        await sendMidi(guest.page, 0xb0, 21, 127);
        await brightness.and(guest.page.locator('[aria-valuetext="100 %"]')).waitFor();
        await sendMidi(guest.page, 0xb0, 22, 3);
        assert.equal(await brightness.getAttribute("aria-valuetext"), "100 %", "another knob moves nothing");
        await guest.page.reload();
        await guest.page.getByText("MIDI", { exact: true }).click();
        await guest.page.getByRole("button", { name: "Play by MIDI" }).click();
        await guest.page.getByText("Listening to Bench keyboard.").waitFor();
        await sendMidi(guest.page, 0xb0, 21, 0);
        await brightness.and(guest.page.locator('[aria-valuetext="0 %"]')).waitFor();
        await sendMidi(guest.page, 0x90, 60, 100);
        await guest.page.locator(".key.down").first().waitFor();
        await sendMidi(guest.page, 0x80, 60, 0);

        // A page that lies over the others, and one that a value shows.
        const pages = guest.page.getByRole("navigation", { name: "Pages" });
        await pages.getByRole("button", { name: "About" }).click();
        const dialog = guest.page.getByRole("dialog", { name: "About" });
        await dialog.waitFor();
        await guest.page.keyboard.press("Escape");
        await dialog.waitFor({ state: "detached" });
        assert.equal(await pages.getByRole("button", { name: "Loud" }).count(), 0, "only a value leads there");
        await room.first().focus();
        await guest.page.keyboard.press("End");
        await brightness.waitFor({ state: "detached" });
        await room.focus();
        await guest.page.keyboard.press("Home");
        await brightness.waitFor();
        assert.deepEqual(guest.complaints, []);
      } finally {
        await browser.close();
      }
    },
  },
];
