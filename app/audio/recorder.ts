import { createStore } from "zustand/vanilla";
import { decibelsOf } from "../../core/audio";
import type { Slice } from "../../core/instrument";
import { type Held, takeLock } from "../storage/instrument-locks";
import {
  beginRecording,
  forgetRecording,
  type RecordingFacts,
  type RecordingInfo,
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

interface RecorderView {
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
  /** Whether a recording is about to begin or to end: until then nothing else may. */
  readonly busy: boolean;
  readonly seconds: number;
  /** Places where sound was lost because the computer was late. */
  readonly gaps: number;
}

/** A recording that has ended; its sound is stored under its id. */
export interface Recorded {
  readonly info: RecordingInfo;
  readonly facts: RecordingFacts;
}

/** The name of the lock that a page holds on what it records, so that no other takes it for one that was cut short. */
export const recordingLock = (id: string): string => `vise-recording-${id}`;

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
  busy: false,
  seconds: 0,
  gaps: 0,
};

/** Full scale of the inputs that clip: one step of 16 bits below 1. */
const FULL = 32767 / 32768;
/** Most places of clipping that a take remembers; full-scale samples nearer to one another than so many seconds are one place. */
const MOST_CLIPS = 1000;
const CLIP_APART = 0.05;
/** Milliseconds that the input has for giving its last samples, and the storage for writing them. */
const FLUSH_WITHIN = 2000;
const STORED_WITHIN = 15000;

const within = (what: Promise<void>, milliseconds: number): Promise<void> =>
  new Promise((resolve) => {
    const late = setTimeout(resolve, milliseconds);
    void what.finally(() => {
      clearTimeout(late);
      resolve();
    });
  });

/** Captures an input without any voice processing, meters it, and stores what is recorded as it comes. */
class Recorder {
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
  /** The last frame at full scale. */
  private clippedAt = Number.NEGATIVE_INFINITY;
  private watch = new GapWatch(0, 44100);
  private flow = new FlowWatch(441);
  /** Frames near which sound was lost without a trace in what came. */
  private lost: number[] = [];
  private slices: readonly Slice[] = [];
  private writing: Promise<void> = Promise.resolve();
  private flushed: (() => void) | null = null;
  private lock: Held | null = null;
  /** Opening, closing, beginning and ending follow one another. */
  private line: Promise<unknown> = Promise.resolve();
  private readonly listeners = new Set<(chunk: readonly Float32Array[]) => void>();

  /** Calls back with each chunk that is recorded, from the first one on; returns how to stop. */
  subscribe(listener: (chunk: readonly Float32Array[]) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  private queue<T>(what: () => Promise<T>): Promise<T> {
    const done = this.line.then(what);
    this.line = done.catch(() => {});
    return done;
  }

  /** Opens an input for metering and recording; never while something is recorded. */
  open(): Promise<void> {
    return this.queue(() => this.openNow());
  }

  private async openNow(): Promise<void> {
    const { choice, recording } = this.store.getState();
    if (recording) return;
    await this.closeNow();
    this.store.setState({ ...CLOSED, choice, busy: this.store.getState().busy, opening: true });
    try {
      const { stream, context } = choice.device === BENCH ? await this.openBench(choice) : await openDevice(choice);
      this.stream = stream;
      this.context = context;
      for (const track of stream.getAudioTracks())
        track.onended = () => this.interrupted("the input was taken away; what came in until then is kept");
      context.onstatechange = () => {
        if (context === this.context && context.state !== "running" && this.store.getState().recording)
          this.interrupted("the browser has stopped the input; what came in until then is kept");
      };
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
      await this.closeNow();
      this.store.setState({ failure: reasonOf(error) });
    }
  }

  private interrupted(why: string): void {
    if (this.store.getState().open) this.store.setState({ failure: why });
  }

  private async openBench({ rate }: InputChoice): Promise<OpenInput> {
    const context = new AudioContext({ sampleRate: rate });
    this.context = context;
    this.bench = await benchMic(context);
    return { stream: this.bench.stream, context };
  }

  /** Chooses another input or other channels; an open input is opened anew. False, and without effect, while something is recorded. */
  choose(change: Partial<InputChoice>): boolean {
    const { choice, open, opening, recording, busy } = this.store.getState();
    if (recording || busy) return false;
    this.store.setState({ choice: { ...choice, ...change } });
    if (open || opening) void this.open();
    return true;
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
      if (!full) continue;
      const at = this.frames + i;
      if (at - this.clippedAt > CLIP_APART * rate && this.clips.length < MOST_CLIPS) this.clips.push(at);
      this.clippedAt = at;
    }
    const level = Math.max(-120, decibelsOf(peak));
    this.store.setState({ level, held: Math.max(held, level), clipped: before + clipped, channels: chunk.length });
    if (!recording) return;
    const number = this.count++;
    const from = this.frames;
    this.frames += frames;
    const gaps = this.gaps.length;
    this.watch.take(raw, this.underruns());
    const delivered = deliveredBy(this.stream, rate);
    const lostAt = delivered === null ? null : this.flow.take(this.frames, this.watch.inserted, delivered);
    if (lostAt !== null) this.lost.push(lostAt);
    this.store.setState({ seconds: seconds + frames / rate, gaps: this.gaps.length });
    this.write(() => writeChunk(recording.id, number, { from, channels: chunk }));
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

  /**
   * Opens the input where it isn't yet, and begins to store what comes in; `ready` is called just before the first of it. False where the input can't
   * be opened, or where something is recorded, begun or ended already.
   */
  async record(id: string, name: string, instrument: string, ready: () => void = () => {}): Promise<boolean> {
    if (this.store.getState().recording || this.store.getState().busy) return false;
    this.store.setState({ busy: true });
    try {
      return await this.queue(async () => {
        if (!this.store.getState().open) await this.openNow();
        if (!this.store.getState().open) return false;
        ready();
        await this.begin(id, name, instrument);
        return true;
      });
    } catch (error) {
      this.store.setState({ failure: `nothing is recorded: ${reasonOf(error)}` });
      return false;
    } finally {
      this.store.setState({ busy: false });
    }
  }

  private async begin(id: string, name: string, instrument: string): Promise<void> {
    const { rate, channels, choice } = this.store.getState();
    const source = choice.device === BENCH ? "bench mic" : "microphone";
    const info = { id, name, rate, channels: Math.max(1, channels), started: Date.now(), source, instrument };
    this.lock = await takeLock(recordingLock(id));
    await beginRecording(info);
    this.count = 0;
    this.frames = 0;
    this.clips = [];
    this.slices = [];
    this.clippedAt = Number.NEGATIVE_INFINITY;
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

  /**
   * Ends the recording; what was stored stays stored until `forget`. Null where nothing is recorded, or where it is being ended already. It waits
   * neither for an input nor for a storage that doesn't answer.
   */
  async stop(): Promise<Recorded | null> {
    if (!this.store.getState().recording || this.store.getState().busy) return null;
    this.store.setState({ busy: true });
    return this.queue(async () => {
      const { recording } = this.store.getState();
      if (!recording) return null;
      const done = new Promise<void>((resolve) => {
        this.flushed = resolve;
      });
      this.node?.port.postMessage("flush");
      await within(done, FLUSH_WITHIN);
      this.store.setState({ recording: null });
      await within(this.writing, STORED_WITHIN);
      const info = { ...recording, channels: this.store.getState().channels };
      const facts = { clips: this.clips, gaps: this.gaps, slices: this.slices };
      await this.closeNow();
      return { info, facts };
    });
  }

  /** What was recorded has been made a take, or not: something else may be recorded now. */
  async done(id: string, forget: boolean): Promise<void> {
    try {
      if (forget) await forgetRecording(id);
    } finally {
      this.lock?.release();
      this.lock = null;
      this.store.setState({ busy: false });
    }
  }

  /** Frames of the present recording at which sound was lost. */
  get gaps(): readonly number[] {
    return [...this.watch.gaps, ...this.lost].sort((a, b) => a - b);
  }

  resetPeak(): void {
    this.store.setState({ held: -120, clipped: 0 });
  }

  /** Closes the input; never while something is recorded. */
  close(): Promise<void> {
    return this.queue(async () => {
      if (!this.store.getState().recording) await this.closeNow();
    });
  }

  private async closeNow(): Promise<void> {
    for (const track of this.stream?.getTracks() ?? []) track.onended = null;
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
