import { wrap } from "comlink";
import { createRoot } from "react-dom/client";
import { EngineHost } from "../audio/engine-host";
import { type Calls, WorkerCalls } from "../workers/worker-calls";
import { bytesOfBase64 } from "./base64";
import { Player } from "./Player";
import type { PlayerWorker } from "./player.worker";

const text = (id: string): string => document.getElementById(id)?.textContent?.trim() ?? "";

let fail = (_error: Error): void => {};
const failed = new Promise<never>((_, reject) => {
  fail = reject;
});

const calls = new WorkerCalls<PlayerWorker>(() => {
  const code = new Blob([bytesOfBase64(text("vise-worker"))], { type: "text/javascript" });
  const worker = new Worker(URL.createObjectURL(code));
  worker.onerror = (event) => fail(new Error(event.message || "this browser starts no worker for it"));
  return { remote: wrap<PlayerWorker>(worker) as unknown as Calls<PlayerWorker>, end: () => worker.terminate() };
});
const worker = calls.of(null);

let rules: Promise<WebAssembly.Module> | null = null;
const rulesModule = () => {
  rules ??= WebAssembly.compile(bytesOfBase64(text("vise-rules")));
  return rules;
};

async function start(place: HTMLElement): Promise<void> {
  const root = createRoot(place);
  root.render(<p className="opening">Opening …</p>);
  try {
    const instrument = await Promise.race([worker.open(text("vise-package")), failed]);
    const host = new EngineHost({
      // From a disk, a worklet loads from a data: address but not from a blob: one.
      worklet: `data:text/javascript;base64,${text("vise-worklet")}`,
      rules: rulesModule,
      loader: worker,
      told: () => {},
    });
    root.render(
      <Player
        instrument={instrument}
        host={host}
        bounce={async (played, phrase, tempo) => worker.bounce(played, phrase, tempo, await rulesModule())}
      />,
    );
  } catch (error) {
    root.render(
      <p className="failure">
        This instrument can't be opened: {error instanceof Error ? error.message : String(error)}. Ask its maker for a
        fresh copy.
      </p>,
    );
  }
}

const place = document.getElementById("player");
if (!place) throw new Error("the page has no place for the player");
void start(place);
