import rulesUrl from "@jitl/quickjs-wasmfile-release-sync/wasm?url";
import { createStore } from "zustand/vanilla";
import type { Instrument } from "../../core/instrument";
import workletUrl from "../audio/engine.worklet.ts?worklet";
import { EngineHost } from "../audio/engine-host";
import { loaderWorker } from "../workers/loader-worker";
import { foundAudio } from "./found-audio";
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
  kernels: async () => (await import("../audio/kernels")).compileKernels(),
  loader: loaderWorker,
  told: (text) => tell("error", text),
});

/** What is heard in place of the instrument that is shown, where something is compared or tried; each hears what the one before makes of it. */
const heard: ((instrument: Instrument) => Instrument)[] = [];

/** The instrument as it sounds now; null before one is open. */
export const heardNow = createStore<{ readonly instrument: Instrument | null }>(() => ({ instrument: null }));

/** Shows the engine what is looked at: the present state, or a version in its place. */
export function showEngine(): void {
  const { history, looking } = session.store.getState();
  const shown = looking?.instrument ?? history?.present;
  if (!shown) return;
  const instrument = heard.reduce((given, change) => change(given), shown);
  engine.show(instrument);
  heardNow.setState({ instrument });
}

/** Lets something else be heard than what is shown, from now on; call `showEngine` when that has changed. */
export const hearAs = (change: (instrument: Instrument) => Instrument): void => {
  heard.push(change);
};

session.store.subscribe(showEngine);
foundAudio.subscribe(() => engine.loadAgain());
