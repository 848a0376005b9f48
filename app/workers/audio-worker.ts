import { proxy, wrap } from "comlink";
import { setJob } from "../state/notices";
import type { AudioWorker } from "./audio.worker";

/** The worker's calls as the page sees them: each answers with a promise. */
export type AudioCalls = {
  readonly [K in keyof AudioWorker]: (
    ...args: Parameters<AudioWorker[K]>
  ) => Promise<Awaited<ReturnType<AudioWorker[K]>>>;
};

let raw: Worker | null = null;
let remote: AudioCalls | null = null;
let stop: ((reason: Error) => void) | null = null;

/** The worker in which audio is decoded, analysed and rendered. */
export function audioWorker(): AudioCalls {
  if (!remote) {
    raw = new Worker(new URL("./audio.worker.ts", import.meta.url), { type: "module" });
    remote = wrap<AudioWorker>(raw) as unknown as AudioCalls;
  }
  return remote;
}

/** Thrown to whoever waits for a job that was cancelled. */
export class Cancelled extends Error {}

/**
 * Runs a job of the worker with its progress shown. Cancelling ends the worker, which holds nothing that isn't stored; the next
 * call starts another.
 */
export async function withProgress<T>(
  label: string,
  run: (worker: AudioCalls, progress: (share: number) => void) => Promise<T>,
): Promise<T> {
  const cancelled = new Promise<never>((_, reject) => {
    stop = reject;
  });
  const cancel = () => {
    raw?.terminate();
    raw = null;
    remote = null;
    stop?.(new Cancelled("cancelled"));
  };
  const show = (share: number) => setJob({ label, share, cancel });
  show(0);
  try {
    return await Promise.race([run(audioWorker(), proxy(show)), cancelled]);
  } finally {
    setJob(null);
  }
}
