import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { CONTROL, compileKernels, startKernels } from "../dsp";
import { kindsAt, type UnitKind, unitSpec } from "./list";

const RATE = 48000;
const KERNELS = compileKernels();
type Values = Record<string, number>;

/** A parameter's default, lowest or highest value as the engine gives it: of a choice its number. */
function valuesOf(kind: UnitKind, which: "default" | "low" | "high"): Values {
  return Object.fromEntries(
    unitSpec(kind).params.map((p) => {
      if (p.type === "choice") {
        const at = p.choices.findIndex((c) => c.id === p.default);
        return [p.id, which === "default" ? at : which === "low" ? 0 : p.choices.length - 1];
      }
      return [p.id, which === "default" ? p.default : which === "low" ? p.min : p.max];
    }),
  );
}

/** A unit of a kind that plays: values may be changed between calls, which are cut at control steps as the engine cuts them. */
function player(kind: UnitKind, values: Values) {
  const block = unitSpec(kind).block?.(RATE, startKernels(KERNELS));
  if (!block) throw new Error(`${kind} has no block`);
  const impulse = Float32Array.from({ length: 9000 }, (_, i) => Math.exp(-i / 1500) * Math.sin(i * i * 1e-3) * 0.2);
  block.load?.({ rate: RATE, channels: [impulse] }, true);
  let frame = 0;
  const set = (next: Values) => block.tune((id) => next[id] as number, 120);
  set(values);
  return {
    unit: block.unit,
    set,
    play: (left: Float32Array, right: Float32Array, cut: (at: number) => number = () => CONTROL) => {
      for (let at = 0; at < left.length; ) {
        const phase = frame % CONTROL;
        if (phase === 0) block.unit.control?.();
        const count = Math.min(left.length - at, CONTROL - phase, cut(at));
        block.unit.process(left, right, at, at + count);
        at += count;
        frame += count;
      }
    },
  };
}

function noise(frames: number, seed: number, level = 0.3): Float32Array {
  const random = seededRandom(seed);
  return Float32Array.from({ length: frames }, () => (random() * 2 - 1) * level);
}

const peak = (x: Float32Array, from = 0): number =>
  x.subarray(from).reduce((most, v) => Math.max(most, Math.abs(v)), 0);

describe.each([...new Set([...kindsAt("insert"), ...kindsAt("send"), ...kindsAt("main")])])("%s on a bus", (kind) => {
  test("any split of the frames gives the same bits", () => {
    const whole = [noise(4000, 1), noise(4000, 2)] as const;
    const parts = [whole[0].slice(), whole[1].slice()] as const;
    player(kind, valuesOf(kind, "default")).play(...whole);
    const random = seededRandom(5);
    player(kind, valuesOf(kind, "default")).play(...parts, () => 1 + Math.floor(random() * 17));
    expect(parts[0]).toEqual(whole[0]);
    expect(parts[1]).toEqual(whole[1]);
  });

  test("whatever it is set to, at full speed: finite, bounded, and silent in the end", () => {
    const { set, play } = player(kind, valuesOf(kind, "low"));
    const random = seededRandom(9);
    const [low, high] = [valuesOf(kind, "low"), valuesOf(kind, "high")];
    let most = 0;
    for (let n = 0; n < 300; n++) {
      set(
        Object.fromEntries(
          unitSpec(kind).params.map(({ id, type }) => {
            const t = random() < 0.3 ? Math.round(random()) : random();
            const value = (low[id] as number) + t * ((high[id] as number) - (low[id] as number));
            return [id, type === "choice" ? Math.round(value) : value];
          }),
        ),
      );
      const left = noise(160, n, 1);
      const right = noise(160, n + 999, 1);
      play(left, right);
      if (![...left, ...right].every(Number.isFinite)) throw new Error("not finite");
      most = Math.max(most, peak(left), peak(right));
    }
    // Eight bands may lift by 24 dB each.
    expect(most).toBeLessThan(1e6);
    set(valuesOf(kind, "default"));
    const left = new Float32Array(RATE * 12);
    const right = new Float32Array(RATE * 12);
    play(left, right);
    expect(Math.max(peak(left, RATE * 11), peak(right, RATE * 11))).toBeLessThan(1e-4);
  });

  test("after a reset it has heard nothing", () => {
    const fresh = player(kind, valuesOf(kind, "default"));
    const used = player(kind, valuesOf(kind, "default"));
    used.play(noise(3200, 3), noise(3200, 4));
    used.unit.reset();
    const out = [new Float32Array(3200), new Float32Array(3200)] as const;
    used.play(...out);
    expect(Math.max(peak(out[0]), peak(out[1]))).toBeLessThan(1e-15);
    expect(fresh.unit.ring).toBeGreaterThanOrEqual(0);
  });

  if (!unitSpec(kind).params.some((p) => p.id === "mix")) return;
  test("with an amount of 0 the sound is untouched", () => {
    const values = { ...valuesOf(kind, "default"), mix: 0, makeUp: 0 };
    const sound = [noise(2000, 6), noise(2000, 7)] as const;
    const out = [sound[0].slice(), sound[1].slice()] as const;
    player(kind, values).play(...out);
    expect(out).toEqual(sound);
  });
});

describe("what voices have, over the sum of them", () => {
  const tone = (hertz: number, level = 0.5): Float32Array =>
    Float32Array.from({ length: RATE }, (_, i) => level * Math.sin((2 * Math.PI * hertz * i) / RATE));
  const amplitude = (x: Float32Array, hertz: number): number => {
    let [re, im] = [0, 0];
    for (let i = RATE / 2; i < RATE; i++) {
      re += (x[i] as number) * Math.cos((2 * Math.PI * hertz * i) / RATE);
      im += (x[i] as number) * Math.sin((2 * Math.PI * hertz * i) / RATE);
    }
    return (4 * Math.hypot(re, im)) / RATE;
  };

  test("ring: a tone becomes two, as far above as below, each channel by itself", () => {
    const [left, right] = [tone(1000), tone(3000)];
    player("ring", { ...valuesOf("ring", "default"), tunedBy: 1, frequency: 220 }).play(left, right);
    for (const [x, hertz] of [
      [left, 1000],
      [right, 3000],
    ] as const) {
      for (const side of [-220, 220]) expect(amplitude(x, hertz + side)).toBeCloseTo(0.25, 3);
      expect(amplitude(x, hertz)).toBeLessThan(1e-3);
    }
  });

  test("transient: what begins is louder by what it says, what goes on is as it was", () => {
    const sound = tone(400, 0.2).map((v, i) => (i < RATE / 2 ? 0 : v));
    const [left, right] = [sound.slice(), sound.slice()];
    player("transient", { ...valuesOf("transient", "default"), attack: 12 }).play(left, right);
    const begun = RATE / 2;
    expect(peak(left.subarray(begun, begun + 480)) / peak(sound.subarray(begun, begun + 480))).toBeGreaterThan(2.5);
    expect(peak(left, RATE - 960)).toBeCloseTo(0.2, 2);
  });
});
