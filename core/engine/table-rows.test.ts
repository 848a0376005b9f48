import { describe, expect, test } from "@jest/globals";
import { hertzOf } from "../audio";
import {
  addFaceItem,
  addRoute,
  addUnit,
  findParam,
  type Instrument,
  moving,
  newUnit,
  removeRows,
  setParam,
  setTable,
  together,
} from "../instrument";
import type { TableRow } from "../units";
import { baseValues } from "./compile";
import { amplitude, begun, computed, decibels, FACTOR, type Settings } from "./computed-bench";
import { routeProblem } from "./route-problem";
import { benchOf, peak, RATE } from "./test-bench";

const SOURCE = "layers/main/source";
const LEVEL = 0.25;
const rows = (count: number, more: TableRow = {}): TableRow[] =>
  Array.from({ length: count }, (_, i) => ({ ratio: i + 1, level: -12, ...more }));

const partials = (table: readonly TableRow[], params: Settings = {}): Instrument => computed("partials", params, table);
const routed = (doc: Instrument, source: string, target: string, amount: number): Instrument =>
  addRoute({ id: `r${doc.routes.length}`, source, target, amount, on: true }).apply(doc);

/** Level of a sine in both channels of what sounds after a moment. */
function levels(doc: Instrument, key: number, hertz: number): { left: number; right: number } {
  const b = begun(doc, key);
  b.play(4800);
  const { left, right } = b.play(RATE / 2);
  const level = (x: Float32Array) => decibels(amplitude(x, hertz) / FACTOR / LEVEL);
  return { left: level(left), right: level(right) };
}

describe("rows of a table as targets", () => {
  test("a macro moves one row for all notes, and again when it is turned under them", () => {
    const doc = routed(partials(rows(4)), "macros/macro1", `${SOURCE}/rows/2/level`, 12);
    const turned = (value: number) => setParam(doc, "macros/macro1/value", value).apply(doc);
    const b = benchOf(turned(0));
    b.engine.midi(0x90, 57, 100);
    b.play(4800);
    const level = () => decibels(amplitude(b.play(RATE / 2).left, 440) / FACTOR / LEVEL);
    expect(level()).toBeCloseTo(-12, 1);
    b.engine.setBase(baseValues(turned(0.5)));
    b.play(4800);
    expect(level()).toBeCloseTo(-6, 1);
    // Turned while nothing sounds, it holds from the first frame of the next note on.
    b.engine.midi(0x80, 57, 0);
    b.play(RATE * 2);
    b.engine.setBase(baseValues(turned(1)));
    b.engine.midi(0x90, 57, 100);
    expect(decibels(amplitude(b.play(RATE / 2).left, 440) / FACTOR / LEVEL)).toBeCloseTo(0, 1);
    expect(decibels(amplitude(b.play(RATE / 2).left, 660) / FACTOR / LEVEL)).toBeCloseTo(-12, 1);
  });

  test("each note has its own rows: velocity opens the third partial alone, an odd and an even row beside each other", () => {
    const doc = routed(
      routed(partials(rows(5)), "velocity", `${SOURCE}/rows/3/level`, 12),
      "key",
      `${SOURCE}/rows/4/detune`,
      60,
    );
    const b = benchOf(doc);
    b.engine.midi(0x90, 57, 127);
    b.engine.midi(0x90, 45, 1);
    b.play(4800);
    const { left } = b.play(RATE);
    const level = (hertz: number) => decibels(amplitude(left, hertz) / FACTOR / LEVEL);
    expect(level(660)).toBeCloseTo(0, 1);
    expect(level(330)).toBeCloseTo(-12 + 12 / 127, 1);
    // Three semitones below middle C: 60 · −3/60 cents.
    expect(level(880 * 2 ** (-3 / 1200))).toBeCloseTo(-12, 1);
    expect(level(770)).toBeLessThan(-90);
    expect(level(1100)).toBeCloseTo(-12, 1);
  });

  test("an envelope bends only a body’s lowest mode", () => {
    const made = addUnit("layers/main/stages", newUnit("resonator", "body")).apply(
      computed("noise", { colour: "white" }),
    );
    const modes = [
      { ratio: 1, level: 0, decay: 20 },
      { ratio: 3, level: 0, decay: 20 },
    ];
    const tuned = setTable("layers/main/stages/body", modes, "").apply(made);
    const swept = addUnit("envelopes", newUnit("envelope", "env1")).apply(tuned);
    const bent = setParam(swept, "envelopes/env1/sustain", 1).apply(swept);
    const doc = routed(bent, "envelopes/env1", "layers/main/stages/body/rows/1/ratio", 1);
    const b = begun(doc, 57);
    b.play(RATE * 2);
    const { left } = b.play(RATE);
    const band = (hertz: number) => {
      let sum = 0;
      for (let f = hertz * 0.98; f < hertz * 1.02; f += 1) sum += amplitude(left, f) ** 2;
      return 10 * Math.log10(sum);
    };
    expect(band(440)).toBeGreaterThan(band(220) + 20);
    expect(band(660)).toBeGreaterThan(band(1320) + 20);
  });

  test("notes have so many rows of their own and no more: the ninth says so", () => {
    let doc = partials(rows(12));
    for (let r = 1; r <= 9; r++) doc = routed(doc, "velocity", `${SOURCE}/rows/${r}/level`, 6);
    const problems = doc.routes.slice(-9).map((r) => routeProblem(doc, r));
    expect(problems.slice(0, 8)).toEqual(new Array(8).fill(null));
    expect(problems[8]).toContain("8 partials of their own");
    expect(peak(begun(doc, 60).play(4800).left)).toBeGreaterThan(0);
  });

  test("rows that move for all notes don't count among those that notes have of their own", () => {
    let doc = partials(rows(12));
    for (let r = 1; r <= 9; r++) doc = routed(doc, "macros/macro1", `${SOURCE}/rows/${r}/level`, 6);
    doc = routed(doc, "velocity", `${SOURCE}/rows/10/level`, 6);
    expect(doc.routes.slice(-10).map((r) => routeProblem(doc, r))).toEqual(new Array(10).fill(null));
  });

  test("a place or a decay that is only moved, and 0 in every row, is heard", () => {
    const aside = routed(partials(rows(2)), "velocity", `${SOURCE}/rows/1/pan`, 1);
    const { left, right } = levels(aside, 57, 220);
    expect(right - left).toBeGreaterThan(6);
    const dying = routed(partials(rows(2)), "macros/macro1", `${SOURCE}/rows/1/decay`, 1);
    const b = begun(setParam(dying, "macros/macro1/value", 0.5).apply(dying), 57);
    b.play(RATE / 2);
    const { left: late } = b.play(RATE / 4);
    expect(decibels(amplitude(late, 220) / amplitude(late, 440))).toBeLessThan(-30);
  });

  test("rows taken out take their routes along, and those behind them keep theirs", () => {
    const doc = routed(
      routed(partials(rows(5)), "velocity", `${SOURCE}/rows/2/level`, 6),
      "velocity",
      `${SOURCE}/rows/5/level`,
      6,
    );
    const shown = addFaceItem({
      id: "f",
      kind: "dial",
      x: 0,
      y: 0,
      width: 90,
      height: 90,
      text: "Fourth",
      moves: moving(`${SOURCE}/rows/4/level`),
    }).apply(doc);
    const less = removeRows(SOURCE, [1, 2], "Remove two").apply(shown);
    expect(less.layers[0]?.source.table?.map((r) => r.ratio)).toEqual([1, 4, 5]);
    expect(less.routes.map((r) => r.target).filter((t) => t.includes("/rows/"))).toEqual([`${SOURCE}/rows/3/level`]);
    expect(less.face.items.find((i) => i.id === "f")?.moves[0]?.address).toBe(`${SOURCE}/rows/2/level`);
    // A table that is replaced by a shorter one: what named its end is gone.
    const short = setTable(SOURCE, rows(1), "Fewer").apply(shown);
    expect(short.routes.some((r) => r.target.includes("/rows/"))).toBe(false);
    expect(short.face.items.find((i) => i.id === "f")?.moves).toEqual([]);
  });

  test("a row is found, shown and set by its address; what isn’t there isn’t found", () => {
    const doc = partials(rows(3));
    expect(findParam(doc, `${SOURCE}/rows/3/level`)?.label).toBe("Partials partial 3 level");
    for (const odd of ["rows/0/level", "rows/4/level", "rows/1/colour", "rows/1e1/level"])
      expect(findParam(doc, `${SOURCE}/${odd}`)).toBeNull();
    const set = together("", [setParam(doc, `${SOURCE}/rows/3/level`, -200)]).apply(doc);
    expect(set.layers[0]?.source.table?.[2]?.level).toBe(-96);
  });
});

describe("partials with places, detune and decays of their own", () => {
  test("pan: by sines and cosines, as loud in power wherever it stands", () => {
    const table = [
      { ratio: 1, level: 0, pan: 1 },
      { ratio: 2, level: 0, pan: -0.5 },
    ];
    const right = levels(partials(table), 57, 220);
    expect(right.left).toBeLessThan(-90);
    expect(right.right).toBeCloseTo(20 * Math.log10(Math.SQRT2), 1);
    const half = levels(partials(table), 57, 440);
    expect(half.left).toBeCloseTo(20 * Math.log10(Math.SQRT2 * Math.cos(Math.PI / 8)), 1);
    expect(half.right).toBeCloseTo(20 * Math.log10(Math.SQRT2 * Math.sin(Math.PI / 8)), 1);
    expect(levels(partials(table, { spread: 0 }), 57, 220).left).toBeCloseTo(0, 1);
  });

  test("decay: 60 dB in its time, shorter with damping, and the voice is over when all have died", () => {
    const fall = (params: Settings, row: TableRow, hertz: number) => {
      const b = begun(partials([{ ratio: 1, level: 0, ...row }], params), 57);
      const at = (x: Float32Array) => decibels(amplitude(x, hertz));
      const first = at(b.play(9600).left);
      b.play(9600);
      return first - at(b.play(9600).left);
    };
    expect(fall({}, { decay: 2 }, 220)).toBeCloseTo((60 / 2) * 0.4, 1);
    expect(fall({ decay: 2 }, { decay: 2 }, 220)).toBeCloseTo((60 / 4) * 0.4, 1);
    expect(fall({ damping: 1 }, { ratio: 4, decay: 4 }, 880)).toBeCloseTo((60 / 1) * 0.4, 1);
    expect(fall({}, { decay: 0 }, 220)).toBeCloseTo(0, 2);
    const b = begun(partials(rows(6, { decay: 0.2 })), 57);
    b.play(RATE);
    expect(b.engine.status().voices).toBe(0);
  });

  test("attack: in a straight line in its time, longer for all if wished, by itself; what has only begun to isn't over", () => {
    const level = (row: TableRow, params: Settings, from: number) => {
      const b = begun(partials([{ ratio: 1, level: 0, ...row }], params), 57);
      b.play(from);
      // A whole number of cycles about its middle.
      return amplitude(b.play(4800).left, 220);
    };
    const whole = level({}, {}, 24000);
    const share = (row: TableRow, params: Settings, from: number) => level(row, params, from) / whole;
    expect(share({ attack: 1 }, {}, 9600)).toBeCloseTo(0.25, 2);
    expect(share({ attack: 1 }, {}, 33600)).toBeCloseTo(0.75, 2);
    expect(share({ attack: 1 }, {}, 60000)).toBeCloseTo(1, 2);
    expect(share({ attack: 1 }, { attack: 2 }, 45600)).toBeCloseTo(0.5, 2);
    expect(share({ attack: 0 }, { attack: 20 }, 480)).toBeCloseTo(1, 1);
    const both = partials([
      { ratio: 1, level: -30, attack: 20, decay: 30 },
      { ratio: 2, level: -90, decay: 0.1 },
    ]);
    const b = begun(both, 57);
    b.play(RATE);
    expect(b.engine.status().voices).toBe(1);
    const moved = routed(partials(rows(2)), "macros/macro1", `${SOURCE}/rows/0/attack`, 2);
    expect(moved.routes).toHaveLength(1);
  });

  test("detune, odd and even, phases apart", () => {
    expect(levels(partials([{ ratio: 2, level: 0, detune: 50 }]), 57, 440 * 2 ** (50 / 1200)).left).toBeCloseTo(0, 1);
    const odd = partials(rows(5), { oddEven: -1 });
    expect(levels(odd, 57, 440).left).toBeLessThan(-90);
    expect(levels(odd, 57, 660).left).toBeCloseTo(-12, 1);
    const even = partials(rows(5), { oddEven: 0.5 });
    expect(levels(even, 57, 660).left).toBeCloseTo(-12 - 6.02, 1);
    expect(levels(even, 57, 220).left).toBeCloseTo(-12, 1);
    const together64 = peak(begun(partials(rows(64)), 45).play(9600).left);
    const apart = peak(begun(partials(rows(64), { phases: 1 }), 45).play(9600).left);
    expect(apart).toBeLessThan(0.45 * together64);
  });

  test("256 of them, whole and in any pieces, and far above half the rate: finite and the same bits", () => {
    const doc = partials(rows(256, { pan: 0.3, decay: 1 }));
    const whole = begun(doc, 33).play(4800).left;
    const b = begun(doc, 33);
    const pieces = [7, 120, 33, 1, 64, 900, 3675].flatMap((n) => [...b.play(n).left]);
    expect(pieces).toEqual([...whole]);
    expect(peak(begun(doc, 127).play(4800).left)).toBeLessThanOrEqual(1);
    expect(hertzOf(127) * 256).toBeGreaterThan(RATE);
  });
});

describe("a resonator's place of the hit and its level", () => {
  const body = (params: Settings, table: readonly TableRow[]): Instrument => {
    const made = addUnit("layers/main/stages", newUnit("resonator", "s")).apply(computed("impulses"));
    return together("", [
      setTable("layers/main/stages/s", table, ""),
      ...Object.entries(params).map(([id, value]) => setParam(made, `layers/main/stages/s/${id}`, value)),
    ]).apply(made);
  };
  const level = (doc: Instrument, hertz: number) => {
    const b = begun(doc, 57);
    b.play(RATE);
    return decibels(amplitude(b.play(RATE / 2).left, hertz));
  };
  const table = [1, 2, 3, 4].map((ratio) => ({ ratio, level: 0, decay: 0.5 }));

  test("a mode with a node where it is hit is silent; others by the sine", () => {
    const everywhere = body({}, table);
    for (const place of [0.5, 0.25, 0.2]) {
      const hit = body({ strikePosition: place }, table);
      for (const ratio of [1, 2, 3, 4]) {
        const wanted = decibels(Math.abs(Math.sin(Math.PI * place * ratio)));
        const less = level(hit, 220 * ratio) - level(everywhere, 220 * ratio);
        if (wanted < -60) expect(less).toBeLessThan(-30);
        else expect(less).toBeCloseTo(wanted, 0);
      }
    }
  });

  test("level kept: four modes as loud as one", () => {
    const four = level(body({ compensation: 1 }, table), 220);
    expect(four - level(body({}, table), 220)).toBeCloseTo(-6.02, 1);
    expect(level(body({ compensation: 1 }, table.slice(0, 1)), 220)).toBeCloseTo(
      level(body({}, table.slice(0, 1)), 220),
      1,
    );
  });
});
