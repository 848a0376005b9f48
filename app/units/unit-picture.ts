import {
  bandResponse,
  bendBy,
  bent,
  compressedBy,
  curveAt,
  type DriveCurve,
  type FilterSettings,
  filterResponse,
  type LfoShape,
  lfoAt,
  type ShaperCurve,
} from "../../core/dsp";
import { rowsOf, settingOf, type Unit } from "../../core/instrument";
import { type Formant, formantsOf } from "../../core/units";
import { bandsOf } from "./bands";
import { cycleOf } from "./oscillator-wave";
import { FLOOR, heightOfLevel, rowNear } from "./unit-rows";

const RATE = 48000;
const LOWEST = 20;
const HIGHEST = 20000;

/** A frequency at a place across a picture (0 to 1), evenly by octaves; and the other way round. */
export const frequencyAt = (x: number): number => LOWEST * (HIGHEST / LOWEST) ** x;
export const placeOf = (frequency: number): number => Math.log(frequency / LOWEST) / Math.log(HIGHEST / LOWEST);

const decibels = (factor: number): number => 20 * Math.log10(Math.max(1e-6, factor));
const within = (x: number): number => Math.min(1, Math.max(0, x));

/** What a filter does at a frequency, in decibels. */
export function filterDecibels({ params }: Unit, frequency: number): number {
  const settings = {
    mode: String(params.type) as FilterSettings["mode"],
    slope: String(params.slope) as FilterSettings["slope"],
    character: String(params.model) as FilterSettings["character"],
    cutoff: Number(params.cutoff),
    resonance: Number(params.resonance),
    lift: Number(params.gain),
    steady: params.resonanceWidth === "constantDecay",
  };
  return decibels(filterResponse(settings, RATE, frequency));
}

/** What an equaliser does at a frequency, in decibels. */
export const equaliserDecibels = (unit: Unit, frequency: number): number =>
  bandsOf(unit).reduce((sum, band) => sum + decibels(bandResponse(band, RATE, frequency)), 0);

/** What a mouth does at a frequency, in decibels of its loudest formant. */
function vowelDecibels(formants: readonly Formant[], frequency: number): number {
  let sum = 0;
  for (const { hertz, level, width } of formants) {
    const off = frequency / hertz - hertz / frequency;
    sum += (level * width) / Math.hypot(width, off);
  }
  return decibels(sum);
}

/** What a unit does, as heights (0 to 1) from left to right; null where there is nothing to draw. */
export function pictureOf(unit: Unit, points: number): number[] | null {
  const { params, kind } = unit;
  const value = (id: string): number => Number(settingOf(unit, id));
  const line = (f: (x: number) => number): number[] =>
    Array.from({ length: points }, (_, i) => within(f(i / (points - 1))));
  switch (kind) {
    case "filter":
      return line((x) => 0.75 + filterDecibels(unit, frequencyAt(x)) / 60);
    case "equaliser":
      return line((x) => 0.5 + equaliserDecibels(unit, frequencyAt(x)) / 48);
    case "compressor":
      return line((x) => {
        const level = x * 60 - 60;
        const out = level + compressedBy(level, value("threshold"), value("ratio"), value("knee")) + value("makeUp");
        return (out + 60) / 60;
      });
    case "gate":
      return line((x) => {
        const level = x * 72 - 72;
        const open = level >= value("threshold") ? 0 : level >= value("threshold") - value("hysteresis") ? 0.5 : 1;
        return (level + open * Math.max(-80, value("range")) + 72) / 72;
      });
    case "rotary":
      return line((x) => {
        const near = 0.9 - 0.6 * value("micDistance");
        return (
          0.5 +
          0.4 *
            near *
            Math.cos(2 * Math.PI * 3 * x) *
            (0.6 + 0.4 * Math.cos(2 * Math.PI * 2.7 * x + value("spread") / 90))
        );
      });
    case "drive": {
      const gain = 10 ** (value("drive") / 20);
      return line((x) => 0.5 + 0.42 * bendBy(String(params.curve) as DriveCurve, (2 * x - 1) * gain));
    }
    case "stereo":
      return line((x) => (Math.abs(x - 0.5 - value("balance") * 0.4) < 0.04 + 0.2 * value("width") ? 0.8 : 0.1));
    case "crusher":
      return line((x) => {
        const steps = 2 ** Math.min(4, value("bits") / 2);
        const held = Math.floor(x * 12) / 12;
        return 0.5 + 0.42 * (Math.round(Math.sin(2 * Math.PI * held) * steps) / steps);
      });
    case "tremolo":
      return line((x) => {
        const swing = lfoAt(String(params.shape) as LfoShape, x * 2);
        return 0.9 - (0.8 * value("depth") * (1 - swing)) / 2;
      });
    case "chorus":
    case "flanger":
    case "phaser":
      return line((x) => 0.5 + 0.4 * Math.sin(2 * Math.PI * (x * 1.5)));
    case "delay":
      return line((x) => {
        const echo = Math.floor(x * 6);
        return x * 6 - echo < 0.25
          ? echo === 0
            ? 0.9
            : 0.9 * Math.max(0.1, value("mix")) * value("feedback") ** (echo - 1)
          : 0;
      });
    case "oscillator": {
      const cycle = cycleOf({
        wave: String(params.wave),
        into: String(params.secondWave),
        blend: value("blend"),
        width: value("width"),
        bend: value("phaseDistortion"),
        fed: value("feedback"),
        ratio: params.hardSync === "on" ? 2 ** (value("syncPitch") / 12) : 1,
      });
      const most = cycle.reduce((a, y) => Math.max(a, Math.abs(y)), 1);
      return line((x) => 0.5 + (0.42 * (cycle[Math.floor(x * 2 * cycle.length) % cycle.length] ?? 0)) / most);
    }
    case "noise":
      // Always the same: a picture is no sound.
      return line((x) => {
        const burst = 10 ** ((-3 * ((x * 4) % 1) * 0.4) / Math.max(0.02, value("burstLength")));
        const left = 1 - value("bursts") * (1 - burst);
        return 0.5 + 0.42 * left * Math.sin(x * 431) * Math.sin(x * x * 977 + 1);
      });
    case "wavetable":
      return line(
        (x) => 0.5 + 0.25 * Math.sin(2 * Math.PI * x) + 0.2 * Math.sin(2 * Math.PI * x * (1 + 4 * value("position"))),
      );
    case "grains":
      return line((x) => 0.1 + 0.8 * Math.max(0, Math.sin(x * 15) * Math.sin(x * 37 + 1)));
    case "limiter":
      return line((x) => Math.min(0.2 + x, 0.8 + value("ceiling") / 60));
    case "level":
      return line(
        (x) =>
          0.5 +
          (params.polarity === "inverted" ? -0.42 : 0.42) *
            10 ** (value("level") / 60) *
            0.7 *
            Math.sin(6.28 * x * 1.5),
      );
    case "place":
      return line((x) => 0.5 + 0.42 * value("width") * (2 * x - 1));
    case "hall":
      return line((x) => 0.9 * Math.exp((-x * 6) / Math.sqrt(value("decay") + 0.2)));
    case "impulses":
      return line((x) => ((x * 4) % 1 < 1.2 / Math.min(40, points) ? 0.92 : 0.2));
    case "strike":
      return line((x) => 0.5 + 0.45 * Math.exp(-4 * x) * Math.cos(60 * x ** 0.6));
    case "partials":
    case "resonator":
      return line((x) => {
        const row = rowNear(rowsOf(unit), x, 1.2 / points);
        return row < 0 ? 0.03 : Math.max(0.06, heightOfLevel(rowsOf(unit)[row]?.level ?? FLOOR));
      });
    case "comb": {
      const one = params.ends === "open" ? Math.PI : 0;
      return line((x) => 0.2 + 0.7 / (1 + 12 * Math.sin(Math.PI * 4 * x + one / 2) ** 2));
    }
    case "ring":
      return line((x) => 0.5 + 0.42 * Math.sin(2 * Math.PI * 9 * x) * Math.cos(2 * Math.PI * 1.5 * x));
    case "coarse":
      return line((x) => {
        const steps = 2 ** Math.min(4, value("bits") / 2);
        const held = Math.floor(x * 14) / 14;
        return 0.5 + 0.42 * (Math.round(Math.sin(2 * Math.PI * held) * steps) / steps);
      });
    case "transient":
      return line((x) => {
        const fresh = Math.exp((-x * 0.12) / Math.max(0.004, value("length")));
        return 0.25 + (value("attack") * fresh + value("sustain") * (1 - fresh)) / 60 + 0.2 * Math.exp(-2 * x);
      });
    case "feed":
      return line((x) => 0.5 + 0.35 * Math.sign(x - 0.5) * Math.min(1, Math.abs(x - 0.5) * 3));
    case "shaper": {
      const gain = 10 ** (value("drive") / 20);
      return line((x) => 0.5 + 0.42 * curveAt(String(params.curve) as ShaperCurve, (2 * x - 1) * gain + value("bias")));
    }
    case "vowel": {
      const formants = formantsOf(value("vowel"), value("size"), value("width"));
      return line((x) => 0.9 + vowelDecibels(formants, frequencyAt(x)) / 60);
    }
    case "allpass":
      return line((x) => {
        const turn = (Number(params.stages) * Math.atan(frequencyAt(x) / value("centre"))) % Math.PI;
        return 0.15 + 0.7 * Math.abs(Math.cos(turn));
      });
    case "reverb":
    case "convolution":
      return line((x) => 0.9 * Math.exp(-x * (kind === "reverb" ? 6 / Math.sqrt(value("decay") + 0.2) : 4)));
    case "amp": {
      const rise = 0.3 * Math.sqrt(within(value("attack") / 10)) + 0.02;
      const fall = rise + 0.3 * Math.sqrt(within(value("decay") / 20)) + 0.02;
      const end = 0.75 + 0.23 * Math.sqrt(within(value("release") / 20)) + 0.01;
      return line((x) => {
        if (x < rise) return 0.95 * bent(x / rise, value("attackBend"));
        if (x < fall) return 0.95 * (1 - (1 - value("sustain")) * bent((x - rise) / (fall - rise), value("decayBend")));
        if (x < 0.75) return 0.95 * value("sustain");
        return x < end ? 0.95 * value("sustain") * (1 - bent((x - 0.75) / (end - 0.75), value("releaseBend"))) : 0;
      });
    }
    default:
      return null;
  }
}

/** Whether a unit has a picture by which it can be told. */
export const isPictured = (unit: Unit): boolean => pictureOf(unit, 2) !== null;
