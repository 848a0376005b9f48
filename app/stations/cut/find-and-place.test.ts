import { expect, test } from "@jest/globals";
import { measureLevels, measureSlices } from "../../../core/analysis";
import { hertzOf, seededRandom } from "../../../core/audio";
import { bench } from "../../../core/engine/test-bench";
import { makeSample, readWav } from "../../../core/formats";
import { newTake } from "../../../core/instrument";
import { mergeSlices, placeSamples, searchTake, sliceId, slicesOf } from "../../../core/mapping";

const RATE = 44100;

/** The whole way from a take to a sounding key, by the very functions that the stations call. */
test("a take of five detuned notes comes out in tune on every key between them", () => {
  const random = seededRandom(6);
  const truth = [52.31, 55.18, 58.27, 61.4, 65.22];
  const x = Float32Array.from({ length: RATE * 9 }, () => (random() - 0.5) * 0.001);
  truth.forEach((note, i) => {
    const at = Math.round((0.6 + i * 1.6) * RATE);
    for (let k = 0; k < RATE; k++) {
      const t = k / RATE;
      let y = 0;
      for (let h = 1; h <= 6; h++) y += Math.sin(2 * Math.PI * hertzOf(note) * h * t) / h ** 1.5;
      x[at + k] = (x[at + k] ?? 0) + 0.3 * y * Math.exp(-4 * t) * Math.min(1, k / 60);
    }
  });
  const audio = { rate: RATE, channels: [x] };
  const levels = measureLevels(x, RATE);
  const take = newTake({
    id: "t",
    name: "five",
    sha: "0".repeat(64),
    rate: RATE,
    channels: 1,
    frames: x.length,
    origin: "recorded",
  });
  const found = measureSlices(
    audio,
    searchTake(take, levels, () => {
      throw new Error("no attacks are looked for");
    }),
  );
  const slices = mergeSlices(
    [],
    slicesOf(found, (i) => sliceId(found[i]?.onset ?? i)),
    RATE,
  );
  expect(slices).toHaveLength(5);
  const made = slices.map((s, i) => makeSample(audio, take, s, `five-${i + 1}`));
  const placement = placeSamples(
    made.map((m) => m.sample),
    { mode: "nearest", low: 48, high: 70 },
    (i) => `z${i}`,
  );
  expect(Math.abs(placement.detune - 27)).toBeLessThan(4);
  expect(placement.leftOut).toEqual([]);
  const sounds = made.map((m) => readWav(m.bytes).audio);
  for (const key of [48, 53, 57, 60, 63, 70]) {
    const b = bench(
      sounds,
      placement.zones.map((z) => {
        const { sample, ...rest } = z;
        return { ...rest, sound: made.findIndex((m) => m.sample.sha === sample) };
      }),
    );
    b.engine.midi(0x90, key, 100);
    const { left } = b.play(30000);
    const [slice] = measureSlices({ rate: 48000, channels: [left] }, [{ start: 0, end: left.length, onset: 0 }]);
    expect(Math.abs((slice?.pitch ?? 0) - key) * 100).toBeLessThan(5);
  }
});
