import { assetsOf, type Instrument } from "../../core/instrument";
import { tabs, takeLock } from "../storage/instrument-locks";
import { blobsTouched, removeBlobs, settings } from "../storage/stores";
import { documentWorker } from "../workers/document-worker";
import { freshId } from "./ids";
import { useJobs } from "./notices";
import { session } from "./session";

/** When each audio file was first seen that nobody uses, by SHA-256. */
const UNUSED = "unused-audio";
const DAY = 24 * 3600 * 1000;
/** For so long what was stored may be unnamed without being left over: the longest that a job takes until its end. */
const RECENT = 3600 * 1000;
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

/** Looks through all that is stored. What was stored a while ago only isn't counted as unused: what will name it may be on its way. */
export async function measureUse(): Promise<StorageUse> {
  const recent = await blobsTouched(Date.now() - RECENT);
  const { of, unused } = await documentWorker().audioUse();
  const steps = heldBySteps();
  return { of, unused: new Map([...unused].filter(([sha]) => !steps.has(sha) && !recent.has(sha))) };
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
  const time = Date.now();
  const { unused } = await measureUse();
  const before = (await settings.getItem<Record<string, number>>(UNUSED)) ?? {};
  const seen: Record<string, number> = {};
  const due = new Map<string, number>();
  for (const [sha, bytes] of unused) {
    const since = before[sha] ?? time;
    if (now || time - since > DAY) due.set(sha, bytes);
    else seen[sha] = since;
  }
  await settings.setItem(UNUSED, seen);
  if (due.size === 0 || !(await alone())) return 0;
  // Whatever has come to name one meanwhile keeps it; one that is stored again at this very moment stays, by one transaction.
  const still = (await measureUse()).unused;
  const removed = await removeBlobs(
    [...due.keys()].filter((sha) => still.has(sha)),
    time - RECENT,
  );
  return [...removed].reduce((sum, sha) => sum + (due.get(sha) ?? 0), 0);
}
