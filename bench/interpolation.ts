import { Fft } from "../core/audio";
import { bench, RATE } from "../core/engine/test-bench";
import { type Figure, round } from "./figure";

const SIZE = 32768;

/** Level of the strongest component beside the wanted one, against it, in decibels. */
function spurious(x: Float32Array, wanted: number): number {
  const re = new Float64Array(SIZE);
  const im = new Float64Array(SIZE);
  // Blackman–Harris (1978), four terms: side lobes at −92 dB; squared, they are out of the way.
  for (let i = 0; i < SIZE; i++) {
    const t = (2 * Math.PI * i) / SIZE;
    const window = 0.35875 - 0.48829 * Math.cos(t) + 0.14128 * Math.cos(2 * t) - 0.01168 * Math.cos(3 * t);
    re[i] = (x[i] ?? 0) * window * window;
  }
  new Fft(SIZE).forward(re, im);
  const bin = (wanted / RATE) * SIZE;
  let main = 0;
  let rest = 0;
  for (let k = 8; k < SIZE / 2 - 8; k++) {
    const power = (re[k] ?? 0) ** 2 + (im[k] ?? 0) ** 2;
    if (Math.abs(k - bin) < 12) main = Math.max(main, power);
    else rest = Math.max(rest, power);
  }
  return 10 * Math.log10(rest / main);
}

/** A sine of each frequency moved by +7 semitones through the engine; what comes out beside it. */
export function interpolation(): Figure[] {
  return [1000, 5000, 10000, 12000].map((frequency) => {
    const rate = 44100;
    const sound = {
      rate,
      channels: [
        Float32Array.from({ length: rate * 2 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * frequency * i) / rate)),
      ],
    };
    const b = bench([sound], [{ root: 60 }]);
    b.engine.midi(0x90, 67, 127);
    b.play(4800);
    const level = spurious(b.play(SIZE).left, frequency * 2 ** (7 / 12));
    return {
      name: `interpolation, ${frequency / 1000} kHz + 7 semitones`,
      value: round(level, 1),
      unit: "dB",
      hold: "≤ −90 dB",
      pass: level <= -90,
    };
  });
}
