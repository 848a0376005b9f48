import { assetsOf, type Instrument } from "../../core/instrument";
import { tabs, takeLock } from "../storage/instrument-locks";
import { blobs, settings } from "../storage/stores";
import { documentWorker } from "../workers/document-worker";
import { freshId } from "./ids";
import { useJobs } from "./notices";
import { session } from "./session";

/** When each audio file was first seen that nobody uses, by SHA-256. */
const UNUSED = "unused-audio";
const DAY = 24 * 3600 * 1000;
const TAB = "vise-tab-";

/** What of the stored audio each instrument takes, and what nobody uses any more; bytes. */
interface StorageUse {
  readonly of: ReadonlyMap<string, number>;
  readonly unused: ReadonlyMap<string, number>;
}

/** Everything that the open instrument's undo steps may bring back. */
function heldBySteps(): Set<string> {
  const held = new Set<string>();
  for (const doc of session.store.getState().history?.states() ?? []) for (const sha of audioIn(doc)) held.add(sha);
  return held;
}

const audioIn = (doc: Instrument): string[] => [
  ...doc.takes.map((t) => t.sha),
  ...doc.samples.map((s) => s.sha),
  ...assetsOf(doc),
];

/** Looks through all that is stored. */
export async function measureUse(): Promise<StorageUse> {
  const { of, unused } = await documentWorker().audioUse();
  const steps = heldBySteps();
  return { of, unused: new Map([...unused].filter(([sha]) => !steps.has(sha))) };
}

/** Says that this tab is here, for as long as it is: the lock goes with it. */
export const beHere = (): void => void takeLock(`${TAB}${freshId()}`);

/** Whether no other tab is open, whose undo steps nobody knows. */
async function alone(): Promise<boolean> {
  return (await tabs.countHeld(TAB)) <= 1;
}

/** Deletes audio that no instrument, version or undo step uses: what has been so for a day, or with `now` all of it. Returns the bytes that are free. */
export async function sweepAudio(now = false): Promise<number> {
  // What is being opened is stored before anything names it.
  if (useJobs.getState().jobs.length > 0 || !(await alone())) return 0;
  const { unused } = await measureUse();
  const before = (await settings.getItem<Record<string, number>>(UNUSED)) ?? {};
  const time = Date.now();
  const seen: Record<string, number> = {};
  let freed = 0;
  for (const [sha, bytes] of unused) {
    const since = before[sha] ?? time;
    if (now || time - since > DAY) {
      await blobs.removeItem(sha);
      freed += bytes;
    } else seen[sha] = since;
  }
  await settings.setItem(UNUSED, seen);
  return freed;
}
