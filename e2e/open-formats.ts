import assert from "node:assert/strict";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { strFromU8, unzipSync } from "fflate";
import { hertzOf } from "../core/audio";
import { readWav, writeWav } from "../core/formats";
import { bringInFolder, freshMap, pitchOf, zonesOf } from "./mapped";
import { arrive, near, notice, type Scenario, station, type World } from "./scenario";

const RATE = 44100;

/** A tone that dies away. */
function tone(note: number): Uint8Array {
  const x = Float32Array.from({ length: RATE * 1.5 }, (_, i) => {
    const t = i / RATE;
    return 0.4 * Math.sin(2 * Math.PI * hertzOf(note) * t) * Math.exp(-1.5 * t) * Math.min(1, i / 80);
  });
  return writeWav({ rate: RATE, channels: [x] }, 24);
}

/** A kit by another's hand: what it includes, names in another case, one sample that lies elsewhere, settings that nothing here has. */
function writeKit(folder: string, elsewhere: string): void {
  mkdirSync(join(folder, "Samples"), { recursive: true });
  mkdirSync(elsewhere, { recursive: true });
  writeFileSync(join(folder, "Samples", "Low tube.wav"), tone(48));
  writeFileSync(join(folder, "Samples", "High tube.wav"), tone(72));
  writeFileSync(join(elsewhere, "middle tube.wav"), tone(60));
  writeFileSync(join(elsewhere, "else.wav"), tone(30));
  writeFileSync(join(folder, "common.txt"), "<global> ampeg_release=0.3 sustain_sw=off\n#define $MID 54\n");
  writeFileSync(
    join(folder, "tubes.sfz"),
    `#include "common.txt"
<control> default_path=samples\\
<region> sample=low tube.wav lokey=36 hikey=53 pitch_keycenter=48
<region> sample=middle tube.wav lokey=$MID hikey=65 pitch_keycenter=60 delay=0.01
<region> sample=high tube.wav lokey=66 hikey=84 pitch_keycenter=72 transpose=-12
<region> sample=..\\..\\..\\secret.wav key=90
`,
  );
}

export const openFormats: readonly Scenario[] = [
  {
    name: "open formats: an SFZ file in a folder opens and sounds as written, its missing sample is found, and it is written again",
    run: async (world: World) => {
      const [folder, elsewhere] = [join(world.folder, "kit"), join(world.folder, "elsewhere")];
      writeKit(folder, elsewhere);
      const { page, complaints } = await arrive(world, "/", { audible: true });
      await freshMap(page);
      // What is muted here has nothing to do with the instrument that is opened.
      await page.getByRole("tab", { name: "Outline" }).click();
      await page.getByRole("button", { name: "Mute: Main" }).click();
      await bringInFolder(page, folder);
      const report = page.getByRole("dialog");
      await report.getByText("3 zones were made of it").waitFor({ timeout: 60000 });
      await report.getByRole("cell", { name: "sustain_sw" }).waitFor();
      await report.getByText("leads out of the folder", { exact: false }).waitFor();
      await report.getByText("kit/samples/middle tube.wav").waitFor();
      if (process.env.VISE_SHOTS) await page.screenshot({ path: join(process.env.VISE_SHOTS, "sfz-report.png") });
      const [chooser] = await Promise.all([
        page.waitForEvent("filechooser"),
        report.getByRole("button", { name: "Find samples in a folder" }).click(),
      ]);
      await chooser.setFiles(elsewhere);
      await notice(page, "1 missing sample was found").waitFor({ timeout: 30000 });
      await page.getByText("loading", { exact: false }).waitFor({ state: "detached" });
      // The letter d plays the E of the middle octave: 52, in the low zone; the key two rows up lies in the one that was missing.
      near(await pitchOf(page, "d"), 52, 0.1, "a key of the low tube");
      near(await pitchOf(page, "k"), 60, 0.1, "a key of the tube that was missing");
      assert.equal((await zonesOf(page)).length, 3);
      await station(page, "Ship");
      const [download] = await Promise.all([
        page.waitForEvent("download"),
        page.getByRole("button", { name: "Export as SFZ" }).click(),
      ]);
      const path = join(world.folder, "written.zip");
      await download.saveAs(path);
      const files = unzipSync(new Uint8Array(readFileSync(path)));
      const names = Object.keys(files);
      const text = strFromU8(files[names.find((n) => n.endsWith(".sfz")) ?? ""] ?? new Uint8Array());
      assert.equal(text.match(/^sample=/gm)?.length, 3);
      assert.equal(text.match(/^sustain_sw=off$/gm)?.length, 3, "what has no counterpart is written again");
      assert.match(text, /^delay=0\.01$/m);
      const waves = names.filter((n) => n.endsWith(".wav"));
      assert.equal(waves.length, 3);
      for (const name of waves) assert.equal(readWav(files[name] ?? new Uint8Array()).info.rate, RATE);
      // The zip itself opens as well, and nothing is missing.
      await page.locator('input[type="file"][accept=".vise,.sfz,.zip"]').setInputFiles(path);
      await page.getByRole("dialog").getByText("3 zones were made of it").waitFor({ timeout: 30000 });
      assert.equal(await page.getByRole("dialog").getByText("not there: silent").count(), 0);
      await page.getByRole("button", { name: "Close" }).click();
      await page.getByText("loading", { exact: false }).waitFor({ state: "detached" });
      near(await pitchOf(page, "k"), 60, 0.1, "the same key of what was written and read again");
      assert.deepEqual(complaints, []);
    },
  },
];
