import { createStore } from "zustand/vanilla";
import type { Audio } from "../../core/audio";
import type { EngineStatus, NoteTrace, Plan, ProbeSetting } from "../../core/engine";
import type { Instrument } from "../../core/instrument";
import type { RuleProblem } from "../../core/rules";
import { reasonOf } from "../basis/reason-of";
import { Listening } from "./listening";
import { PlanHanding } from "./plan-handing";
import type { EngineSetup, FromEngine, TimedMidi, ToEngine } from "./protocol";
import { type LoaderCalls, SampleLoading } from "./sample-loading";
import { Standing } from "./standing";

/** Where the engine's code and the interpreter come from; the editor fetches them, the player carries them. */
interface EngineParts {
  /** An address that `addModule` takes. */
  readonly worklet: string;
  readonly rules: () => Promise<WebAssembly.Module>;
  readonly kernels: () => Promise<WebAssembly.Module>;
  /** Makes samples ready in a worker. */
  readonly loader: LoaderCalls;
  /** Told what went wrong with the sound and what became of it. */
  readonly told: (text: string) => void;
}

/** What the page knows of the engine. */
interface EngineView {
  readonly state: "off" | "starting" | "running" | "asleep" | "failed";
  readonly failure: string | null;
  /** What went wrong last, and what became of it. */
  readonly trouble: string | null;
  readonly status: EngineStatus;
  readonly load: number;
  readonly cursors: readonly { readonly zone: number; readonly frame: number }[];
  /** Peaks between units, as long as somebody watches them. */
  readonly peaks: Readonly<Record<string, number>> | null;
  /** The layers that are heard alone; none: all are heard. */
  readonly solo: readonly string[];
  /** The test sound, while there is one, and what the last sweep has met (dB against its own level, lowest band first). */
  readonly probe: ProbeSetting | null;
  readonly response: Float32Array | null;
  readonly trace: NoteTrace | null;
  /** Whether samples were still on their way when it came. */
  readonly tracedLoading: boolean;
  /** When the last trace came, by `performance.now()`. */
  readonly tracedAt: number;
  /** Keys that are down, with their velocities. */
  readonly held: ReadonlyMap<number, number>;
  readonly wheel: number;
  readonly bend: number;
  readonly pedal: boolean;
  readonly playing: boolean;
  readonly ruleProblem: RuleProblem | null;
  /** Whether a script is being tried just now. */
  readonly rulesTried: boolean;
  /** Samples wanted and samples there. */
  readonly loaded: number;
  readonly wanted: number;
}

const SILENCE: EngineStatus = { voices: 0, left: 0, right: 0, limiter: 0, broken: 0, thinned: 0, dropped: 0 };

/** Milliseconds between two looks at the engine, and after which it is dead if it has said nothing meanwhile: a script may go round for ever; without one it is most likely the computer that is busy. */
const LOOK = 1000;
const SILENT_RULED = 4000;
const SILENT = 15000;
/** A sound engine that dies so often within a minute isn't begun again by itself. */
const MOST_DEATHS = 4;
const HUNG = "the sound engine hung";

/** Runs the engine in an audio worklet: keeps its plan and samples as the instrument has them, and passes notes to it. */
export class EngineHost {
  readonly store = createStore<EngineView>(() => ({
    state: "off",
    failure: null,
    trouble: null,
    status: SILENCE,
    load: 0,
    cursors: [],
    peaks: null,
    solo: [],
    probe: null,
    response: null,
    trace: null,
    tracedLoading: false,
    tracedAt: 0,
    held: new Map(),
    wheel: 0,
    bend: 0,
    pedal: false,
    playing: false,
    ruleProblem: null,
    rulesTried: false,
    loaded: 0,
    wanted: 0,
  }));
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private starting: Promise<void> | null = null;
  private readonly plans: PlanHanding;
  private readonly loading: SampleLoading;
  private readonly standing = new Standing();
  private heardAt = 0;
  private lookedAt = 0;
  private deaths: number[] = [];
  private auditions = 0;
  private watchers = 0;
  private readonly listeners = new Set<Listening>();
  private ended: (() => void) | null = null;
  private waiting: ToEngine[] = [];

  constructor(private readonly parts: EngineParts) {
    this.loading = new SampleLoading(parts.loader, {
      send: (message, transfer) => this.send(message, transfer),
      told: (text) => this.tell(text),
      progress: (loaded, wanted) => this.store.setState({ loaded, wanted }),
    });
    this.plans = new PlanHanding({
      send: (message) => this.send(message),
      leaving: () => this.silence(),
      shown: (instrument) => this.loading.show(instrument),
      tryRules: (rules) => this.tryRules(rules),
      ruleProblem: (ruleProblem) => this.store.setState({ ruleProblem }),
      rulesTried: (rulesTried) => this.store.setState({ rulesTried }),
    });
  }

  /** Makes everything ready but the sound itself, which a browser allows only after a gesture. */
  prepare(): Promise<void> {
    this.starting ??= this.open().catch((error: unknown) => {
      this.starting = null;
      this.store.setState({ state: "failed", failure: reasonOf(error) });
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
    try {
      const [rules, kernels] = await Promise.all([
        this.parts.rules(),
        this.parts.kernels(),
        context.audioWorklet.addModule(this.parts.worklet),
      ]);
      this.context = context;
      context.onstatechange = () => this.stateChanged(context);
      this.begin(context, { kernels, rules });
    } catch (error) {
      await context.close();
      throw error;
    }
    this.watching ??= setInterval(() => this.look(), LOOK);
  }
  private watching: ReturnType<typeof setInterval> | null = null;

  private begin(context: AudioContext, processorOptions: EngineSetup): void {
    const node = new AudioWorkletNode(context, "vise-engine", {
      numberOfInputs: 0,
      // What is heard, and beside it what those listen to who chose a part of it.
      numberOfOutputs: 2,
      outputChannelCount: [2, 2],
      processorOptions,
    });
    node.port.onmessage = (event: MessageEvent<FromEngine>) => {
      if (node === this.node) this.receive(event.data);
    };
    node.onprocessorerror = () => void this.revive(node, "the sound engine failed");
    node.connect(context.destination);
    this.node = node;
    this.loading.begin(context.sampleRate);
    this.heardAt = performance.now();
    this.store.setState({ state: "running", failure: null });
    this.plans.begin();
    for (const message of this.standing.messages()) node.port.postMessage(message);
    for (const listening of this.listeners) listening.tap(node, this.tapped === null ? 0 : 1);
    if (this.tapped !== null) this.send({ type: "tap", address: this.tapped });
    this.store.setState({ probe: null });
    if (this.watchers > 0 && !this.waiting.some((m) => m.type === "watch")) this.send({ type: "watch", on: true });
    for (const message of this.waiting) this.send(message);
    this.waiting = [];
  }

  /** A context that somebody else has stopped: a call, a device that is gone. The next gesture wakes it, or another takes its place. */
  private stateChanged(context: AudioContext): void {
    if (context !== this.context) return;
    this.heardAt = performance.now();
    const state: string = context.state;
    if (state === "closed") void this.revive(this.node, "the browser closed the sound");
    else if (this.node) this.store.setState({ state: state === "running" ? "running" : "asleep" });
  }

  /** An audio thread that runs but has said nothing for long hangs. */
  private look(): void {
    const now = performance.now();
    // A page that has stood still itself, asleep or busy, has its messages still before it.
    if (now - this.lookedAt > 2 * LOOK) this.heardAt = now;
    this.lookedAt = now;
    if (!this.node || this.context?.state !== "running") return;
    if (now - this.heardAt > (this.plans.ruled ? SILENT_RULED : SILENT)) void this.revive(this.node, HUNG);
  }

  /** Begins the sound anew, with everything that it had, after it has died. */
  private async revive(node: AudioWorkletNode | null, why: string): Promise<void> {
    if (node !== this.node || !this.context) return;
    const { context } = this;
    const now = performance.now();
    this.deaths = [...this.deaths.filter((at) => now - at < 60000), now];
    this.node = null;
    this.context = null;
    this.plans.end();
    if (this.plans.distrust(why === HUNG)) why = `${why} while its rules were on, which are off now,`;
    this.endAudition();
    node?.disconnect();
    this.store.setState({ status: SILENCE, cursors: [], held: new Map(), playing: false, loaded: 0 });
    // A thread that hangs holds its context: another one gets a thread of its own.
    void context.close().catch(() => {});
    if (this.deaths.length >= MOST_DEATHS) {
      this.starting = null;
      this.store.setState({ state: "failed", failure: `${why} again and again` });
      this.tell(
        `${why} again and again, so it stays off until a note is played. Rules, if there are any, may be the reason.`,
      );
      return;
    }
    this.tell(`${why} and was restarted; what was sounding has stopped.`);
    this.starting = null;
    await this.start();
  }

  private tell(trouble: string): void {
    this.store.setState({ trouble });
    this.parts.told(trouble);
  }

  private receive(message: FromEngine): void {
    this.heardAt = performance.now();
    switch (message.type) {
      case "status":
        this.store.setState({
          status: message.status,
          load: message.load,
          cursors: message.cursors,
          peaks: message.peaks,
        });
        return;
      case "traces":
        this.store.setState(({ loaded, wanted }) => ({
          trace: message.traces.at(-1) ?? null,
          tracedAt: performance.now(),
          tracedLoading: loaded < wanted || message.arriving,
        }));
        return;
      case "rule":
        this.store.setState({ ruleProblem: message.problem });
        return;
      case "problem":
        this.tell(`The sound engine could not do something: ${message.message}.`);
        return;
      case "waves-wanted":
        void this.loading.makeWaves();
        return;
      case "cycles-wanted":
        void this.loading.makeCycles(message.sha, message.cycle);
        return;
      case "response":
        this.store.setState(({ probe }) => ({
          response: message.levels,
          probe: message.over && probe?.kind === "sweep" ? null : probe,
        }));
        return;
      case "auditioned":
        if (message.id === this.auditions) this.endAudition();
    }
  }

  private send(message: ToEngine, transfer: Transferable[] = []): void {
    this.standing.take(message);
    if (this.node) this.node.port.postMessage(message, transfer);
    // What stands is told to whichever engine begins next.
    else if (this.waiting.length < 64 && !this.standing.holds(message)) this.waiting.push(message);
  }

  /** Loads what could not be read before. */
  loadAgain(): void {
    this.loading.again();
  }

  /** Shows the engine an instrument: a new one, or the same after an edit. */
  show(instrument: Instrument): void {
    this.plans.show(instrument);
    const { tempo } = instrument.song;
    if (tempo === this.tempo) return;
    this.tempo = tempo;
    this.send({ type: "tempo", tempo });
  }
  private tempo = 0;

  private async tryRules({ script, seed }: NonNullable<Plan["rules"]>): Promise<RuleProblem | null> {
    try {
      return await this.parts.loader.tryScript(await this.parts.rules(), script, seed);
    } catch (error) {
      return { line: null, reason: reasonOf(error), stopped: true };
    }
  }

  /** A channel message from a keyboard, a controller or MIDI; starts the audio when it sleeps. */
  midi(status: number, data1: number, data2: number): void {
    void this.start();
    this.plans.settle();
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

  /** Hears only these layers, whatever the document says; none: all of it. Layers that aren't there don't count. */
  solo(layers: readonly string[]): void {
    this.store.setState({ solo: layers });
    this.send({ type: "solo", layers });
  }

  /** Doesn't hear some groups and microphones, or hears some alone, by address, whatever the document says; what isn't there doesn't count. */
  mute(muted: readonly string[], alone: readonly string[]): void {
    this.send({ type: "mute", muted, alone });
  }

  /** Lets a test sound go through a row of the instrument, beside the notes; null: none any more. */
  async probe(setting: ProbeSetting | null): Promise<void> {
    if (setting) await this.start();
    this.plans.settle();
    this.store.setState({ probe: setting, ...(setting?.kind === "sweep" ? { response: null } : {}) });
    this.send({ type: "probe", setting });
  }

  /** Lets those who listen hear a row (`layers/<id>`, `sends/<id>`) or a unit on a bus, by its address; null: all that comes out. */
  tap(address: string | null): void {
    if (address === this.tapped) return;
    this.tapped = address;
    this.send({ type: "tap", address });
    if (this.node) for (const listening of this.listeners) listening.tap(this.node, address === null ? 0 : 1);
  }
  private tapped: string | null = null;

  /** Listens to what comes out: the last two thirds of a second, as often as it is asked; null while the sound is off. */
  listen(): Listening {
    const listening = new Listening();
    this.listeners.add(listening);
    if (this.node) listening.tap(this.node, this.tapped === null ? 0 : 1);
    listening.stop = () => {
      this.listeners.delete(listening);
      listening.untap();
    };
    return listening;
  }

  /** Takes the peaks between units until it is told to stop. */
  watch(): () => void {
    this.watchers++;
    if (this.watchers === 1) this.send({ type: "watch", on: true });
    return () => {
      this.watchers--;
      if (this.watchers === 0) this.send({ type: "watch", on: false });
    };
  }

  /** Ends all notes. */
  silence(): void {
    this.hush();
    if (this.store.getState().probe) void this.probe(null);
    this.send({ type: "stop" });
    this.midi(0xb0, 123, 0);
    this.store.setState({ playing: false, held: new Map() });
  }

  /** Plays a phrase in a loop. */
  async playPhrase(events: readonly TimedMidi[], seconds: number): Promise<void> {
    await this.start();
    this.plans.settle();
    this.send({ type: "phrase", events, seconds });
    this.store.setState({ playing: true });
  }

  stopPhrase(): void {
    this.send({ type: "stop" });
    this.store.setState({ playing: false });
  }

  /**
   * Plays a stretch of sound as it is, beside the instrument and like it through the limiter and the meter, once or again and again, in place of
   * another such sound; returns how to stop it.
   */
  async audition(audio: Audio, ended: () => void = () => {}, loop = false): Promise<() => void> {
    this.hush();
    // Whoever asks last is heard, however long an earlier one takes to be ready.
    const id = ++this.auditions;
    await this.start();
    const { context } = this;
    if (!context || id !== this.auditions || (audio.channels[0]?.length ?? 0) === 0) return () => {};
    const { channels } =
      audio.rate === context.sampleRate ? audio : await this.parts.loader.resampled(audio, context.sampleRate);
    if (id !== this.auditions) return () => {};
    this.ended = ended;
    this.send({ type: "audition", id, channels, loop });
    return () => {
      if (id === this.auditions) this.hush();
    };
  }

  /** Ends what is played beside the instrument. */
  hush(): void {
    // What is still being made ready isn't heard any more either.
    this.auditions++;
    this.send({ type: "hush", id: null });
    this.endAudition();
  }

  private endAudition(): void {
    const { ended } = this;
    this.ended = null;
    ended?.();
  }
}
