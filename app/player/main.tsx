import { wrap } from "comlink";
import { createRoot } from "react-dom/client";
import { compileKernels } from "../../core/dsp";
import type { Instrument } from "../../core/instrument";
import { EngineHost } from "../audio/engine-host";
import { reasonOf } from "../basis/reason-of";
import type { Calls } from "../basis/worker-calls";
import { bytesOfBase64 } from "./base64";
import { Player } from "./Player";
import type { PlayerWorker } from "./player.worker";

const text = (id: string): string => document.getElementById(id)?.textContent?.trim() ?? "";

interface PlayerCalls extends Calls<PlayerWorker> {
  /** Ends the worker. */
  readonly end: () => void;
}

/** Begins a worker; `failed` is told when it can't be begun. */
function beginWorker(failed: (error: Error) => void): PlayerCalls {
  const code = new Blob([bytesOfBase64(text("vise-worker"))], { type: "text/javascript" });
  const worker = new Worker(URL.createObjectURL(code));
  worker.onerror = (event) => failed(new Error(event.message || "this browser starts no worker for it"));
  const remote = wrap<PlayerWorker>(worker) as unknown as Calls<PlayerWorker>;
  return new Proxy(remote as PlayerCalls, {
    get: (calls, name) => (name === "end" ? () => worker.terminate() : calls[name as keyof PlayerCalls]),
  });
}

/** Opens the package in a worker of its own. */
function openPackage(): Promise<{ worker: PlayerCalls; instrument: Instrument }> {
  return new Promise((resolve, reject) => {
    const worker = beginWorker(reject);
    worker.open(text("vise-package")).then((instrument) => resolve({ worker, instrument }), reject);
  });
}

/** Saves a phrase beside the worker that loads samples, so that keys sound meanwhile. */
async function bounce(played: Instrument, phrase: string): Promise<Blob> {
  const { worker } = await openPackage();
  try {
    return await worker.bounce(played, phrase, await rulesModule());
  } finally {
    worker.end();
  }
}

let rules: Promise<WebAssembly.Module> | null = null;
const rulesModule = () => {
  rules ??= WebAssembly.compile(bytesOfBase64(text("vise-rules")));
  return rules;
};

async function start(place: HTMLElement): Promise<void> {
  const root = createRoot(place);
  root.render(<p className="opening">Opening …</p>);
  try {
    const { worker, instrument } = await openPackage();
    const host = new EngineHost({
      // From a disk, a worklet loads from a data: address but not from a blob: one.
      worklet: `data:text/javascript;base64,${text("vise-worklet")}`,
      rules: rulesModule,
      kernels: async () => compileKernels(),
      loader: worker,
      told: () => {},
    });
    root.render(<Player instrument={instrument} host={host} bounce={bounce} />);
  } catch (error) {
    root.render(
      <p className="failure">This instrument can't be opened: {reasonOf(error)}. Ask its maker for a fresh copy.</p>,
    );
  }
}

const place = document.getElementById("player");
if (!place) throw new Error("the page has no place for the player");
void start(place);
