import { wrap } from "comlink";
import { type Calls, WorkerCalls, workerOf } from "../basis/worker-calls";
import type { DocumentWorker } from "./document.worker";

export type { Failed } from "./document.worker";

const calls = new WorkerCalls<DocumentWorker>(
  workerOf(() => new Worker(new URL("./document.worker.ts", import.meta.url), { type: "module" }), wrap),
).of(null);

/** The worker in which stored instruments are read and checked. */
export const documentWorker = (): Calls<DocumentWorker> => calls;
