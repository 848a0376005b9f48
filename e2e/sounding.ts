import assert from "node:assert/strict";
import type { Page } from "playwright-core";
import { heard, listen, rms } from "./hearing";
import { arrive, notice, openHarp, type Scenario, station, storedDocument } from "./scenario";

interface StoredUnit {
  readonly id: string;
  readonly kind: string;
  readonly name: string;
  readonly params: Readonly<Record<string, number | string>>;
}
interface Stored {
  readonly layers: readonly { readonly inserts: readonly StoredUnit[]; readonly stages: readonly StoredUnit[] }[];
  readonly sends: readonly { readonly name: string; readonly units: readonly StoredUnit[] }[];
  readonly effects: readonly StoredUnit[];
}
const stored = async (page: Page) => (await storedDocument(page)) as unknown as Stored;
const kinds = (units: readonly StoredUnit[] | undefined) => units?.map((u) => u.kind);

/** Adds a unit to a row by its button, found by a word of what it does. */
async function add(page: Page, where: string, word: string, name: string): Promise<void> {
  await page.getByRole("button", { name: `Add to ${where}`, exact: true }).click();
  await page.getByPlaceholder("find by what it does").fill(word);
  await page.keyboard.press("Enter");
  await page.getByRole("region", { name, exact: true }).waitFor();
}

const chip = (page: Page, name: string) => page.getByRole("button", { name, exact: true });
const typed = async (page: Page, field: string, text: string) => {
  await page.getByRole("textbox", { name: field, exact: true }).fill(text);
  await page.keyboard.press("Enter");
};

/** The Sound station: what stands on the way of the sound. */
export const sounding: readonly Scenario[] = [
  {
    name: "sound: units are added to voices, inserts, sends and the whole, moved, switched, copied, removed, and found again after a reload",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await station(page, "Sound");
      await add(page, "the voices of Main", "spectrum", "Filter 2");
      await add(page, "Main", "swings", "Tremolo");
      await add(page, "Send 1", "delay", "Delay");
      await add(page, "The whole", "eight bands", "Equaliser");
      await page.waitForURL(/unit=effects/);
      let doc = await stored(page);
      assert.deepEqual(
        [kinds(doc.layers[0]?.stages), kinds(doc.layers[0]?.inserts), kinds(doc.sends[0]?.units), kinds(doc.effects)],
        [["filter", "filter"], ["tremolo"], ["delay"], ["reverb", "equaliser"]],
      );

      // The equaliser's handle and its line in the table are one thing; a drag is one step.
      const handle = page.getByRole("button", { name: /^Band 3: 400/ });
      const box = await handle.boundingBox();
      assert.ok(box);
      await page.mouse.move(box.x + 12, box.y + 12);
      await page.mouse.down();
      await page.mouse.move(box.x + 12, box.y - 38, { steps: 5 });
      await page.mouse.up();
      const gain = page.getByRole("textbox", { name: "Gain of band 3" });
      assert.ok(Number.parseFloat((await gain.inputValue()).replace("−", "-")) > 3, "dragged upwards");
      await page.getByRole("button", { name: "Undo", exact: true }).click();
      assert.equal(await gain.inputValue(), "0.0 dB");
      await typed(page, "Gain of band 3", "-7,5");
      assert.equal(await gain.inputValue(), "−7.5 dB");
      await typed(page, "Width of band 3", "lots");
      await page.keyboard.press("Escape");

      // Moved by keys, then by dragging it back.
      await chip(page, "Equaliser").focus();
      await page.keyboard.press("Alt+ArrowLeft");
      assert.deepEqual(kinds((await stored(page)).effects), ["equaliser", "reverb"]);
      await page.keyboard.press("Alt+ArrowLeft");
      const [from, to] = [await chip(page, "Equaliser").boundingBox(), await chip(page, "Reverb").boundingBox()];
      assert.ok(from && to);
      await page.mouse.move(from.x + 20, from.y + 10);
      await page.mouse.down();
      await page.mouse.move(to.x + to.width, to.y + 10, { steps: 12 });
      await page.mouse.up();
      await page.waitForFunction(() => {
        const names = [...document.querySelectorAll("[data-unit^='effects/']")].map((e) => e.textContent);
        return names.join() === "Reverb,Equaliser";
      });
      assert.deepEqual(kinds((await stored(page)).effects), ["reverb", "equaliser"]);

      // Switched off by a key; copied from the whole into the layer's inserts.
      await page.keyboard.press("Alt+b");
      await chip(page, "Equaliser, switched off").waitFor();
      await page.keyboard.press("Control+c");
      await chip(page, "Tremolo").click();
      await page.keyboard.press("Control+v");
      await page.getByRole("region", { name: "Equaliser", exact: true }).waitFor();
      doc = await stored(page);
      assert.deepEqual(kinds(doc.layers[0]?.inserts), ["tremolo", "equaliser"]);
      assert.deepEqual(doc.layers[0]?.inserts[1]?.params, doc.effects[1]?.params);
      assert.equal(doc.effects[1]?.params.on, 0);

      // Dragged from the whole into the layer's inserts; a stage of the voices can't stand there.
      const drop = async (what: string, where: string) => {
        const [a, b] = [
          await chip(page, what).boundingBox(),
          await page.getByRole("button", { name: `Add to ${where}`, exact: true }).boundingBox(),
        ];
        assert.ok(a && b);
        await page.mouse.move(a.x + 12, a.y + 10);
        await page.mouse.down();
        await page.mouse.move(b.x + 10, b.y + 10, { steps: 14 });
        await page.mouse.up();
      };
      await drop("Reverb", "Main");
      await page.getByRole("region", { name: "Reverb", exact: true }).waitFor();
      doc = await stored(page);
      assert.deepEqual([kinds(doc.layers[0]?.inserts)?.includes("reverb"), kinds(doc.effects)], [true, ["equaliser"]]);
      await drop("Filter 2", "The whole");
      await notice(page, "can't stand there").waitFor();
      await page.getByRole("button", { name: "Undo", exact: true }).click();
      assert.deepEqual(kinds((await stored(page)).effects), ["reverb", "equaliser"]);

      // What can't be removed says so; names, sends by name, limits.
      await chip(page, "Amp envelope").click({ button: "right" });
      await page
        .getByRole("menuitem", { name: /^Move it back/ })
        .and(page.locator("[data-disabled]"))
        .waitFor();
      await page.keyboard.press("Escape");
      await chip(page, "Delay").click();
      await typed(page, "Name of the send", "Yard");
      await typed(page, "Delay time value", "99 s");
      assert.equal(await page.getByRole("textbox", { name: "Delay time value" }).inputValue(), "4.00 s");
      await chip(page, "Tremolo").click();
      await page.getByText("To Yard").waitFor();
      await typed(page, "Sends to send 1 value", "-9 db");
      await typed(page, "Sends to send 1 value", "off");
      await typed(page, "Sends to send 1 value", "-9 db");
      const before = await stored(page);
      await page.reload();
      await page.getByRole("region", { name: "Tremolo", exact: true }).waitFor();
      assert.deepEqual(await stored(page), before, "the same after a reload, and the unit is open");
      await page.keyboard.press("Delete");
      assert.deepEqual(kinds((await stored(page)).layers[0]?.inserts), ["equaliser"]);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "sound: an echo in a send is heard once the voices are over",
    alone: true,
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await page.locator("[data-testid=voices]", { hasText: "voice" }).waitFor();
      await station(page, "Sound");
      await add(page, "Send 1", "delay", "Delay");
      await typed(page, "Delay amount value", "100 %");
      await typed(page, "Delay feedback value", "70 %");
      await chip(page, "Reverb").click();
      await page.keyboard.press("Alt+b");
      const tail = async () => {
        await page.getByRole("main").focus();
        await page.keyboard.press("d");
        await listen(page, 2.2);
        await page.waitForFunction(() => document.querySelector("[data-testid=voices]")?.textContent?.startsWith("0"));
        await heard(page);
        await listen(page, 0.6);
        return rms((await heard(page)).samples);
      };
      assert.ok((await tail()) < 1e-5, "nothing goes to the send yet");
      // The line behind the layer is as thick as it is loud, that into the send as thin as silence.
      const thick = (after: string) =>
        page.evaluate(
          (name) => Number.parseFloat((document.querySelector(`[data-after="${name}"]`) as HTMLElement).style.height),
          after,
        );
      await page.keyboard.down("d");
      await page.waitForFunction(
        () => Number.parseFloat((document.querySelector('[data-after="effects"]') as HTMLElement).style.height) > 5,
      );
      assert.ok((await thick("sends/send1")) <= 1, "nothing goes into the send");
      await page.keyboard.up("d");
      await page.getByRole("button", { name: "Level", exact: true }).click();
      await typed(page, "Sends to send 1 value", "0 dB");
      assert.ok((await tail()) > 1e-4, "the echoes go on when the voices are over");
      assert.deepEqual(complaints, []);
    },
  },
];
