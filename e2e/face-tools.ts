import assert from "node:assert/strict";
import type { Page } from "playwright-core";

/** Adds an item of a kind to the page of the face that is shown. */
export async function addControl(page: Page, name: string): Promise<void> {
  await page.getByRole("button", { name: "+ Control" }).click();
  await page.getByRole("menuitem", { name, exact: true }).click();
  await page.getByRole("heading", { name, exact: true }).waitFor();
}

/** Chooses something from a list by typing a part of its name, such as what an item moves. */
export async function choose(page: Page, field: string, sought: string, option: string | RegExp): Promise<void> {
  await page.getByRole("combobox", { name: field, exact: true }).click();
  await page.keyboard.type(sought);
  await page.getByRole("option", { name: option }).first().click();
}

/** Drags something out of the tree of what could be bound onto a place of the page, in shares of it. */
export async function dragOut(page: Page, sought: string, name: RegExp, x: number, y: number): Promise<void> {
  const field = page.getByRole("searchbox", { name: "Find what could be bound" });
  await field.fill(sought);
  const entry = page.getByRole("region", { name: "What could be bound" }).getByRole("button", { name }).first();
  const [from, onto] = [await entry.boundingBox(), await page.getByTestId("face-page").boundingBox()];
  assert.ok(from && onto);
  await page.mouse.move(from.x + 20, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(onto.x + onto.width * x, onto.y + onto.height * y, { steps: 6 });
  await page.mouse.up();
}

/** Types into a field, as whoever presses Enter. */
export async function typed(page: Page, field: string, text: string): Promise<void> {
  await page.getByRole("textbox", { name: field, exact: true }).fill(text);
  await page.keyboard.press("Enter");
}
