import {
  bandResponse,
  bendBy,
  bent,
  compressedBy,
  type DriveCurve,
  type FilterSettings,
  filterResponse,
  type LfoShape,
  lfoAt,
} from "../../../core/dsp";
import type { Unit } from "../../../core/instrument";
import { bandsOf } from "./bands";

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
    mode: String(params.mode) as FilterSettings["mode"],
    slope: String(params.slope) as FilterSettings["slope"],
    character: String(params.character) as FilterSettings["character"],
    cutoff: Number(params.cutoff),
    resonance: Number(params.resonance),
  };
  return decibels(filterResponse(settings, RATE, frequency));
}

/** What an equaliser does at a frequency, in decibels. */
export const equaliserDecibels = (unit: Unit, frequency: number): number =>
  bandsOf(unit).reduce((sum, band) => sum + decibels(bandResponse(band, RATE, frequency)), 0);

/** What a unit does, as heights (0 to 1) from left to right; null where there is nothing to draw. */
export function pictureOf(unit: Unit, points: number): number[] | null {
  const { params, kind } = unit;
  const value = (id: string): number => Number(params[id]);
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
