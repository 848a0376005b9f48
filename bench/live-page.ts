import type { EngineSetup, FromEngine, ToEngine } from "../app/audio/protocol";
import { SampleLoader } from "../app/audio/sample-loader";
import { compileKernels } from "../core/dsp";
import { compile, planDelta, readingOf } from "../core/engine";
import { BENCH_SHA, benchInstrument, newLoop } from "../core/engine/test-bench";
import { addRoute, type Instrument, listZones, setParam, type Zone } from "../core/instrument";

const RATE = 48000;
/** Where the click stands in its sound, and how much of what is heard is compared. */
const CLICK_AT = 20;
const WAVE = 24000;

interface Live {
  readonly context: AudioContext;
  readonly send: (message: ToEngine) => void;
  /** What came out, in the order of time: frame of the context and 128 samples of the left side. */
  readonly heard: { readonly frame: number; readonly samples: Float32Array }[];
  readonly status: () => { voices: number; load: number };
}

const TAP = `registerProcessor("tap", class extends AudioWorkletProcessor {
  process(inputs) { const x = inputs[0]?.[0]; if (x) this.port.postMessage({ frame: currentFrame, samples: x.slice() }); return true; }
});`;

const set = (doc: Instrument, values: readonly (readonly [string, number | string])[]): Instrument =>
  values.reduce((d, [address, value]) => setParam(d, address, value).apply(d), doc);

/** The engine's own worklet with an instrument of one sound, and where it is to be heard a tap at its end. */
async function open(
  worklet: string,
  sound: Float32Array<ArrayBuffer>[],
  zones: Partial<Zone>[],
  adjust: (i: Instrument) => Instrument,
  latencyHint: AudioContextLatencyCategory | "tapped",
): Promise<Live> {
  const tapped = latencyHint === "tapped";
  const context = new AudioContext({ sampleRate: RATE, latencyHint: tapped ? "interactive" : latencyHint });
  const address = (code: string): string => URL.createObjectURL(new Blob([code], { type: "text/javascript" }));
  await context.audioWorklet.addModule(address(worklet));
  await context.audioWorklet.addModule(address(TAP));
  const kernels = compileKernels();
  const processorOptions: EngineSetup = { kernels, rules: kernels };
  const node = new AudioWorkletNode(context, "vise-engine", {
    numberOfInputs: 0,
    outputChannelCount: [2],
    processorOptions,
  });
  const heard: Live["heard"] = [];
  if (tapped) {
    const tap = new AudioWorkletNode(context, "tap", { numberOfOutputs: 0 });
    tap.port.onmessage = (event) => heard.push(event.data);
    node.connect(tap);
  }
  let status = { voices: 0, load: 0 };
  node.port.onmessage = (event: MessageEvent<FromEngine>) => {
    if (event.data.type === "status") status = { voices: event.data.status.voices, load: event.data.load };
  };
  node.connect(context.destination);
  const audio = { rate: RATE, channels: sound };
  const instrument = adjust(benchInstrument([audio], zones));
  const send = (message: ToEngine): void => node.port.postMessage(message);
  send({ type: "plan", plan: planDelta(compile(instrument), null) });
  const loader = new SampleLoader(async () => audio);
  const wanted = listZones(instrument).map((zone) => ({ zone: zone.id, reading: readingOf(zone) }));
  const ready = await loader.sample(BENCH_SHA(0), "asRecorded", wanted);
  if (!ready) throw new Error("there is nothing in the sound");
  send({ type: "sample", sha: BENCH_SHA(0), packed: ready.packed });
  send({ type: "paths", paths: ready.paths });
  await context.resume();
  return { context, send, heard, status: () => status };
}

const until = (done: () => boolean): Promise<void> =>
  new Promise((resolve) => {
    const look = (): void => (done() ? resolve() : void setTimeout(look, 20));
    look();
  });

/** 512 voices, filter and LFO, for so many seconds: how often the sound broke off. */
async function underruns(
  worklet: string,
  voices: number,
  seconds: number,
  latencyHint: AudioContextLatencyCategory,
): Promise<{ events: number; voices: number; load: number }> {
  const sound = [0, 1].map((c) =>
    Float32Array.from({ length: RATE * 3 }, (_, i) => 0.01 * Math.sin(i * (0.03 + 0.001 * c))),
  );
  const zones = Array.from({ length: voices }, (_, v) => ({
    root: 60,
    tune: 1200 * Math.log2(0.75 + (v % 32) / 64),
    // The first key plays few of them.
    keyLow: v < 48 ? 0 : 50,
    loop: newLoop({ start: RATE, end: RATE * 2 }),
  }));
  const live = await open(
    worklet,
    sound,
    zones,
    (i) =>
      addRoute({ id: "r", source: "lfos/lfo1", target: "layers/main/stages/filter/cutoff", amount: 1 }).apply(
        set({ ...i, effects: [] }, [
          ["play/voices", 512],
          // One movement for all voices, as in the benchmark of voices.
          ["lfos/lfo1/retrigger", "free"],
          ["layers/main/stages/filter/type", "low"],
          ["layers/main/stages/filter/cutoff", 2000],
          ["layers/main/strip/level", -30],
        ]),
      ),
    latencyHint,
  );
  // Two seconds of a single note first, until the browser has compiled what it runs.
  live.send({ type: "midi", status: 0x90, data1: 40, data2: 100 });
  const warm = live.context.currentTime;
  await until(() => live.context.currentTime - warm >= 2);
  live.send({ type: "midi", status: 0xb0, data1: 123, data2: 0 });
  // Chosen zones are bounded for one note: the voices come as several.
  for (let n = 0; n * 256 < voices; n++) live.send({ type: "midi", status: 0x90, data1: 60 + n, data2: 100 });
  const asked = live.context.currentTime;
  await until(() => live.status().voices >= Math.min(512, voices) || live.context.currentTime - asked > 3);
  const stats = (live.context as unknown as { playbackStats?: { underrunEvents: number } }).playbackStats;
  if (!stats) throw new Error("this browser doesn't count underruns");
  const before = stats.underrunEvents;
  const from = live.context.currentTime;
  await until(() => live.context.currentTime - from >= seconds);
  const result = { events: stats.underrunEvents - before, ...live.status() };
  await live.context.close();
  return result;
}

/** The same browser with no voice at all: how often the sound breaks off by itself. */
async function idleUnderruns(
  worklet: string,
  seconds: number,
  latencyHint: AudioContextLatencyCategory,
): Promise<number> {
  const live = await open(worklet, [new Float32Array(100)], [{ root: 60 }], (i) => i, latencyHint);
  const stats = (live.context as unknown as { playbackStats: { underrunEvents: number } }).playbackStats;
  const before = stats.underrunEvents;
  const from = live.context.currentTime;
  await until(() => live.context.currentTime - from >= seconds);
  const events = stats.underrunEvents - before;
  await live.context.close();
  return events;
}

/** Notes at given frames of a phrase: the frames at which their peaks came, against the first. */
async function timing(worklet: string, frames: readonly number[]): Promise<{ peaks: number[]; wave: number[] }> {
  const click = new Float32Array(4000);
  click[CLICK_AT] = 1;
  for (let i = CLICK_AT + 100; i < 4000; i++) click[i] = 0.02 * Math.sin(i * i * 1e-4);
  const live = await open(worklet, [click], [{ root: 60, track: 0, oneShot: true }], (i) => i, "tapped");
  const events = frames.map((f, i) => ({ seconds: f / RATE, status: 0x90, data1: 40 + (i % 60), data2: 127 }));
  const last = Math.max(...frames);
  live.send({ type: "phrase", events, seconds: 60 });
  const first = (): number => live.heard.findIndex((h) => h.samples.some((v) => Math.abs(v) > 0.3));
  await until(() => first() >= 0 && (live.heard.at(-1)?.frame ?? 0) > (live.heard[first()]?.frame ?? 0) + last + 4800);
  const peaks: number[] = [];
  for (const { frame, samples } of live.heard) {
    samples.forEach((v, i) => {
      if (v > 0.7) peaks.push(frame + i);
    });
  }
  await live.context.close();
  const wave: number[] = [];
  const start = (peaks[0] ?? 0) - CLICK_AT;
  for (const { frame, samples } of live.heard) {
    samples.forEach((v, i) => {
      if (frame + i >= start && wave.length < WAVE) wave.push(v);
    });
  }
  return { peaks: peaks.map((p) => p - (peaks[0] ?? 0)), wave };
}

Object.assign(globalThis, { measureUnderruns: underruns, measureTiming: timing, measureIdle: idleUnderruns });
