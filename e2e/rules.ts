import assert from "node:assert/strict";
import { PitchFinder } from "../core/analysis";
import { heard, listen, onsetOf, rateOf } from "./hearing";
import { arrive, near, openHarp, type Scenario, station } from "./scenario";

export const rules: readonly Scenario[] = [
  {
    name: "a script changes what sounds; its errors stand at their line; a runaway one is ended",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await station(page, "Rules");
      await page.getByRole("switch", { name: "Rules on" }).click();
      const editor = page.getByRole("textbox", { name: "Script" });
      const write = async (script: string) => {
        await editor.click();
        await page.keyboard.press("Control+a");
        await page.keyboard.insertText(script);
        await page.getByRole("heading", { name: "Rules", exact: true }).click();
      };
      const rate = await rateOf(page);
      const play = async () => {
        await listen(page, 1.2);
        await heard(page);
        await page.keyboard.down("d");
        await listen(page, 0.7);
        await page.keyboard.up("d");
        const { samples } = await heard(page);
        const from = onsetOf(samples);
        assert.ok(from >= 0, "there is sound");
        return (new PitchFinder(rate).find(samples, from, from + Math.round(rate * 0.5)).note ?? 0) * 100;
      };
      near(await play(), 5200, 5, "E3 with the ready example");
      await page
        .getByTestId("trace")
        .getByText(/rules: velocity from 96/)
        .waitFor();

      await write("function start(note) {\n  note.key += 7;\n}\n");
      await page.getByText("The script runs").waitFor();
      near(await play(), 5900, 5, "a fifth above E3");
      await page
        .getByTestId("trace")
        .getByText(/rules: key from E3/)
        .waitFor();

      await write("function start(note) {\n  note.key += 1;\n  nonsense(note);\n}\n");
      near(await play(), 5200, 5, "as played, while the script fails");
      await page.getByText(/Line 3: .*nonsense/).waitFor();
      assert.equal(await page.locator(".cm-lint-marker-error").count(), 1);

      await write("function start(note) {\n  while (true) {}\n}\n");
      near(await play(), 5200, 5, "as played, while the script never ends");
      await page
        .getByText(/ran too long/)
        .first()
        .waitFor();

      await write("function start(note) {\n  start(note);\n}\n");
      near(await play(), 5200, 5, "as played, while the script calls itself");
      await page
        .getByText(/calls itself/)
        .first()
        .waitFor();
      await write("function start(note) {\n  note.key += 7;\n}\n");
      near(await play(), 5900, 5, "a fifth above E3, by the next script");
      assert.deepEqual(complaints, []);
    },
  },
];
