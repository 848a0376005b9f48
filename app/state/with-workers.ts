import { nextTask } from "../basis/next-task";
import { type AudioCalls, Cancelled, furtherAudioCalls } from "../workers/audio-worker";
import { beginJob } from "./notices";

/** Most workers that share one job: more would only wait for the disk. */
const MOST = 4;
/** Things that a worker has in hand at once: while one is stored it works at the next. */
const IN_HAND = 12;

/**
 * Does the same for many things in several workers at once, with progress. Of those that are `light` each worker has several in hand, so that one is stored
 * while the next is worked at; how much that may be it says itself. Results are in the order of what was given; where it was cancelled, those that
 * weren't done are missing.
 */
export async function withWorkers<A, B>(
  label: string,
  things: readonly A[],
  work: (worker: AudioCalls, thing: A) => Promise<B>,
  light = false,
): Promise<{ readonly results: readonly (B | undefined)[]; readonly cancelled: boolean }> {
  const results: (B | undefined)[] = new Array(things.length).fill(undefined);
  // The page itself has little to do meanwhile: of two cores both may work.
  const cores = Math.max(2, (globalThis.navigator?.hardwareConcurrency ?? 2) - 1);
  const count = Math.max(1, Math.min(MOST, cores, Math.ceil(things.length / 4)));
  const workers = Array.from({ length: count }, furtherAudioCalls);
  let cancelled = false;
  const job = beginJob(label, () => {
    cancelled = true;
    for (const worker of workers) worker.end();
  });
  let next = 0;
  let done = 0;
  const run = async (calls: AudioCalls): Promise<void> => {
    while (!cancelled && next < things.length) {
      try {
        const at = next++;
        results[at] = await work(calls, things[at] as A);
      } catch (error) {
        if (!(error instanceof Cancelled)) throw error;
        cancelled = true;
      }
      job.show(++done / things.length);
    }
  };
  try {
    const running: Promise<void>[] = [];
    for (const calls of workers.map((w) => w.of(null))) {
      for (let hand = 0; hand < (light ? IN_HAND : 1) && next < things.length; hand++) {
        running.push(run(calls));
        // To hand a file over costs the page a millisecond: not all of them in one task.
        if (light) await nextTask();
      }
    }
    await Promise.all(running);
  } finally {
    for (const worker of workers) worker.end();
    job.end();
  }
  return { results, cancelled };
}
