import rulesUrl from "@jitl/quickjs-wasmfile-release-sync/wasm?url";
import workletUrl from "../audio/engine.worklet.ts?worklet";
import { EngineHost } from "../audio/engine-host";
import { loaderWorker } from "../workers/loader-worker";
import { tell } from "./notices";
import { session } from "./session";

let rules: Promise<WebAssembly.Module> | null = null;

/** The script interpreter, compiled once. */
export const rulesModule = (): Promise<WebAssembly.Module> => {
  rules ??= WebAssembly.compileStreaming(fetch(rulesUrl));
  return rules;
};

/** The editor's engine: it plays whatever instrument is open. */
export const engine = new EngineHost({
  worklet: workletUrl,
  rules: rulesModule,
  loader: loaderWorker,
  told: (text) => tell("error", text),
});

// What is looked at is heard: the present state, or a version in its place.
session.store.subscribe(({ history, looking }) => {
  const shown = looking?.instrument ?? history?.present;
  if (shown) engine.show(shown);
});
