import { reasonOf } from "../basis/reason-of";
import "./text-decoder";
import { startKernels } from "../../core/dsp";
import { applyDelta, Engine, type Plan } from "../../core/engine";
import { type RuleProblem, type RuleScript, Sandbox } from "../../core/rules";
import { PhrasePlayer } from "./phrase-player";
import type { EngineSetup, FromEngine, ToEngine } from "./protocol";

declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: unknown): void;

/** Blocks between two reports to the page: about 30 a second. */
const REPORT_BLOCKS = 12;
/** Blocks between two looks at the load: about 20 ms. */
const GUARD_BLOCKS = 8;

/** Bytes of samples that are taken in after each block: some 90 MB a second, for a hundredth of the time that there is. */
const ARRIVE_BYTES = 2 ** 18;
/** Milliseconds after which nothing is rendered, as before the first gesture. */
const STILL = 100;

interface Audition {
  readonly channels: readonly Float32Array[];
  readonly loop: boolean;
  readonly id: number;
  at: number;
}

/** Hosts the engine in the audio thread: passes messages in, sound and reports out. */
class EngineProcessor extends AudioWorkletProcessor {
  private readonly engine: Engine;
  private readonly rulesModule: WebAssembly.Module;
  private plan: Plan | null = null;
  /** When the last block was rendered. */
  private rendered = 0;
  private sandbox: Promise<Sandbox> | null = null;
  private script: RuleScript | null = null;
  private scriptText = "";
  private readonly phrase: PhrasePlayer;
  private blocks = 0;
  private busy = 0;
  private recent = 0;
  private load = 0;
  private loudBefore = false;
  private sweptBefore = false;
  private tapping = false;
  /** A sound that is played as it is, beside the instrument, and how far it is. */
  private audition: Audition | null = null;
  private readonly heardLeft = new Float32Array(128);
  private readonly heardRight = new Float32Array(128);

  constructor(options: { processorOptions: EngineSetup }) {
    super();
    const { kernels, rules } = options.processorOptions;
    this.engine = new Engine(startKernels(kernels), { rate: sampleRate, arriving: true });
    this.phrase = new PhrasePlayer(sampleRate, (status, data1, data2, frame) =>
      this.engine.midi(status, data1, data2, frame),
    );
    this.rulesModule = rules;
    this.port.onmessage = (event: MessageEvent<ToEngine>) => {
      try {
        this.receive(event.data);
      } catch (error) {
        this.tellProblem(error);
      }
    };
  }

  private receive(message: ToEngine): void {
    switch (message.type) {
      case "plan":
        this.plan = applyDelta(message.plan, this.plan);
        this.engine.setPlan(this.plan);
        this.askForTables();
        return;
      case "rules":
        this.takeRules(message.rules);
        return;
      case "base":
        this.engine.setBase(message.base);
        return;
      case "sample":
        this.engine.takeSample(message.sha, message.packed);
        this.takeIn();
        return;
      case "paths":
        this.engine.takePaths(message.paths);
        this.takeIn();
        return;
      case "waves":
        this.engine.takeWaves(message.ready);
        this.takeIn();
        return;
      case "cycles":
        this.engine.takeCycles(message.sha, message.ready);
        this.takeIn();
        return;
      case "impulse":
        this.engine.addImpulse(message.sha, message);
        return;
      case "midi":
        this.phrase.takeHand(message.status, message.data1, message.data2);
        this.engine.midi(message.status, message.data1, message.data2);
        return;
      case "phrase":
        this.phrase.play(message.events, message.seconds, this.engine.frame + 128);
        return;
      case "tempo":
        this.engine.setTempo(message.tempo);
        return;
      case "stop":
        this.phrase.stop();
        return;
      case "solo":
        this.engine.solo(message.layers);
        return;
      case "mute":
        this.engine.mute(message.muted, message.alone);
        return;
      case "probe":
        this.engine.setProbe(message.setting);
        return;
      case "tap":
        this.tapping = message.address !== null;
        this.engine.setTap(message.address);
        return;
      case "watch":
        this.engine.watch(message.on);
        return;
      case "audition":
        this.audition = { channels: message.channels, loop: message.loop, id: message.id, at: 0 };
        return;
      case "hush":
        if (message.id === null || this.audition?.id === message.id) this.endAudition();
    }
  }

  /** Takes in at once what has come while nothing is rendered that could be late by it. */
  private takeIn(): void {
    if (Date.now() - this.rendered <= STILL) return;
    this.arrive(Number.POSITIVE_INFINITY);
    this.askForTables();
  }

  /** Asks for the simple waves' tables and the cycles of wavetables, which take too long to be made here. */
  private askForTables(): void {
    if (this.engine.wavesWanted()) this.send({ type: "waves-wanted" });
    for (const { sha, cycle } of this.engine.cyclesWanted()) this.send({ type: "cycles-wanted", sha, cycle });
  }

  private arrive(bytes: number): void {
    try {
      this.engine.arrive(bytes);
    } catch (error) {
      this.tellProblem(error);
    }
  }

  private tellProblem(error: unknown): void {
    // Such as a sample for which there is no memory: the rest plays on, and it is told.
    this.send({ type: "problem", message: reasonOf(error) });
  }

  private endAudition(): void {
    if (!this.audition) return;
    this.send({ type: "auditioned", id: this.audition.id });
    this.audition = null;
  }

  /** The next stretch of what is auditioned; null when there is nothing. */
  private nextAudition(frames: number): readonly [Float32Array, Float32Array] | null {
    const { audition, heardLeft, heardRight } = this;
    if (!audition || frames > heardLeft.length) return null;
    const left = audition.channels[0] as Float32Array;
    const right = audition.channels[1] ?? left;
    for (let i = 0; i < frames; i++) {
      if (audition.at >= left.length && audition.loop) audition.at = 0;
      const { at } = audition;
      heardLeft[i] = at < left.length ? (left[at] as number) : 0;
      heardRight[i] = at < left.length ? (right[at] as number) : 0;
      audition.at = at + 1;
    }
    if (audition.at >= left.length && !audition.loop) this.endAudition();
    return this.heard;
  }
  private readonly heard = [this.heardLeft, this.heardRight] as const;

  private takeRules(rules: Plan["rules"]): void {
    const text = rules ? `${rules.seed}\n${rules.script}` : "";
    if (text === this.scriptText) return;
    this.scriptText = text;
    if (!rules) {
      this.setScript(null);
      this.send({ type: "rule", problem: null });
      return;
    }
    this.sandbox ??= Sandbox.open(this.rulesModule);
    void this.sandbox
      .then((sandbox) => {
        if (this.scriptText !== text) return;
        this.send({ type: "rule", problem: null });
        const report = (problem: RuleProblem) => {
          // An interpreter that gave in is not used again; the next script gets a new one.
          if (this.script?.lost || problem.stopped) this.sandbox = null;
          this.send({ type: "rule", problem });
        };
        this.setScript(sandbox.load(rules.script, rules.seed, report));
      })
      .catch((error: unknown) => {
        this.sandbox = null;
        this.send({ type: "rule", problem: { line: null, reason: String(error), stopped: true } });
      });
  }

  private setScript(script: RuleScript | null): void {
    this.engine.rules = script;
    this.script?.dispose();
    this.script = script;
  }

  private send(message: FromEngine): void {
    this.port.postMessage(message);
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const left = outputs[0]?.[0];
    const right = outputs[0]?.[1];
    if (!left || !right) return true;
    const began = Date.now();
    this.phrase.queue(this.engine.frame + left.length);
    this.engine.beside = this.nextAudition(left.length);
    this.engine.render(left, right, 0, left.length);
    if (this.tapping) {
      outputs[1]?.[0]?.set(this.engine.tapped.left);
      outputs[1]?.[1]?.set(this.engine.tapped.right);
    }
    const took = Date.now() - began;
    this.busy += took;
    this.recent += took;
    // The clock ticks in milliseconds: eight blocks are long enough to tell whether they take more than they have.
    if (this.blocks % GUARD_BLOCKS === 0) {
      this.engine.relieve(this.recent / ((GUARD_BLOCKS * 128000) / sampleRate));
      this.recent = 0;
    }
    if (this.engine.hasArrivals) this.arrive(ARRIVE_BYTES);
    if (++this.blocks % REPORT_BLOCKS === 0) this.report();
    this.rendered = Date.now();
    return true;
  }

  private get arriving(): boolean {
    return this.engine.hasArrivals || this.engine.awaitsTables;
  }

  private report(): void {
    if (this.blocks % (REPORT_BLOCKS * 30) === 0) {
      // The clock ticks in milliseconds: over a second the mean is right.
      this.load = this.busy / ((REPORT_BLOCKS * 30 * 128000) / sampleRate);
      this.busy = 0;
    }
    this.engine.tidy();
    this.askForTables();
    const status = this.engine.status();
    const loud = status.voices > 0 || status.left > 1e-6;
    if (loud || this.loudBefore || this.blocks % (REPORT_BLOCKS * 30) === 0) {
      const peaks = this.engine.peaks();
      this.send({ type: "status", status, load: this.load, cursors: this.engine.cursors(), peaks });
    }
    this.loudBefore = loud;
    const { sweeping } = this.engine;
    if (sweeping || this.sweptBefore)
      this.send({ type: "response", levels: this.engine.response.slice(), over: !sweeping });
    this.sweptBefore = sweeping;
    const traces = this.engine.trace.drain();
    if (traces.length > 0) this.send({ type: "traces", traces, frame: this.engine.frame, arriving: this.arriving });
  }
}

registerProcessor("vise-engine", EngineProcessor);
