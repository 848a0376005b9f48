import { beforeEach, expect, jest, test } from "@jest/globals";

class Cancelled extends Error {}
const began: { ended: boolean }[] = [];
let cancelJob: () => void = () => {};
const shares: number[] = [];
let over = 0;

jest.unstable_mockModule("../workers/audio-worker", () => ({
  Cancelled,
  furtherAudioCalls: () => {
    const worker = { ended: false };
    began.push(worker);
    return {
      of: () => worker,
      end: () => {
        worker.ended = true;
      },
    };
  },
}));
jest.unstable_mockModule("./notices", () => ({
  beginJob: (_label: string, cancel: () => void) => {
    cancelJob = cancel;
    return { show: (share: number) => shares.push(share), end: () => over++ };
  },
}));
const { withWorkers } = await import("./with-workers");

const after = (turns: number): Promise<void> =>
  turns === 0 ? Promise.resolve() : Promise.resolve().then(() => after(turns - 1));

beforeEach(() => {
  began.length = 0;
  shares.length = 0;
  over = 0;
});

test("several workers share the work; results are in the order of what was given, whoever was first", async () => {
  const things = Array.from({ length: 20 }, (_, i) => i);
  const used = new Set<unknown>();
  const { results, cancelled } = await withWorkers("Doing", things, async (worker, thing) => {
    used.add(worker);
    await after(30 - thing);
    return thing * 2;
  });
  expect(results).toEqual(things.map((t) => t * 2));
  expect(cancelled).toBe(false);
  expect(used.size).toBeGreaterThan(1);
  expect(began.every((w) => w.ended)).toBe(true);
  expect(shares.at(-1)).toBe(1);
  expect(over).toBe(1);
});

test("one thing begins one worker, none none of the work", async () => {
  expect((await withWorkers("Doing", ["a"], async (_, t) => t)).results).toEqual(["a"]);
  expect(began).toHaveLength(1);
  expect((await withWorkers("Doing", [], async (_, t) => t)).results).toEqual([]);
});

test("cancelling ends the workers, begins nothing more, and keeps what was done", async () => {
  const begun: number[] = [];
  const { results, cancelled } = await withWorkers(
    "Doing",
    Array.from({ length: 30 }, (_, i) => i),
    async (worker, thing) => {
      begun.push(thing);
      await after(5);
      if (thing === 6) cancelJob();
      if ((worker as unknown as { ended: boolean }).ended) throw new Cancelled();
      return thing;
    },
  );
  expect(cancelled).toBe(true);
  expect(begun.length).toBeLessThan(12);
  expect(results.slice(0, 4)).toEqual([0, 1, 2, 3]);
  expect(results.at(-1)).toBeUndefined();
  expect(over).toBe(1);
});

test("a failure that is nobody's will is told, and the workers end all the same", async () => {
  await expect(
    withWorkers("Doing", [1, 2, 3], async () => {
      throw new Error("out of memory");
    }),
  ).rejects.toThrow("out of memory");
  expect(began.every((w) => w.ended)).toBe(true);
  expect(over).toBe(1);
});

test("light things are several at once in a worker's hands, heavy ones one by one", async () => {
  const most = async (light: boolean) => {
    let now = 0;
    let top = 0;
    await withWorkers(
      "Doing",
      Array.from({ length: 30 }, (_, i) => i),
      async (worker) => {
        top = Math.max(top, ++now);
        // They are begun one by one: each stays until so many would have begun.
        for (let turn = 0; turn < 60; turn++) await new Promise((later) => setTimeout(later));
        now--;
        return worker;
      },
      light,
    );
    return top / began.splice(0).length;
  };
  expect(await most(false)).toBe(1);
  expect(await most(true)).toBe(12);
});
