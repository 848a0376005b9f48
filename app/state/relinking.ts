import { useEffect } from "react";
import { create } from "zustand";
import { type Edit, type Instrument, listNotes, replaceSamples, type Sample, together } from "../../core/instrument";
import { type Relinked, relink, withoutExtension } from "../../core/mapping";
import { plural } from "../../core/params";
import { storedAudio } from "../storage/audio-files";
import { Cancelled } from "../workers/audio-worker";
import { pathOf } from "./dropped-files";
import { Errand } from "./errand";
import { tellFoundAudio } from "./found-audio";
import { tell } from "./notices";
import { openSound } from "./open-sound";
import { showReport } from "./opening-report";
import { pickFiles } from "./pick-files";
import { session } from "./session";
import { useInstrument } from "./use-session";
import { withProgress } from "./with-progress";

/** The samples of the open instrument whose audio isn't stored here, by content. */
const useMissing = create<{ readonly shas: ReadonlySet<string> }>(() => ({ shas: new Set() }));

/** The samples whose audio isn't in this browser. */
export async function missingSamples(instrument: Instrument): Promise<readonly Sample[]> {
  const stored = await storedAudio();
  return instrument.samples.filter((s) => !stored.has(s.sha));
}

/** Which samples are missing, looked for anew whenever the samples are others. */
export function useMissingSamples(): ReadonlySet<string> {
  const notes = useInstrument(listNotes);
  useEffect(() => {
    let asked = true;
    void storedAudio().then((stored) => {
      const shas = new Set(notes.filter((s) => !stored.has(s.sha)).map((s) => s.sha));
      if (asked) useMissing.setState({ shas });
    });
    return () => {
      asked = false;
    };
  }, [notes]);
  return useMissing((m) => m.shas);
}

/** The edit that puts found samples in the place of missing ones. */
export const relinkEdit = (links: readonly Relinked[]): Edit =>
  together(`Find ${plural(links.length, "sample")}`, [
    // A sample that is the very same needs no more than its sound: what was said of it stays.
    replaceSamples(
      new Map(links.filter((l) => l.missing.sha !== l.found.sha).map((l) => [l.missing.sha, l.found])),
      true,
    ),
  ]);

/** Says what was found, and what is still missing. */
export function tellRelinked(links: readonly Relinked[], wanted: number): void {
  const doubts = links.filter((l) => l.doubt !== "");
  const left = wanted - links.length;
  if (links.length > 0)
    tell(
      left > 0 ? "warning" : "good",
      `${plural(links.length, "missing sample was", "missing samples were")} found${left > 0 ? `, ${left} still missing` : ""}.`,
      session.undoAction(),
    );
  const problems = doubts.map(
    ({ missing, found, doubt }) => `${found.file?.path ?? found.name} was taken for ${missing.name}: ${doubt}`,
  );
  // A few can be said; more are read as a list.
  if (problems.length > 3)
    showReport({
      title: "Samples that were found",
      text: `${problems.length} of them may be others than those that are missing.`,
      ...{ lost: [], missing: [], problems },
    });
  else for (const problem of problems) tell("warning", `${problem}.`);
}

/** Names without folders and extension, as they are compared. */
const plainName = (path: string): string =>
  withoutExtension(path.slice(path.lastIndexOf("/") + 1))
    .normalize("NFKC")
    .toLowerCase();

/** Asks for a folder and looks for the missing samples in it. */
export async function findMissing(): Promise<void> {
  const errand = Errand.begin("find its samples");
  if (!errand) return;
  if ((await missingSamples(errand.now)).length === 0) {
    tell("good", "No sample is missing.");
    return;
  }
  const files = await pickFiles({ folder: true });
  if (files.length > 0) await findMissingIn(files, errand);
}

/** Looks for the missing samples among files: first those of their names, then, where none is, all. */
export async function findMissingIn(files: readonly File[], errand: Errand): Promise<void> {
  const missing = await missingSamples(errand.now);
  const names = new Set(missing.map((s) => plainName(s.file?.path ?? s.name)));
  const called = files.filter((f) => names.has(plainName(f.name)));
  const candidates: Sample[] = [];
  try {
    await withProgress("Looking for missing samples", async (worker, progress) => {
      const looked = called.length > 0 ? called : files;
      for (const [i, file] of looked.entries()) {
        progress(i / looked.length);
        const opened = await openSound(worker, file, pathOf(file), true);
        if (opened.ok && opened.kind === "sample") candidates.push(opened.sample);
      }
    });
  } catch (error) {
    if (!(error instanceof Cancelled)) throw error;
  }
  const links = relink(missing, candidates);
  if (links.length === 0) {
    tell("warning", `None of ${plural(files.length, "file")} is one of the missing samples.`);
    return;
  }
  if ((await errand.deliver(relinkEdit(links), plural(links.length, "found sample"))) !== "open") return;
  tellFoundAudio();
  tellRelinked(links, missing.length);
}
