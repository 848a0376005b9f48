import { afterAll, beforeEach, expect, jest, test } from "@jest/globals";

/** What was written of a recording, in order; writing fails with `full`, or never comes to an end with `stuck`. */
const stored: { chunks: { from: number; frames: number }[]; facts: { clips: number[]; gaps: number[] }[] } = {
  chunks: [],
  facts: [],
};
let disk: "good" | "full" | "stuck" = "good";
let forgotten: string[] = [];
let locks: string[] = [];

/** A chunk as the input gives it. */
type Raw = Float32Array[];

const write = async (what: () => void): Promise<void> => {
  if (disk === "full") throw new Error("the disk is full");
  if (disk === "stuck") await new Promise(() => {});
  what();
};

jest.unstable_mockModule("./capture.worklet.ts", () => ({ default: "capture.js" }));
jest.unstable_mockModule("../storage/recordings", () => ({
  beginRecording: async () => write(() => {}),
  writeChunk: async (_id: string, _n: number, { from, channels }: { from: number; channels: Raw }) =>
    write(() => void stored.chunks.push({ from, frames: channels[0]?.length ?? 0 })),
  writeFacts: async (_id: string, facts: { clips: number[]; gaps: number[] }) =>
    write(() => void stored.facts.push(facts)),
  forgetRecording: async (id: string) => void forgotten.push(id),
}));
jest.unstable_mockModule("../storage/instrument-locks", () => ({
  takeLock: async (name: string) => {
    locks.push(name);
    return { release: () => void locks.splice(locks.indexOf(name), 1) };
  },
}));

class FakeTrack {
  onended: (() => void) | null = null;
  stopped = false;
  stop(): void {
    this.stopped = true;
  }
  getSettings() {
    return {};
  }
}
let track = new FakeTrack();
let inputFails: Error | null = null;
jest.unstable_mockModule("./bench-mic", () => ({
  benchMic: async () => {
    if (inputFails) throw inputFails;
    track = new FakeTrack();
    return { stream: { getTracks: () => [track], getAudioTracks: () => [track] } };
  },
}));

let context: FakeContext | null = null;
let node: FakeNode | null = null;
/** Whether the input answers when it is asked for its last samples. */
let answers = true;

class FakeContext {
  state = "running";
  onstatechange: (() => void) | null = null;
  readonly destination = {};
  readonly audioWorklet = { addModule: async () => {} };
  readonly sampleRate: number;
  constructor({ sampleRate }: { sampleRate: number }) {
    this.sampleRate = sampleRate;
    context = this;
  }
  createMediaStreamSource() {
    return { connect: (to: unknown) => to };
  }
  async close(): Promise<void> {
    this.state = "closed";
  }
}
class FakeNode {
  readonly port = {
    onmessage: null as ((event: { data: Raw | null }) => void) | null,
    postMessage: (word: string) => {
      if (word === "flush" && answers) this.port.onmessage?.({ data: null });
    },
  };
  constructor() {
    node = this;
  }
}
class FakeGain {
  readonly gain = { value: 0 };
  connect(): void {}
}
const globals = globalThis as unknown as Record<string, unknown>;
Object.assign(globals, { AudioContext: FakeContext, AudioWorkletNode: FakeNode, GainNode: FakeGain });
afterAll(() => {
  for (const name of ["AudioContext", "AudioWorkletNode", "GainNode"]) delete globals[name];
});

const { recorder } = await import("./recorder");
const view = () => recorder.store.getState();
const RATE = 44100;

/** A chunk of a steady level comes in, on the left and half as loud on the right. */
const comes = (level: number, frames = 441): void =>
  node?.port.onmessage?.({ data: [new Float32Array(frames).fill(level), new Float32Array(frames).fill(level / 2)] });

beforeEach(async () => {
  jest.useRealTimers();
  disk = "good";
  [inputFails, answers] = [null, true];
  if (view().recording) await recorder.stop();
  await recorder.done("x", false);
  await recorder.close();
  recorder.choose({ channels: "stereo", rate: RATE });
  recorder.store.setState({ failure: null });
  [stored.chunks, stored.facts, forgotten, locks] = [[], [], [], []];
});

test("an open input is metered and stores nothing; the peak is held until it is let go", async () => {
  await recorder.open();
  expect([view().open, view().rate, view().failure]).toEqual([true, RATE, null]);
  comes(0.5);
  comes(0.1);
  expect([view().level, view().held].map((x) => Math.round(x))).toEqual([-20, -6]);
  recorder.resetPeak();
  expect(view().held).toBe(-120);
  expect([stored.chunks, view().seconds]).toEqual([[], 0]);
  await recorder.close();
  expect([view().open, track.stopped, context?.state]).toEqual([false, true, "closed"]);
});

test("what comes in is stored piece by piece under a lock, and told to whoever listens; stopping hands it over", async () => {
  let heard = 0;
  const stop = recorder.subscribe((chunk) => {
    heard += chunk[0]?.length ?? 0;
  });
  let ready = 0;
  expect(await recorder.record("r1", "take 1", "i", () => ready++)).toBe(true);
  expect([ready, locks, view().recording?.name]).toEqual([1, ["vise-recording-r1"], "take 1"]);
  for (let n = 0; n < 10; n++) comes(0.2);
  expect(view().seconds).toBeCloseTo(0.1, 6);
  // Twice at once is once.
  expect(await recorder.record("r2", "take 2", "i")).toBe(false);
  expect(recorder.choose({ rate: 48000 })).toBe(false);
  const [done, again] = await Promise.all([recorder.stop(), recorder.stop()]);
  expect(again).toBeNull();
  expect(done?.info).toMatchObject({ id: "r1", rate: RATE, channels: 2, source: "bench mic" });
  expect(stored.chunks.map((c) => c.from)).toEqual(Array.from({ length: 10 }, (_, n) => n * 441));
  expect(heard).toBe(4410);
  // Until it has become a take nothing else begins, and no other tab takes it for one that was cut short.
  expect([view().busy, locks.length]).toEqual([true, 1]);
  expect(await recorder.record("r3", "take 3", "i")).toBe(false);
  await recorder.done("r1", true);
  expect([view().busy, locks, forgotten]).toEqual([false, [], ["r1"]]);
  stop();
});

test("full scale is counted sample by sample and remembered by its place, once for each place", async () => {
  await recorder.record("r", "take", "i");
  comes(0.1);
  comes(1, 100);
  comes(0.1, 20000);
  comes(-1, 100);
  const done = await recorder.stop();
  expect(view().clipped).toBe(200);
  expect(done?.facts.clips).toEqual([441, 441 + 100 + 20000]);
  expect(stored.facts.at(-1)?.clips).toEqual(done?.facts.clips);
  await recorder.done("r", true);
});

test("of a stereo input one side alone can be taken", async () => {
  recorder.choose({ channels: "right" });
  await recorder.record("r", "take", "i");
  comes(0.5);
  expect([view().channels, Math.round(view().level)]).toEqual([1, -12]);
  expect((await recorder.stop())?.info.channels).toBe(1);
  await recorder.done("r", true);
});

test("an input that is taken away, or stopped by the browser, is told, and what came until then is kept", async () => {
  await recorder.record("r", "take", "i");
  comes(0.3);
  track.onended?.();
  expect(view().failure).toMatch(/taken away; what came in until then is kept/);
  if (context) context.state = "suspended";
  context?.onstatechange?.();
  expect(view().failure).toMatch(/the browser has stopped the input/);
  const done = await recorder.stop();
  expect([done?.info.id, stored.chunks.length]).toEqual(["r", 1]);
  await recorder.done("r", false);
  expect(forgotten).toEqual([]);
});

test("a disk that is full is told while it records, and doesn't keep it from ending", async () => {
  await recorder.record("r", "take", "i");
  comes(0.3);
  await new Promise((resolve) => setImmediate(resolve));
  disk = "full";
  comes(0.3);
  const done = await recorder.stop();
  expect(view().failure).toBe("the recording can't be stored: the disk is full");
  expect([done?.info.id, stored.chunks.length]).toEqual(["r", 1]);
  await recorder.done("r", false);
});

test("where the beginning can't be stored nothing is recorded, and it can be tried again", async () => {
  disk = "full";
  expect(await recorder.record("r", "take", "i")).toBe(false);
  expect([view().recording, view().busy, view().failure]).toEqual([
    null,
    false,
    "nothing is recorded: the disk is full",
  ]);
  disk = "good";
  expect(await recorder.record("r", "take", "i")).toBe(true);
  await recorder.stop();
  await recorder.done("r", true);
});

test("an input that can't be had says why", async () => {
  inputFails = new Error("there is no bench");
  expect(await recorder.record("r", "take", "i")).toBe(false);
  expect([view().open, view().opening, view().failure, locks]).toEqual([false, false, "there is no bench", []]);
});

test("ending waits neither for an input that doesn't answer nor for a disk that doesn't", async () => {
  await recorder.record("r", "take", "i");
  comes(0.3);
  [answers, disk] = [false, "stuck"];
  comes(0.3);
  jest.useFakeTimers();
  const ending = recorder.stop();
  await jest.advanceTimersByTimeAsync(20000);
  jest.useRealTimers();
  expect((await ending)?.info.id).toBe("r");
  expect(view().recording).toBeNull();
  await recorder.done("r", false);
});
