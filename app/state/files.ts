import { addTake, type Instrument, removeTake } from "../../core/instrument";
import { newTake } from "../../core/mapping";
import { audioWorker, Cancelled, withProgress } from "../workers/audio-worker";
import { freshId } from "./ids";
import { tell } from "./notices";
import { session } from "./session";
import { setView } from "./view";

const baseName = (name: string): string => name.replace(/\.[a-z0-9]{2,4}$/i, "");

/** Opens files of any kind, from a drop or a picker; each failure names its file and changes nothing. */
export async function openFiles(files: readonly File[], navigate: (to: string) => void): Promise<void> {
  for (const file of files) {
    try {
      const head = new Uint8Array(await file.slice(0, 2).arrayBuffer());
      if (head[0] === 0x50 && head[1] === 0x4b) await openPackageFile(file, navigate);
      else await openTakeFile(file, false, navigate);
    } catch (error) {
      if (error instanceof Cancelled) return;
      tell("error", `${file.name} was not opened: ${error instanceof Error ? error.message : String(error)}`);
    }
  }
}

async function openTakeFile(file: File, salvage: boolean, navigate: (to: string) => void): Promise<void> {
  const opened = await withProgress(`Opening ${file.name}`, (worker) => worker.open(file, salvage));
  if (!opened.ok) {
    tell(
      "error",
      `${file.name} was not opened: ${opened.message}.`,
      opened.salvage ? { label: "Open what is there", run: () => void openTakeFile(file, true, navigate) } : null,
    );
    return;
  }
  const { instrument } = session;
  const same = instrument?.takes.find((t) => t.sha === opened.sha);
  if (same) {
    setView({ takeId: same.id });
    tell("doubt", `${file.name} holds the same sound as the take ${same.name}, which is here already.`);
    return;
  }
  for (const warning of opened.warnings) tell("doubt", `${file.name}: ${warning}`);
  const { sha, rate, channels, frames } = opened;
  const id = freshId();
  session.commit(addTake(newTake({ id, name: baseName(file.name), sha, rate, channels, frames, origin: "imported" })));
  setView({ takeId: id });
  navigate("/take");
}

/** Opens a package as an instrument of its own; what was open stays in the library. */
export async function openPackageFile(file: Blob & { name: string }, navigate: (to: string) => void): Promise<void> {
  const opened = await withProgress(`Opening ${file.name}`, (worker) => worker.openPackage(file));
  if (!opened.ok) {
    tell("error", `${file.name} was not opened: ${opened.message}.`);
    return;
  }
  for (const problem of opened.problems.slice(0, 3)) tell("doubt", `${file.name}: ${problem}`);
  const instrument: Instrument = { ...opened.instrument, id: freshId() };
  await session.begin(instrument);
  tell("good", `${instrument.about.name} was opened from ${file.name}.`);
  navigate("/map");
}

/** Removes a take from the instrument; undo brings it back, for its sound stays stored. */
export function dropTake(id: string, name: string): void {
  session.commit(removeTake(id));
  tell("good", `The take ${name} was removed.`, { label: "Undo", run: () => session.undo() });
}

/** Turns a recording into a take. */
export async function addRecording(name: string, channels: Float32Array<ArrayBuffer>[], rate: number): Promise<void> {
  const stored = await audioWorker().store(channels, rate);
  const id = freshId();
  session.commit(
    addTake(
      newTake({
        id,
        name,
        sha: stored.sha,
        rate,
        channels: stored.channels,
        frames: stored.frames,
        origin: "recorded",
      }),
    ),
  );
  setView({ takeId: id });
}

/** A file name made of a title: letters, digits and dashes. */
export const fileName = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-+|-+$/g, "") || "instrument";
