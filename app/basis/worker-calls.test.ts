import { describe, expect, test } from "@jest/globals";
import { type Calls, Cancelled, WorkerCalls } from "./worker-calls";

interface Work {
  echo(text: string): string;
  slow(text: string): string;
}

/** Workers that answer `echo` at once and `slow` only when they are told to. */
function bench() {
  const ended: number[] = [];
  const waiting: (() => void)[] = [];
  let count = 0;
  const deaths: ((why: Error) => void)[] = [];
  const calls = new WorkerCalls<Work>((failed) => {
    const number = ++count;
    deaths.push(failed);
    let alive = true;
    const remote: Calls<Work> = {
      echo: async (text) => `${number}:${text}`,
      slow: (text) =>
        new Promise((resolve) => {
          waiting.push(() => alive && resolve(`${number}:${text}`));
        }),
    };
    return {
      remote,
      end: () => {
        alive = false;
        ended.push(number);
      },
    };
  });
  return { calls, ended, deaths: () => deaths, answer: () => waiting.splice(0).forEach((go) => void go()) };
}

describe("calls of a worker that can be ended", () => {
  test("cancelling a job refuses its calls; what others asked is answered by the next worker", async () => {
    const { calls, ended, answer } = bench();
    const job = {};
    const mine = calls.whileOn(job, calls.of(job).slow("mine"));
    const other = calls.of(null).slow("other");
    calls.cancel(job);
    await expect(mine).rejects.toBeInstanceOf(Cancelled);
    answer();
    expect(await other).toBe("2:other");
    expect(ended).toEqual([1]);
    expect(await calls.of(null).echo("on")).toBe("2:on");
  });

  test("a job that waits for something else than the worker is cancelled too", async () => {
    const { calls } = bench();
    const job = {};
    const never = calls.whileOn(job, new Promise(() => {}));
    calls.cancel(job);
    await expect(never).rejects.toBeInstanceOf(Cancelled);
  });

  test("a worker that dies leaves nobody waiting, and who asks next gets another", async () => {
    const { calls, ended, deaths } = bench();
    const waiting = [calls.of(null).slow("sample"), calls.of({}).slow("take")];
    const last = deaths().at(-1);
    last?.(new Error("out of memory"));
    for (const call of waiting) await expect(call).rejects.toThrow("out of memory");
    expect(ended).toEqual([1]);
    expect(await calls.of(null).echo("on")).toBe("2:on");
    // Its last words, should they come late, concern nobody.
    last?.(new Error("again"));
    expect(ended).toEqual([1]);
  });

  test("two jobs: cancelling one leaves the other", async () => {
    const { calls, answer } = bench();
    const [one, two] = [{}, {}];
    const first = calls.whileOn(one, calls.of(one).slow("one"));
    const second = calls.whileOn(two, calls.of(two).slow("two"));
    calls.cancel(two);
    await expect(second).rejects.toBeInstanceOf(Cancelled);
    answer();
    expect(await first).toBe("2:one");
  });
});
