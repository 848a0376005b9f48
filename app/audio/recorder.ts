import { createStore } from "zustand/vanilla";
import { decibelsOf } from "../../core/audio";
import type { Slice } from "../../core/instrument";
import {
  beginRecording,
  forgetRecording,
  type RecordingInfo,
  readRecording,
  writeChunk,
  writeFacts,
} from "../storage/recordings";
import { type BenchMic, benchMic } from "./bench-mic";
import captureUrl from "./capture.worklet.ts?worklet";
import { chooseChannels } from "./channel-choice";
import { FlowWatch } from "./flow-watch";
import { GapWatch } from "./gap-watch";
import { deliveredBy, type InputChoice, type OpenInput, openDevice, reasonOf } from "./open-input";

export const BENCH = "bench";

export interface RecorderView {
  readonly choice: InputChoice;
  /** Whether the input is open. */
  readonly open: boolean;
  readonly opening: boolean;
  readonly failure: string | null;
  readonly rate: number;
  readonly channels: number;
  /** Peak of the last chunk and held peak in dBFS. */
  readonly level: number;
  readonly held: number;
  /** Samples at full scale since the input was opened or the light was reset. */
  readonly clipped: number;
  readonly monitor: boolean;
  readonly recording: RecordingInfo | null;
  readonly seconds: number;
  /** Places where sound was lost because the computer was late. */
  readonly gaps: number;
}

/** What a finished recording holds. */
export interface Recorded {
  readonly info: RecordingInfo;
  readonly channels: Float32Array<ArrayBuffer>[];
  /** Frames at which a run of full-scale samples began. */
  readonly clips: readonly number[];
  /** Frames at which sound was lost because the computer was late. */
  readonly gaps: readonly number[];
}

const CLOSED: RecorderView = {
  choice: { device: BENCH, channels: "stereo", rate: 44100 },
  open: false,
  opening: false,
  failure: null,
  rate: 0,
  channels: 0,
  level: -120,
  held: -120,
  clipped: 0,
  monitor: false,
  recording: null,
  seconds: 0,
  gaps: 0,
};

/** Full scale of the inputs that clip: one step of 16 bits below 1. */
const FULL = 32767 / 32768;
/** Most places of clipping that a take remembers. */
const MOST_CLIPS = 500;

/** Captures an input without any voice processing, meters it, and stores what is recorded as it comes. */
export class Recorder {
  readonly store = createStore<RecorderView>(() => CLOSED);
  /** The stand-in, while it is open. */
  bench: BenchMic | null = null;
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private stream: MediaStream | null = null;
  private speaker: GainNode | null = null;
  private count = 0;
  private frames = 0;
  private clips: number[] = [];
  private clipping = false;
  private watch = new GapWatch(0, 44100);
  private flow = new FlowWatch(441);
  /** Frames near which sound was lost without a trace in what came. */
  private lost: number[] = [];
  private slices: readonly Slice[] = [];
  private writing: Promise<void> = Promise.resolve();
  private flushed: (() => void) | null = null;
  /** What was recorded since the page was opened. */
  private readonly own = new Set<string>();
  private readonly listeners = new Set<(chunk: readonly Float32Array[]) => void>();

  /** Calls back with each chunk that is recorded, from the first one on; returns how to stop. */
  subscribe(listener: (chunk: readonly Float32Array[]) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Opens an input for metering and recording. */
  async open(change: Partial<InputChoice> = {}): Promise<void> {
    const choice = { ...this.store.getState().choice, ...change };
    await this.close();
    this.store.setState({ ...CLOSED, choice, opening: true });
    try {
      const { stream, context } = choice.device === BENCH ? await this.openBench(choice) : await openDevice(choice);
      this.stream = stream;
      this.context = context;
      await context.audioWorklet.addModule(captureUrl);
      const node = new AudioWorkletNode(context, "vise-capture", { numberOfOutputs: 0 });
      node.port.onmessage = (event: MessageEvent<Float32Array[] | null>) => this.take(event.data);
      const source = context.createMediaStreamSource(stream);
      source.connect(node);
      this.speaker = new GainNode(context, { gain: 0 });
      source.connect(this.speaker).connect(context.destination);
      this.node = node;
      this.store.setState({ open: true, opening: false, rate: context.sampleRate });
    } catch (error) {
      await this.close();
      this.store.setState({ failure: reasonOf(error) });
    }
  }

  private async openBench({ rate }: InputChoice): Promise<OpenInput> {
    const context = new AudioContext({ sampleRate: rate });
    this.context = context;
    this.bench = await benchMic(context);
    return { stream: this.bench.stream, context };
  }

  /** Chooses another input or other channels; an open input is opened anew. */
  choose(change: Partial<InputChoice>): void {
    const { choice, open } = this.store.getState();
    this.store.setState({ choice: { ...choice, ...change } });
    if (open) void this.open(change);
  }

  /** Whether the input is heard. */
  setMonitor(on: boolean): void {
    this.store.setState({ monitor: on });
    if (this.speaker) this.speaker.gain.value = on ? 1 : 0;
  }

  private take(raw: Float32Array[] | null): void {
    if (!raw) {
      this.flushed?.();
      return;
    }
    const { held, recording, seconds, rate, clipped: before, choice } = this.store.getState();
    const chunk = chooseChannels(raw, choice.channels);
    const frames = chunk[0]?.length ?? 0;
    const clips = this.clips.length;
    let peak = 0;
    let clipped = 0;
    for (let i = 0; i < frames; i++) {
      let full = false;
      for (const channel of chunk) {
        const a = Math.abs(channel[i] as number);
        if (a > peak) peak = a;
        if (a >= FULL) {
          clipped++;
          full = true;
        }
      }
      if (full && !this.clipping && this.clips.length < MOST_CLIPS) this.clips.push(this.frames + i);
      this.clipping = full;
    }
    const level = Math.max(-120, decibelsOf(peak));
    this.store.setState({ level, held: Math.max(held, level), clipped: before + clipped, channels: chunk.length });
    if (!recording) return;
    const number = this.count++;
    this.frames += frames;
    const gaps = this.gaps.length;
    this.watch.take(raw, this.underruns());
    const delivered = deliveredBy(this.stream, rate);
    const lostAt = delivered === null ? null : this.flow.take(this.frames, this.watch.inserted, delivered);
    if (lostAt !== null) this.lost.push(lostAt);
    this.store.setState({ seconds: seconds + frames / rate, gaps: this.gaps.length });
    this.write(() => writeChunk(recording.id, number, chunk));
    if (this.gaps.length > gaps || this.clips.length > clips) this.writeFacts(recording.id);
    for (const listener of this.listeners) listener(chunk);
  }

  /** What the recording is known to hold by now is stored with it, so that a crash loses none of it. */
  sort(slices: readonly Slice[]): void {
    this.slices = slices;
    const { recording } = this.store.getState();
    if (recording) this.writeFacts(recording.id);
  }

  private writeFacts(id: string): void {
    const facts = { clips: [...this.clips], gaps: this.gaps, slices: this.slices };
    this.write(() => writeFacts(id, facts));
  }

  private write(what: () => Promise<void>): void {
    this.writing = this.writing
      .then(what)
      .catch((error: unknown) => this.store.setState({ failure: `the recording can't be stored: ${reasonOf(error)}` }));
  }

  /** Begins to store what comes in. */
  async record(id: string, name: string): Promise<void> {
    const { rate, channels, choice } = this.store.getState();
    const source = choice.device === BENCH ? "bench mic" : "microphone";
    const info = { id, name, rate, channels: Math.max(1, channels), started: Date.now(), source };
    this.own.add(id);
    await beginRecording(info);
    this.count = 0;
    this.frames = 0;
    this.clips = [];
    this.slices = [];
    this.clipping = false;
    this.watch = new GapWatch(this.underruns(), rate);
    this.flow = new FlowWatch(Math.round(rate / 100));
    this.lost = [];
    this.store.setState({ recording: info, seconds: 0, gaps: 0, held: -120, clipped: 0 });
  }

  /** How often the browser's audio was late; 0 where it doesn't count. */
  private underruns(): number {
    const context: (AudioContext & { readonly playbackStats?: { readonly underrunEvents: number } }) | null =
      this.context;
    return context?.playbackStats?.underrunEvents ?? 0;
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
    const recorded = { info, channels: await readRecording(info), clips: this.clips, gaps: this.gaps };
    await this.close();
    return recorded;
  }

  /** Frames of the present recording at which sound was lost. */
  get gaps(): readonly number[] {
    return [...this.watch.gaps, ...this.lost].sort((a, b) => a - b);
  }

  /** Whether a recording began in this page: then it is not one that was cut short. */
  began(id: string): boolean {
    return this.own.has(id);
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
    this.speaker = null;
    this.bench = null;
    this.store.setState({ open: false, opening: false, level: -120, monitor: false });
  }
}

export const recorder = new Recorder();
