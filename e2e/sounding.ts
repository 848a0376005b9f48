import assert from "node:assert/strict";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import type { Page } from "playwright-core";
import { visit } from "./browser";
import { heard, listen, makeAudible, onsetOf, rateOf, rms } from "./hearing";
import { arrive, near, notice, openHarp, type Scenario, station, storedDocument } from "./scenario";

interface StoredUnit {
  readonly id: string;
  readonly kind: string;
  readonly name: string;
  readonly params: Readonly<Record<string, number | string>>;
}
interface Stored {
  readonly layers: readonly {
    readonly id: string;
    readonly inserts: readonly StoredUnit[];
    readonly stages: readonly StoredUnit[];
  }[];
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
      await add(page, "the voices of Main", "low-pass", "Filter 2");
      await add(page, "Main", "tremolo", "Tremolo");
      await add(page, "Send 1", "delay", "Delay");
      await add(page, "Master", "eight-band", "Equaliser");
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
      await typed(page, "Q of band 3", "lots");
      await page.keyboard.press("Escape");

      // Heard without it and with it; nothing of that is in the document.
      const whole = await stored(page);
      await page.getByRole("button", { name: "Compare with and without", exact: true }).click();
      await page.getByText(/^without it/).waitFor();
      await page.keyboard.press("Alt+c");
      await page.getByText(/^with it/).waitFor();
      await page.keyboard.press("Alt+c");
      await page.getByRole("button", { name: "Compare with and without the units of Master" }).click();
      await page
        .getByRole("button", { name: "Compare with and without the units of Master" })
        .and(page.locator("[aria-pressed=true]"))
        .waitFor();
      await page.getByRole("button", { name: "Compare with and without the units of Master" }).click();
      assert.deepEqual(await stored(page), whole);

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
      await drop("Filter 2", "Master");
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
    name: "sound: a layer that is computed plays at once; partials are dragged and typed, modes found in a sample, layers fed into one another; all is there after a reload",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await page.locator("[data-testid=voices]", { hasText: "voice" }).waitFor();
      await station(page, "Sound");
      const addLayer = async (word: string, name: string) => {
        await page.getByRole("button", { name: "Add a layer", exact: true }).click();
        await page.getByPlaceholder("find by what it does").fill(word);
        await page.keyboard.press("Enter");
        await page.getByRole("region", { name, exact: true }).waitFor();
      };
      await addLayer("additive", "Partials");

      // The samples' layer is silent: what is heard is computed.
      await chip(page, "Samples").click();
      await page.getByRole("button", { name: "Level", exact: true }).first().click();
      await page.getByRole("switch", { name: "Layer mute" }).click();
      await page.getByRole("main").focus();
      await page.keyboard.down("d");
      await heard(page);
      await listen(page, 0.8);
      const sounding = rms((await heard(page)).samples);
      await page.keyboard.up("d");
      assert.ok(sounding > 0.003, `the partials sound: ${sounding}`);

      // A line of the picture is dragged, a number typed; each is a step.
      await page.getByRole("button", { name: "Partials", exact: true }).click();
      const plot = page.getByRole("img", { name: /^Partials: 16/ });
      const box = await plot.boundingBox();
      assert.ok(box);
      // The key's own partial stands at 2.3 of 10.35 octaves.
      const x = box.x + (box.width * 2.3) / 10.35;
      await page.mouse.move(x, box.y + 30);
      await page.mouse.down();
      await page.mouse.move(x, box.y + 130, { steps: 6 });
      await page.mouse.up();
      await page.getByRole("button", { name: "List", exact: true }).click();
      const first = page.getByRole("textbox", { name: "Level of partial 1", exact: true });
      assert.match(await first.inputValue(), /^−\d/);
      await typed(page, "Ratio of partial 2", "2,5");
      assert.equal(await page.getByRole("textbox", { name: "Ratio of partial 2", exact: true }).inputValue(), "× 2.50");

      // A resonator whose modes are those of a spoke.
      await add(page, "the voices of Partials", "modal", "Resonator");
      await page.getByRole("combobox", { name: "Modes from a sample" }).click();
      await page.getByRole("option").first().click();
      await page.getByRole("button", { name: "Take", exact: true }).click();
      await notice(page, /modes? taken from/).waitFor();

      // Two units that are chosen together are switched together; one stays open beside another.
      const switched = async () =>
        ((await stored(page)).layers[1]?.stages ?? []).map((u) => Number(u.params.on ?? 1) >= 0.5);
      await page
        .locator('[data-unit$="/stages/filter"]')
        .nth(1)
        .click({ modifiers: ["Shift"] });
      await page.keyboard.press("Alt+b");
      assert.deepEqual(await switched(), [false, false]);
      await page.keyboard.press("Control+z");
      assert.deepEqual(await switched(), [true, true]);
      await page.getByRole("button", { name: "Pin the unit" }).click();
      await page.locator('[data-unit$="/stages/filter"]').nth(1).click();
      await page.getByRole("region", { name: "Filter", exact: true }).waitFor();
      await page.getByRole("region", { name: "Resonator", exact: true }).waitFor();
      await page.getByRole("button", { name: "Unpin the unit" }).click();
      await page.getByRole("region", { name: "Resonator", exact: true }).waitFor({ state: "detached" });

      // The oscillator's phase is moved by the partials.
      await addLayer("waveforms", "Oscillator");
      await page.getByRole("combobox", { name: "Layer input" }).click();
      await page.getByRole("option", { name: "Partials" }).click();
      // A layer is duplicated by its menu, named, and removed again.
      await page.getByRole("button", { name: "What can be done with the layer" }).click();
      await page.getByRole("menuitem", { name: /^Duplicate/ }).click();
      await typed(page, "Name of the layer", "Twin");
      assert.equal((await stored(page)).layers.length, 4);
      const way = page.getByRole("list", { name: "Signal path" });
      await way.getByTitle("Twin", { exact: true }).click({ button: "right" });
      await page.getByRole("menuitem", { name: /^Remove/ }).click();
      await chip(page, "Oscillator").click();
      await page.getByText("saved").waitFor();
      const before = await stored(page);
      assert.equal(before.layers.length, 3);
      // What is open is in the address once the router has been there.
      await page.waitForURL((url) => url.searchParams.get("unit") === `layers/${before.layers[2]?.id}/source`);
      await page.reload();
      await page.getByRole("region", { name: "Oscillator", exact: true }).waitFor();
      const after = await stored(page);
      assert.deepEqual(after.layers, before.layers);
      const [, second, third] = after.layers as unknown as {
        id: string;
        source: { kind: string; from?: string; table?: { ratio: number; level: number }[] };
        stages: { kind: string; table?: { ratio: number }[] }[];
      }[];
      assert.equal(third?.source.from, second?.id);
      assert.equal(second?.source.table?.[1]?.ratio, 2.5);
      assert.ok((second?.source.table?.[0]?.level ?? 0) < -5);
      assert.ok((second?.stages.find((u) => u.kind === "resonator")?.table?.length ?? 0) > 1);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "sound: an echo in a send is heard once the voices are over",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await page.locator("[data-testid=voices]", { hasText: "voice" }).waitFor();
      await station(page, "Sound");
      await add(page, "Send 1", "delay", "Delay");
      await typed(page, "Delay mix value", "100 %");
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

      // The measures say what is heard: the key's pitch, how loud; alone there is nothing of the layer that is left out.
      await page.keyboard.press("Alt+m");
      const measures = page.getByRole("region", { name: "Measures" });
      await page.getByRole("main").focus();
      await page.keyboard.down("d");
      await measures.getByText(/^E3 [−+]\d+ ct/).waitFor();
      assert.match((await measures.textContent()) ?? "", /LUFS/);
      await page.keyboard.up("d");
      await page.getByRole("button", { name: "Add a layer", exact: true }).click();
      await page.getByPlaceholder("find by what it does").fill("hiss");
      await page.keyboard.press("Enter");
      await page.getByRole("region", { name: "Noise", exact: true }).waitFor();
      await page.getByRole("button", { name: "Solo layer Main" }).click();
      await page.getByRole("main").focus();
      await page.keyboard.down("d");
      await measures.getByText(/^E3 [−+]\d+ ct/).waitFor();
      await page.keyboard.up("d");
      await page.getByRole("button", { name: "Solo layer Main" }).click();
      await page.getByRole("button", { name: "Undo", exact: true }).click();
      await page.keyboard.press("Alt+m");
      await measures.waitFor({ state: "detached" });
      await page.getByRole("button", { name: "Level", exact: true }).click();
      await typed(page, "Sends to send 1 value", "0 dB");
      assert.ok((await tail()) > 1e-4, "the echoes go on when the voices are over");
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "sound: a room is trimmed, a compressor listens to a layer, parts are measured by themselves, tone and sweep go through them, a pinned unit stays open elsewhere",
    alone: true,
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await station(page, "Sound");
      // A sample of the pool as a room: its end and its fade are dragged by their handles.
      await add(page, "Main", "recorded room", "Convolution reverb");
      await page.getByRole("combobox", { name: "Impulse of the room" }).click();
      await page.keyboard.type("spokes-D3-02");
      await page.keyboard.press("Enter");
      const end = page.getByRole("button", { name: /^End / });
      const box = await end.boundingBox();
      assert.ok(box);
      await page.mouse.move(box.x + 12, box.y + 12);
      await page.mouse.down();
      await page.mouse.move(box.x - 150, box.y + 12, { steps: 5 });
      await page.mouse.up();
      const length = page.getByRole("textbox", { name: "Convolution reverb length value" });
      assert.match(await length.inputValue(), /^\d{3} ms$/);
      await page.getByRole("button", { name: /^Fade-out from/ }).focus();
      for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowLeft");
      assert.match(
        await page.getByRole("textbox", { name: "Convolution reverb fade-out value" }).inputValue(),
        /^[1-9]\d? %$/,
      );
      await page.getByRole("button", { name: "Undo", exact: true }).click();
      await page.getByRole("button", { name: "Undo", exact: true }).click();
      assert.equal(await length.inputValue(), "all", "one drag is one step");

      // A tone through the layer's inserts is heard as long as it is on, at its own level where nothing changes it.
      await page.keyboard.press("Alt+m");
      const measures = page.getByRole("region", { name: "Measures" });
      const choose = async (name: string) => {
        await measures.getByRole("combobox", { name: "What is measured" }).click();
        await page.getByRole("option", { name, exact: true }).click();
      };
      await page.getByRole("switch", { name: "On", exact: true }).click();
      await chip(page, "Reverb").click();
      await page.getByRole("switch", { name: "On", exact: true }).click();
      await typed(page, "Frequency of the tone", "700");
      await measures.getByRole("button", { name: "Tone", exact: true }).click();
      await measures.getByText(/^F5 /).waitFor();
      await heard(page);
      await listen(page, 0.3);
      const { samples } = await heard(page);
      near(20 * Math.log10(rms(samples) * Math.SQRT2), -18, 0.3, "level of the tone");
      // Measured by itself a unit gives what comes out of it: the layer is on its way, the whole's chain is not.
      await chip(page, "Convolution reverb, switched off").click();
      await choose("Convolution reverb");
      await measures.getByText("−18.0 dB").waitFor();
      await measures.getByRole("button", { name: "Tone", exact: true }).click();

      // A sweep meets what the equaliser does.
      await choose("What is heard");
      await add(page, "Master", "eight-band", "Equaliser");
      await typed(page, "Gain of band 4", "9 dB");
      await measures.getByRole("button", { name: "Sweep" }).click();
      await measures.getByRole("img", { name: /what a sweep has met/ }).waitFor();
      await page.locator('[aria-pressed="true"]', { hasText: "Sweep" }).waitFor({ state: "detached", timeout: 20000 });
      await measures.getByRole("button", { name: "Forget peaks" }).click();
      await measures.getByRole("img", { name: /highest of late$/ }).waitFor();

      // A compressor that listens to another layer says so, and the layer says who listens.
      await page.getByRole("button", { name: "Add a layer", exact: true }).click();
      await page.getByPlaceholder("find by what it does").fill("hiss");
      await page.keyboard.press("Enter");
      await page.getByRole("region", { name: "Noise", exact: true }).waitFor();
      await add(page, "Main", "dynamics", "Compressor");
      await page.getByRole("combobox", { name: "Sidechain input" }).click();
      await page.getByRole("option", { name: "Noise" }).click();
      await page.getByText("▸ master, Compressor").waitFor();
      await typed(page, "Main: Compressor look-ahead value", "5 ms");

      // Pinned, it stays open at Motion and Face, and nowhere once it is let go.
      await page.getByRole("button", { name: "Pin the unit" }).click();
      for (const name of ["Motion", "Face"]) {
        await station(page, name);
        await page.getByRole("region", { name: "Compressor", exact: true }).waitFor();
      }
      await page.getByRole("button", { name: "Unpin the unit" }).click();
      await page.getByRole("region", { name: "Compressor", exact: true }).waitFor({ state: "detached" });

      const doc = await stored(page);
      const made = doc.layers[0]?.inserts.find((u) => u.kind === "compressor");
      assert.ok(made && "from" in made && made.params.lookAhead === 0.005);
      await page.reload();
      await station(page, "Sound");
      await chip(page, "Compressor").click();
      await page.getByRole("combobox", { name: "Sidechain input" }).getByText("Noise").waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "sound: an instrument without any sample is shipped as a player, which sounds",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await page.getByRole("link", { name: "Library" }).click();
      await page.getByRole("button", { name: /^Tapped frame/ }).click();
      await page.getByRole("heading", { name: "Keys × velocity" }).waitFor();
      await page.getByRole("main").focus();
      // What is struck dies away: it is heard from its beginning, however late the page is told of it.
      await heard(page);
      await page.keyboard.down("d");
      await page.waitForFunction(() => document.querySelector("[data-testid=voices]")?.textContent?.startsWith("1"));
      await listen(page, 0.4);
      const { samples } = await heard(page);
      await page.keyboard.up("d");
      const from = Math.max(0, onsetOf(samples));
      const here = rms(samples.slice(from, from + Math.round(0.4 * (await rateOf(page)))));
      assert.ok(here > 0.003, `it sounds in the editor: ${here}`);
      await station(page, "Ship");
      const [file] = await Promise.all([
        page.waitForEvent("download"),
        page.getByRole("button", { name: "Export the player" }).click(),
      ]);
      const path = join(world.folder, "frame.html");
      await file.saveAs(path);
      const guest = await visit(world.browser, { audible: true });
      await makeAudible(guest.page);
      await guest.page.goto(pathToFileURL(path).href);
      await guest.page.getByRole("heading", { name: "Tapped frame" }).waitFor();
      await guest.page.keyboard.down("d");
      await guest.page.locator(".key.down").waitFor();
      await listen(guest.page, 0.6);
      assert.ok(rms((await heard(guest.page)).samples) > 0.003, "it sounds in the player");
      await guest.page.keyboard.up("d");
      assert.deepEqual([...complaints, ...guest.complaints], []);
      await guest.context.close();
    },
  },
];
