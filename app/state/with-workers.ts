import { type AudioCalls, Cancelled, furtherAudioCalls } from "../workers/audio-worker";
import { beginJob } from "./notices";

/** Most workers that share one job: more would only wait for the disk. */
const MOST = 4;

/**
 * Does the same for many things in several workers at once, with progress. Results are in the order of what was given; where it was cancelled, those that
 * weren't done are missing.
 */
export async function withWorkers<A, B>(
  label: string,
  things: readonly A[],
  work: (worker: AudioCalls, thing: A) => Promise<B>,
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
      const at = next++;
      try {
        results[at] = await work(calls, things[at] as A);
      } catch (error) {
        if (!(error instanceof Cancelled)) throw error;
        cancelled = true;
      }
      job.show(++done / things.length);
    }
  };
  try {
    await Promise.all(workers.map((w) => run(w.of(null))));
  } finally {
    for (const worker of workers) worker.end();
    job.end();
  }
  return { results, cancelled };
}
