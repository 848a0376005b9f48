import { Fft } from "../core/audio";
import { bench, RATE } from "../core/engine/test-bench";
import { setParam } from "../core/instrument";
import { type Figure, round } from "./figure";

const SIZE = 32768;
const SAMPLE_RATE = 44100;
const LEVEL = 0.5;

/** Level of the strongest component beside the wanted one, against the sine that went in, in decibels. */
function spurious(x: Float32Array, wanted: number): number {
  const re = new Float64Array(SIZE);
  const im = new Float64Array(SIZE);
  // Blackman–Harris (1978), four terms: side lobes at −92 dB; squared, they are out of the way.
  let sum = 0;
  for (let i = 0; i < SIZE; i++) {
    const t = (2 * Math.PI * i) / SIZE;
    const window = 0.35875 - 0.48829 * Math.cos(t) + 0.14128 * Math.cos(2 * t) - 0.01168 * Math.cos(3 * t);
    re[i] = (x[i] ?? 0) * window * window;
    sum += window * window;
  }
  new Fft(SIZE).forward(re, im);
  // Beyond half the rate nothing is wanted: whatever is there has been folded back.
  const bin = wanted < RATE / 2 ? (wanted / RATE) * SIZE : Number.NEGATIVE_INFINITY;
  const full = ((LEVEL * sum) / 2) ** 2;
  let rest = 0;
  for (let k = 8; k < SIZE / 2 - 8; k++) {
    if (Math.abs(k - bin) >= 12) rest = Math.max(rest, (re[k] ?? 0) ** 2 + (im[k] ?? 0) ** 2);
  }
  return 10 * Math.log10(rest / full + 1e-20);
}

function measure(frequency: number, semitones: number, quality: string): number {
  const sound = {
    rate: SAMPLE_RATE,
    channels: [
      Float32Array.from(
        { length: SAMPLE_RATE * 5 },
        (_, i) => LEVEL * Math.sin((2 * Math.PI * frequency * i) / SAMPLE_RATE),
      ),
    ],
  };
  const b = bench([sound], [{ root: 60 }], (i) => setParam(i, "play/quality", quality).apply(i));
  b.engine.midi(0x90, 60 + semitones, 127);
  b.play(4800);
  return spurious(b.play(SIZE).left, frequency * 2 ** (semitones / 12));
}

/** Sines moved by intervals through the engine: what comes out beside them. */
export function interpolation(): Figure[] {
  const figures: Figure[] = [];
  for (const semitones of [-12, -5, 3, 7, 12, 24]) {
    for (const frequency of [1000, 5000, 10000, 12000]) {
      const level = measure(frequency, semitones, "full");
      const economy = measure(frequency, semitones, "economy");
      figures.push({
        name: `interpolation, ${frequency / 1000} kHz ${semitones > 0 ? "+" : "−"} ${Math.abs(semitones)} semitones`,
        value: round(level, 1),
        unit: "dB",
        against: `economy: ${round(economy, 1)} dB`,
        hold: "≤ −90 dB",
        pass: level <= -90,
      });
    }
  }
  return figures;
}
