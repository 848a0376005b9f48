import {
  addSamples,
  addTake,
  type Edit,
  newTake,
  removeTake,
  type Sample,
  type Take,
  together,
} from "../../core/instrument";
import { type Relinked, relink, withoutExtension } from "../../core/mapping";
import { few, plural } from "../../core/params";
import { nextTask } from "../basis/next-task";
import { reasonOf } from "../basis/reason-of";
import type { OpenedSound } from "../workers/audio/importing";
import { type AudioCalls, Cancelled } from "../workers/audio-worker";
import { fileAt, pathOf } from "./dropped-files";
import { type Delivered, Errand } from "./errand";
import { isPicture, takePictures } from "./face-pictures";
import { isPackage, openFiles } from "./files";
import { tellFoundAudio } from "./found-audio";
import { freshId } from "./ids";
import { type DropPlace, layFrom } from "./laying";
import { tell } from "./notices";
import { isSfz, openSfz } from "./open-sfz";
import { openSound } from "./open-sound";
import { proposing } from "./proposing";
import { missingSamples, relinkEdit, tellRelinked } from "./relinking";
import { isSong, openSong } from "./songs";
import { warnOfSpace } from "./storage-space";
import { setView } from "./view";
import { stayingHere } from "./whereabouts";
import { withProgress } from "./with-progress";
import { withWorkers } from "./with-workers";

const SOUND_NAME = /\.(wave?|aif[fc]?|flac|mp3|og[ga]|opus|m4a)$/i;

/** The order in which people read names: takes 2 and 10 in this order. */
const ORDER = new Intl.Collator("en", { numeric: true });

/** What came of many files. */
interface Brought {
  readonly samples: Sample[];
  readonly takes: Take[];
  /** The files of the takes, in their order. */
  readonly recorded: File[];
  /** Names of files with the same content as others, and of those that nobody can read, with why. */
  readonly doubles: string[];
  readonly unreadable: { readonly name: string; readonly why: string }[];
  readonly warnings: string[];
}

/** Opens whatever was dropped: packages as instruments, sounds as what they are taken for. */
export async function openDropped(
  files: readonly File[],
  navigate: (to: string) => void,
  at: DropPlace | null = null,
): Promise<void> {
  const [first] = files;
  // A song that lies among samples is none that somebody chose to hear.
  if (first && files.every(isSong)) {
    await openSong(first);
    return;
  }
  // Pictures that lie among sounds are covers and photographs: only who brings pictures alone means the face.
  if (first && files.every(isPicture)) {
    await takePictures(files);
    return;
  }
  if (files.some(isSfz)) {
    await openSfz(files, navigate);
    return;
  }
  // Asking thousands of sounds for their first bytes would take its time.
  const packages = await Promise.all(files.map((f) => !SOUND_NAME.test(f.name) && isPackage(f)));
  const sounds = files.filter((f, i) => !packages[i] && !isSong(f)).sort((a, b) => ORDER.compare(pathOf(a), pathOf(b)));
  if (sounds.length > 0) await importSounds(sounds, navigate, at);
  for (const zip of files.filter((_, i) => packages[i])) {
    const inside = /\.zip$/i.test(zip.name) ? await unzipped(zip) : null;
    if (inside && inside.length > 0) await openDropped(inside, navigate, at);
    else await openFiles([zip], navigate);
  }
}

/** The sounds and SFZ files in a zip; null where it is a package, or nothing that can be read. */
async function unzipped(zip: File): Promise<readonly File[] | null> {
  try {
    const found = await withProgress(`Opening ${zip.name}`, (worker) => worker.filesOfZip(zip));
    return found.ok ? (found.files?.map(({ path, blob }) => fileAt(path, blob)) ?? null) : null;
  } catch (error) {
    if (error instanceof Cancelled) return null;
    throw error;
  }
}

/** Brings sounds in: finished ones as samples, which are proposed to be placed, recordings as takes. One that can't be read doesn't stop the rest. */
async function importSounds(
  files: readonly File[],
  navigate: (to: string) => void,
  at: DropPlace | null,
): Promise<void> {
  const errand = Errand.begin("import samples");
  if (!errand) return;
  const brought: Brought = { samples: [], takes: [], recorded: [], doubles: [], unreadable: [], warnings: [] };
  const missing = new Set((await missingSamples(errand.now)).map((s) => s.sha));
  // A sample whose sound is missing isn't here already.
  const known = new Set(errand.now.samples.map((s) => s.sha).filter((sha) => !missing.has(sha)));
  const takes = new Set(errand.now.takes.map((t) => t.sha));
  const label = `Importing ${plural(files.length, "file")}`;
  const { results, cancelled } = await withWorkers(label, files, openOne, true);
  await nextTask();
  // In the order of their names, whichever was ready first.
  files.forEach((file, i) => {
    const opened = results[i];
    if (opened) keep(file, opened, brought, known, takes);
  });
  await nextTask();
  const links = linksOf(errand, brought, missing);
  const kept = await commit(errand, brought, links);
  await nextTask();
  const led = kept === "open" && leadOn(errand, brought, navigate, at);
  report(errand, files.length, brought, cancelled, kept, led, navigate);
  if (links.length > 0 && kept === "open") tellRelinked(links, missing.size);
}

async function openOne(worker: AudioCalls, file: File): Promise<OpenedSound> {
  try {
    return await openSound(worker, file, pathOf(file));
  } catch (error) {
    if (error instanceof Cancelled) throw error;
    const message = reasonOf(error);
    return { ok: false, code: "damaged", message, salvage: false };
  }
}

function keep(file: File, opened: OpenedSound, brought: Brought, known: Set<string>, takes: Set<string>): void {
  if (!opened.ok) {
    brought.unreadable.push({ name: pathOf(file), why: opened.message });
    return;
  }
  const sha = opened.kind === "sample" ? opened.sample.sha : opened.opened.sha;
  const there = opened.kind === "sample" ? known : takes;
  if (there.has(sha)) {
    brought.doubles.push(pathOf(file));
    return;
  }
  there.add(sha);
  if (opened.kind === "sample") {
    brought.samples.push(opened.sample);
    brought.warnings.push(...opened.warnings.map((w) => `${file.name}: ${w}`));
    return;
  }
  const { rate, channels, frames, markers, text } = opened.opened;
  const date = opened.opened.date || new Date(file.lastModified || Date.now()).toISOString();
  const name = withoutExtension(file.name).slice(0, 200) || "unnamed";
  brought.recorded.push(file);
  brought.takes.push(
    newTake({
      id: freshId(),
      name,
      sha,
      rate,
      channels,
      frames,
      markers,
      date,
      origin: "imported",
      source: file.name.slice(0, 200),
      notes: text,
    }),
  );
}

/** Takes recordings as finished samples after all: their takes go, in one step. */
async function asSamples(errand: Errand, { takes, recorded }: Brought, navigate: (to: string) => void): Promise<void> {
  const staying = stayingHere();
  const { results } = await withWorkers(`Importing ${plural(recorded.length, "file")}`, recorded, (worker, file) =>
    openSound(worker, file, pathOf(file), true),
  );
  const samples = results.flatMap((r) => (r?.ok && r.kind === "sample" ? [r.sample] : []));
  if (samples.length === 0) return;
  const gone = takes.filter((t) => errand.now.takes.some((own) => own.id === t.id));
  const what = `${plural(samples.length, "recording")} as ${samples.length === 1 ? "a sample" : "samples"}`;
  const edit = together(`Take ${what}`, [...gone.map((t) => removeTake(t.id)), addSamples(samples)]);
  if ((await errand.deliver(edit, what)) !== "open") return;
  const placing = placingOf(errand, samples, navigate);
  if (staying()) placing.run();
  else tell("good", `${what}.`, placing);
}

/** How samples that have come in are placed, for a notice that speaks of them: as long as they wait for that. */
const placingOf = (errand: Errand, samples: readonly Sample[], navigate: (to: string) => void) => ({
  label: `Propose ${plural(samples.length, "place")} for them`,
  run: () => {
    if (!errand.isOpen) return;
    navigate("/map");
    void proposing.propose(samples);
  },
  still: () => errand.stillUnplayed(samples),
});

/** Says what came of it: that something is in is said only once it is. */
function report(
  errand: Errand,
  count: number,
  brought: Brought,
  cancelled: boolean,
  kept: Delivered | null,
  led: boolean,
  navigate: (to: string) => void,
): void {
  const { samples, takes, doubles, unreadable, warnings } = brought;
  const parts = [
    samples.length > 0 ? plural(samples.length, "sample") : "",
    takes.length > 0
      ? `${plural(takes.length, "recording")} as ${takes.length === 1 ? "a take" : "takes"}, as there are several sounds in ${takes.length === 1 ? "it" : "them"}`
      : "",
  ].filter((p) => p !== "");
  const placing = placingOf(errand, samples, navigate);
  const instead = takes.length === 1 ? "As a sample instead" : "As samples instead";
  if (parts.length > 0 && kept === "open")
    tell(
      "good",
      `${parts.join(" and ")} of ${plural(count, "file")}${cancelled ? ", before it was stopped" : ""}.`,
      samples.length > 0 && !led
        ? placing
        : takes.length > 0
          ? { label: instead, run: () => void asSamples(errand, brought, navigate) }
          : null,
    );
  if (doubles.length > 0)
    tell(
      "warning",
      `${plural(doubles.length, "file holds", "files hold")} a sound that is here already: ${few(doubles)}.`,
    );
  if (warnings.length > 0) tell("warning", few(warnings));
  if (unreadable.length > 0)
    tell(
      samples.length + takes.length > 0 ? "warning" : "error",
      `${plural(unreadable.length, "file was", "files were")} not opened: ${few(unreadable.map((u) => `${u.name} (${u.why})`))}.`,
    );
}

/** Which of what was brought in is a sample that was missing: it takes its place, and isn't placed once more. */
function linksOf(errand: Errand, brought: Brought, gone: ReadonlySet<string>): readonly Relinked[] {
  const missing = errand.now.samples.filter((s) => gone.has(s.sha));
  const links = relink(missing, brought.samples).filter((l) => l.by !== "length");
  const found = new Set(links.map((l) => l.found.sha));
  brought.samples.splice(0, Number.POSITIVE_INFINITY, ...brought.samples.filter((s) => !found.has(s.sha)));
  return links;
}

/** Puts everything that was brought in into the instrument for which it was, in one step; null where there is nothing. */
async function commit(
  errand: Errand,
  { samples, takes }: Brought,
  links: readonly Relinked[],
): Promise<Delivered | null> {
  const count = samples.length + takes.length + links.length;
  if (count === 0) return null;
  const edits: Edit[] = [
    ...(links.length > 0 ? [relinkEdit(links)] : []),
    ...(samples.length > 0 ? [addSamples(samples)] : []),
    ...takes.map(addTake),
  ];
  const edit = links.length === count && edits[0] ? edits[0] : together(`Import ${plural(count, "file")}`, edits);
  const kept = await errand.deliver(edit, plural(count, "file"), `importing ${plural(count, "file")}`);
  void warnOfSpace();
  if (kept === "open" && links.length > 0) tellFoundAudio();
  return kept;
}

/** Proposes where samples go, or shows takes, unless whoever brought them in has gone on to something else; whether it did. What was dropped on a key is laid there in any case. */
function leadOn(
  errand: Errand,
  { samples, takes }: Brought,
  navigate: (to: string) => void,
  at: DropPlace | null,
): boolean {
  const { isAwaited } = errand;
  if (!errand.isOpen || (!isAwaited && !(at && samples.length > 0))) return false;
  if (samples.length > 0) {
    if (isAwaited) navigate("/map");
    if (at) layFrom(samples, at);
    else void proposing.propose(samples);
  } else if (takes.length > 0) {
    setView({ takeId: takes[0]?.id ?? null, sliceIds: new Set() });
    navigate("/take");
  }
  return true;
}
