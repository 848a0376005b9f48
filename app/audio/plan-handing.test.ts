import { afterEach, beforeEach, describe, expect, jest, test } from "@jest/globals";
import { addLayer, changeRules, type Instrument, newInstrument, newLayer, setParam } from "../../core/instrument";
import type { RuleProblem } from "../../core/rules";
import { PlanHanding } from "./plan-handing";
import type { ToEngine } from "./protocol";

const PROBLEM: RuleProblem = { line: 3, reason: "it never ends", stopped: true };

/** A handing whose messages are kept, with scripts that are tried as is asked for. */
function handing(tried: () => Promise<RuleProblem | null> = async () => null) {
  const sent: ToEngine[] = [];
  const shown: Instrument[] = [];
  const problems: (RuleProblem | null)[] = [];
  const trying: boolean[] = [];
  let left = 0;
  const plans = new PlanHanding({
    send: (message) => sent.push(message),
    leaving: () => left++,
    shown: (instrument) => shown.push(instrument),
    tryRules: tried,
    ruleProblem: (problem) => problems.push(problem),
    rulesTried: (now) => trying.push(now),
  });
  const types = (): string[] => sent.splice(0).map((m) => m.type);
  return { plans, sent, types, shown, problems, trying, left: () => left };
}

const one = newInstrument("one", "Spoke harp");
const louder = setParam(one, "play/level", -3).apply(one);
const layered = addLayer(newLayer("frame", "Frame")).apply(one);
const ruled = changeRules({ on: true, script: "on.note(() => {})" }).apply(one);

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

describe("handing an instrument to the audio thread", () => {
  test("what is shown before there is a thread is handed over once there is one, and anew to the next", () => {
    const { plans, types, shown } = handing();
    plans.show(one);
    expect(types()).toEqual([]);
    plans.begin();
    expect(types()).toEqual(["plan"]);
    plans.end();
    plans.show(louder);
    expect(types()).toEqual([]);
    plans.begin();
    expect(types()).toEqual(["plan"]);
    expect(shown).toEqual([one, louder]);
  });

  test("another value goes as base values, another structure as a plan, the same document not at all", () => {
    const { plans, types } = handing();
    plans.begin();
    plans.show(one);
    types();
    plans.show(louder);
    plans.settle();
    expect(types()).toEqual(["base"]);
    plans.show(louder);
    plans.settle();
    expect(types()).toEqual([]);
    plans.show(layered);
    plans.settle();
    expect(types()).toEqual(["plan"]);
  });

  test("another instrument ends what sounds of the last", () => {
    const { plans, types, left } = handing();
    plans.begin();
    plans.show(one);
    types();
    plans.show(newInstrument("two", "Tapped frame"));
    expect(types()).toEqual(["plan"]);
    expect(left()).toBe(1);
  });

  test("a script that is typed waits for its typist, and goes when a note is played", async () => {
    const { plans, types } = handing();
    plans.begin();
    plans.show(one);
    types();
    plans.show(ruled);
    jest.advanceTimersByTime(200);
    expect(types()).toEqual([]);
    plans.settle();
    await jest.advanceTimersByTimeAsync(0);
    expect(types()).toEqual(["plan", "rules"]);
    plans.show(one);
    await jest.advanceTimersByTimeAsync(260);
    expect(types()).toEqual(["plan", "rules"]);
  });

  test("a script that goes wrong isn't handed over, and one that was changed meanwhile is forgotten", async () => {
    const bad = handing(async () => PROBLEM);
    bad.plans.begin();
    bad.plans.show(ruled);
    await jest.advanceTimersByTimeAsync(0);
    expect(bad.sent.at(-1)).toEqual({ type: "rules", rules: null });
    expect(bad.problems).toEqual([PROBLEM]);

    let finish: (problem: RuleProblem | null) => void = () => {};
    const slow = handing(() => new Promise((resolve) => (finish = resolve)));
    slow.plans.begin();
    slow.plans.show(ruled);
    slow.plans.show(one);
    await jest.advanceTimersByTimeAsync(300);
    finish(PROBLEM);
    await jest.advanceTimersByTimeAsync(0);
    expect(slow.problems).toEqual([null]);
  });

  test("as long as a script is tried nothing is said of it but that", async () => {
    let done: (problem: RuleProblem | null) => void = () => {};
    const { plans, sent, problems, trying } = handing(
      () =>
        new Promise((resolve) => {
          done = resolve;
        }),
    );
    plans.begin();
    plans.show(ruled);
    await jest.runAllTimersAsync();
    expect(trying).toEqual([true]);
    expect([sent.some((m) => m.type === "rules"), problems]).toEqual([false, []]);
    done(PROBLEM);
    await jest.runAllTimersAsync();
    expect(trying).toEqual([true, false]);
    expect(problems).toEqual([PROBLEM]);
  });

  test("a script under which the thread hung isn't handed over again until it is another one", async () => {
    const { plans, sent, problems } = handing();
    const rules = () => sent.splice(0).flatMap((m) => (m.type === "rules" ? [m.rules] : []));
    plans.begin();
    plans.show(ruled);
    await jest.runAllTimersAsync();
    expect(rules()).toHaveLength(1);
    plans.end();
    expect(plans.distrust(true)).toBe(true);
    plans.begin();
    await jest.runAllTimersAsync();
    expect(rules()).toEqual([null]);
    expect(problems.at(-1)).toMatchObject({ stopped: true, reason: expect.stringContaining("hung") });
    plans.show(changeRules({ script: "on.note((n) => n)" }).apply(ruled));
    await jest.runAllTimersAsync();
    expect(rules()).toEqual([{ script: "on.note((n) => n)", seed: 1 }]);
    expect(problems.at(-1)).toBeNull();
  });

  test("a thread that died otherwise gets its script again", async () => {
    const { plans, sent } = handing();
    plans.begin();
    plans.show(ruled);
    await jest.runAllTimersAsync();
    plans.end();
    expect(plans.distrust(false)).toBe(false);
    sent.length = 0;
    plans.begin();
    await jest.runAllTimersAsync();
    expect(sent.filter((m) => m.type === "rules")).toMatchObject([{ rules: { seed: 1 } }]);
  });
});
