import { createStore } from "zustand/vanilla";
import { type Audio, resample } from "../../core/audio";
import { compileKernels } from "../../core/dsp";
import { baseValues, compile, type EngineStatus, type NoteTrace, sameStructure } from "../../core/engine";
import type { Instrument } from "../../core/instrument";
import type { RuleProblem } from "../../core/rules";
import type { EngineSetup, FromEngine, TimedMidi, ToEngine } from "./protocol";

/** Where the engine's code and the interpreter come from; the editor fetches them, the player carries them. */
export interface EngineParts {
  /** An address that `addModule` takes. */
  readonly worklet: string;
  readonly rules: () => Promise<WebAssembly.Module>;
  /** The decoded audio of a sample; null when it is missing. */
  readonly audio: (sha: string) => Promise<Audio | null>;
}

/** What the page knows of the engine. */
export interface EngineView {
  readonly state: "off" | "starting" | "running" | "failed";
  readonly failure: string | null;
  readonly status: EngineStatus;
  readonly load: number;
  readonly cursors: readonly { readonly zone: number; readonly frame: number }[];
  readonly trace: NoteTrace | null;
  /** When the last trace came, by `performance.now()`. */
  readonly tracedAt: number;
  /** Keys that are down, with their velocities. */
  readonly held: ReadonlyMap<number, number>;
  readonly wheel: number;
  readonly bend: number;
  readonly pedal: boolean;
  readonly playing: boolean;
  readonly ruleProblem: RuleProblem | null;
  /** Samples wanted and samples there. */
  readonly loaded: number;
  readonly wanted: number;
}

const SILENCE: EngineStatus = { voices: 0, left: 0, right: 0, limiter: 0, broken: 0, thinned: 0, dropped: 0 };

/** Milliseconds until the engine takes a changed script. */
const RULES_AFTER = 250;
/** A plan that was handed over in so many milliseconds goes at once; others wait a while, at the most so long. */
const LIGHT = 6;
const MOST_WAIT = 400;

/** Whether two documents differ in their rules at the most. */
const sameButRules = (a: Instrument, b: Instrument): boolean =>
  a.id === b.id && (Object.keys(b) as (keyof Instrument)[]).every((key) => key === "rules" || a[key] === b[key]);

/** Runs the engine in an audio worklet: keeps its plan and samples as the instrument has them, and passes notes to it. */
export class EngineHost {
  readonly store = createStore<EngineView>(() => ({
    state: "off",
    failure: null,
    status: SILENCE,
    load: 0,
    cursors: [],
    trace: null,
    tracedAt: 0,
    held: new Map(),
    wheel: 0,
    bend: 0,
    pedal: false,
    playing: false,
    ruleProblem: null,
    loaded: 0,
    wanted: 0,
  }));
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private starting: Promise<void> | null = null;
  private instrument: Instrument | null = null;
  private sentInstrument: Instrument | null = null;
  private readonly sent = new Set<string>();
  private loading = 0;
  private waiting: ToEngine[] = [];
  /** Runs while a change waits to be handed over. */
  private due: ReturnType<typeof setTimeout> | null = null;
  /** Milliseconds that handing over the last plan took. */
  private handing = 0;

  constructor(private readonly parts: EngineParts) {}

  /** Makes everything ready but the sound itself, which a browser allows only after a gesture. */
  prepare(): Promise<void> {
    this.starting ??= this.open().catch((error: unknown) => {
      this.starting = null;
      this.store.setState({ state: "failed", failure: error instanceof Error ? error.message : String(error) });
    });
    return this.starting;
  }

  /** Starts the audio; call it from a gesture. Resolves when it runs. */
  async start(): Promise<void> {
    await this.prepare();
    if (this.context?.state === "suspended") await this.context.resume();
  }

  private async open(): Promise<void> {
    this.store.setState({ state: "starting" });
    const context = new AudioContext({ latencyHint: "interactive" });
    this.context = context;
    const [rules] = await Promise.all([this.parts.rules(), context.audioWorklet.addModule(this.parts.worklet)]);
    const processorOptions: EngineSetup = { kernels: compileKernels(), rules };
    const node = new AudioWorkletNode(context, "vise-engine", {
      numberOfInputs: 0,
      outputChannelCount: [2],
      processorOptions,
    });
    node.port.onmessage = (event: MessageEvent<FromEngine>) => this.receive(event.data);
    node.connect(context.destination);
    this.node = node;
    this.store.setState({ state: "running", failure: null });
    if (this.instrument) this.show(this.instrument);
    for (const message of this.waiting) this.send(message);
    this.waiting = [];
  }

  private receive(message: FromEngine): void {
    switch (message.type) {
      case "status":
        this.store.setState({ status: message.status, load: message.load, cursors: message.cursors });
        return;
      case "traces":
        this.store.setState({ trace: message.traces.at(-1) ?? null, tracedAt: performance.now() });
        return;
      case "rule":
        this.store.setState({ ruleProblem: message.problem });
    }
  }

  private send(message: ToEngine): void {
    if (this.node) this.node.port.postMessage(message);
    else if (this.waiting.length < 64) this.waiting.push(message);
  }

  /** Shows the engine an instrument: a new one, or the same after an edit. */
  show(instrument: Instrument): void {
    this.instrument = instrument;
    const before = this.sentInstrument;
    if (!this.node || before === instrument) return;
    if (this.due !== null) {
      // What waits already is the newest when its time comes.
      if (before?.id !== instrument.id) this.settle();
      return;
    }
    const wait = this.waitFor(instrument, before);
    if (wait === 0) this.hand(instrument);
    else this.due = setTimeout(() => this.settle(), wait);
  }

  /** Milliseconds for which a change may wait for others, unless a note is played. */
  private waitFor(instrument: Instrument, before: Instrument | null): number {
    if (before?.id !== instrument.id || sameStructure(before, instrument)) return 0;
    // A script that is being typed is seldom whole.
    if (sameButRules(before, instrument)) return RULES_AFTER;
    // A plan of thousands of zones takes longer to hand over than a drag has from one picture to the next.
    return this.handing > LIGHT ? Math.min(MOST_WAIT, this.handing * 6) : 0;
  }

  /** Hands over at once what waits. */
  private settle(): void {
    if (this.due === null) return;
    clearTimeout(this.due);
    this.due = null;
    if (this.instrument) this.hand(this.instrument);
  }

  private hand(instrument: Instrument): void {
    const before = this.sentInstrument;
    this.sentInstrument = instrument;
    if (before && before.id === instrument.id && sameStructure(before, instrument)) {
      this.send({ type: "base", base: baseValues(instrument) });
      return;
    }
    if (before?.id !== instrument.id) this.silence();
    const began = performance.now();
    this.send({ type: "plan", plan: compile(instrument) });
    this.handing = performance.now() - began;
    void this.loadSamples(instrument);
  }

  private async loadSamples(instrument: Instrument): Promise<void> {
    const turn = ++this.loading;
    const uses = new Map(instrument.samples.map((s) => [s.sha, s.use]));
    const wanted = new Set(uses.keys());
    // The engine forgets samples that the plan no longer lists.
    for (const sha of this.sent) if (!wanted.has(sha)) this.sent.delete(sha);
    this.store.setState({ wanted: wanted.size, loaded: this.sent.size });
    for (const sha of wanted) {
      if (this.sent.has(sha)) continue;
      const stored = await this.parts.audio(sha);
      if (turn !== this.loading) return;
      if (!stored) continue;
      const use = uses.get(sha) ?? "note";
      // Samples are read at any rate, an impulse only at the engine's own.
      const audio = use === "impulse" ? resample(stored, this.context?.sampleRate ?? stored.rate) : stored;
      this.sent.add(sha);
      this.send({ type: "sample", sha, rate: audio.rate, channels: audio.channels, use });
      this.store.setState({ loaded: this.sent.size });
    }
  }

  /** A channel message from a keyboard, a controller or MIDI; starts the audio when it sleeps. */
  midi(status: number, data1: number, data2: number): void {
    void this.start();
    this.settle();
    this.send({ type: "midi", status, data1, data2 });
    const kind = status & 0xf0;
    const { held } = this.store.getState();
    if (kind === 0x90 && data2 > 0) this.store.setState({ held: new Map(held).set(data1, data2) });
    else if (kind === 0x80 || kind === 0x90) {
      const next = new Map(held);
      next.delete(data1);
      this.store.setState({ held: next });
    } else if (kind === 0xb0 && data1 === 1) this.store.setState({ wheel: data2 / 127 });
    else if (kind === 0xb0 && data1 === 64) this.store.setState({ pedal: data2 >= 64 });
    else if (kind === 0xb0 && data1 === 123) this.store.setState({ held: new Map() });
    else if (kind === 0xe0) this.store.setState({ bend: ((data2 << 7) | data1) / 8192 - 1 });
  }

  noteOn(key: number, velocity: number): void {
    this.midi(0x90, key, Math.min(127, Math.max(1, Math.round(velocity))));
  }

  noteOff(key: number): void {
    this.midi(0x80, key, 0);
  }

  /** Beats per minute, for what follows them. */
  setTempo(tempo: number): void {
    this.send({ type: "tempo", tempo });
  }

  /** Ends all notes. */
  silence(): void {
    this.send({ type: "stop" });
    this.midi(0xb0, 123, 0);
    this.store.setState({ playing: false, held: new Map() });
  }

  /** Plays a phrase in a loop. */
  async playPhrase(events: readonly TimedMidi[], seconds: number): Promise<void> {
    await this.start();
    this.settle();
    this.send({ type: "phrase", events, seconds });
    this.store.setState({ playing: true });
  }

  stopPhrase(): void {
    this.send({ type: "stop" });
    this.store.setState({ playing: false });
  }

  /** Plays a stretch of sound as it is, beside the instrument, once or again and again; returns how to stop it. */
  async audition(audio: Audio, ended: () => void = () => {}, loop = false): Promise<() => void> {
    await this.start();
    const { context } = this;
    const frames = audio.channels[0]?.length ?? 0;
    if (!context || frames === 0) return () => {};
    const buffer = context.createBuffer(audio.channels.length, frames, audio.rate);
    audio.channels.forEach((channel, c) => {
      buffer.copyToChannel(channel as Float32Array<ArrayBuffer>, c);
    });
    const source = new AudioBufferSourceNode(context, { buffer, loop });
    source.connect(context.destination);
    source.onended = ended;
    source.start();
    return () => source.stop();
  }
}
