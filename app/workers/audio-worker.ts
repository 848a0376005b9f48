import { wrap } from "comlink";
import { type Calls, WorkerCalls, workerOf } from "../basis/worker-calls";
import type { AudioWorker } from "./audio.worker";

/** The worker's calls as the page sees them: each answers with a promise. */
export type AudioCalls = Calls<AudioWorker>;

const begin = workerOf<AudioWorker>(
  () => new Worker(new URL("./audio.worker.ts", import.meta.url), { type: "module" }),
  wrap,
);

/** The worker in which audio is decoded, analysed and rendered. */
export const audioCalls = new WorkerCalls<AudioWorker>(begin);

/** One more such worker, for work that is shared out; who asks for it ends it. */
export const furtherAudioCalls = (): WorkerCalls<AudioWorker> => new WorkerCalls<AudioWorker>(begin);

export { Cancelled } from "../basis/worker-calls";

const free = audioCalls.of(null);

/** Calls of the worker that belong to no job. */
export const audioWorker = (): AudioCalls => free;
