import assert from "node:assert/strict";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import type { Locator, Page } from "playwright-core";
import { hertzOf } from "../core/audio";
import { AXE, RULES, violations } from "./accessible";
import { visit } from "./browser";
import { addControl, choose, dragOut, typed } from "./face-tools";
import { heard, levelOf, listen, makeAudible, rateOf, rms } from "./hearing";
import { freshMap } from "./mapped";
import { arrive, type Scenario, station, storedDocument } from "./scenario";

interface Item {
  readonly id: string;
  readonly kind: string;
  readonly moves: readonly { readonly address: string }[];
}
const itemsOf = async (page: Page): Promise<readonly Item[]> =>
  ((await storedDocument(page)) as unknown as { face: { items: readonly Item[] } }).face.items;

/** Partials of the first layer: a dial and a slider for each. */
const PARTIALS = 16;

const restore = (page: Page) => page.getByTestId("face-page").click({ position: { x: 2, y: 2 } });

/** Waits until something is so; as often as it takes a machine that is much slower than this one. */
async function until(so: () => Promise<boolean>, what: string): Promise<void> {
  for (let n = 0; n < 40; n++) if (await so()) return;
  assert.fail(what);
}

/** What the held key makes for a while, once what was changed has settled. */
async function now(page: Page, seconds = 0.35): Promise<Float32Array> {
  // Where the computer is busy, what was heard meanwhile has yet to arrive.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await listen(page, 0.25);
  await heard(page);
  await listen(page, seconds);
  return (await heard(page)).samples;
}

/** A face of sixty controls of all kinds. */
export const facingAll: readonly Scenario[] = [
  {
    name: "face: sixty controls of all kinds, made by hand, shipped, played from the file system; each one’s sound is measured",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await freshMap(page);
      await station(page, "Sound");
      await page.getByRole("button", { name: "Samples", exact: true }).click();
      await page.getByRole("combobox", { name: "Source" }).click();
      await page.getByRole("option", { name: "Partials", exact: true }).click();
      await page.getByRole("region", { name: "Partials", exact: true }).waitFor();
      await page.getByRole("button", { name: "Add a layer", exact: true }).click();
      await page.getByPlaceholder("find by what it does").fill("waveforms");
      await page.keyboard.press("Enter");
      await page.getByRole("region", { name: "Oscillator", exact: true }).waitFor();
      await typed(page, "Name of the layer", "Wave");
      // What rings on in the room would blur the measures.
      await page.getByRole("button", { name: "Reverb", exact: true }).click();
      await page.keyboard.press("Alt+b");

      await station(page, "Face");
      await page.getByRole("tab", { name: "Look" }).click();
      await typed(page, "Width of the page", "1500");
      await typed(page, "Height of the page", "1100");
      await page.getByRole("tab", { name: "Item" }).click();
      await page.getByRole("button", { name: "+ Control" }).click();
      await page.getByRole("menuitem", { name: "Text", exact: true }).click();
      await restore(page);

      // One dial out of the tree, fifteen copies that move the next partial each; the same with sliders for their places.
      await dragOut(page, "level of partial 1", /level of partial 1$/, 0.06, 0.16);
      await page.getByTestId("face-page").getByRole("group").last().focus();
      for (let n = 1; n < PARTIALS; n++) await page.keyboard.press("Control+Shift+d");
      await addControl(page, "Slider");
      await choose(page, "Bound to", "pan of partial 1", /pan of partial 1$/);
      await page.getByTestId("face-page").getByRole("group").last().focus();
      for (let n = 1; n < PARTIALS; n++) await page.keyboard.press("Control+Shift+d");
      const made = await itemsOf(page);
      assert.deepEqual(
        made.filter((i) => i.kind === "dial").map((i) => i.moves[0]?.address.split("/rows/")[1]),
        Array.from({ length: PARTIALS }, (_, n) => `${n + 1}/level`),
      );

      await addControl(page, "Columns");
      await choose(page, "Bound to", "level of all", /level of all 16 partials/);
      await addControl(page, "Columns");
      await choose(page, "Bound to", "detune of all", /detune of all 16 partials/);
      await page.getByRole("combobox", { name: "Form" }).click();
      await page.getByRole("option", { name: "A curve through points" }).click();
      await addControl(page, "Number");
      await choose(page, "Bound to", "stretch", /[Ss]tretch/);
      await addControl(page, "Switch");
      await choose(page, "Bound to", "wave mute", /Wave.*[Mm]ute/);
      await addControl(page, "Button");
      await choose(page, "Bound to", "main mute", /Main.*[Mm]ute/);
      await addControl(page, "Choice");
      await choose(page, "Bound to", "main filter", /Main.*[Tt]ype/);
      await addControl(page, "Previous and next");
      await choose(page, "Bound to", "main filter", /Main.*[Ss]lope/);
      await addControl(page, "XY");
      await choose(page, "Bound to", "main cutoff", /Main.*[Cc]utoff/);
      await choose(page, "Bound up", "main pan", /Main.*pan/);
      await addControl(page, "Envelope");
      await choose(page, "Bound to", "main: whole", /Main: Whole envelope/);
      await addControl(page, "Wheel");
      await addControl(page, "Ribbon");
      await page.getByRole("combobox", { name: "Form" }).click();
      await page.getByRole("option", { name: "What it is bound to" }).click();
      await choose(page, "Bound to", "tilt", /[Tt]ilt/);
      await addControl(page, "Randomise");
      await choose(page, "Bound to", "level of partial 1", /level of partial 1\b/);
      await choose(page, "Bound to one more", "level of partial 2", /level of partial 2\b/);
      await page.getByRole("switch", { name: "Fixed" }).nth(1).click();
      for (const kind of [
        "Pads",
        "Layers",
        "Picture",
        "Shape",
        "Meter",
        "Wave",
        "Last note",
        "Voices",
        "Tuning",
        "Keys",
      ])
        await addControl(page, kind);
      // A dial that moves two things, each over its own range: one louder while the other becomes softer.
      await addControl(page, "Dial");
      await typed(page, "Text", "Between");
      await choose(page, "Bound to", "main: layer level", /Main: Layer level/);
      await choose(page, "Bound to one more", "wave: layer level", /Wave: Layer level/);
      await typed(page, "Goes to", "-18 dB");
      await typed(page, "Goes from of Level", "0 dB");
      await typed(page, "Goes to of Level", "−60 dB");
      await addControl(page, "Dial");
      await choose(page, "Bound to", "amp envelope release", /Amp envelope release\b(?! bend)/);
      await addControl(page, "Dial");
      await choose(page, "Bound to", "amp envelope attack", /Amp envelope attack\b(?! bend)/);
      await page.getByRole("button", { name: "Add a page" }).click();
      await addControl(page, "Text");
      await typed(page, "Text", "The other page");
      await page.getByRole("tab", { name: /^Check/ }).click();
      await page.getByRole("button", { name: "Add a row of pages" }).click();
      const all = await itemsOf(page);
      assert.ok(all.length >= 60, `${all.length} items`);
      assert.equal(new Set(all.map((i) => i.kind)).size, 25, "of all kinds");
      await page.evaluate(AXE);
      assert.deepEqual(await violations(page, RULES), [], "the station with all of them is accessible");

      await station(page, "Ship");
      const [file] = await Promise.all([
        page.waitForEvent("download"),
        page.getByRole("button", { name: "Export the player" }).click(),
      ]);
      const path = join(world.folder, "all.html");
      await file.saveAs(path);
      assert.deepEqual(complaints, []);

      const guest = await visit(world.browser, { audible: true });
      await makeAudible(guest.page);
      await guest.page.goto(pathToFileURL(path).href);
      await measure(guest.page);
      assert.deepEqual(guest.complaints, []);
    },
  },
];

const press = async (control: Locator, key: string): Promise<void> => {
  await control.focus();
  await control.press(key);
};

/** Operates every control of the face while a key is held, and measures what becomes of the sound. */
async function measure(page: Page): Promise<void> {
  const slider = (name: string | RegExp) => page.getByRole("slider", { name, exact: typeof name === "string" });
  await slider("Level 1").waitFor();
  const rate = await rateOf(page);
  const key = hertzOf(60);
  const levels = (x: Float32Array) => Array.from({ length: PARTIALS }, (_, n) => levelOf(x, rate, key * (n + 1)));
  // Only the partials, bright and steady.
  await page.getByRole("switch", { name: /Mute/ }).click();
  await page.keyboard.down("a");

  // Dials: every second one down, then the others.
  for (let n = 1; n <= PARTIALS; n += 2) await press(slider(`Level ${n}`), "Home");
  for (let n = 2; n <= PARTIALS; n += 2) await press(slider(`Level ${n}`), "End");
  const even = levels(await now(page));
  for (let n = 1; n <= PARTIALS; n++) await press(slider(`Level ${n}`), n % 2 === 0 ? "Home" : "End");
  const odd = levels(await now(page));
  for (let n = 1; n <= PARTIALS; n++) {
    const [up, down] = n % 2 === 0 ? [even, odd] : [odd, even];
    assert.ok((up[n - 1] ?? 0) > (down[n - 1] ?? 0) + 30, `dial ${n}: ${down[n - 1]} → ${up[n - 1]} dB`);
  }
  // Sliders: partials to the left and to the right, heard at the left.
  for (let n = 2; n <= PARTIALS; n += 2) await press(slider(`Level ${n}`), "End");
  for (let n = 1; n <= PARTIALS; n++) await press(slider(`Pan ${n}`), n % 2 === 0 ? "End" : "Home");
  const oddLeft = levels(await now(page));
  for (let n = 1; n <= PARTIALS; n++) await press(slider(`Pan ${n}`), n % 2 === 0 ? "Home" : "End");
  const evenLeft = levels(await now(page));
  for (let n = 1; n <= PARTIALS; n++) {
    const [left, right] = n % 2 === 0 ? [evenLeft, oddLeft] : [oddLeft, evenLeft];
    assert.ok((left[n - 1] ?? 0) > (right[n - 1] ?? 0) + 12, `slider ${n}: ${right[n - 1]} → ${left[n - 1]} dB`);
  }
  for (let n = 1; n <= PARTIALS; n += 2) await press(slider(`Pan ${n}`), "Home");
  const full = levels(await now(page));
  const at = (x: readonly number[], partial: number): number => x[partial - 1] ?? 0;
  /** By how many decibels partials differ from how they were. */
  const against = async (partial: number): Promise<number> => at(levels(await now(page)), partial) - at(full, partial);

  // Columns: one stroke along the bottom, one along the top.
  const columns = slider(/^Level: left and right/);
  const stroke = async (share: number) => {
    const box = await columns.boundingBox();
    assert.ok(box);
    await page.mouse.move(box.x + 1, box.y + box.height * share);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width - 1, box.y + box.height * share, { steps: 8 });
    await page.mouse.up();
  };
  await columns.scrollIntoViewIfNeeded();
  await stroke(0.995);
  assert.ok((await against(1)) < -12 && (await against(16)) < -12, "the columns down");
  await stroke(0.005);
  const upward = levels(await now(page)).map((l, n) => Math.round(l - (full[n] ?? 0)));
  assert.ok(Math.abs(upward[4] ?? 0) < 3, `the columns up: ${upward}`);
  const back = () => page.keyboard.press("Control+z");
  // A curve: one partial out of tune, and back.
  await press(slider(/^Detune: left and right/), "End");
  assert.ok((await against(1)) < -12, "the first partial is elsewhere");
  await back();
  assert.ok(Math.abs(await against(1)) < 3, "and back");
  // A number, typed.
  await press(slider("Stretch"), "Enter");
  await page.keyboard.type("30");
  await page.keyboard.press("Enter");
  assert.ok((await against(16)) < -12, "stretched partials are higher");
  await back();

  // The other layer, by its switch: it has more than sixteen harmonics.
  const more = async () => levelOf(await now(page), rate, key * 20);
  const muteSwitch = page.getByRole("switch", { name: /^Mute/ });
  const without = await more();
  await muteSwitch.click();
  assert.ok((await more()) > without + 20, "the switch lets the wave in");
  await muteSwitch.click();
  // The same among the layers, and their levels.
  await page.getByRole("switch", { name: "Wave is heard" }).click();
  assert.ok((await more()) > without + 20, "the layers let the wave in");
  await page.getByRole("switch", { name: "Wave is heard" }).click();
  await press(slider("Level of Main"), "Home");
  assert.ok((await against(3)) < -12, "the level of a layer");
  await back();

  // A button while it is held: what it held at its highest is let go at its lowest.
  const loud = rms(await now(page));
  const button = page.getByRole("button", { name: "Mute", exact: true });
  await button.click();
  assert.ok(rms(await now(page)) > loud / 2, "let go it sounds");
  await button.focus();
  await page.keyboard.down(" ");
  const gone = rms(await now(page));
  assert.ok(gone < loud / 10, `held it is silent but for the room: ${loud} → ${gone}`);
  await page.keyboard.up(" ");
  for (let i = 0; i < 4; i++) await back();
  assert.ok(Math.abs(await against(4)) < 3, "four undone steps bring it back");

  // XY: the cutoff down, to the middle; a choice and a step of the filter; to the right.
  const xy = page.getByRole("slider", { name: "Cutoff", exact: true });
  /** Puts the point of the XY at a place, from the left and from below. */
  const put = async (across: number, up: number) => {
    await xy.scrollIntoViewIfNeeded();
    const box = await xy.boundingBox();
    assert.ok(box);
    await page.mouse.click(box.x + box.width * across, box.y + box.height * (1 - up));
  };
  await put(0.01, 0.5);
  assert.ok((await against(16)) < -12, "the cutoff takes the highest");
  await page.getByRole("combobox", { name: "Type" }).selectOption({ label: "High-pass" });
  assert.ok((await against(16)) > -6, "a high-pass lets them through");
  await put(0.6, 0.5);
  const slope = await against(1);
  await page.getByRole("button", { name: /the one after/ }).click();
  const other = await against(1);
  assert.ok(Math.abs(other - slope) > 3, `another slope: ${slope} → ${other} dB`);
  await page.getByRole("combobox", { name: "Type" }).selectOption({ label: "Low-pass" });
  await put(0.99, 0.98);
  assert.ok((await against(2)) < -20, "to the right");
  await put(0.99, 0.03);
  const stands = (await xy.getAttribute("aria-valuetext")) ?? "";
  assert.match(stands, /L (9\d|100)/, stands);

  // A ribbon that tilts, a wheel that bends and springs back, the tuning, chance.
  const before = levels(await now(page));
  await press(slider("Tilt"), "Home");
  const tilted = levels(await now(page));
  assert.ok(at(tilted, 16) - at(tilted, 1) < at(before, 16) - at(before, 1) - 12, "tilted");
  await slider("Tilt").dblclick();
  await press(slider("Bend"), "End");
  const bent = await now(page);
  assert.ok(levelOf(bent, rate, key * 2 ** (2 / 12)) > levelOf(bent, rate, key) + 12, "two semitones up");
  await slider("Stretch").focus();
  await until(async () => {
    const straight = await now(page);
    return levelOf(straight, rate, key) > levelOf(straight, rate, key * 2 ** (2 / 12)) + 12;
  }, "sprung back");
  await press(slider("Equal temperament"), "Enter");
  await page.keyboard.type("453");
  await page.keyboard.press("Enter");
  // A tuning is part of the plan, which waits a moment where handing it over is a burden.
  await until(async () => {
    const tuned = await now(page);
    return levelOf(tuned, rate, (key * 453) / 440) > levelOf(tuned, rate, key) + 6;
  }, "tuned higher");
  await back();
  const still = levels(await now(page));
  let drawn = still;
  for (let n = 0; n < 20 && Math.abs(at(drawn, 1) - at(still, 1)) < 3; n++) {
    await page.getByRole("button", { name: "Redraw" }).click();
    drawn = levels(await now(page, 0.2));
  }
  assert.ok(Math.abs(at(drawn, 1) - at(still, 1)) >= 3, "chance moved the first partial");
  assert.ok(Math.abs(at(drawn, 2) - at(still, 2)) < 1.5, "and left the fixed one");
  await press(slider("Level 1"), "End");

  // One dial from the one layer to the other.
  await page.getByRole("switch", { name: "Wave is heard" }).click();
  await press(slider("Between"), "Home");
  const wave = await now(page);
  await press(slider("Between"), "End");
  const main = await now(page);
  const [w, m] = [levelOf(wave, rate, key * 20), levelOf(main, rate, key * 20)];
  assert.ok(w > m + 20, `from the wave: ${w} → ${m}`);
  assert.ok(
    levelOf(main, rate, key * 15) > levelOf(wave, rate, key * 15) + 6,
    `to the partials: ${levels(wave).map(Math.round)} → ${levels(main).map(Math.round)}`,
  );
  await page.getByRole("switch", { name: "Wave is heard" }).click();

  // What only tells.
  assert.ok(Number(await page.getByRole("meter", { name: "Level" }).getAttribute("aria-valuenow")) > -50, "the meter");
  assert.ok(Number(await page.getByLabel("Voices").textContent()) >= 1, "the voices");
  await page.getByRole("log", { name: "Last note" }).getByText(/C4 at/).waitFor();
  const waves = await page.getByRole("img", { name: "The wave that sounds" }).evaluate((canvas: HTMLCanvasElement) => {
    const { data, width, height } = (canvas.getContext("2d") as CanvasRenderingContext2D).getImageData(
      0,
      0,
      canvas.width,
      canvas.height,
    );
    const rows = new Set<number>();
    for (let i = 3; i < data.length; i += 4) if ((data[i] ?? 0) > 0) rows.add(Math.floor(i / 4 / width));
    return rows.size / height;
  });
  assert.ok(waves > 0.1, `the wave goes up and down over ${waves} of its height`);

  // The envelope's corners, then attack and release by their dials.
  const corner = slider(/decay and sustain/);
  /** Drags the corner of the envelope by so many pixels. */
  const drag = async (x: number, y: number) => {
    await corner.scrollIntoViewIfNeeded();
    const box = await corner.boundingBox();
    assert.ok(box);
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + x, box.y + box.height / 2 + y, { steps: 3 });
    await page.mouse.up();
  };
  await drag(-400, 400);
  assert.ok(rms(await now(page)) < loud / 8, "no sustain: it has died away");
  await drag(0, -400);
  assert.ok(rms(await now(page)) > loud / 3, "it is there again");
  await press(slider("Release"), "End");
  await heard(page);
  await page.keyboard.up("a");
  // What comes right after the key, in the sound's own time, however long the page takes.
  await listen(page, 0.6);
  const ringing = (await heard(page)).samples.subarray(0, Math.round(0.6 * rate));
  assert.ok(rms(ringing) > loud / 4, "it rings on");
  await press(slider("Release"), "Home");
  await listen(page, 0.3);
  await page.keyboard.down("s");
  await page.keyboard.up("s");
  assert.ok(rms(await now(page)) < loud / 8, "it ends at once");
  await press(slider("Attack"), "End");
  await page.keyboard.down("a");
  const slow = rms(await now(page));
  await page.keyboard.up("a");
  await press(slider("Attack"), "Home");
  await page.keyboard.down("a");
  assert.ok(rms(await now(page)) > slow * 4, "it begins at once");
  await page.keyboard.up("a");

  // Pads and keys.
  const under = async (control: Locator, x: number, y: number, hertz: number, what: string) => {
    await control.scrollIntoViewIfNeeded();
    const box = await control.boundingBox();
    assert.ok(box);
    await listen(page, 0.4);
    await page.mouse.move(box.x + box.width * x, box.y + box.height * y);
    await page.mouse.down();
    const sound = await now(page);
    await page.mouse.up();
    assert.ok(levelOf(sound, rate, hertz) > -50, `${what} sound: ${levelOf(sound, rate, hertz)} dB`);
  };
  await under(page.getByRole("button", { name: "C3, C3" }), 0.5, 0.7, hertzOf(48), "the pads");
  await under(page.getByRole("application", { name: "Keys: lower is harder" }), 0.01, 0.9, hertzOf(48), "the keys");

  await page.getByRole("navigation", { name: "Pages" }).getByRole("button", { name: "Page 2" }).click();
  await page.getByText("The other page").waitFor();
  await page.evaluate(AXE);
  assert.deepEqual(await violations(page, RULES), [], "the player is accessible");
}
