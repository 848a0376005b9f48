import { describe, expect, test } from "@jest/globals";
import { CELL_STATE, CELLS, STEADY, WEIGHT_STATE } from "../dsp";
import { addRoute, type Instrument, setParam } from "../instrument";
import { baseValues } from "./compile";
import type { SharedParts } from "./shared-parts";
import { type Bench, bench, peak, sine } from "./test-bench";

const STEP = 2400;
const KEYS = [60, 64, 67];

const set = (instrument: Instrument, id: string, value: number | string): Instrument =>
  setParam(instrument, `layers/main/${id}`, value).apply(instrument);

/** Three notes of a tone low and high, six voices of eight that there may be; soft, so that the limiter stays out of it. */
function play(character: string, slope: string, cutoff: number): Bench {
  const sounds = [220, 1700].map((hertz) => sine(60000, hertz, 0.02));
  const zones = sounds.map((_, sound) => ({ sound, root: 60, track: 0 }));
  const b = bench(sounds, zones, (i) => {
    let next = set(i, "stages/filter/type", "low");
    next = set(next, "stages/filter/model", character);
    next = set(next, "stages/filter/slope", slope);
    next = setParam(next, "play/voices", 8).apply(next);
    next = set(next, "amp/release", 2);
    const target = "layers/main/stages/filter/cutoff";
    next = addRoute({ id: "r", source: "wheel", target, amount: 3, on: true, smooth: 0 }).apply(next);
    return set(next, "stages/filter/cutoff", cutoff);
  });
  for (const key of KEYS) b.engine.midi(0x90, key, 100);
  return b;
}

const move = (b: Bench, cutoff: number): void =>
  b.engine.setBase(baseValues(set(b.instrument, "stages/filter/cutoff", cutoff)));

const apart = (a: Float32Array, b: Float32Array): number => peak(a.map((x, i) => x - (b[i] as number)));

const kinds = ["6", "12", "18", "24"].map((slope) => ["clean", slope] as const);

describe("a cutoff that all notes share", () => {
  test("while it moves, weights that have arrived rest: the kernels run the shorter loop, and mix by themselves", () => {
    const b = play("clean", "12", 900);
    b.play(STEP);
    const { heap, pool } = (b.engine as unknown as { shared: SharedParts }).shared;
    for (let n = 0; n < 20; n++) {
      b.engine.midi(0xb0, 1, 6 * n);
      b.play(64);
    }
    const voice = pool.voices.find((v) => v.active);
    if (!voice) throw new RangeError("a voice sounds");
    const section = heap.u32[(voice.pair + CELLS) / 4] as number;
    expect(heap.i32[(section + WEIGHT_STATE) / 4]).toBe(STEADY);
    expect(heap.i32[(section + CELL_STATE) / 4]).not.toBe(STEADY);
  });

  test.each([...kinds, ["ladder", "24"] as const])(
    "%s %s dB: once moved, the notes sound as those begun there",
    (character, slope) => {
      const moved = play(character, slope, 300);
      const truth = play(character, slope, 2500);
      moved.play(STEP);
      truth.play(STEP);
      move(moved, 2500);
      // Until the filters have forgotten where they were.
      moved.play(4 * STEP);
      truth.play(4 * STEP);
      const [heard, wanted] = [moved.play(STEP).left, truth.play(STEP).left];
      expect(peak(wanted)).toBeGreaterThan(0.01);
      expect(apart(heard, wanted)).toBeLessThan(1e-6);
    },
  );

  test.each(kinds)(
    "%s %s dB: moved together and one by one in turn, it is never mistaken for where it was",
    (character, slope) => {
      const moved = play(character, slope, 300);
      const truth = play(character, slope, 300);
      moved.play(STEP);
      truth.play(STEP);
      // The wheel moves them in one step: up by one call for all, back just as a voice gives way, so that each is told by itself.
      moved.engine.midi(0xb0, 1, 127);
      for (const b of [moved, truth]) {
        for (const key of [70, 71]) {
          b.engine.midi(0x90, key, 100);
          b.engine.midi(0x80, key, 0);
          b.play(STEP);
        }
      }
      moved.engine.midi(0xb0, 1, 0);
      for (const b of [moved, truth]) b.engine.midi(0x90, 72, 100);
      moved.play(2 * STEP);
      truth.play(2 * STEP);
      const [heard, wanted] = [moved.play(STEP).left, truth.play(STEP).left];
      expect(peak(wanted)).toBeGreaterThan(0.01);
      expect(apart(heard, wanted)).toBeLessThan(1e-6);
    },
  );
});
