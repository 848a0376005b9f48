import assert from "node:assert/strict";
import { join } from "node:path";
import type { Locator, Page } from "playwright-core";
import { heard, listen, onsetOf } from "./hearing";
import { arrive, near, notice, openHarp, type Scenario, shownWide, station, storedDocument } from "./scenario";

interface SliceLike {
  id: string;
  start: number;
  end: number;
  note: number | null;
  cents: number | null;
  keep: boolean;
}
interface ZoneLike {
  id: string;
  sample: string;
  keyLow: number;
  keyHigh: number;
  velLow: number;
  velHigh: number;
  root: number;
  loop: { start: number; end: number; fade: number } | null;
}
interface DocumentLike {
  takes: { slices: SliceLike[] }[];
  samples: { sha: string; frames: number }[];
  layers: { groups: { zones: ZoneLike[] }[] }[];
  face: { items: { id: string; x: number; y: number }[] };
}

const read = async (page: Page) => (await storedDocument(page)) as unknown as DocumentLike;
const slicesOf = (doc: DocumentLike) => doc.takes[0]?.slices ?? [];
const zonesOf = (doc: DocumentLike) => doc.layers[0]?.groups[0]?.zones ?? [];

/** Drags from the middle of something by so many pixels, in steps as a hand does. */
async function drag(page: Page, what: Locator, dx: number, dy = 0): Promise<void> {
  const box = await what.boundingBox();
  assert.ok(box, "there is something to drag");
  await dragFrom(page, box.x + box.width / 2, box.y + Math.min(box.height / 2, 40), dx, dy);
}

async function dragFrom(page: Page, x: number, y: number, dx: number, dy: number): Promise<void> {
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(x + (dx * i) / 8, y + (dy * i) / 8);
  await page.mouse.up();
}

export const editing: readonly Scenario[] = [
  {
    name: "cut: an edge moves apart from its neighbours, notes and cents are corrected, slices excluded",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await station(page, "Cut");
      const before = slicesOf(await read(page));
      // Between two of its cells, where a hand lands as often as on one.
      const cell = await page.getByRole("row").nth(3).getByRole("gridcell").nth(5).boundingBox();
      assert.ok(cell);
      await page.mouse.dblclick(cell.x + cell.width + 4, cell.y + cell.height / 2);
      const third = before[2];
      assert.ok(third);
      await shownWide(page);
      await drag(page, page.getByRole("slider", { name: "End of the slice" }), -60);
      await drag(page, page.getByRole("slider", { name: "Start of the slice" }), 25);
      const start = page.getByRole("slider", { name: "Start of the slice" });
      await start.focus();
      await page.keyboard.press("Shift+ArrowRight");
      const moved = slicesOf(await read(page));
      const now = moved.find((s) => s.id === third.id);
      assert.ok(now && now.end < third.end - 1000 && now.start > third.start + 100, "both edges moved");
      assert.deepEqual(
        moved.filter((s) => s.id !== third.id),
        before.filter((s) => s.id !== third.id),
        "neighbours stay",
      );
      await page.getByRole("textbox", { name: "Note of the slice" }).fill("F#3");
      await page.keyboard.press("Enter");
      await page.getByRole("textbox", { name: "Cents of the slice" }).fill("-12 ct");
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "Exclude" }).click();
      await page.getByText("47 sounds · 7 excluded").waitFor();
      const corrected = slicesOf(await read(page)).find((s) => s.id === third.id);
      assert.deepEqual([corrected?.note, corrected?.cents, corrected?.keep], [54, -12, false]);
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "cut: slices are found live while the threshold is dragged, and nothing is an edit before it rests",
    run: async (world) => {
      const { page } = await arrive(world);
      await openHarp(page);
      await station(page, "Cut");
      const scale = page.getByRole("slider", { name: "Threshold", exact: true });
      const box = await scale.boundingBox();
      assert.ok(box);
      await page.mouse.move(box.x + box.width * 0.22, box.y + 10);
      await page.mouse.down();
      await page.mouse.move(box.x + box.width * 0.84, box.y + 10, { steps: 12 });
      await page.getByText(/^24 sounds · /).waitFor();
      assert.ok(await page.getByRole("button", { name: "Undo", exact: true }).isDisabled(), "no edit yet");
      // Given up, the drag leaves all as it was.
      await page.keyboard.press("Escape");
      await page.getByText(/^48 sounds · /).waitFor();
      assert.ok(await page.getByRole("button", { name: "Undo", exact: true }).isDisabled(), "nothing to undo");
      await page.mouse.up();
      await page.mouse.move(box.x + box.width * 0.22, box.y + 10);
      await page.mouse.down();
      await page.mouse.move(box.x + box.width * 0.84, box.y + 10, { steps: 12 });
      await page.getByText(/^24 sounds · /).waitFor();
      await page.mouse.up();
      await page.getByRole("button", { name: "Make 24 samples" }).waitFor();
      assert.equal(slicesOf(await read(page)).length, 24);
      await page.getByRole("button", { name: "Undo", exact: true }).click();
      await page.getByRole("button", { name: "Make 48 samples" }).waitFor();
    },
  },
  {
    name: "map: zones are moved, resized, spread anew, and one drag is one undo step",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      const before = zonesOf(await read(page));
      const field = page.getByTestId("zone-field");
      const box = await field.boundingBox();
      assert.ok(box);
      const { keyWidth, x } = {
        keyWidth: box.width / 41,
        x: (key: number) => box.x + ((key - 41 + 0.5) * box.width) / 41,
      };
      // The hard D4 stack: keys 61 to 63.
      await dragFrom(page, x(62), box.y + 120, keyWidth * 2, 0);
      const moved = zonesOf(await read(page)).filter((z) => z.root === 62 && z.velHigh === 127);
      assert.deepEqual(
        moved.map((z) => [z.keyLow, z.keyHigh]),
        [
          [63, 65],
          [63, 65],
          [63, 65],
        ],
      );
      await page.getByRole("button", { name: "Undo", exact: true }).click();
      assert.deepEqual(zonesOf(await read(page)), before, "one drag, one step");
      // Its right edge, to the left by a key.
      await dragFrom(page, x(63) + keyWidth / 2 - 2, box.y + 120, -keyWidth, 0);
      assert.ok(
        zonesOf(await read(page))
          .filter((z) => z.root === 62 && z.velHigh === 127)
          .every((z) => z.keyLow === 61 && z.keyHigh === 62),
      );
      await page.getByRole("button", { name: "Spread" }).click();
      await page.getByRole("combobox", { name: "Spread mode" }).click();
      await page.getByRole("option", { name: "Down from each root" }).click();
      await page.getByRole("dialog").getByRole("button", { name: "Spread" }).click();
      const spread = zonesOf(await read(page));
      assert.deepEqual(
        [...new Set(spread.map((z) => `${z.keyLow}-${z.keyHigh}`))],
        ["43-50", "51-53", "54-55", "56-58", "59-62", "63-65", "66-69", "70-79"],
      );
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "keybed and wheels: a click plays, lower is harder, the wheel is heard",
    run: async (world) => {
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await openHarp(page);
      await page.locator("[data-testid=voices]", { hasText: "voice" }).waitFor();
      const keys = page.getByRole("application", { name: /Keyboard/ });
      const box = await keys.boundingBox();
      assert.ok(box);
      const x = box.x + ((62 - 41 + 0.5) * box.width) / 41;
      const strike = async (depth: number) => {
        await listen(page, 1.2);
        await heard(page);
        await page.mouse.move(x, box.y + box.height * depth);
        await page.mouse.down();
        await listen(page, 0.5);
        await page.mouse.up();
        const { samples } = await heard(page);
        const from = onsetOf(samples);
        assert.ok(from >= 0, "the key sounds");
        return samples.slice(from, from + 20000);
      };
      await strike(0.95);
      await page
        .getByTestId("trace")
        .getByText(/D4 · 12\d/)
        .waitFor();
      const bright = await strike(0.9);
      const wheel = page.getByRole("slider", { name: "Mod wheel" });
      await wheel.focus();
      for (let i = 0; i < 20; i++) await page.keyboard.press("ArrowUp");
      const dull = await strike(0.9);
      const roughness = (s: Float32Array) => {
        let difference = 0;
        let power = 0;
        // Differences of differences: 12 dB more for each octave, so that the highest partials count.
        for (let i = 2; i < s.length; i++) {
          difference += ((s[i] ?? 0) - 2 * (s[i - 1] ?? 0) + (s[i - 2] ?? 0)) ** 2;
          power += (s[i] ?? 0) ** 2;
        }
        return difference / power;
      };
      assert.ok(
        roughness(dull) < roughness(bright) / 2,
        `the mod wheel muffles: ${roughness(dull)} against ${roughness(bright)}`,
      );
      await strike(0.1);
      await page
        .getByTestId("trace")
        .getByText(/D4 · [23]\d$/)
        .waitFor();
      assert.deepEqual(complaints, []);
    },
  },
  {
    name: "loop: its flags and its figures are one thing, and never leave the sound",
    run: async (world) => {
      const { page } = await arrive(world);
      await openHarp(page);
      await station(page, "Loop");
      await page.getByRole("switch", { name: "Loop", exact: true }).click();
      const loop = async () => zonesOf(await read(page))[0]?.loop ?? null;
      const first = await loop();
      assert.ok(first);
      await drag(page, page.getByRole("slider", { name: "Loop start" }), 60);
      const moved = await loop();
      assert.ok(moved && moved.start > first.start + 1000 && moved.end === first.end);
      const field = page.getByRole("textbox", { name: "Loop end" });
      await field.fill("99 s");
      await page.keyboard.press("Enter");
      const clipped = await loop();
      const document = await read(page);
      const frames = document.samples.find((s) => s.sha === zonesOf(document)[0]?.sample)?.frames ?? 0;
      assert.ok(clipped && clipped.end <= frames && clipped.end > frames * 0.9, "kept inside the sample");
      await field.fill("900 ms");
      await page.keyboard.press("Enter");
      near((await loop())?.end ?? 0, 0.9 * 44100, 1, "typed in milliseconds");
      await page.getByRole("slider", { name: "Loop end" }).focus();
      await page.keyboard.press("ArrowRight");
      near((await loop())?.end ?? 0, 0.9 * 44100 + 1, 1, "one sample by the arrow key");
    },
  },
  {
    name: "face: items are placed, moved and kept on the page; a package carries all to another instrument",
    run: async (world) => {
      const { page, complaints } = await arrive(world);
      await openHarp(page);
      await station(page, "Face");
      const dial = page.getByRole("group", { name: "dial Brightness" });
      await drag(page, dial, 90, 41);
      const placed = (await read(page)).face.items.find((i) => i.id === "d1");
      // The page is drawn larger than it is; the dial settles on something near.
      near(placed?.x ?? 0, 64 + 90 / 1.26, 8, "left");
      near(placed?.y ?? 0, 130 + 41 / 1.26, 8, "top");
      await drag(page, dial, 2000, 900);
      const kept = (await read(page)).face.items.find((i) => i.id === "d1");
      assert.deepEqual([kept?.x, kept?.y], [520, 210], "it stays on the page");
      await station(page, "Ship");
      const [file] = await Promise.all([
        page.waitForEvent("download"),
        page.getByRole("button", { name: "Export the package" }).click(),
      ]);
      const path = join(world.folder, "carried.vise");
      await file.saveAs(path);
      const before = await read(page);
      await page.getByTestId("import-package").setInputFiles(path);
      await notice(page, "Spoke harp was opened from carried.vise").waitFor();
      const after = await read(page);
      assert.deepEqual(after.layers, before.layers);
      assert.deepEqual(after.face, before.face);
      assert.deepEqual(after.takes, [], "takes stay at home");
      await page.getByRole("link", { name: "Library" }).click();
      await page.getByText("8 instruments in this browser").waitFor();
      assert.deepEqual(complaints, []);
    },
  },
];
