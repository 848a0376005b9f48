import rulesUrl from "@jitl/quickjs-wasmfile-release-sync/wasm?url";
import { readWav } from "../../core/formats";
import { session } from "../state/session";
import { audioBytes } from "../storage/audio-files";
import workletUrl from "./engine.worklet.ts?worklet";
import { EngineHost } from "./engine-host";

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
  audio: async (sha) => {
    const bytes = await audioBytes(sha);
    return bytes ? readWav(bytes, { salvage: true }).audio : null;
  },
});

// What is looked at is heard: the present state, or a version in its place.
session.store.subscribe(({ history, looking }) => {
  const shown = looking?.instrument ?? history?.present;
  if (shown) engine.show(shown);
});
