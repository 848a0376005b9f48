import "../audio/text-decoder";
import { createRoot } from "react-dom/client";
import { resample } from "../../core/audio";
import { readPackage, readWav } from "../../core/formats";
import { EngineHost } from "../audio/engine-host";
import { Player } from "./Player";

const text = (id: string): string => document.getElementById(id)?.textContent?.trim() ?? "";

function bytesOf(base64: string): Uint8Array<ArrayBuffer> {
  const raw = atob(base64);
  const bytes = new Uint8Array(raw.length);
  for (let i = 0; i < raw.length; i++) bytes[i] = raw.charCodeAt(i);
  return bytes;
}

const place = document.getElementById("player");
if (!place) throw new Error("the page has no place for the player");
const root = createRoot(place);
try {
  const { instrument, samples } = readPackage(bytesOf(text("vise-package")));
  const audioOf = async (sha: string, rate: number | null = null) => {
    const bytes = samples.get(sha);
    const audio = bytes ? readWav(bytes, { salvage: true }).audio : null;
    return audio && rate !== null ? resample(audio, rate) : audio;
  };
  let rules: Promise<WebAssembly.Module> | null = null;
  const rulesModule = () => {
    rules ??= WebAssembly.compile(bytesOf(text("vise-rules")));
    return rules;
  };
  const host = new EngineHost({
    // From a disk, a worklet loads from a data: address but not from a blob: one.
    worklet: `data:text/javascript;base64,${text("vise-worklet")}`,
    rules: rulesModule,
    audio: audioOf,
    resampled: async (audio, rate) => resample(audio, rate),
    told: () => {},
  });
  root.render(<Player instrument={instrument} host={host} audioOf={audioOf} rulesModule={rulesModule} />);
} catch (error) {
  root.render(
    <p className="failure">
      This instrument can't be opened: {error instanceof Error ? error.message : String(error)}. Ask its maker for a
      fresh copy.
    </p>,
  );
}
