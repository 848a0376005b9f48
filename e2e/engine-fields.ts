import assert from "node:assert/strict";
import { heard, listen, rms } from "./hearing";
import { arrive, notice, openHarp, type Scenario, station } from "./scenario";

const SCALE = `! nineteen.scl\nnineteen equal steps\n19\n${Array.from({ length: 18 }, (_, i) => `${(((i + 1) * 1200) / 19).toFixed(5)}`).join("\n")}\n2/1\n`;

/** What the engine can do is reachable from the screens, and is heard. */
export const engineFields: readonly Scenario[] = [
  {
    name: "groups, bound notes, a Scala tuning, envelopes and LFOs: set on screen, told in the trace, heard",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await page.locator("[data-testid=voices]", { hasText: "voice" }).waitFor();
      const trace = page.getByTestId("trace");

      // A group that sounds when keys go up.
      await page.getByRole("tab", { name: "Outline" }).click();
      await page.locator('[data-outlined="layers/main/groups/main"] [data-name]').click();
      await page.getByRole("combobox", { name: "Main trigger" }).click();
      await page.getByRole("option", { name: "Note off" }).click();
      await page.keyboard.down("d");
      await trace.getByText(/sound at another moment/).waitFor();
      await heard(page);
      await listen(page, 0.3);
      assert.ok(rms((await heard(page)).samples) < 1e-4, "silent while the key is down");
      await page.keyboard.up("d");
      await trace.getByText(/the key was released/).waitFor();
      await listen(page, 0.3);
      assert.ok(rms((await heard(page)).samples) > 1e-3, "sounds once it is let go");
      await page.keyboard.press("Control+z");

      // One bound line.
      await station(page, "Sound");
      await page.getByRole("combobox", { name: "Playing voice mode" }).click();
      await page.getByRole("option", { name: "Legato" }).click();
      await page.keyboard.down("d");
      await trace.getByText(/rate/).waitFor();
      await page.keyboard.down("f");
      await trace
        .getByText(/legato: carries on the note before|rate/)
        .first()
        .waitFor();
      await page
        .getByTestId("voices")
        .getByText(/^[12] voice/)
        .waitFor();
      await page.keyboard.up("f");
      await page.keyboard.up("d");

      // A Scala file, and one that is none.
      await page
        .getByLabel("Scala files")
        .setInputFiles({ name: "bent.scl", mimeType: "text/plain", buffer: Buffer.from("x\n5\n1.0\n") });
      await notice(page, /bent\.scl can't be read as a tuning/).waitFor();
      await page
        .getByLabel("Scala files")
        .setInputFiles({ name: "nineteen.scl", mimeType: "text/plain", buffer: Buffer.from(SCALE) });
      await notice(page, /Tuned to nineteen\.scl: 19 notes/).waitFor();
      // Notices lie over the inspector's foot.
      const close = page.getByRole("button", { name: "Close", exact: true });
      while ((await close.count()) > 0) await close.first().click();
      await page.getByRole("button", { name: "Equal temperament" }).click();

      // Movers come and go, each one step of undo.
      await station(page, "Motion");
      await page.getByRole("button", { name: "Points" }).click();
      await page.getByRole("textbox", { name: "Level of point 2" }).fill("70 %");
      await page.keyboard.press("Enter");
      assert.equal(await page.getByRole("textbox", { name: "Level of point 2" }).inputValue(), "70 %");
      await page.getByRole("button", { name: "LFO", exact: true }).click();
      await page.getByRole("combobox", { name: "LFO", exact: true }).getByText("LFO 2").waitFor();
      await page.keyboard.press("Control+z");
      await page.getByRole("combobox", { name: "LFO", exact: true }).getByText("LFO 1").waitFor();
      assert.deepEqual(complaints, []);
    },
  },
];
