import assert from "node:assert/strict";
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { seededRandom } from "../core/audio";
import { writeWav } from "../core/formats";
import { arrive, notice, type Scenario, storedDocument } from "./scenario";

interface TakeLike {
  name: string;
  origin: string;
  source: string;
  frames: number;
  rate: number;
  gaps: number[];
  clips: number[];
  slices: { keep: boolean; note: number | null }[];
}

const takesOf = async (page: Page) => (await storedDocument(page)).takes as TakeLike[];

/** Kills the page, as a crash or a full memory would; in another one what was being recorded is recovered. */
async function recoverAfterCrash(page: Page, address: string): Promise<Page> {
  const context = page.context();
  const killer = await context.newCDPSession(page);
  void killer.send("Page.crash").catch(() => {});
  await page.waitForEvent("crash");
  const again = await context.newPage();
  await again.goto(address);
  await again.getByRole("button", { name: "Recover it" }).click();
  return again;
}

export const recording: readonly Scenario[] = [
  {
    name: "the bench mic is recorded into a take; a recording cut short by a closed tab is recovered",
    alone: true,
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      const strip = page.getByRole("region", { name: "Recording" });
      await strip.getByRole("button", { name: "Record" }).click();
      await strip.getByText(/^[3-9]\.\d\d s$/).waitFor();
      await strip.getByRole("button", { name: "Stop" }).click();
      await page.getByRole("list", { name: "Takes" }).getByText("take 5").waitFor();
      const take = (await takesOf(page)).find((t) => t.name === "take 5");
      assert.deepEqual([take?.origin, take?.source], ["recorded", "bench mic"]);
      assert.ok((take?.frames ?? 0) / (take?.rate ?? 1) > 2.5, "what was recorded is there");
      await page.getByRole("img", { name: "Waveform of take 5" }).waitFor();

      await strip.getByRole("button", { name: "Record" }).click();
      await strip.getByText(/^[2-9]\.\d\d s$/).waitFor();
      const again = await recoverAfterCrash(page, world.address);
      await again.getByRole("list", { name: "Takes" }).getByText("take 6 (recovered)").waitFor();
      const recovered = (await takesOf(again)).find((t) => t.name.startsWith("take 6"));
      assert.ok((recovered?.frames ?? 0) / (recovered?.rate ?? 1) > 1, "at most the last second is lost");
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "how a shot list is walked is set: where the pitch isn't asked a wrong note lands, and it is remembered",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await page.getByRole("tab", { name: "Shot list" }).click();
      await page.getByRole("textbox", { name: "Shot list by hand" }).fill("C4 G4 v2 x2");
      await page.keyboard.press("Enter");
      const tolerance = page.getByRole("textbox", { name: "How far a pitch may be off its note" });
      await tolerance.fill("0");
      await page.keyboard.press("Enter");
      const quiet = page.getByRole("textbox", { name: "Quiet after which a sound is over" });
      await quiet.fill("99");
      await page.keyboard.press("Enter");
      assert.equal(await quiet.inputValue(), "10.00 s");
      await quiet.fill("0,3");
      await page.keyboard.press("Enter");
      // The list is the document's: it is stored before the page goes.
      await storedDocument(page);
      await page.reload();
      await page.getByRole("tab", { name: "Shot list" }).click();
      assert.equal(await tolerance.inputValue(), "not asked");
      assert.equal(await quiet.inputValue(), "300 ms");
      await page.getByRole("button", { name: "Record the list" }).click();
      // The bench mic strikes one A in place of a G: nothing is said against that now.
      const last = page.getByTestId("shot-last");
      const said: string[] = [];
      await page.exposeFunction("saidOf", (text: string) => said.push(text));
      await last.evaluate((element) => {
        const { saidOf } = globalThis as unknown as { saidOf: (text: string) => void };
        new MutationObserver(() => saidOf(element.textContent ?? "")).observe(element, {
          subtree: true,
          childList: true,
          characterData: true,
        });
      });
      await page.getByTestId("shot-now").getByText("Done").waitFor();
      assert.ok(said.length > 0, "the sounds were judged");
      assert.deepEqual(
        said.filter((text) => /was asked for|no clear pitch/.test(text)),
        [],
      );
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "a shot list whose page is killed keeps the sounds that have come in, each with what it is",
    alone: true,
    run: async (world) => {
      const { page } = await arrive(world);
      await page.getByRole("tab", { name: "Shot list" }).click();
      await page.getByRole("textbox", { name: "Shot list by hand" }).fill("C4 G4 E4");
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "Record the list" }).click();
      // Its third entry clips at first: two are done then, and one sound is left out.
      await page
        .getByTestId("shot-last")
        .getByText(/it clipped/)
        .waitFor();
      await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
      const again = await recoverAfterCrash(page, world.address);
      await notice(again, "2 sounds are in the take").waitFor();
      await again.getByRole("tab", { name: "Takes" }).click();
      await again.getByRole("list", { name: "Takes" }).getByText("take 5 (recovered)").waitFor();
      const take = (await takesOf(again)).find((t) => t.name.startsWith("take 5"));
      assert.deepEqual(
        take?.slices.map((s) => [s.keep, s.note]),
        [
          [true, 60],
          [true, 67],
          [false, null],
        ],
      );
      assert.ok((take?.clips.length ?? 0) > 0, "the clipped place is still marked");
      const shots = (await storedDocument(again)).shots as { state: string }[];
      assert.deepEqual(
        shots.map((s) => s.state),
        ["done", "done", "open"],
      );
    },
  },
  {
    name: "a microphone is recorded untouched, with its clipping told",
    alone: true,
    switches: (folder) => {
      const file = join(folder, "mic.wav");
      const tone = (level: number) =>
        Float32Array.from({ length: 44100 * 8 }, (_, i) => (i % 44100 < 8000 ? level * Math.sin(i * 0.05) : 0));
      writeFileSync(file, writeWav({ rate: 44100, channels: [tone(1.4), tone(0.3)] }, 16));
      return [
        "--use-fake-ui-for-media-stream",
        "--use-fake-device-for-media-stream",
        `--use-file-for-fake-audio-capture=${file}`,
      ];
    },
    run: async (world) => {
      const { page } = await arrive(world);
      const strip = page.getByRole("region", { name: "Recording" });
      await strip.getByRole("combobox", { name: "Input" }).click();
      await page.getByRole("option", { name: "Microphone", exact: true }).click();
      await strip.getByRole("button", { name: "Record" }).click();
      await strip.getByText(/^[3-9]\.\d\d s$/).waitFor();
      await strip.getByRole("button", { name: /^clip \d/ }).waitFor();
      await strip.getByRole("button", { name: "Stop" }).click();
      await page.getByRole("list", { name: "Takes" }).getByText("take 5").waitFor();
      assert.ok(((await takesOf(page)).find((t) => t.name === "take 5")?.frames ?? 0) > 44100 * 2);
    },
  },
  {
    name: "where the computer was too busy to record, the gap is told with its time",
    alone: true,
    switches: (folder) => {
      const file = join(folder, "noise.wav");
      const random = seededRandom(4);
      const noise = Float32Array.from({ length: 44100 * 12 }, () => 0.2 * (random() - 0.5));
      writeFileSync(file, writeWav({ rate: 44100, channels: [noise] }, 16));
      return [
        "--use-fake-ui-for-media-stream",
        "--use-fake-device-for-media-stream",
        `--use-file-for-fake-audio-capture=${file}`,
      ];
    },
    run: async (world) => {
      const { page } = await arrive(world, "/", { audible: true });
      await page.evaluate(stallCapture);
      const strip = page.getByRole("region", { name: "Recording" });
      await strip.getByRole("combobox", { name: "Input" }).click();
      await page.getByRole("option", { name: "Microphone", exact: true }).click();
      await strip.getByRole("button", { name: "Record" }).click();
      // Beyond the stall, and on: other gaps than ours may come before it on a machine that others share.
      await strip.getByText(/^[4-9]\.\d\d s$/).waitFor();
      await strip.getByRole("alert").filter({ hasText: "gap" }).waitFor();
      await strip.getByRole("button", { name: "Stop" }).click();
      await notice(page, /take 5: Sound was lost at/).waitFor();
      assert.equal(await page.getByText("was being recorded when Vise closed").count(), 0);
      const take = (await takesOf(page)).find((t) => t.name === "take 5");
      const places = (take?.gaps ?? []).map((at) => at / (take?.rate ?? 1));
      assert.ok(
        places.some((at) => at > 1.5 && at < 4),
        `gaps are said to be at ${places.join(", ")} s`,
      );
      // A room made of it would be another: it is refused, with the reason.
      await page.getByRole("tab", { name: "Room" }).click();
      await page.getByRole("alert").filter({ hasText: "play it again" }).waitFor();
      assert.ok(await page.getByRole("button", { name: "It holds the sweep" }).isDisabled());
    },
  },
];

/** Lets the audio thread of whatever captures stand still for 0.8 s, two seconds after it began. */
function stallCapture(): void {
  const stall = `registerProcessor("stall", class extends AudioWorkletProcessor {
    process() {
      this.from ??= currentTime;
      if (currentTime - this.from < 2) return true;
      for (const until = Date.now() + 800; Date.now() < until; );
      return false;
    }
  });`;
  const Plain = globalThis.AudioWorkletNode;
  globalThis.AudioWorkletNode = class extends Plain {
    constructor(context: BaseAudioContext, name: string, options?: AudioWorkletNodeOptions) {
      super(context, name, options);
      if (name !== "vise-capture") return;
      const url = URL.createObjectURL(new Blob([stall], { type: "text/javascript" }));
      void context.audioWorklet.addModule(url).then(() => new Plain(context, "stall").connect(context.destination));
    }
  };
}
