import { createStore } from "zustand/vanilla";
import { midiMessages } from "../audio/midi-messages";
import { engine } from "./engine";
import { strengthOf } from "./strength";

/** What Web MIDI has: the names of its inputs, or why there are none. */
interface MidiView {
  readonly inputs: readonly string[];
  readonly state: "off" | "on" | "unsupported" | "refused";
  /** The last message, as bytes in hexadecimal, for the curious. */
  readonly last: string;
}

export const midiStore = createStore<MidiView>(() => ({ inputs: [], state: "off", last: "" }));

/** Takes MIDI bytes from wherever they come: the one path of real devices and of the little controller. */
export function receiveMidi(bytes: Uint8Array): void {
  for (const { status, data1, data2 } of midiMessages(bytes)) {
    const struck = (status & 0xf0) === 0x90 && data2 > 0;
    engine.midi(status, data1, struck ? Math.round(strengthOf(data2)) : data2);
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
