import { createStore } from "zustand/vanilla";
import { decibelsOf } from "../../core/audio";
import { beginRecording, forgetRecording, type RecordingInfo, readRecording, writeChunk } from "../storage/recordings";
import { benchMic } from "./bench-mic";
import captureUrl from "./capture.worklet.ts?worklet";

export type InputKind = "microphone" | "bench";

export interface RecorderView {
  readonly input: InputKind | null;
  readonly opening: boolean;
  readonly failure: string | null;
  readonly rate: number;
  readonly channels: number;
  /** Peak of the last chunk and held peak in dBFS. */
  readonly level: number;
  readonly held: number;
  /** Samples at full scale since the input was opened or the light was reset. */
  readonly clipped: number;
  readonly recording: RecordingInfo | null;
  readonly seconds: number;
}

/** What a finished recording holds. */
export interface Recorded {
  readonly info: RecordingInfo;
  readonly channels: Float32Array<ArrayBuffer>[];
}

const CLOSED: RecorderView = {
  input: null,
  opening: false,
  failure: null,
  rate: 0,
  channels: 0,
  level: -120,
  held: -120,
  clipped: 0,
  recording: null,
  seconds: 0,
};

/** Full scale of the inputs that clip: one step of 16 bits below 1. */
const FULL = 32767 / 32768;

/** Captures an input without any voice processing, meters it, and stores what is recorded as it comes. */
export class Recorder {
  readonly store = createStore<RecorderView>(() => CLOSED);
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private stream: MediaStream | null = null;
  private count = 0;
  private writing: Promise<void> = Promise.resolve();
  private flushed: (() => void) | null = null;

  /** Opens an input for metering and recording. */
  async open(input: InputKind): Promise<void> {
    await this.close();
    this.store.setState({ ...CLOSED, opening: true });
    try {
      const stream =
        input === "bench"
          ? await benchMic()
          : await navigator.mediaDevices.getUserMedia({
              audio: {
                echoCancellation: false,
                noiseSuppression: false,
                autoGainControl: false,
                channelCount: { ideal: 2 },
                sampleRate: { ideal: 44100 },
              },
            });
      this.stream = stream;
      const rate = stream.getAudioTracks()[0]?.getSettings().sampleRate ?? 44100;
      const context = new AudioContext({ sampleRate: rate });
      this.context = context;
      await context.audioWorklet.addModule(captureUrl);
      const node = new AudioWorkletNode(context, "vise-capture", { numberOfOutputs: 0 });
      node.port.onmessage = (event: MessageEvent<Float32Array[] | null>) => this.take(event.data);
      context.createMediaStreamSource(stream).connect(node);
      this.node = node;
      this.store.setState({ input, opening: false, rate: context.sampleRate });
    } catch (error) {
      await this.close();
      this.store.setState({ failure: reasonOf(error) });
    }
  }

  private take(chunk: Float32Array[] | null): void {
    if (!chunk) {
      this.flushed?.();
      return;
    }
    let peak = 0;
    let clipped = 0;
    for (const channel of chunk) {
      for (const x of channel) {
        const a = Math.abs(x);
        if (a > peak) peak = a;
        if (a >= FULL) clipped++;
      }
    }
    const { held, recording, seconds, rate, clipped: before } = this.store.getState();
    const level = Math.max(-120, decibelsOf(peak));
    this.store.setState({ level, held: Math.max(held, level), clipped: before + clipped, channels: chunk.length });
    if (!recording) return;
    const number = this.count++;
    this.store.setState({ seconds: seconds + (chunk[0]?.length ?? 0) / rate });
    this.writing = this.writing
      .then(() => writeChunk(recording.id, number, chunk))
      .catch((error: unknown) => this.store.setState({ failure: `the recording can't be stored: ${reasonOf(error)}` }));
  }

  /** Begins to store what comes in. */
  async record(id: string, name: string): Promise<void> {
    const { rate, channels } = this.store.getState();
    const info = { id, name, rate, channels: Math.max(1, channels), started: Date.now() };
    await beginRecording(info);
    this.count = 0;
    this.store.setState({ recording: info, seconds: 0, held: -120, clipped: 0 });
  }

  /** Ends the recording and gives back all that was stored; it stays stored until `forget`. */
  async stop(): Promise<Recorded | null> {
    const { recording } = this.store.getState();
    if (!recording || !this.node) return null;
    const done = new Promise<void>((resolve) => {
      this.flushed = resolve;
    });
    this.node.port.postMessage("flush");
    await done;
    this.store.setState({ recording: null });
    await this.writing;
    const { channels } = this.store.getState();
    const info = { ...recording, channels };
    const recorded = { info, channels: await readRecording(info) };
    await this.close();
    return recorded;
  }

  forget(id: string): Promise<void> {
    return forgetRecording(id);
  }

  resetPeak(): void {
    this.store.setState({ held: -120, clipped: 0 });
  }

  async close(): Promise<void> {
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    await this.context?.close();
    this.context = null;
    this.node = null;
    this.stream = null;
    this.store.setState({ input: null, opening: false, level: -120 });
  }
}

function reasonOf(error: unknown): string {
  if (error instanceof DOMException && error.name === "NotAllowedError")
    return "the browser was not allowed to use the microphone";
  if (error instanceof DOMException && error.name === "NotFoundError")
    return "no microphone was found; the bench mic is always there";
  return error instanceof Error ? error.message : String(error);
}

export const recorder = new Recorder();
