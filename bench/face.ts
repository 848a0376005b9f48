import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { writePackage } from "../core/formats";
import {
  addFaceItems,
  addressInTable,
  changeFace,
  type Instrument,
  moving,
  newFaceItem,
  newInstrument,
  setSource,
  setTable,
  together,
} from "../core/instrument";
import { openBrowser, visit } from "../e2e/browser";
import { station } from "../e2e/scenario";
import { serve } from "../e2e/serve";
import type { Figure } from "./figure";
import { frames, workFrames } from "./page-frames";

const ITEMS = 500;
const CHOSEN = 200;
const COLUMNS = 100;

/** A face of 500 dials for partials, and one bank of columns for the first hundred of them: drawing across it moves a hundred dials. */
function crowded(): Instrument {
  const source = "layers/main/source";
  const level = (row: number) => addressInTable(source, row, "level");
  const dials = Array.from({ length: ITEMS }, (_, i) =>
    newFaceItem({
      id: `d${i}`,
      kind: "dial",
      x: (i % 25) * 62 + 8,
      y: Math.floor(i / 25) * 72 + 150,
      width: 56,
      height: 68,
      moves: moving(level(i % 250)),
    }),
  );
  const moves = moving(...Array.from({ length: COLUMNS }, (_, i) => level(i)));
  const bank = newFaceItem({ id: "bank", kind: "columns", x: 8, y: 8, width: 1500, height: 130, moves });
  return together("", [
    setSource("main", "partials"),
    setTable(
      source,
      Array.from({ length: 250 }, (_, i) => ({ ratio: i + 1, level: -20 })),
      "",
    ),
    changeFace("", { width: 1600, height: 1650 }),
    addFaceItems([...dials, bank], ""),
  ]).apply(newInstrument("crowd", "Crowd"));
}

/** Frames of a face of 500 controls: while 200 of them are dragged, and while a hundred move at once; against those of a pointer that drags nothing. */
export async function face(): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), "vise-face-"));
  const path = join(folder, "crowd.vise");
  writeFileSync(
    path,
    writePackage(crowded(), () => new Uint8Array()),
  );
  const { server, address } = await serve();
  const browser = await openBrowser();
  try {
    const { page } = await visit(browser);
    await page.goto(`${address}/ship`);
    await page.getByTestId("import-package").setInputFiles(path);
    await page.getByRole("heading", { name: "Keys × velocity" }).waitFor({ timeout: 60000 });
    await page.locator("[data-testid=saved]", { hasText: /^saved$/ }).waitFor();
    await station(page, "Face");
    await page.getByTestId("face-page").waitFor();
    const box = await page.getByTestId("face-page").boundingBox();
    if (!box) throw new Error("the face has no page");
    const scale = box.width / 1600;
    const still = () => frames(page, box.x + 20, box.y + 4, 2, 40);
    // A frame over the first eight rows.
    await page.mouse.move(box.x + 2, box.y + 146 * scale);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width - 2, box.y + (150 + 8 * 72 - 6) * scale, { steps: 4 });
    await page.mouse.up();
    const chosen = await page.locator("[data-face-item].outline-cobalt").count();
    if (chosen !== CHOSEN) throw new Error(`${chosen} items are chosen`);
    const pressed = async (x: number, y: number, seconds: number) => {
      await page.mouse.move(x, y);
      await page.mouse.down();
      const times = await frames(page, x, y, seconds, 40);
      // Back to where it was taken hold of.
      await page.mouse.move(x, y);
      await page.mouse.up();
      return times;
    };
    const dragged = await workFrames(page, {
      bench: "face",
      name: `${CHOSEN} of ${ITEMS} controls are dragged`,
      still,
      busy: () => pressed(box.x + 30 * scale, box.y + 180 * scale, 3),
    });
    await page.getByRole("switch", { name: "Try it" }).click();
    const bank = await page.getByRole("slider", { name: /left and right choose a column/ }).boundingBox();
    if (!bank) throw new Error("the face has no columns");
    const live = await workFrames(page, {
      bench: "face",
      name: `columns of ${COLUMNS} are drawn across, each with dials that follow`,
      still,
      busy: () => pressed(bank.x + bank.width / 2, bank.y + bank.height / 2, 4),
    });
    return [...dragged, ...live];
  } finally {
    await browser.close();
    await server.close();
    rmSync(folder, { recursive: true });
  }
}
