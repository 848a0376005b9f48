import { addTake, type Edit, type Instrument, newTake, removeTake, type Take, together } from "../../core/instrument";
import { withoutExtension } from "../../core/mapping";
import { plural } from "../../core/params";
import { reasonOf } from "../basis/reason-of";
import { Cancelled } from "../workers/audio-worker";
import { tooLong } from "../workers/opened";
import { decodeByBrowser, lengthByBrowser } from "./decode-by-browser";
import { Errand } from "./errand";
import { freshId } from "./ids";
import { tell } from "./notices";
import { opening } from "./open-instrument";
import { showReport } from "./opening-report";
import { askRepair } from "./repair";
import { session } from "./session";
import { warnOfSpace } from "./storage-space";
import { setView } from "./view";
import { withProgress } from "./with-progress";

/** Opens files of any kind, from a drop or a picker, sounds as takes; each failure names its file and changes nothing. */
export async function openFiles(files: readonly File[], navigate: (to: string) => void): Promise<void> {
  const wanted = files;
  // A package is an instrument of its own: it asks nothing of the open one.
  const onlyPackages = (await Promise.all(files.map(isPackage))).every((p) => p);
  const errand = onlyPackages ? null : Errand.begin("open sounds");
  if (!errand && !onlyPackages) return;
  const many = files.length > 1;
  const takes: Take[] = [];
  let doubles = 0;
  let soundless = 0;
  for (const [i, file] of wanted.entries()) {
    try {
      if (await isPackage(file)) {
        await openPackageFile(file, navigate);
        continue;
      }
      if (!errand) continue;
      const label = wanted.length > 1 ? `Opening ${i + 1} of ${wanted.length}: ${file.name}` : `Opening ${file.name}`;
      const take = await openTakeFile(file, label, false, errand, takes, many);
      if (take === "double") doubles++;
      else if (take === "no sound") soundless++;
      else if (take) takes.push(take);
    } catch (error) {
      if (error instanceof Cancelled) break;
      tell("error", `${file.name} was not opened: ${reasonOf(error)}.`);
    }
  }
  if (errand) await keepTakes(errand, takes, navigate);
  if (many && takes.length + doubles + soundless > 0) {
    const same = doubles > 0 ? `; ${doubles} held the same sound as takes that are here already` : "";
    const none =
      soundless > 0 ? `; ${plural(soundless, "file holds", "files hold")} no sound that can be read here` : "";
    tell(
      takes.length > 0 ? "good" : "warning",
      `${plural(takes.length, "take")} of ${plural(wanted.length, "file")}${same}${none}.`,
    );
  }
}

/** Whether a file is a package by its first bytes. */
export async function isPackage(file: File): Promise<boolean> {
  const head = new Uint8Array(
    await file
      .slice(0, 2)
      .arrayBuffer()
      .catch(() => new ArrayBuffer(0)),
  );
  return head[0] === 0x50 && head[1] === 0x4b;
}

/** Adds takes as one step, and shows the first where their instrument is open. */
async function keepTakes(errand: Errand, takes: readonly Take[], navigate: (to: string) => void): Promise<void> {
  const [first] = takes;
  if (!first) return;
  const edits = takes.map(addTake);
  const edit = takes.length === 1 ? (edits[0] as Edit) : together(`Add ${takes.length} takes`, edits);
  const what = takes.length === 1 ? `The take ${first.name}` : plural(takes.length, "take");
  const at = await errand.deliver(edit, what, `opening ${plural(takes.length, "file")}`);
  void warnOfSpace();
  if (at !== "open") return;
  const show = () => {
    if (!errand.isOpen) return;
    setView({ takeId: first.id, sliceIds: new Set() });
    navigate("/take");
  };
  if (errand.isAwaited) show();
  else
    tell("good", `${what} ${takes.length === 1 ? "is" : "are"} there.`, {
      label: takes.length === 1 ? "Show it" : "Show the first",
      run: show,
    });
}

/** The take of a file; null when it was told why there is none, `double` when its sound is here already, `no sound` when nobody can read it as one of many. */
async function openTakeFile(
  file: File,
  label: string,
  salvage: boolean,
  errand: Errand,
  fresh: readonly Take[],
  many = false,
): Promise<Take | "double" | "no sound" | null> {
  const opened = await withProgress(label, async (worker) => {
    const own = await worker.open(file, salvage);
    if (own.ok || own.code !== "not-this-format") return own;
    // What the core doesn't read, the browser may; its length is asked for first, for all of it is held at once.
    const seconds = await lengthByBrowser(file);
    const long = seconds === null ? null : tooLong(seconds);
    if (long) return long;
    const decoded = await decodeByBrowser(file);
    return decoded ? worker.store(decoded.channels, decoded.rate, 32) : own;
  });
  if (!opened.ok) {
    // Among several there are pictures, lists and what else lies beside recordings: that is counted, not told one by one.
    if (many && opened.code === "not-this-format") return "no sound";
    const retry = async () => {
      const take = await openTakeFile(file, label, true, errand, fresh);
      if (take && typeof take !== "string") await keepTakes(errand, [take], () => {});
    };
    tell(
      "error",
      `${file.name} was not opened: ${opened.message}.`,
      // What was salvaged and still can't be read can't be salvaged again.
      opened.salvage && !salvage ? { label: "Open what is there", run: () => void retry() } : null,
    );
    return null;
  }
  const there = [...errand.now.takes, ...fresh];
  const same = there.find((t) => t.sha === opened.sha);
  if (same) {
    if (errand.isOpen) setView({ takeId: same.id });
    tell("warning", `${file.name} holds the same sound as the take ${same.name}, which is here already.`);
    return "double";
  }
  for (const warning of opened.warnings) tell("warning", `${file.name}: ${warning}`);
  const { sha, rate, channels, frames, markers, text } = opened;
  const date = opened.date || new Date(file.lastModified || Date.now()).toISOString();
  const base = withoutExtension(file.name);
  const name = there.some((t) => t.name === base) ? file.name : base;
  return newTake({
    id: freshId(),
    name,
    ...{ sha, rate, channels, frames, markers, date, origin: "imported", source: file.name, notes: text },
  });
}

/** Problems of a file that are said one by one. */
const MOST_SAID = 3;

/** Opens a package as an instrument of its own; what was open stays in the library. One that can only be opened with a loss is offered for repair. */
async function openPackageFile(
  file: Blob & { name: string },
  navigate: (to: string) => void,
  repair = false,
): Promise<void> {
  const opened = await withProgress(`Opening ${file.name}`, (worker, progress) =>
    worker.openPackage(file, repair, progress),
  );
  if (!opened.ok) {
    const { faults } = opened;
    if (faults.length > 0)
      askRepair({ title: file.name, faults, text: null, open: () => openPackageFile(file, navigate, true) });
    else tell("error", `${file.name} was not opened: ${opened.message}.`);
    return;
  }
  const { problems } = opened;
  const instrument: Instrument = { ...opened.instrument, id: freshId() };
  await opening(async (abandon) => {
    await session.begin(instrument, abandon);
    const done = `${instrument.about.name} was opened from ${file.name}.`;
    // A few can be said; more are read as a list.
    if (problems.length > MOST_SAID) showReport({ title: file.name, text: done, lost: [], problems, missing: [] });
    else {
      tell("good", done);
      for (const problem of problems) tell("warning", `${file.name}: ${problem}`);
    }
    navigate("/map");
    return true;
  });
}

/** Removes a take from the instrument; undo brings it back, for its sound stays stored. */
export function dropTake(id: string, name: string): void {
  session.commit(removeTake(id));
  tell("good", `The take ${name} was removed.`, session.undoAction());
}
