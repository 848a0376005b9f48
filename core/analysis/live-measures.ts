import { type Decibels, decibelsOf, type Hertz, type Note } from "../audio";
import { loudnessOf } from "./loudness";
import { PitchFinder } from "./pitch";
import { Spectrum } from "./spectrum";

/** Frames of which a spectrum is made, and those that are looked at for pitch and likeness. */
const SPECTRUM = 8192;
const LOOKED_AT = 6144;
const LOWEST: Hertz = 20;
const HIGHEST: Hertz = 20000;
const FLOOR: Decibels = -120;
/** A pitch of which the finder is less sure isn't shown. */
const SURE = 0.7;
/** By how much the held peaks fall with each look. */
const FALL: Decibels = 0.25;

/** What is measured of a sound as it is now. */
export interface Measured {
  /** Levels of the bands, evenly by octaves from 20 Hz to 20 kHz: a sine at full level is 0 dB; and the highest of late. */
  readonly spectrum: Float32Array;
  readonly held: Float32Array;
  /** The pitch as a note with fraction; null where there is none. */
  pitch: Note | null;
  /** Momentary loudness in LUFS (ITU-R BS.1770-5: the last 400 ms); −120 for silence. */
  loudness: Decibels;
  peak: Decibels;
  /** How alike left and right are, −1 (upside down) to 1 (the same); 0 for silence. */
  likeness: number;
}

/** The frequency at the lower edge of a band. */
export const bandEdge = (band: number, bands: number): Hertz => LOWEST * (HIGHEST / LOWEST) ** (band / bands);

/** Measures the last stretch of a sound again and again. */
export class LiveMeasures {
  readonly measured: Measured;
  private readonly spectrum = new Spectrum(SPECTRUM);
  private readonly finder: PitchFinder;
  private readonly mono = new Float32Array(SPECTRUM);
  private readonly edges: Int32Array;

  constructor(
    private readonly rate: Hertz,
    bands: number,
  ) {
    this.finder = new PitchFinder(rate, 40);
    this.measured = {
      spectrum: new Float32Array(bands).fill(FLOOR),
      held: new Float32Array(bands).fill(FLOOR),
      pitch: null,
      loudness: FLOOR,
      peak: FLOOR,
      likeness: 0,
    };
    this.edges = Int32Array.from({ length: bands + 1 }, (_, b) =>
      Math.min(SPECTRUM / 2, Math.round((bandEdge(b, bands) * SPECTRUM) / rate)),
    );
  }

  /** Takes the last frames of two channels, at least 8192 of each; the newest is the last. Gives the same object each time. */
  take(left: Float32Array, right: Float32Array): Measured {
    const { measured, mono } = this;
    const { length } = left;
    const from = length - SPECTRUM;
    let peak = 0;
    let [ll, rr, lr] = [0, 0, 0];
    for (let i = 0; i < SPECTRUM; i++) {
      const l = left[from + i] as number;
      const r = right[from + i] as number;
      mono[i] = (l + r) / 2;
      peak = Math.max(peak, Math.abs(l), Math.abs(r));
      if (i < SPECTRUM - LOOKED_AT) continue;
      ll += l * l;
      rr += r * r;
      lr += l * r;
    }
    measured.peak = Math.max(FLOOR, decibelsOf(peak));
    measured.likeness = ll * rr > 1e-12 ? lr / Math.sqrt(ll * rr) : 0;
    const heard = Math.min(length, Math.round(0.4 * this.rate));
    measured.loudness = loudnessOf({ rate: this.rate, channels: [left, right] }, length - heard, length);
    this.bands();
    const { note, confidence } = this.finder.find(mono, SPECTRUM - LOOKED_AT, SPECTRUM);
    measured.pitch = peak > 1e-4 && confidence > SURE ? note : null;
    return measured;
  }

  private bands(): void {
    const { spectrum, held } = this.measured;
    const magnitudes = this.spectrum.measure(this.mono, 0);
    for (let b = 0; b < spectrum.length; b++) {
      const first = this.edges[b] as number;
      const past = Math.max(first + 1, this.edges[b + 1] as number);
      let most = 0;
      for (let k = first; k < past; k++) most = Math.max(most, magnitudes[k] as number);
      const level = Math.max(FLOOR, decibelsOf(2 * most));
      spectrum[b] = level;
      held[b] = Math.max(level, (held[b] as number) - FALL);
    }
  }

  /** Lets go of the held peaks. */
  forget(): void {
    this.measured.held.fill(FLOOR);
  }
}
