import { proxy } from "comlink";
import { type AudioCalls, audioCalls } from "../workers/audio-worker";
import { beginJob } from "./notices";

/**
 * Runs a job of the worker with its progress shown. Cancelling ends the worker, which holds nothing that isn't stored; what others had asked of
 * it is asked again of the next.
 */
export async function withProgress<T>(
  label: string,
  run: (worker: AudioCalls, progress: (share: number) => void) => Promise<T>,
): Promise<T> {
  const key = {};
  const job = beginJob(label, () => audioCalls.cancel(key));
  try {
    return await audioCalls.whileOn(key, run(audioCalls.of(key), proxy(job.show)));
  } finally {
    job.end();
  }
}
