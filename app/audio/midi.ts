import { createStore } from "zustand/vanilla";
import { engine } from "./engine";

/** What Web MIDI has: the names of its inputs, or why there are none. */
export interface MidiView {
  readonly inputs: readonly string[];
  readonly state: "off" | "on" | "unsupported" | "refused";
  /** The last message, as bytes in hexadecimal, for the curious. */
  readonly last: string;
}

export const midiStore = createStore<MidiView>(() => ({ inputs: [], state: "off", last: "" }));

/** Takes MIDI bytes from wherever they come: the one path of real devices and of the little controller. */
export function receiveMidi(bytes: Uint8Array): void {
  let status = 0;
  for (let i = 0; i < bytes.length; ) {
    const byte = bytes[i] ?? 0;
    if (byte >= 0xf8) {
      i++;
      continue;
    }
    if (byte >= 0x80) {
      status = byte;
      i++;
    }
    if (status < 0x80 || status >= 0xf0) {
      i++;
      continue;
    }
    const kind = status & 0xf0;
    const length = kind === 0xc0 || kind === 0xd0 ? 1 : 2;
    if (i + length > bytes.length) break;
    engine.midi(status, (bytes[i] ?? 0) & 127, length === 2 ? (bytes[i + 1] ?? 0) & 127 : 0);
    i += length;
  }
  midiStore.setState({ last: Array.from(bytes.subarray(0, 6), (b) => b.toString(16).padStart(2, "0")).join(" ") });
}

/** Listens to every MIDI input, also those plugged in later. */
export async function openMidi(): Promise<void> {
  if (!("requestMIDIAccess" in navigator)) {
    midiStore.setState({ state: "unsupported" });
    return;
  }
  try {
    const access = await navigator.requestMIDIAccess();
    const listen = () => {
      const inputs = [...access.inputs.values()];
      for (const input of inputs) input.onmidimessage = (event) => event.data && receiveMidi(event.data);
      midiStore.setState({ state: "on", inputs: inputs.map((i) => i.name ?? "unnamed input") });
    };
    access.onstatechange = listen;
    listen();
  } catch {
    midiStore.setState({ state: "refused" });
  }
}
