import { type Decibels, decibelsOf, gainOf, type Hertz, type Seconds } from "../audio";
import { BLOCK } from "./shared-parts";

/** A test sound that goes through a row of the instrument as voices would: a tone that stays, or a sine from the lowest to the highest frequency. */
export interface ProbeSetting {
  readonly kind: "tone" | "sweep";
  /** The row that it goes through: `effects`, `sends/<id>` or `layers/<id>` (its inserts). */
  readonly at: string;
  /** Of a tone. */
  readonly hertz: Hertz;
  readonly level: Decibels;
}

/** A sweep goes from here to there in so long, evenly by octaves; its response is told in so many bands. */
export const SWEEP = { from: 20, to: 20000, seconds: 6, bands: 96 } as const;
/** In which it comes and goes. */
const FADE: Seconds = 0.005;
const FLOOR: Decibels = -120;

/** Makes a test sound, and for a sweep listens to what becomes of it: the level at each frequency as that goes by (a response by swept sine). Allocates nothing while it runs. */
export class Probe {
  readonly left = new Float32Array(BLOCK);
  readonly right = this.left;
  /** Levels of what was heard in each band against the sweep's own (dB), lowest first; those that it hasn't come to are −120. */
  readonly response = new Float32Array(SWEEP.bands).fill(FLOOR);
  private setting: ProbeSetting | null = null;
  private amplitude = 0;
  private phase = 0;
  private frame = 0;
  private gain = 0;
  private ending = false;
  private sounded = false;
  /** Band of the sweep at the beginning of the stretch that was made last, and its frame. */
  private stretch = 0;

  constructor(private readonly rate: Hertz) {}

  /** Begins another test sound; null lets the one that sounds end. */
  set(setting: ProbeSetting | null): void {
    if (!setting) {
      this.ending = true;
      return;
    }
    const moved = this.setting?.kind === "tone" && setting.kind === "tone" && this.setting.at === setting.at;
    this.setting = setting;
    this.ending = false;
    this.amplitude = gainOf(setting.level);
    // A tone of another frequency goes on in its cycle.
    if (moved) return;
    this.phase = 0;
    this.frame = 0;
    this.gain = 0;
    if (setting.kind === "sweep") this.response.fill(FLOOR);
  }

  /** The row that it goes through; null: there is none. */
  get at(): string | null {
    return this.setting?.at ?? null;
  }

  /** Whether a sweep is on its way. */
  get sweeping(): boolean {
    return this.setting?.kind === "sweep";
  }

  /** Makes the next frames, from the first place of `left` on. */
  make(count: number): void {
    const { setting, left, rate, amplitude } = this;
    if (!setting) {
      if (this.sounded) left.fill(0);
      this.sounded = false;
      return;
    }
    this.sounded = true;
    const step = 1 / (FADE * rate);
    const frames = SWEEP.seconds * rate;
    const growth = Math.log(SWEEP.to / SWEEP.from) / frames;
    this.stretch = this.frame;
    for (let i = 0; i < count; i++) {
      const over = setting.kind === "sweep" && this.frame >= frames;
      this.gain = this.ending || over ? Math.max(0, this.gain - step) : Math.min(1, this.gain + step);
      left[i] = amplitude * this.gain * Math.sin(2 * Math.PI * this.phase);
      const hertz = setting.kind === "tone" ? setting.hertz : SWEEP.from * Math.exp(growth * this.frame);
      this.phase += Math.min(0.5, hertz / rate);
      if (this.phase >= 1) this.phase -= 1;
      this.frame++;
      if (this.gain === 0 && (this.ending || over)) {
        left.fill(0, i, count);
        this.setting = null;
        return;
      }
    }
  }

  /** Hears what has become of the frames that were made last. */
  hear(left: Float32Array, right: Float32Array, from: number, to: number): void {
    if (this.setting?.kind !== "sweep") return;
    const band = Math.floor((SWEEP.bands * this.stretch) / (SWEEP.seconds * this.rate));
    if (band >= SWEEP.bands) return;
    let peak = 0;
    for (let i = from; i < to; i++) peak = Math.max(peak, Math.abs(left[i] as number), Math.abs(right[i] as number));
    const level = decibelsOf(peak / this.amplitude);
    if (level > (this.response[band] as number)) this.response[band] = level;
  }
}
