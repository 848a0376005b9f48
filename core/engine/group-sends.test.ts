import { describe, expect, test } from "@jest/globals";
import { addGroup, addRoute, addUnit, type Edit, type Instrument, newGroup, newUnit, setParam } from "../instrument";
import { routeProblem } from "./route-problem";
import { bench, RATE, rms, sine, steepest } from "./test-bench";

const LENGTH = RATE * 3;
const LOW = sine(LENGTH, 220, 0.2);
const HIGH = sine(LENGTH, 1100, 0.2);
const SEND = "layers/main/groups/bells/send2";
/** Half a second: what the send gives comes that much later. */
const LATE = RATE / 2;

const done = (doc: Instrument, ...edits: Edit[]): Instrument => edits.reduce((d, e) => e.apply(d), doc);
const set = (doc: Instrument, address: string, value: number | string) => setParam(doc, address, value).apply(doc);

/** Puts a zone into another group of its layer. */
const regroup = (doc: Instrument, zone: string, to: string): Instrument => ({
  ...doc,
  layers: doc.layers.map((layer) => {
    const found = layer.groups.flatMap((g) => g.zones).find((z) => z.id === zone);
    return {
      ...layer,
      groups: layer.groups.map((g) => ({
        ...g,
        zones: [...g.zones.filter((z) => z.id !== zone), ...(found && g.id === to ? [found] : [])],
      })),
    };
  }),
});

/** Two tones of one layer, the higher one in a group of its own; what goes to the second send comes half a second later, and only then. */
function played(adjust: (doc: Instrument) => Instrument = (d) => d) {
  const zones = [
    { keyLow: 60, keyHigh: 60, root: 60, sound: 0 },
    { keyLow: 62, keyHigh: 62, root: 62, sound: 1 },
  ];
  const echo = newUnit("delay", "echo");
  const b = bench([LOW, HIGH], zones, (doc) => {
    const grouped = regroup(done({ ...doc, effects: [] }, addGroup("main", newGroup("bells", "Bells"))), "z1", "bells");
    const params = { ...echo.params, mix: 1, time: 0.5, feedback: 0, beat: "free" };
    return adjust(done(grouped, addUnit("sends/send2", { ...echo, params })));
  });
  b.engine.midi(0x90, 60, 127);
  b.engine.midi(0x90, 62, 127);
  return b;
}

/** How much of a frequency there is in a stretch, as the amplitude of a sine. */
function amount(x: Float32Array, hertz: number): number {
  let [re, im] = [0, 0];
  for (let i = 0; i < x.length; i++) {
    re += (x[i] as number) * Math.cos((2 * Math.PI * hertz * i) / RATE);
    im += (x[i] as number) * Math.sin((2 * Math.PI * hertz * i) / RATE);
  }
  return (2 * Math.hypot(re, im)) / x.length;
}

/** What a send adds to the plain sound: the difference to the same without it. */
function added(b: { play: (frames: number) => { left: Float32Array } }, frames: number): Float32Array {
  const plain = played().play(frames).left;
  return b.play(frames).left.map((x, i) => x - (plain[i] as number));
}

describe("a group's sends", () => {
  test("only the group goes there, and the sound itself stays as it is", () => {
    const wet = added(
      played((d) => set(d, SEND, -6.0206)),
      RATE * 2,
    );
    expect(rms(wet.subarray(0, LATE - 100))).toBeLessThan(1e-6);
    const late = wet.subarray(RATE);
    expect(amount(late, 1100) / amount(played().play(RATE).left, 1100)).toBeCloseTo(0.5, 2);
    expect(amount(late, 220)).toBeLessThan(1e-4);
  });

  test("the layer's inserts don't reach it; what the layer sends comes on top", () => {
    const louder = newUnit("stereo", "louder");
    const quiet = { ...louder, params: { ...louder.params, level: -20 } };
    const at = (layer: number) => (d: Instrument) =>
      set(
        set(done(d, addUnit("layers/main/inserts", quiet)), SEND, layer < 0 ? 0 : -60),
        "layers/main/sends/send2",
        layer < 0 ? -60 : layer,
      );
    const dry = amount(played().play(RATE).left.subarray(4800), 1100);
    const late = (adjust: (d: Instrument) => Instrument) => {
      const { left } = played(adjust).play(RATE * 2);
      return amount(left.subarray(RATE), 1100) - amount(left.subarray(4800, LATE), 1100);
    };
    // Both tones are whole numbers of cycles in half a second, so that the echo adds up with the sound.
    expect(Math.abs(late(at(-1)))).toBeGreaterThan(dry * 0.85);
    expect(Math.abs(late(at(0)))).toBeLessThan(dry * 0.15);
  });

  test.each([
    ["switched on", (d: Instrument) => set(d, SEND, 0), (d: Instrument) => d],
    ["switched off", (d: Instrument) => set(d, SEND, -60), (d: Instrument) => set(d, SEND, 0)],
    ["left by a zone", (d: Instrument) => regroup(d, "z1", "main"), (d: Instrument) => set(d, SEND, 0)],
    ["joined by a zone", (d: Instrument) => regroup(d, "z0", "bells"), (d: Instrument) => set(d, SEND, 0)],
  ])("%s under held notes, nothing steps", (_, edit, adjust) => {
    const b = played(adjust);
    const all = new Float32Array(RATE * 2);
    const at = RATE / 4 + 55;
    all.set(b.play(at).left);
    b.change(edit(b.instrument));
    all.set(b.play(all.length - at).left, at);
    const plain = played().play(RATE).left;
    const after = all.subarray(at - 200, at + 4800);
    const same = after.map((x, i) => x - (plain[at - 200 + i] as number));
    // Until the send's delay is over, the sound is as it was; two readers of one sound are the same to a rounding.
    expect(rms(same)).toBeLessThan(1e-4);
    const whole = steepest(all, 100);
    expect(whole).toBeLessThan(
      2 * 2 * Math.sin((Math.PI * 1100) / RATE) * 0.21 + 2 * 2 * Math.sin((Math.PI * 220) / RATE) * 0.21,
    );
  });

  test("switched on and moved under held notes by its place alone, voices go there and back", () => {
    const b = played();
    b.play(RATE / 4);
    const on = set(b.instrument, SEND, 0);
    b.change(on);
    b.play(RATE / 2);
    const { left } = b.play(RATE / 2);
    expect(amount(left, 1100) / amount(played().play(RATE).left.subarray(4800), 1100)).toBeGreaterThan(1.8);
    expect(amount(left, 220) / amount(played().play(RATE).left.subarray(4800), 220)).toBeCloseTo(1, 2);
    b.change(b.instrument);
    b.play(RATE);
    expect(amount(b.play(RATE / 2).left, 1100) / amount(played().play(RATE).left.subarray(4800), 1100)).toBeCloseTo(
      1,
      2,
    );
  });

  test("any split of the blocks gives the same bits", () => {
    const whole = played((d) => set(d, SEND, 0)).play(RATE);
    const parts = played((d) => set(d, SEND, 0)).play(RATE, 37);
    expect(parts.left).toEqual(whole.left);
    expect(parts.right).toEqual(whole.right);
  });

  test("what moves for all notes can move it; what belongs to each note can't, and is told so", () => {
    const route = { id: "r", target: SEND, amount: 60, on: true };
    const doc = done(
      played().instrument,
      addRoute({ ...route, source: "wheel", curve: null, scale: null, smooth: null }),
    );
    expect(routeProblem(doc, { ...route, source: "velocity" })).toMatch(/belongs to each note/);
    const b = played(() => doc);
    b.engine.midi(0xb0, 1, 127);
    b.play(RATE);
    expect(amount(b.play(RATE / 2).left, 1100) / amount(played().play(RATE).left.subarray(4800), 1100)).toBeGreaterThan(
      1.8,
    );
  });
});
