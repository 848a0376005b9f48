import { proxy, wrap } from "comlink";
import { beginJob } from "../state/notices";
import type { AudioWorker } from "./audio.worker";
import { type Calls, WorkerCalls } from "./worker-calls";

/** The worker's calls as the page sees them: each answers with a promise. */
export type AudioCalls = Calls<AudioWorker>;

/** The worker in which audio is decoded, analysed and rendered. */
const calls = new WorkerCalls<AudioWorker>(() => {
  const worker = new Worker(new URL("./audio.worker.ts", import.meta.url), { type: "module" });
  return { remote: wrap<AudioWorker>(worker) as unknown as AudioCalls, end: () => worker.terminate() };
});

export { Cancelled } from "./worker-calls";

const free = calls.of(null);

/** Calls of the worker that belong to no job. */
export const audioWorker = (): AudioCalls => free;

/**
 * Runs a job of the worker with its progress shown. Cancelling ends the worker, which holds nothing that isn't stored; what others had asked of
 * it is asked again of the next.
 */
export async function withProgress<T>(
  label: string,
  run: (worker: AudioCalls, progress: (share: number) => void) => Promise<T>,
): Promise<T> {
  const key = {};
  const job = beginJob(label, () => calls.cancel(key));
  try {
    return await calls.whileOn(key, run(calls.of(key), proxy(job.show)));
  } finally {
    job.end();
  }
}
