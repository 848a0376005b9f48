import assert from "node:assert/strict";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { hertzOf } from "../core/audio";
import { writeWav } from "../core/formats";
import { RATE } from "../demo/room";
import { recordTap } from "../demo/tap";
import { heard, listen, rateOf } from "./hearing";
import { bringInFolder, freshMap } from "./mapped";
import { arrive, notice, type Scenario, station, storedDocument } from "./scenario";

interface Stored {
  readonly layers: readonly {
    readonly source: { readonly kind: string; readonly params: Readonly<Record<string, number | string>> };
    readonly stages: readonly {
      readonly kind: string;
      readonly table?: readonly { readonly ratio: number; readonly level: number }[];
    }[];
  }[];
  readonly routes: readonly { readonly source: string; readonly target: string }[];
}
const stored = async (page: Page) => (await storedDocument(page)) as unknown as Stored;
const typed = async (page: Page, field: string, text: string) => {
  await page.getByRole("textbox", { name: field, exact: true }).fill(text);
  await page.keyboard.press("Enter");
};

/** Level of a frequency in a sound, in decibels, over a Hann window. */
function levelOf(x: Float32Array, rate: number, hertz: number): number {
  let re = 0;
  let im = 0;
  for (let i = 0; i < x.length; i++) {
    const v = (x[i] as number) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / x.length));
    re += v * Math.cos((2 * Math.PI * hertz * i) / rate);
    im += v * Math.sin((2 * Math.PI * hertz * i) / rate);
  }
  return 20 * Math.log10((4 * Math.hypot(re, im)) / x.length + 1e-9);
}

/** Computed sound, built through the interface from an empty instrument. */
export const computing: readonly Scenario[] = [
  {
    name: "a frame from nothing: a strike drives what was found in a recorded tap; columns drawn and dragged; settings saved; what sounds is what was found",
    alone: true,
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await freshMap(page);
      const folder = join(world.folder, "taps");
      mkdirSync(folder);
      writeFileSync(join(folder, "tap D3.wav"), writeWav({ rate: RATE, channels: [recordTap()] }, 16));
      await bringInFolder(page, folder);
      await page.getByRole("button", { name: "Not now" }).click();

      // The source, and a body behind it.
      await station(page, "Sound");
      await page.getByRole("button", { name: "Samples", exact: true }).click();
      await page.getByRole("combobox", { name: "Source" }).click();
      await page.getByRole("option", { name: "Strike" }).click();
      await page
        .getByRole("region", { name: "Strike", exact: true })
        .waitFor()
        .catch(() => page.getByRole("region").last().waitFor());
      await page.getByRole("button", { name: "Ready", exact: true }).click();
      await page.getByRole("menuitem", { name: "Steel spanner" }).click();
      assert.equal((await stored(page)).layers[0]?.source.params.noiseLength, 0.004);
      await page.getByRole("button", { name: "Add to the voices of Main", exact: true }).click();
      await page.getByPlaceholder("find by what it does").fill("body rings");
      await page.keyboard.press("Enter");
      await page.getByRole("region", { name: "Resonator", exact: true }).waitFor();

      // What rings in the tap: counted live, heard before it is taken.
      await page.getByRole("combobox", { name: "Modes from a sample" }).click();
      await page.getByRole("option", { name: /tap/ }).click();
      const count = page.getByText(/^\d+ of \d+ modes$/);
      await count.waitFor();
      const all = Number((await count.textContent())?.split(" ")[0]);
      assert.ok(all >= 9, `${all} modes found`);
      await typed(page, "Softest that is taken value", "-8,5 dB");
      const few = Number((await count.textContent())?.split(" ")[0]);
      assert.ok(few < all && few > 2, `${few} of them are louder`);
      await typed(page, "Softest that is taken value", "-60");
      await page.getByRole("button", { name: "Take", exact: true }).click();
      await notice(page, /modes taken from/).waitFor();
      const modes = (await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table ?? [];
      // What the ratio 1 is comes from the sample's measured pitch: between two modes that are six cents apart.
      const first = modes[0]?.ratio ?? 0;
      assert.ok(Math.abs(1200 * Math.log2(first)) < 12, `the lowest is the key: ${first}`);
      for (const ratio of [2.757, 5.404])
        assert.ok(
          modes.some((m) => Math.abs(1200 * Math.log2(m.ratio / first / ratio)) < 2),
          `a mode at ${ratio}`,
        );
      await typed(page, "Resonator level value", "24");

      // Only they sound, at the key that was hit, and another key moves them all.
      const rate = await rateOf(page);
      const strike = async (key: string, note: number) => {
        await page.getByRole("main").focus();
        await heard(page);
        await page.keyboard.down(key);
        await listen(page, 1);
        await page.keyboard.up(key);
        const { samples } = await heard(page);
        const from = samples.findIndex((x) => Math.abs(x) > 1e-3);
        assert.ok(from >= 0, "it sounds");
        const part = samples.subarray(from + 2000, from + 2000 + rate / 2);
        const lowest = hertzOf(note) * first;
        return [1, 2.757, 1.7].map((ratio) => levelOf(part, rate, lowest * ratio));
      };
      const [lowest = 0, second = 0, between = 0] = await strike("d", 52);
      assert.ok(
        lowest > between + 25 && second > between + 15,
        `modes ring: ${lowest}, ${second}, not between: ${between}`,
      );

      // A stroke across draws levels; one undo takes all of it back. Then one column is moved by velocity.
      const columns = page.getByRole("slider", { name: /^Columns of modes/ });
      const box = await columns.boundingBox();
      assert.ok(box);
      await page.mouse.move(box.x + box.width * 0.46, box.y + box.height * 0.45);
      await page.mouse.down();
      await page.mouse.move(box.x + box.width * 0.98, box.y + box.height * 0.45, { steps: 12 });
      await page.mouse.up();
      const drawn = (await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table ?? [];
      const above = drawn.filter((m) => m.ratio > 6);
      assert.ok(
        above.length > 2 && above.every((m) => Math.abs(m.level - (above[0]?.level ?? 0)) < 0.5),
        "a straight stroke",
      );
      await page.keyboard.press("Control+z");
      assert.deepEqual((await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table, modes);
      await columns.focus();
      await page.keyboard.press("ArrowRight");
      await page.getByRole("button", { name: "Move it by", exact: true }).click();
      await page.getByRole("menuitem", { name: "Ratio by Velocity" }).click();
      assert.ok(
        (await stored(page)).routes.some((r) => /\/rows\/\d+\/ratio$/.test(r.target) && r.source === "velocity"),
      );

      // Saved under its name it is among the settings of all resonators, also after a reload.
      await typed(page, "Name of the unit", "My frame");
      await page.getByRole("button", { name: "Ready", exact: true }).click();
      await page.getByRole("menuitem", { name: "Save as “My frame”" }).click();
      await notice(page, /among the settings/).waitFor();
      await page.getByText("saved", { exact: true }).waitFor();
      await page.reload();
      await page.getByRole("region", { name: "My frame", exact: true }).waitFor();
      await page.getByRole("button", { name: "Ready", exact: true }).click();
      await page.getByRole("menuitem", { name: "Cast bell" }).click();
      assert.equal((await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table?.length, 12);
      await page.getByRole("button", { name: "Ready", exact: true }).click();
      await page.getByRole("menuitem", { name: "My frame (saved)" }).click();
      assert.equal(
        (await stored(page)).layers[0]?.stages.find((s) => s.kind === "resonator")?.table?.length,
        modes.length,
      );
      assert.deepEqual(complaints, []);
    },
  },
];
