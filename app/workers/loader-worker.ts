import { wrap } from "comlink";
import type { SampleLoader } from "../audio/sample-loader";
import { WorkerCalls, workerOf } from "../basis/worker-calls";

/** The worker in which samples are made ready for the audio thread. */
const calls = new WorkerCalls<SampleLoader>(
  workerOf(() => new Worker(new URL("./loader.worker.ts", import.meta.url), { type: "module" }), wrap),
);

export const loaderWorker = calls.of(null);
