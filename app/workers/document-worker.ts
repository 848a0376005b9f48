import { type Remote, wrap } from "comlink";
import type { DocumentWorker } from "./document.worker";

export type { Failed } from "./document.worker";

let remote: Remote<DocumentWorker> | null = null;

/** The worker in which stored instruments are read and checked. */
export function documentWorker(): Remote<DocumentWorker> {
  remote ??= wrap<DocumentWorker>(new Worker(new URL("./document.worker.ts", import.meta.url), { type: "module" }));
  return remote;
}
