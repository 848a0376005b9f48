import assert from "node:assert/strict";
import type { Locator, Page } from "playwright-core";
import { hertzOf } from "../core/audio";
import { writeWav } from "../core/formats";
import { addControl } from "./face-tools";
import { freshMap, zonesOf, zonesOnce } from "./mapped";
import { arrive, near, notice, type Scenario, station, storedDocument } from "./scenario";

const RATE = 44100;

export interface Dropped {
  readonly name: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** A struck tube that dies away. */
function tube(name: string, note: number): Dropped {
  const f = (2 * Math.PI * hertzOf(note)) / RATE;
  const wave = Float32Array.from(
    { length: RATE * 0.6 },
    (_, i) => 0.4 * (Math.sin(f * i) + 0.4 * Math.sin(2 * f * i)) * Math.exp((-4 * i) / RATE),
  );
  return { name, type: "audio/wav", bytes: writeWav({ rate: RATE, channels: [wave] }, 16) };
}

const drawing = (name: string, colour: string): Dropped => ({
  name,
  type: "image/svg+xml",
  bytes: new TextEncoder().encode(
    `<svg xmlns="http://www.w3.org/2000/svg" width="60" height="30"><rect width="60" height="30" fill="${colour}"/></svg>`,
  ),
});

/** Drags files from outside over something, and lets go of them at a place of it, in pixels. */
export async function dropFiles(
  page: Page,
  onto: Locator,
  at: { readonly x: number; readonly y: number },
  files: readonly Dropped[],
  shiftKey = false,
): Promise<void> {
  const dataTransfer = await page.evaluateHandle(
    (all) => {
      const data = new DataTransfer();
      for (const { name, type, base64 } of all) {
        const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
        data.items.add(new File([bytes], name, { type }));
      }
      return data;
    },
    files.map(({ name, type, bytes }) => ({ name, type, base64: Buffer.from(bytes).toString("base64") })),
  );
  const box = await onto.boundingBox();
  assert.ok(box);
  const event = { dataTransfer, clientX: box.x + at.x, clientY: box.y + at.y, shiftKey };
  await onto.dispatchEvent("dragover", event);
  await onto.dispatchEvent("drop", event);
  await dataTransfer.dispose();
}

interface StoredFace {
  readonly face: {
    readonly pictures: readonly unknown[];
    readonly items: readonly {
      readonly kind: string;
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
      readonly pictures: readonly unknown[];
    }[];
  };
}
const storedFace = async (page: Page) => ((await storedDocument(page)) as unknown as StoredFace).face;
const faceItems = async (page: Page) => (await storedFace(page)).items;

/** What is dropped lands where it is let go of. */
export const dropping: readonly Scenario[] = [
  {
    name: "dropped files: on a key of the field, others after them on white keys or every n-th, into a zone; pictures on the face",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await freshMap(page);
      // Dropped anywhere in an empty map they come in, and are proposed by what they are.
      await dropFiles(page, page.locator("main"), { x: 300, y: 200 }, [tube("first A3.wav", 57)]);
      await notice(page, /^1 sample of 1 file/).waitFor();
      await page.getByRole("button", { name: "Place 1 sample" }).click();
      const field = page.getByTestId("zone-field");
      await field.waitFor();
      const box = await field.boundingBox();
      assert.ok(box);
      const before = await zonesOnce(page, (zones) => zones.length === 1);
      assert.equal(before.length, 1);

      // On a key: what was let go of there begins there, whatever it sounds like; the others follow key by key.
      const names = ["tube 1.wav", "tube 2.wav", "tube 10.wav"];
      await dropFiles(
        page,
        field,
        { x: box.width / 2, y: box.height - 12 },
        names.map((name, i) => tube(name, 60 + 5 * i)),
      );
      const bar = page.getByRole("region", { name: "How they were laid" });
      await bar.waitFor();
      const said = /^3 samples from \S+ · (\d+) up/.exec((await bar.getByRole("status").textContent()) ?? "");
      const key = Number(said?.[1]);
      const laid = async () => (await zonesOf(page)).slice(before.length).map((z) => [z.keyLow, z.keyHigh]);
      const keys = (steps: readonly number[]) => steps.map((s) => [key + s, key + s]);
      assert.deepEqual(await laid(), keys([0, 1, 2]));
      await bar.getByRole("combobox", { name: "Which keys they take" }).click();
      await page.getByRole("option", { name: /every 3rd/ }).click();
      assert.deepEqual(await laid(), keys([0, 3, 6]));
      await bar.getByRole("switch", { name: "and those between" }).click();
      const covered = await laid();
      assert.ok(
        covered.slice(1).every(([low], i) => low === (covered[i]?.[1] ?? 0) + 1),
        "no key between is left out",
      );
      // All of it is one step.
      await page.keyboard.press("Control+z");
      assert.deepEqual(await laid(), []);
      await page.keyboard.press("Control+Shift+z");
      assert.deepEqual(await laid(), covered);

      // Files that nobody can read are told, and what was there stays.
      const words = { name: "words.wav", type: "audio/wav", bytes: new TextEncoder().encode("these are words") };
      await dropFiles(page, field, { x: box.width / 2, y: 30 }, [words]);
      await notice(page, /1 file was not opened: words\.wav/).waitFor();
      assert.deepEqual(await laid(), covered);

      // On the face pictures stand where they were let go of, all in one step; on an item they are drawn over it.
      await station(page, "Face");
      await addControl(page, "Dial");
      const shown = page.getByTestId("face-page");
      await shown.waitFor();
      const items = (await faceItems(page)).length;
      const sheet = await shown.boundingBox();
      assert.ok(sheet);
      await dropFiles(page, shown, { x: sheet.width * 0.7, y: sheet.height * 0.6 }, [
        drawing("red.svg", "#c03020"),
        drawing("blue.svg", "#2b49c0"),
      ]);
      await page.waitForFunction(() => document.querySelectorAll('[data-testid="face-page"] img').length >= 2);
      const placed = (await faceItems(page)).slice(items);
      assert.deepEqual(
        placed.map(({ kind, width, height }) => [kind, width, height]),
        [
          ["picture", 60, 30],
          ["picture", 60, 30],
        ],
      );
      await page.keyboard.press("Control+z");
      const undone = await storedFace(page);
      assert.deepEqual([undone.items.length, undone.pictures.length], [items, 0]);
      await page.keyboard.press("Control+Shift+z");
      const [one] = (await faceItems(page)).slice(items);
      assert.ok(one);
      const middle = sheet.width * 0.7;
      const width = await shown.evaluate((e) => (e as HTMLElement).offsetWidth);
      near(one.x + one.width / 2, (middle * width) / sheet.width, 2, "the middle of what was dropped");
      const scale = sheet.width / width;
      await dropFiles(page, shown, { x: (one.x + 5) * scale, y: (one.y + 5) * scale }, [
        drawing("green.svg", "#208040"),
      ]);
      await page.waitForFunction(() => document.querySelectorAll('[data-testid="face-page"] img').length >= 3);
      assert.equal((await faceItems(page))[items]?.pictures.length, 2);
      assert.deepEqual(complaints, []);
    },
  },
];
