import type { SfzLoss } from "../../core/formats";
import { listZones, type Sample } from "../../core/instrument";
import { plural } from "../../core/params";
import { reasonOf } from "../basis/reason-of";
import type { FoundFile } from "../workers/audio/opening-sfz";
import { Cancelled } from "../workers/audio-worker";
import { pathOf } from "./dropped-files";
import { freshId } from "./ids";
import { tell } from "./notices";
import { opening } from "./open-instrument";
import { openSound } from "./open-sound";
import { chooseOne, showReport } from "./opening-report";
import { session } from "./session";
import { warnOfSpace } from "./storage-space";
import { withProgress } from "./with-progress";
import { withWorkers } from "./with-workers";

/** Whether a file is an SFZ file, by its name: its text could be anything. */
export const isSfz = (file: File): boolean => /\.sfz$/i.test(file.name);

interface Opened {
  readonly lost: readonly SfzLoss[];
  readonly problems: readonly string[];
  readonly missing: readonly string[];
}

/** Opens an SFZ file as an instrument of its own, with the samples that lie among the other files; of several files one is chosen. */
export async function openSfz(files: readonly File[], navigate: (to: string) => void): Promise<void> {
  const mains = files.filter(isSfz);
  const at = mains.length > 1 ? await chooseOne(mains.map(pathOf)) : 0;
  const main = at === null ? undefined : mains[at];
  if (!main) return;
  try {
    await openOne(files, main, navigate);
  } catch (error) {
    if (!(error instanceof Cancelled)) tell("error", `${main.name} was not opened: ${reasonOf(error)}.`);
  }
}

async function openOne(given: readonly File[], main: File, navigate: (to: string) => void): Promise<void> {
  const found: FoundFile[] = given.map((file) => ({ file, path: pathOf(file) }));
  const path = pathOf(main);
  const odd: string[] = [];
  const label = `Opening ${main.name}`;
  const refuse = (why: string) => tell("error", `${main.name} was not opened: ${why}.`);
  const named = await withProgress(label, (worker) => worker.samplesOfSfz(found, path));
  if (!named.ok) {
    refuse(named.message);
    return;
  }
  const files = named.found.flatMap(({ path: name, at }) => {
    const file = found[at]?.file;
    return file ? [{ name, file }] : [];
  });
  const { results, cancelled } = await withWorkers(
    label,
    files,
    (worker, { name, file }) => openSound(worker, file, name, true),
    true,
  );
  if (cancelled) return;
  const samples = new Map<string, Sample>();
  files.forEach(({ name }, i) => {
    const opened = results[i];
    if (opened?.ok && opened.kind === "sample") {
      samples.set(name, opened.sample);
      odd.push(...opened.warnings.map((w) => `${name}: ${w}`));
    } else if (opened && !opened.ok) odd.push(`${name}: ${opened.message}`);
  });
  const made = await withProgress(label, (worker) => worker.instrumentOfSfz(found, path, samples, freshId()));
  if (!made.ok) {
    refuse(made.message);
    return;
  }
  const { instrument, lost, problems, missing } = made;
  await opening(async (abandon) => {
    await session.begin(instrument, abandon);
    navigate("/map");
    report(main.name, plural(listZones(instrument).length, "zone"), { lost, missing, problems: [...problems, ...odd] });
    return true;
  });
  void warnOfSpace();
}

/** Tells what came of it: in a line where all is well, else with the lists. */
function report(file: string, zones: string, { lost, problems, missing }: Opened): void {
  if (lost.length + problems.length + missing.length === 0) tell("good", `${file}: ${zones}, and nothing was lost.`);
  else showReport({ title: file, text: `${zones} were made of it.`, lost, problems, missing });
}
