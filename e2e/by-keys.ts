import assert from "node:assert/strict";
import { existsSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { arrive, command, notice, type Scenario, storedDocument } from "./scenario";

/** Where each letter and sign lies, and with what it is written, that differs from an American keyboard. */
interface Layout {
  readonly name: string;
  readonly codes: Readonly<Record<string, string>>;
}

const AMERICAN: Layout = { name: "an American", codes: {} };
const GERMAN: Layout = { name: "a German", codes: { z: "KeyY", y: "KeyZ", "?": "Minus" } };

const MODS = { Alt: 1, Control: 2, Shift: 8 } as const;

/** Presses a key as a keyboard of a layout does: the letter is what it is, its place is where it lies there. */
async function press(page: Page, layout: Layout, chord: string): Promise<void> {
  const parts = chord.split("+");
  const key = parts.pop() ?? "";
  const modifiers = parts.reduce((sum, part) => sum + MODS[part as keyof typeof MODS], 0);
  const code = layout.codes[key];
  if (code === undefined) {
    await page.keyboard.press(chord);
    return;
  }
  const cdp = await page.context().newCDPSession(page);
  const event = { key, code, modifiers, windowsVirtualKeyCode: key.toUpperCase().charCodeAt(0) };
  await cdp.send("Input.dispatchKeyEvent", { type: "rawKeyDown", ...event });
  await cdp.send("Input.dispatchKeyEvent", { type: "keyUp", ...event });
  await cdp.detach();
}

const byKeys = (layout: Layout): Scenario => ({
  name: `the whole way from the demo take to the exported player by ${layout.name} keyboard alone`,
  run: async (world) => {
    const { page, complaints } = await arrive(world);
    await page.getByRole("img", { name: "Waveform of spokes" }).waitFor();
    await page.keyboard.press("2");
    await page.getByText("“Find sounds” lists every sound").waitFor();
    await command(page, "Find sounds");
    await page.getByRole("button", { name: "Make 48 samples" }).waitFor({ timeout: 60000 });

    // The list is one stop for Tab; arrows go through it, Delete leaves out, undo takes it back.
    const list = page.getByRole("grid", { name: "Slices" });
    await list.locator('[role="gridcell"][tabindex="0"]').first().focus();
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("ArrowDown");
    await list.locator('[role="row"][aria-selected="true"]').waitFor();
    await page.keyboard.press("Delete");
    await page.getByRole("button", { name: "Make 47 samples" }).waitFor();
    await press(page, layout, "Control+z");
    await page.getByRole("button", { name: "Make 48 samples" }).waitFor();
    await page.keyboard.press("Control+Shift+z");
    await page.getByRole("button", { name: "Make 47 samples" }).waitFor();
    await press(page, layout, "Control+z");
    await page.getByRole("button", { name: "Make 48 samples" }).waitFor();
    const starts = async () =>
      ((await storedDocument(page)).takes as { slices: { start: number; end: number }[] }[])[0]?.slices;
    const before = await starts();
    await page.keyboard.press("Alt+ArrowRight");
    await page.keyboard.press("Alt+Shift+ArrowLeft");
    const after = await starts();
    assert.equal((after?.[2]?.start ?? 0) - (before?.[2]?.start ?? 0), 44, "the start a millisecond on");
    assert.equal((after?.[2]?.end ?? 0) - (before?.[2]?.end ?? 0), -44, "the end a millisecond back");

    await command(page, "Make samples of the kept slices");
    await notice(page, "48 samples were made").waitFor({ timeout: 30000 });
    await page.keyboard.press("3");
    await command(page, "Propose places for the samples");
    await page.getByText("Nothing is changed yet", { exact: false }).waitFor();
    await page.keyboard.press("Control+Enter");
    await notice(page, "48 samples placed").waitFor();
    await page.getByTestId("zone-field").focus();
    await page.keyboard.press("ArrowRight");
    await page.getByRole("heading", { name: "3 zones" }).waitFor();
    await page.keyboard.press("Alt+ArrowRight");
    await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
    await press(page, layout, "?");
    await page.getByRole("dialog", { name: "Shortcuts" }).waitFor();
    await page.keyboard.press("Escape");

    await page.keyboard.press("7");
    await page.getByRole("heading", { name: "The face is empty" }).waitFor();
    await page.keyboard.press("9");
    await page.getByRole("heading", { name: "Hand it over" }).waitFor();
    const [file] = await Promise.all([page.waitForEvent("download"), command(page, "Export the player")]);
    const path = join(world.folder, "by-keys.html");
    await file.saveAs(path);
    assert.ok(existsSync(path));
    assert.deepEqual(complaints, []);
  },
});

export const keysAlone: readonly Scenario[] = [byKeys(AMERICAN), byKeys(GERMAN)];
