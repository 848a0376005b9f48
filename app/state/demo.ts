import { addTake, type Instrument, newTake, together, usedSamples } from "../../core/instrument";
import { saveInstrument } from "../storage/library";
import { settings } from "../storage/stores";
import { audioWorker } from "../workers/audio-worker";
import { freshInstrument } from "./fresh-instrument";
import { freshId } from "./ids";
import { session } from "./session";

const INSTALLED = "demo-installed";
/** The finished instruments, and where it is noted that each has come into the library. */
const FINISHED = [
  { name: "bearing-hum", flag: "demo-hum-installed" },
  { name: "tube-choir", flag: "demo-choir-installed" },
  { name: "tapped-frame", flag: "demo-frame-installed" },
  { name: "rubbed-tube", flag: "demo-tube-installed" },
  { name: "pump-pad", flag: "demo-pad-installed" },
  { name: "spoke-harp", flag: INSTALLED },
] as const;

interface DemoIndex {
  readonly takes: readonly { readonly name: string; readonly file: string; readonly sha: string }[];
}

async function fetched(path: string): Promise<Response> {
  const reply = await fetch(path);
  if (!reply.ok) throw new Error(`${path} isn't there (${reply.status})`);
  return reply;
}

/** An instrument with the workshop's takes in it, ready to be cut. */
export async function demoTakes(id: string, name: string): Promise<Instrument> {
  const index = (await (await fetched("/demo/index.json")).json()) as DemoIndex;
  const edits = await Promise.all(
    index.takes.map(async ({ name: take, file, sha }) => {
      const opened = await audioWorker().open(await (await fetched(`/demo/${file}`)).blob(), false);
      if (!opened.ok) throw new Error(`${file}: ${opened.message}`);
      const { rate, channels, frames } = opened;
      return addTake(newTake({ id: take, name: take, sha, rate, channels, frames, origin: "demo" }));
    }),
  );
  const fresh = freshInstrument(id);
  return together("", edits).apply({ ...fresh, about: { ...fresh.about, name } });
}

/** Puts a finished demo instrument into the library, with the samples that it has. */
async function install(name: string): Promise<void> {
  const instrument = (await (await fetched(`/demo/${name}.json`)).json()) as Instrument;
  const used = usedSamples(instrument);
  for (const { sha, name: sample } of instrument.samples) {
    if (used.has(sha)) continue;
    const opened = await audioWorker().open(await (await fetched(`/demo/${sha}.wav`)).blob(), false);
    if (!opened.ok) throw new Error(`${sample}: ${opened.message}`);
  }
  if (used.size > 0) {
    const opened = await audioWorker().openPackage(await (await fetched(`/demo/${name}.vise`)).blob());
    if (!opened.ok) throw new Error(opened.message);
  }
  await saveInstrument(instrument);
}

/** Installs each finished demo instrument once, without keeping anybody waiting; one that was deleted stays away. */
async function installDemo(): Promise<void> {
  for (const { name, flag } of FINISHED) {
    if ((await settings.getItem<boolean>(flag)) === true) continue;
    await install(name);
    await settings.setItem(flag, true);
  }
}

/** Opens what was open last; at the very first start, the demo's takes in a new instrument. */
async function openLastOrDemo(): Promise<void> {
  // An address names the instrument that it leads to.
  const named = new URLSearchParams(globalThis.location?.search ?? "").get("of");
  if (named !== null && (await session.open(named))) return;
  const last = await session.lastOpen();
  if (last !== null && (await session.open(last))) return;
  const first = (await settings.getItem<boolean>(INSTALLED)) !== true;
  await session.begin(first ? await demoTakes(freshId(), "New instrument") : freshInstrument());
}

let opening: Promise<void> | null = null;
let installing: Promise<void> | null = null;

/** Once in the life of a page: opens what was open last, at the very first start the demo. */
export function openedOnce(): Promise<void> {
  opening ??= openLastOrDemo();
  return opening;
}

/** Once what is open is there: puts the finished demo instruments into the library. */
export function installedOnce(): Promise<void> {
  installing ??= openedOnce().then(installDemo);
  return installing;
}
