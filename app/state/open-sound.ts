import { isRecording } from "../../core/formats";
import type { OpenedSound } from "../workers/audio/importing";
import type { AudioCalls } from "../workers/audio-worker";
import { tooLong } from "../workers/opened";
import { decodeByBrowser, lengthByBrowser } from "./decode-by-browser";

/** Opens a sound file: what the core doesn't read, the browser may. `path` with its folders; `asSample`: however long it is. */
export async function openSound(worker: AudioCalls, file: File, path: string, asSample = false): Promise<OpenedSound> {
  const own = await worker.openSound(file, path, asSample);
  if (own.ok || own.code !== "not-this-format") return own;
  const seconds = await lengthByBrowser(file);
  const long = seconds === null ? null : tooLong(seconds);
  if (long && !long.ok) return long;
  const decoded = await decodeByBrowser(file);
  if (!decoded) return own;
  // What is so long is a recording, whatever is in it.
  if (!asSample && seconds !== null && isRecording(seconds, 0)) {
    return { ok: true, kind: "recording", opened: await worker.store(decoded.channels, decoded.rate, 32) };
  }
  return worker.storeSample(decoded.channels, decoded.rate, path);
}
