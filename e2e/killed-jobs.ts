import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { hertzOf } from "../core/audio";
import { writeWav } from "../core/formats";
import type { Instrument } from "../core/instrument";
import { type Dropped, dropFiles } from "./dropping";
import { writeTake } from "./long-take";
import { station, storedDocument } from "./scenario";

const RATE = 44100;
const SOUNDS = 24;

/** Files for jobs: a folder of tubes and a take, other ones each time, so that something is stored each time. */
export class Material {
  private readonly folder = mkdtempSync(join(tmpdir(), "vise-kills-"));
  private made = 0;

  tubes(): readonly Dropped[] {
    const made = ++this.made;
    return Array.from({ length: SOUNDS }, (_, n) => {
      const note = 40 + 2 * n;
      const x = Float32Array.from({ length: RATE / 2 }, (_, i) => {
        const t = i / RATE;
        return 0.4 * Math.exp(-5 * t) * Math.sin(2 * Math.PI * hertzOf(note) * t + made);
      });
      const bytes = writeWav({ rate: RATE, channels: [x] }, 16);
      return { name: `tube ${made} ${note}.wav`, type: "audio/wav", bytes };
    });
  }

  take(): string {
    const path = join(this.folder, `take ${++this.made}.wav`);
    writeTake(path, 8 + (this.made % 5), 0.9 + this.made * 0.001);
    return path;
  }

  remove(): void {
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** What of a stored document can't be: sound that it names and that isn't there. */
export async function missingSound(page: Page, document: object): Promise<readonly string[]> {
  const { takes, samples } = document as Pick<Instrument, "takes" | "samples">;
  const named = [...takes, ...samples].map(({ sha }) => sha);
  const there = new Set(await storedSound(page));
  return named.filter((sha) => !there.has(sha));
}

/** The SHA-256 of all sound that is stored. */
const storedSound = (page: Page): Promise<string[]> =>
  page.evaluate(
    () =>
      new Promise<string[]>((resolve, reject) => {
        const request = indexedDB.open("vise");
        request.onerror = () => reject(request.error);
        request.onsuccess = () => {
          const keys = request.result.transaction("blobs").objectStore("blobs").getAllKeys();
          keys.onerror = () => reject(keys.error);
          keys.onsuccess = () => {
            request.result.close();
            resolve(keys.result.map(String));
          };
        };
      }),
  );

/** Puts sound that nothing names beside what is there, and makes everything so old that nothing but its names protects it. */
const leaveOver = (page: Page, name: string): Promise<void> =>
  page.evaluate(
    (sha) =>
      new Promise<void>((resolve, reject) => {
        const request = indexedDB.open("vise");
        request.onerror = () => reject(request.error);
        request.onsuccess = () => {
          const work = request.result.transaction(["blobs", "touched"], "readwrite");
          for (let n = 0; n < 40; n++) work.objectStore("blobs").put(new Blob([new Uint8Array(2e5)]), `${sha}-${n}`);
          work.objectStore("touched").clear();
          work.onabort = () => reject(work.error);
          work.oncomplete = () => {
            request.result.close();
            resolve();
          };
        };
      }),
    name,
  );

/** Drops files beside the work, so that they are placed as their names say. */
const bringIn = (page: Page, files: readonly Dropped[]): Promise<void> =>
  dropFiles(page, page.getByRole("navigation", { name: "Stations" }), { x: 20, y: 10 }, files);

const jobs = {
  import: async (page: Page, material: Material) => {
    await station(page, "Map");
    await bringIn(page, material.tubes());
  },
  placing: async (page: Page, material: Material) => {
    await station(page, "Map");
    await bringIn(page, material.tubes());
    await page.getByRole("button", { name: /^Place \d+ samples?/ }).click({ timeout: 60000 });
  },
  cut: async (page: Page, material: Material) => {
    const path = material.take();
    await station(page, "Take");
    await page.getByTestId("open-files").setInputFiles(path);
    const name = (path.split("/").at(-1) as string).replace(".wav", "");
    await page.getByRole("list", { name: "Takes" }).getByText(name, { exact: true }).click({ timeout: 60000 });
    await station(page, "Cut");
    await page.getByRole("button", { name: "Find sounds" }).click();
    await page.getByRole("button", { name: /^Make \d+ samples?$/ }).click({ timeout: 60000 });
  },
  sweep: async (page: Page, _: Material, n: number) => {
    await leaveOver(page, `left-over-${n}`);
    await page.getByRole("link", { name: "Library" }).click();
    await page.getByRole("button", { name: "Free them now" }).click({ timeout: 60000 });
  },
};

export const JOBS = Object.keys(jobs) as readonly (keyof typeof jobs)[];
export type Job = keyof typeof jobs;

/** Begins a job in a page; what the document was is what must still be in it afterwards. */
export async function beginJob(page: Page, job: Job, material: Material, n: number): Promise<Instrument> {
  const before = (await storedDocument(page)) as unknown as Instrument;
  await jobs[job](page, material, n);
  return before;
}

const zonesOf = (doc: Pick<Instrument, "layers">): string[] =>
  doc.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => z.id)));

/** What a kill in the middle of a job has taken, in words. */
export async function lossesOf(page: Page, before: Instrument): Promise<readonly string[]> {
  const after = (await storedDocument(page)) as unknown as Instrument;
  const gone = (list: readonly { readonly id?: string; readonly sha: string }[], now: typeof list) =>
    list.filter((a) => !now.some((b) => b.sha === a.sha)).length;
  const [zones, kept] = [zonesOf(before), new Set(zonesOf(after))];
  const missing = await missingSound(page, after);
  return [
    ...(gone(before.takes, after.takes) > 0 ? ["a take is gone"] : []),
    ...(gone(before.samples, after.samples) > 0 ? ["a sample is gone"] : []),
    ...(zones.some((id) => !kept.has(id)) ? ["a zone is gone"] : []),
    ...(missing.length > 0 ? [`${missing.length} named sounds aren't there`] : []),
  ];
}
