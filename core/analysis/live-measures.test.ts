import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { bandEdge, LiveMeasures } from "./live-measures";

const RATE = 48000;
const BANDS = 240;
const tone = (hertz: number, level: number): Float32Array =>
  Float32Array.from({ length: 24000 }, (_, i) => level * Math.sin((2 * Math.PI * hertz * i) / RATE));

describe("what is measured while it sounds", () => {
  test("a sine: its band at its level, its pitch within two cents, both sides alike", () => {
    const measures = new LiveMeasures(RATE, BANDS);
    const x = tone(440, 0.5);
    const { spectrum, pitch, peak, likeness } = measures.take(x, x);
    const loudest = spectrum.reduce((best, v, b) => (v > (spectrum[best] as number) ? b : best), 0);
    expect(bandEdge(loudest, BANDS)).toBeLessThanOrEqual(452);
    expect(bandEdge(loudest + 1, BANDS)).toBeGreaterThanOrEqual(428);
    expect(Math.abs((spectrum[loudest] as number) + 6.02)).toBeLessThan(1.5);
    expect(Math.abs((pitch ?? 0) - 69)).toBeLessThan(0.02);
    expect(peak).toBeCloseTo(-6.02, 1);
    expect(likeness).toBeCloseTo(1, 5);
  });

  test("a full 997 Hz sine in one channel has −3.01 LUFS", () => {
    const measures = new LiveMeasures(RATE, BANDS);
    const { loudness } = measures.take(tone(997, 1), new Float32Array(24000));
    expect(loudness).toBeCloseTo(-3.01, 1);
  });

  test("upside down is −1, unrelated about 0, silence 0 and without a pitch", () => {
    const measures = new LiveMeasures(RATE, BANDS);
    const x = tone(300, 0.3);
    expect(
      measures.take(
        x,
        x.map((v) => -v),
      ).likeness,
    ).toBeCloseTo(-1, 5);
    const random = seededRandom(2);
    const noise = () => Float32Array.from({ length: 24000 }, () => random() - 0.5);
    const loose = measures.take(noise(), noise());
    expect(Math.abs(loose.likeness)).toBeLessThan(0.1);
    const silent = measures.take(new Float32Array(24000), new Float32Array(24000));
    expect(silent.likeness).toBe(0);
    expect(silent.pitch).toBeNull();
    expect(silent.loudness).toBe(-120);
  });

  test("peaks are held and fall by and by; forgotten they are gone", () => {
    const measures = new LiveMeasures(RATE, BANDS);
    const x = tone(1000, 0.5);
    measures.take(x, x);
    const silence = new Float32Array(24000);
    const most = () => measures.measured.held.reduce((a, b) => Math.max(a, b), -200);
    const before = most();
    for (let n = 0; n < 8; n++) measures.take(silence, silence);
    expect(most()).toBeCloseTo(before - 2, 3);
    measures.forget();
    expect(most()).toBe(-120);
  });
});
