import { afterEach, beforeEach, expect, jest, test } from "@jest/globals";
import { BENCH_SHA, benchInstrument, RATE, sine } from "../../core/engine/test-bench";
import type { Instrument } from "../../core/instrument";
import { EngineHost } from "./engine-host";
import type { FromEngine, ToEngine } from "./protocol";
import type { LoaderCalls } from "./sample-loading";

/** An audio context of a browser that does what it is told; all that there were stand in `contexts`. */
class FakeContext {
  readonly sampleRate = RATE;
  readonly destination = {};
  readonly audioWorklet = { addModule: async () => {} };
  onstatechange: (() => void) | null = null;
  closed = false;
  state = "running";
  constructor() {
    contexts.push(this);
  }
  async resume(): Promise<void> {
    this.become("running");
  }
  async close(): Promise<void> {
    this.closed = true;
  }
  become(state: string): void {
    this.state = state;
    this.onstatechange?.();
  }
}

/** An audio thread that only writes down what it is sent. */
class FakeNode {
  readonly sent: ToEngine[] = [];
  onprocessorerror: (() => void) | null = null;
  connected = true;
  readonly port = {
    onmessage: null as ((event: { data: FromEngine }) => void) | null,
    postMessage: (message: ToEngine) => void this.sent.push(message),
  };
  constructor(readonly context: FakeContext) {
    nodes.push(this);
  }
  connect(): void {}
  disconnect(): void {
    this.connected = false;
  }
  /** Says something, as the thread does thirty times a second. */
  say(voices = 0): void {
    const status = { voices, left: 0, right: 0, limiter: 0, broken: 0, thinned: 0, dropped: 0 };
    this.port.onmessage?.({ data: { type: "status", status, load: 0, cursors: [], peaks: null } });
  }
  types(): string[] {
    return this.sent.map((m) => m.type);
  }
}

let contexts: FakeContext[] = [];
let nodes: FakeNode[] = [];
let told: string[] = [];
let fails = false;
const globals = globalThis as unknown as Record<string, unknown>;

beforeEach(() => {
  [contexts, nodes, told, fails] = [[], [], [], false];
  globals.AudioContext = FakeContext;
  globals.AudioWorkletNode = FakeNode;
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
  delete globals.AudioContext;
  delete globals.AudioWorkletNode;
});

function hostOf(): EngineHost {
  const loader = {
    sample: async (sha: string) => (sha === BENCH_SHA(0) ? { packed: { bytes: new Uint8Array(4) }, paths: [] } : null),
    paths: async () => [],
    tryScript: async () => null,
  } as unknown as LoaderCalls;
  return new EngineHost({
    worklet: "engine.js",
    rules: async () => ({}) as WebAssembly.Module,
    kernels: async () => {
      if (fails) throw new Error("the kernels can't be read");
      return {} as WebAssembly.Module;
    },
    loader,
    told: (text) => told.push(text),
  });
}

const instrument = (): Instrument => benchInstrument([sine(RATE, 220)], [{ sound: 0 }]);
/** Time goes by; an audio thread that lives speaks meanwhile. */
const pass = async (ms: number, alive: FakeNode | null = null): Promise<void> => {
  for (let t = 0; t < ms; t += 250) {
    alive?.say();
    await jest.advanceTimersByTimeAsync(250);
  }
};
const last = (): FakeNode => nodes.at(-1) as FakeNode;

async function running(): Promise<EngineHost> {
  const host = hostOf();
  host.show(instrument());
  await host.start();
  await pass(250, last());
  return host;
}

test("what is shown and asked before there is any sound reaches the audio thread once it is there, each once", async () => {
  const host = hostOf();
  host.show(instrument());
  host.solo(["main"]);
  host.mute(["mics/near"], []);
  const stop = host.watch();
  expect([contexts.length, host.store.getState().state]).toEqual([0, "off"]);
  await host.start();
  await pass(250, last());
  expect(host.store.getState().state).toBe("running");
  const types = last().types();
  for (const type of ["plan", "sample", "tempo", "watch", "solo", "mute"])
    expect(types.filter((t) => t === type)).toEqual([type]);
  expect(last().sent).toContainEqual({ type: "solo", layers: ["main"] });
  expect(last().sent).toContainEqual({ type: "mute", muted: ["mics/near"], alone: [] });
  stop();
  expect(last().sent.at(-1)).toEqual({ type: "watch", on: false });
});

test("an audio thread that has died is begun anew with all that it had; it is told, and no key is held any more", async () => {
  const host = await running();
  host.midi(0xb0, 1, 100);
  host.noteOn(60, 90);
  host.solo(["main"]);
  const stop = host.watch();
  expect([...host.store.getState().held.keys()]).toEqual([60]);
  const first = last();
  first.onprocessorerror?.();
  await pass(500);
  expect(nodes).toHaveLength(2);
  expect([first.connected, contexts[0]?.closed, host.store.getState().state]).toEqual([false, true, "running"]);
  const { sent } = last();
  for (const type of ["plan", "sample", "tempo"]) expect(sent.filter((m) => m.type === type)).toHaveLength(1);
  expect(sent).toContainEqual({ type: "midi", status: 0xb0, data1: 1, data2: 100 });
  expect(sent).toContainEqual({ type: "solo", layers: ["main"] });
  expect(sent).toContainEqual({ type: "watch", on: true });
  expect(sent.some((m) => m.type === "midi" && m.status === 0x90)).toBe(false);
  expect(host.store.getState().held.size).toBe(0);
  expect(told).toEqual(["the sound engine failed and was restarted; what was sounding has stopped."]);
  // What the dead one still says is nobody's.
  first.say(7);
  expect(host.store.getState().status.voices).toBe(0);
  last().say(3);
  expect(host.store.getState().status.voices).toBe(3);
  stop();
});

test("an audio thread that says nothing for more than fifteen seconds hangs, one that speaks doesn't, nor one of a busy computer", async () => {
  await running();
  await pass(20000, last());
  expect(nodes).toHaveLength(1);
  await pass(14500);
  expect(nodes).toHaveLength(1);
  await pass(3000);
  expect(nodes).toHaveLength(2);
  expect(told).toEqual(["the sound engine hung and was restarted; what was sounding has stopped."]);
});

test("a page that has stood still itself doesn't take its audio thread for dead", async () => {
  await running();
  await pass(5000, last());
  // Nothing of the page ran for a minute, timers neither; then the messages are still before it.
  // biome-ignore lint/style/noRestrictedGlobals: the clock of the test, which is set here
  const clock = jest.spyOn(performance, "now").mockReturnValue(1e6);
  await jest.advanceTimersByTimeAsync(1000);
  expect(nodes).toHaveLength(1);
  expect(told).toEqual([]);
  // From then on it is looked at as before.
  for (let t = 1; t <= 17; t++) {
    clock.mockReturnValue(1e6 + 1000 * t);
    await jest.advanceTimersByTimeAsync(1000);
  }
  clock.mockRestore();
  expect(nodes).toHaveLength(2);
});

test("one that hung under rules gets the same rules no more", async () => {
  const host = hostOf();
  host.show({ ...instrument(), rules: { on: true, script: "onNote(() => {})", seed: 1 } } as Instrument);
  await host.start();
  await pass(500, last());
  expect(last().sent.some((m) => m.type === "rules" && m.rules !== null)).toBe(true);
  await pass(6000);
  expect(nodes).toHaveLength(2);
  expect(told[0]).toMatch(/hung while its rules were on, which are off now/);
  await pass(500, last());
  expect(last().sent.some((m) => m.type === "rules" && m.rules !== null)).toBe(false);
  expect(host.store.getState().ruleProblem?.reason).toMatch(/hung while these rules were on/);
});

test("one that dies again and again stays off until a note is played", async () => {
  const host = await running();
  for (let n = 0; n < 3; n++) {
    last().onprocessorerror?.();
    await pass(250);
  }
  expect(nodes).toHaveLength(4);
  last().onprocessorerror?.();
  await pass(5000);
  expect([nodes.length, host.store.getState().state]).toEqual([4, "failed"]);
  expect(host.store.getState().failure).toMatch(/again and again/);
  expect(told.at(-1)).toMatch(/stays off until a note is played/);
  host.noteOn(60, 100);
  await pass(500);
  expect([nodes.length, host.store.getState().state]).toEqual([5, "running"]);
  expect(last().sent).toContainEqual({ type: "midi", status: 0x90, data1: 60, data2: 100 });
});

test("a context that the browser puts to sleep sleeps until the next note; one that it closes is replaced", async () => {
  const host = await running();
  contexts[0]?.become("suspended");
  expect(host.store.getState().state).toBe("asleep");
  await pass(10000);
  expect(nodes).toHaveLength(1);
  host.noteOn(48, 70);
  await pass(250, last());
  expect([nodes.length, host.store.getState().state]).toEqual([1, "running"]);
  contexts[0]?.become("closed");
  await pass(500);
  expect(nodes).toHaveLength(2);
  expect(told.at(-1)).toMatch(/the browser closed the sound and was restarted/);
});

test("where the sound can't start it says why, and the next note tries once more", async () => {
  fails = true;
  const host = hostOf();
  host.show(instrument());
  await host.start();
  expect([host.store.getState().state, host.store.getState().failure]).toEqual(["failed", "the kernels can't be read"]);
  expect(contexts[0]?.closed).toBe(true);
  fails = false;
  host.noteOn(60, 100);
  await pass(250);
  expect(host.store.getState().state).toBe("running");
});

test("keys, wheel, pedal and bend are known as they were sent; silence lets all keys go", async () => {
  const host = await running();
  host.noteOn(60, 200);
  host.noteOn(64, 0);
  host.midi(0x90, 60, 0);
  host.midi(0xb0, 64, 127);
  host.midi(0xb0, 1, 127);
  host.midi(0xe0, 0, 96);
  const { held, pedal, wheel, bend } = host.store.getState();
  expect([[...held], pedal, wheel, bend]).toEqual([[[64, 1]], true, 1, 0.5]);
  host.silence();
  expect(host.store.getState().held.size).toBe(0);
  expect(last().sent).toContainEqual({ type: "midi", status: 0xb0, data1: 123, data2: 0 });
});

test("of what is played beside the instrument the last that was asked for is heard, and each is told its end", async () => {
  const host = await running();
  const ended: string[] = [];
  const sound = { rate: RATE, channels: [new Float32Array(100)] };
  await host.audition(sound, () => ended.push("first"));
  const stop = await host.audition(sound, () => ended.push("second"));
  expect(ended).toEqual(["first"]);
  const ids = last().sent.flatMap((m) => (m.type === "audition" ? [m.id] : []));
  expect(ids).toHaveLength(2);
  // That the first has ended comes late, and is no news of the second.
  last().port.onmessage?.({ data: { type: "auditioned", id: ids[0] as number } });
  expect(ended).toEqual(["first"]);
  stop();
  expect(ended).toEqual(["first", "second"]);
  await host.audition({ rate: RATE, channels: [new Float32Array(0)] }, () => ended.push("nothing"));
  expect(last().sent.filter((m) => m.type === "audition")).toHaveLength(2);
});
