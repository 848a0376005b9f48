import { wrap } from "comlink";
import { type Calls, WorkerCalls, workerOf } from "../basis/worker-calls";
import type { AudioWorker } from "./audio.worker";

/** The worker's calls as the page sees them: each answers with a promise. */
export type AudioCalls = Calls<AudioWorker>;

/** The worker in which audio is decoded, analysed and rendered. */
export const audioCalls = new WorkerCalls<AudioWorker>(
  workerOf(() => new Worker(new URL("./audio.worker.ts", import.meta.url), { type: "module" }), wrap),
);

export { Cancelled } from "../basis/worker-calls";

const free = audioCalls.of(null);

/** Calls of the worker that belong to no job. */
export const audioWorker = (): AudioCalls => free;
