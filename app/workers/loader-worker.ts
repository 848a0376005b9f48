import { wrap } from "comlink";
import type { SampleLoader } from "../audio/sample-loader";
import { type Calls, WorkerCalls } from "../basis/worker-calls";

/** The worker in which samples are made ready for the audio thread. */
const calls = new WorkerCalls<SampleLoader>(() => {
  const worker = new Worker(new URL("./loader.worker.ts", import.meta.url), { type: "module" });
  return { remote: wrap<SampleLoader>(worker) as unknown as Calls<SampleLoader>, end: () => worker.terminate() };
});

export const loaderWorker = calls.of(null);
