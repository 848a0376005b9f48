import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import type { Page } from "playwright-core";
import { PitchFinder } from "../core/analysis";
import { readPackage, readWav } from "../core/formats";
import { fluxOf } from "../core/looping";
import { visit } from "./browser";
import { alike, bends, heard, listen, makeAudible, onsetOf, rateOf, rms } from "./hearing";
import { arrive, near, openHarp, type Scenario, station, storedDocument, type World } from "./scenario";

/** Plays one key of the little controller and gives back what was heard from the note's beginning. */
async function strike(page: Page, name: string, velocity: number, seconds: number): Promise<Float32Array> {
  const slider = page.getByRole("slider", { name: "Controller velocity" });
  await slider.focus();
  await page.keyboard.press("Home");
  for (let v = 0; v < Math.round(velocity / 12.7); v++) await page.keyboard.press("Shift+ArrowRight");
  await listen(page, 0.3);
  await heard(page);
  const key = page.getByRole("button", { name: `Controller ${name}`, exact: true });
  const box = await key.boundingBox();
  assert.ok(box);
  await page.mouse.move(box.x + box.width / 2, box.y + box.height - 6);
  await page.mouse.down();
  await listen(page, seconds);
  await page.mouse.up();
  const { samples, gaps } = await heard(page);
  assert.equal(gaps, 0, "the captured sound has no gaps");
  await listen(page, 1.6);
  const from = onsetOf(samples);
  assert.ok(from >= 0, `${name} at ${velocity} makes a sound`);
  return samples.slice(from);
}

async function download(page: Page, world: World, button: string): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: button }).click()]);
  const path = join(world.folder, file.suggestedFilename());
  await file.saveAs(path);
  return path;
}

/** Level of the difference of two sounds, below full scale. */
function differenceDb(a: Float32Array, b: Float32Array): number {
  assert.equal(a.length, b.length);
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs((a[i] ?? 0) - (b[i] ?? 0)));
  return 20 * Math.log10(most);
}

export const path: readonly Scenario[] = [
  {
    name: "from the demo take to keys that sound, and back after a reload",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      for (const take of ["spokes", "bells", "pump", "freewheel"])
        await page.getByRole("list", { name: "Takes" }).getByText(take, { exact: true }).waitFor();
      await page.getByRole("button", { name: "Cut this take" }).click();
      await page.getByRole("button", { name: "Find sounds" }).click();
      await page.getByRole("button", { name: "Make 48 samples" }).waitFor();
      assert.equal(
        await page.getByRole("grid", { name: "Slices" }).getAttribute("aria-rowcount"),
        "55",
        "48 sounds and 6 bumps and slips are listed under their heading",
      );
      // A higher threshold finds fewer sounds; undo brings all back.
      await page.getByRole("textbox", { name: "Threshold value" }).fill("50 dB");
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "Make 24 samples" }).waitFor();
      await page.getByRole("button", { name: "Undo" }).click();
      await page.getByRole("button", { name: "Make 48 samples" }).click();
      await page.getByRole("button", { name: "Place them on keys" }).click();
      await page.getByText("48 zones · 8 roots · 2 velocity layers × 3 repeats").waitFor();
      const before = await storedDocument(page);
      await page.reload();
      await page.getByText("48 zones · 8 roots · 2 velocity layers × 3 repeats").waitFor();
      assert.deepEqual(await storedDocument(page), before, "a reload brings back exactly what was there");
      await page.locator("[data-testid=voices]", { hasText: "voice" }).waitFor();
      await page.keyboard.down("t");
      await page.getByTestId("trace").getByText("F#3").waitFor();
      await page.keyboard.up("t");
      await page
        .getByTestId("trace")
        .getByText(/spokes-.*rate \d\.\d{3}/)
        .waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "the sound: in tune, repeats that differ, louder for harder",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await page.getByRole("button", { name: "On-screen controller and MIDI" }).click();
      const rate = await rateOf(page);
      const finder = new PitchFinder(rate);
      for (const [name, note] of [
        ["D4", 62],
        ["C4", 60],
        ["G#4", 68],
        ["C5", 72],
      ] as const) {
        const sound = await strike(page, name, 102, 1);
        near((finder.find(sound, 0, rate).note ?? 0) * 100, note * 100, 5, `pitch of ${name} in cents`);
      }
      const repeats: Float32Array[] = [];
      for (let i = 0; i < 3; i++) repeats.push((await strike(page, "A4", 102, 0.6)).slice(0, rate * 0.5));
      const [a, b, c] = repeats as [Float32Array, Float32Array, Float32Array];
      for (const [x, y] of [
        [a, b],
        [b, c],
        [a, c],
      ] as const) {
        assert.ok(alike(x, y) < 0.98, `repeats differ: likeness ${alike(x, y)}`);
      }
      const soft = await strike(page, "F4", 38, 0.6);
      const hard = await strike(page, "F4", 114, 0.6);
      const louder = 20 * Math.log10(rms(hard.slice(0, rate / 2)) / rms(soft.slice(0, rate / 2)));
      assert.ok(louder > 6, `hard is louder than soft by ${louder.toFixed(1)} dB`);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "a plucked sound is made endless in three actions and held for twenty seconds: no click, no pulse beyond what was said, then the release loop",
    run: async (world) => {
      const { page } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await station(page, "Loop");
      await page.getByRole("combobox", { name: "Zone" }).click();
      await page.getByRole("option", { name: "spokes-D4-28" }).click();
      await page.getByRole("button", { name: /^Loop 1: score/ }).click();
      await page.getByRole("textbox", { name: "Crossfade" }).waitFor();
      const reason = (await page.getByText(/^Score/).textContent()) ?? "";
      const said = Number(/the level moves by ([\d.]+) dB/.exec(reason)?.[1] ?? 1);
      // The other repeats of this key and velocity stay without a loop: play until the turn comes to this one.
      const hold = page.getByRole("button", { name: /^Hold D4/ });
      for (let turn = 0; ; turn++) {
        assert.ok(turn < 8, "the zone with the loop gets its turn");
        await listen(page, 0.2);
        await heard(page);
        await hold.click();
        await page.getByRole("button", { name: /^Release D4/ }).waitFor();
        await listen(page, 0.5);
        if (await page.getByTestId("trace").getByText("spokes-D4-28").isVisible()) break;
        await page.getByRole("button", { name: /^Release D4/ }).click();
        await listen(page, 0.6);
      }
      await listen(page, 20.5);
      const { samples, gaps } = await heard(page);
      assert.equal(gaps, 0);
      const rate = await rateOf(page);
      const sound = samples.slice(onsetOf(samples));
      assert.ok(sound.length > 20 * rate);
      const levels = Array.from({ length: 85 }, (_, n) =>
        rms(sound.slice((2 + n * 0.2) * rate, (2.2 + n * 0.2) * rate)),
      );
      const moves = 20 * Math.log10(Math.max(...levels) / Math.min(...levels));
      assert.ok(moves <= said + 0.5, `it moves by ${moves} dB, ${said} dB were said`);
      // Spectral flux: at the seams within the range of the loop itself.
      const flux = fluxOf(sound.slice(2 * rate, 20 * rate)).sort();
      const loud = (flux.at(-1) ?? 0) / (flux[Math.floor(flux.length * 0.9)] ?? 1);
      assert.ok(loud < 1.6, `the largest change of spectrum is ${loud} times the usual`);
      const steady = bends(sound.slice(2 * rate, 20 * rate)).sort((x, y) => x - y);
      const usual = steady[Math.floor(steady.length * 0.9)] ?? 0;
      const most = steady.at(-1) ?? 0;
      assert.ok(most < usual * 2, `no bend stands out: ${most / usual} times the usual`);
      near((new PitchFinder(rate).find(sound, 8 * rate, 10 * rate).note ?? 0) * 100, 6200, 5, "pitch in the loop");
      await page.getByRole("button", { name: /^Release D4/ }).click();
      // A release loop, which the release as it is would hide.
      await page.getByRole("switch", { name: "Release loop" }).click();
      await page.getByRole("textbox", { name: "Release loop: times" }).fill("0");
      await page.keyboard.press("Enter");
      const lengthen = page.getByRole("button", { name: /^Lengthen the release/ });
      if (await lengthen.isVisible()) await lengthen.click();
      // So long that what is heard later can only be the loop: the sample itself is over by then.
      await station(page, "Motion");
      await page.getByRole("textbox", { name: "Amp envelope release value" }).fill("15 s");
      await page.keyboard.press("Enter");
      await station(page, "Loop");
      for (let turn = 0; ; turn++) {
        assert.ok(turn < 8, "the zone with the loops gets its turn");
        await listen(page, 1.2);
        await hold.click();
        await page.getByRole("button", { name: /^Release D4/ }).waitFor();
        await listen(page, 0.4);
        const mine = await page.getByTestId("trace").getByText("spokes-D4-28").isVisible();
        await heard(page);
        await page.getByRole("button", { name: /^Release D4/ }).click();
        if (mine) break;
      }
      await listen(page, 3.2);
      const after = await heard(page);
      assert.ok(rms(after.samples.slice(2.7 * rate, 3.1 * rate)) > 1e-5, "it sounds on in the release loop");
    },
  },
  {
    name: "the exported player plays the same phrase, from the file system",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await station(page, "Rules");
      await page.getByRole("switch", { name: "Rules on" }).click();
      await station(page, "Ship");
      const fromEditor = readWav(readFileSync(await download(page, world, "Bounce the phrase"))).audio;
      const playerFile = await download(page, world, "Export the player");
      const packageFile = await download(page, world, "Export the package");
      const opened = readPackage(readFileSync(packageFile));
      assert.equal(opened.samples.size, 48);
      assert.deepEqual(opened.problems, []);
      assert.deepEqual(complaints, []);

      const guest = await visit(world.browser, { audible: true });
      await makeAudible(guest.page);
      const asked: string[] = [];
      guest.page.on("request", (request) => {
        if (/^https?:/.test(request.url())) asked.push(request.url());
      });
      await guest.page.goto(pathToFileURL(playerFile).href);
      await guest.page.getByRole("heading", { name: "Spoke harp" }).waitFor();
      const [saved] = await Promise.all([
        guest.page.waitForEvent("download"),
        guest.page.getByRole("button", { name: "Save as WAV" }).click(),
      ]);
      const file = join(world.folder, "from-player.wav");
      await saved.saveAs(file);
      const fromPlayer = readWav(readFileSync(file)).audio;
      assert.ok(rms(fromEditor.channels[0] as Float32Array) > 0.005, "the phrase sounds");
      for (const c of [0, 1]) {
        const difference = differenceDb(fromEditor.channels[c] as Float32Array, fromPlayer.channels[c] as Float32Array);
        assert.ok(difference < -90, `player against editor: ${difference} dB`);
      }
      // And it plays: by key, and its dials work.
      await guest.page.keyboard.down("s");
      await guest.page.locator(".key.down").waitFor();
      await listen(guest.page, 0.8);
      await guest.page.keyboard.up("s");
      const live = await heard(guest.page);
      const rate = await rateOf(guest.page);
      const sound = live.samples.slice(onsetOf(live.samples));
      near(
        (new PitchFinder(rate).find(sound, 0, Math.round(rate * 0.6)).note ?? 0) * 100,
        6200,
        5,
        "pitch of the player's D4",
      );
      const dial = guest.page.getByRole("slider", { name: "Brightness" });
      await dial.focus();
      await guest.page.keyboard.press("Shift+ArrowUp");
      assert.equal(await dial.getAttribute("aria-valuetext"), "50 %");
      assert.deepEqual(asked, [], "the player asks nobody for anything");
      assert.deepEqual(guest.complaints, []);
    },
  },
];
