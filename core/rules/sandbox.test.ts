import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { beforeAll, describe, expect, test } from "@jest/globals";
import { bench, RATE, sine } from "../engine/test-bench";
import { changeRules } from "../instrument";
import { EXAMPLE_SCRIPT } from "./prelude";
import { type RuleProblem, Sandbox } from "./sandbox";

let sandbox: Sandbox;

beforeAll(async () => {
  const path = createRequire(`${process.cwd()}/package.json`).resolve("@jitl/quickjs-wasmfile-release-sync/wasm");
  sandbox = await Sandbox.open(new WebAssembly.Module(new Uint8Array(readFileSync(path))));
});

type Note = [number, number, number, number];

function load(script: string, seed = 1) {
  const problems: RuleProblem[] = [];
  const rules = sandbox.load(script, seed, (p) => problems.push(p));
  let time = 0;
  /** Asks about a key, a second after the one before unless it is said otherwise. */
  const ask = (key: number, velocity = 100, later = 1) => {
    time += later;
    const notes: Note[] = [];
    const fine = rules?.start(key, velocity, time, (...note) => notes.push(note));
    return { fine, notes };
  };
  return { rules, problems, ask };
}

describe("what a script can do", () => {
  test("change key, velocity and delay, add notes, drop them", () => {
    const { ask, problems } = load(`
      function start(note) {
        if (note.key < 30) return false;
        note.key += 12; note.velocity = 50; note.delay = 0.25;
        play({ key: note.key + 7, length: 1 });
      }`);
    expect(ask(60)).toEqual({
      fine: true,
      notes: [
        [79, 80, 0, 1],
        [72, 50, 0.25, 0],
      ],
    });
    expect(ask(20)).toEqual({ fine: true, notes: [] });
    expect(problems).toEqual([]);
  });

  test("keep state between notes, and see keys go up", () => {
    const { rules, ask } = load(
      "let n = 0; function start(note) { note.velocity = ++n; } function end(note) { play({ key: note.key + 1, length: 0.1 }); }",
    );
    expect([ask(60).notes[0]?.[1], ask(60).notes[0]?.[1]]).toEqual([1, 2]);
    const notes: Note[] = [];
    rules?.end(60, 0, (...note) => notes.push(note));
    expect(notes).toEqual([[61, 80, 0, 0.1]]);
  });

  test("random numbers come from the seed, so that a render can be repeated", () => {
    const series = (seed: number) => {
      const { ask } = load(
        "function start(note) { note.velocity = random(1, 127); note.delay = Math.random(); }",
        seed,
      );
      return Array.from({ length: 5 }, () => ask(60).notes[0]);
    };
    expect(series(7)).toEqual(series(7));
    expect(series(7)).not.toEqual(series(8));
  });

  test("the ready example makes repeated notes differ a little, and only a little", () => {
    const { ask, problems } = load(EXAMPLE_SCRIPT);
    const notes = Array.from({ length: 20 }, () => ask(60, 80).notes[0] ?? [0, 0, 0, 0]);
    expect(new Set(notes.map((n) => n[1])).size).toBe(20);
    for (const [key = 0, velocity = 0, delay = 9] of notes) {
      expect(key).toBe(60);
      expect(Math.abs(velocity - 80)).toBeLessThanOrEqual(11);
      expect(delay).toBeLessThanOrEqual(0.008);
    }
    expect(problems).toEqual([]);
  });
});

describe("what a script can't do", () => {
  test("reach the page, the network, the clock or the host", () => {
    const names = [
      "window",
      "document",
      "fetch",
      "XMLHttpRequest",
      "WebSocket",
      "Date",
      "performance",
      "process",
      "require",
      "localStorage",
      "setTimeout",
      "__emit",
      "__seed",
    ];
    const { ask } = load(
      `function start(note) { note.velocity = ${JSON.stringify(names)}.filter((n) => typeof globalThis[n] !== "undefined").length + 1; }`,
    );
    expect(ask(60).notes[0]?.[1]).toBe(1);
  });

  test.each([
    ["an endless loop", "while (true) {}"],
    ["endless recursion", "return start(note);"],
    ["endless memory", "const a = []; while (true) a.push(new Array(1000).fill('x'));"],
    ["endless notes", "for (let i = 0; i < 1e6; i++) play({ key: 1, length: 1 });"],
    ["a search through nothing", "new Array(3000000).indexOf(1);"],
    ["what pretends to be an array", "Array.prototype.indexOf.call({ length: 2 ** 53 - 1 }, 1);"],
    ["a pretended length that is taken", "Array.from({ length: 2 ** 40 });"],
    ["a length that is a promise", "Array.prototype.fill.apply({ get length() { return 1e15; } }, [1]);"],
    ["long things again and again", "const s = 'x'.repeat(200000); for (;;) s.indexOf('y');"],
    ["copies again and again", "const a = new Array(20000).fill(1); for (;;) a.slice();"],
    ["sorting again and again", "const a = new Float64Array(50000); for (;;) a.sort();"],
    ["arrays in one another", "let a = []; for (let i = 0; i < 60; i++) a = [a, a];\n  a.flat(Infinity);"],
    ["texts of arrays in one another", "let a = []; for (let i = 0; i < 60; i++) a = [a, a];\n  String(a);"],
    ["a pattern that tries everything", "/(a+)+b/.test('a'.repeat(40));"],
    ["sets of sets", "const a = new Array(20000).fill(1); for (;;) new Set(a);"],
  ])("%s is ended by its steps, nothing is half done, and its line is told", (_, act) => {
    const { rules, ask, problems } = load(`function start(note) {\n  ${act}\n}`);
    expect(ask(60)).toEqual({ fine: false, notes: [] });
    const { polls, most } = rules?.spent ?? { polls: Number.NaN, most: 0 };
    expect(polls).toBeLessThanOrEqual(most + 1);
    expect([1, 2, 3]).toContain(problems[0]?.line);
  });

  test.each([
    ["the test of numbers", "Number.isFinite = () => true; Number.isNaN = () => false;"],
    [
      "the methods of what holds numbers",
      "const p = Object.getPrototypeOf(Float64Array).prototype; for (const n of ['set', 'fill', 'subarray']) p[n] = () => {};",
    ],
    [
      "numbers and texts",
      "globalThis.String = 1; globalThis.TypeError = 1; Math.imul = () => NaN; globalThis.Float64Array = null;",
    ],
    [
      "what all things inherit",
      "Object.prototype.delay = 'x'; Object.defineProperty(Object.prototype, 'length', { get() { throw 1; } });",
    ],
  ])("replacing %s changes nothing for the host", (_, act) => {
    const { ask, problems } = load(`${act}\nfunction start(note) { if (note.key === 61) note.delay = NaN; }`);
    expect(ask(60)).toEqual({ fine: true, notes: [[60, 100, 0, 0]] });
    expect(ask(61)).toEqual({ fine: false, notes: [] });
    expect(problems).toHaveLength(1);
    expect(ask(60)).toEqual({ fine: true, notes: [[60, 100, 0, 0]] });
  });

  test("a note that would come when nobody hears it any more is told, and sounds as it was played", () => {
    const { ask, problems } = load("function start(note) {\n\n  note.delay = 1e9;\n}");
    expect(ask(60)).toEqual({ fine: false, notes: [] });
    expect(problems[0]).toMatchObject({ line: 3, reason: expect.stringMatching(/delay is at most 60 seconds/) });
  });

  test("ten keys at once may not cost ten times as much: what one moment may cost is bounded", () => {
    const { ask } = load("function start(note) {\n  for (let i = 0; i < 20000; i++) note.x = i;\n}");
    const fine = Array.from({ length: 40 }, (_, i) => ask(60, 100, i === 0 ? 1 : 0).fine);
    expect(fine[0]).toBe(true);
    expect(fine.filter((f) => !f).length).toBeGreaterThan(20);
    expect(ask(60).fine).toBe(true);
  });

  test("a script that calls itself is told so, and the next one runs", () => {
    const { ask, problems } = load("function start(note) { start(note); }");
    expect(ask(60)).toEqual({ fine: false, notes: [] });
    expect(problems[0]?.reason).toMatch(/calls itself/);
    expect(load("function start(note) { note.key = 1; }").ask(60).notes[0]?.[0]).toBe(1);
  });

  test("a script that keeps overrunning is switched off", () => {
    const { ask, problems } = load("function start() { while (true) {} }");
    for (let i = 0; i < 6; i++) ask(60);
    expect(problems).toHaveLength(3);
    expect(problems[2]?.stopped).toBe(true);
  });

  test.each([
    ["function start(note) {\n  note.velocity = 'loud';\n}", /velocity must be a number, not loud/, 2],
    ["function start(note) {\n\n  nonsense.call();\n}", /nonsense/, 3],
    ["function start(note {\n}", /expecting/, 1],
  ])("an error says its line and reason: %j", (script, reason, line) => {
    const { rules, ask, problems } = load(script);
    if (rules) expect(ask(60).fine).toBe(false);
    expect(problems[0]?.reason).toMatch(reason);
    if (line !== null) expect(problems[0]?.line).toBe(line);
  });
});

describe("in the engine", () => {
  test("a changed key sounds, its own key releases it, a delay is kept on both ends, and the trace tells", () => {
    const { rules } = load("function start(note) { note.key += 12; note.delay = 0.1; }");
    const b = bench([sine(4 * RATE, 300)], [{ root: 60 }], (i) => changeRules({ on: true, script: "-" }).apply(i));
    b.engine.rules = rules;
    b.engine.midi(0x90, 60, 100);
    const { left } = b.play(9600);
    const first = left.findIndex((x) => x !== 0);
    expect(first).toBeGreaterThanOrEqual(4800);
    expect(first).toBeLessThan(4810);
    expect(b.engine.trace.drain()[0]).toMatchObject({
      key: 72,
      playedKey: 60,
      rules: "changed",
      delay: expect.closeTo(0.1, 5),
    });
    b.engine.midi(0x80, 60, 0);
    b.play(4700);
    expect(b.engine.status().voices).toBe(1);
    b.play(RATE);
    expect(b.engine.status().voices).toBe(0);
  });

  test("a failing script leaves the note as played", () => {
    const { rules } = load("function start() { throw new Error('no'); }");
    const b = bench([sine(RATE, 300)], [{ root: 60 }]);
    b.engine.rules = rules;
    b.engine.midi(0x90, 64, 100);
    b.play(128);
    expect(b.engine.trace.drain()[0]).toMatchObject({ key: 64, rules: "failed", at: [{ reason: 0 }] });
  });
});
