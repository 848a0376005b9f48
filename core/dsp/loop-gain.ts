/** Levels (dB) at frame `from` and every `step` frames after it, and how much of them is evened out (0 to 1). */
export interface LevelCurve {
  readonly amount: number;
  readonly from: number;
  readonly step: number;
  readonly levels: readonly number[];
}

/** The gain that keeps a loop even: 1 at its start, straight from each point of the level curve to the next. */
export class LoopGain {
  private readonly gains: Float64Array;

  constructor(
    private readonly curve: LevelCurve,
    private readonly loop: { readonly start: number; readonly end: number },
  ) {
    const { amount, levels } = curve;
    this.gains = Float64Array.from(levels, (level) => 10 ** ((-amount * level) / 20));
    const scale = 1 / this.crossing(loop.start);
    for (let n = 0; n < this.gains.length; n++) this.gains[n] = (this.gains[n] as number) * scale;
  }

  /** The gain of a loop; null where it is as loud as the sound is. */
  static of(loop: { start: number; end: number; flat: LevelCurve | null }): LoopGain | null {
    return loop.flat && loop.flat.amount > 0 && loop.flat.levels.length > 0 ? new LoopGain(loop.flat, loop) : null;
  }

  /** Of a frame that is heard by itself: what comes before the loop is left as it is, what comes behind it is as loud as the loop's end. */
  alone(frame: number): number {
    const { start, end } = this.loop;
    return frame <= start ? 1 : this.crossing(Math.min(frame, end));
  }

  /** Of a frame that is heard in a crossfade, wherever it lies. */
  crossing(frame: number): number {
    const { gains } = this;
    const last = gains.length - 1;
    const place = Math.max(0, Math.min(last, (frame - this.curve.from) / this.curve.step));
    const n = Math.min(Math.max(0, last - 1), Math.floor(place));
    const low = gains[n] as number;
    return low + (place - n) * ((gains[Math.min(last, n + 1)] as number) - low);
  }

  /** Frames at which `alone` turns, rising. */
  turns(): number[] {
    const { from, step, levels } = this.curve;
    const { start, end } = this.loop;
    const within = levels.map((_, n) => from + n * step).filter((frame) => frame > start && frame < end);
    return [start, ...within, end];
  }
}
