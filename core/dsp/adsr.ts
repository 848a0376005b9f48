import type { Seconds } from "../audio";

export type AdsrStage = "attack" | "decay" | "release" | "done";

/** Fall by 60 dB, in time constants. */
const FALL = Math.log(1000);
/** Level at which a released envelope has ended: −90 dB. */
const SILENT = 10 ** (-90 / 20);

/**
 * An attack–decay–sustain–release envelope advanced by whole stretches of frames: the attack is a straight line to 1, decay
 * and release are exponential and take their time to fall by 60 dB of what they have to fall. Its times may change at any
 * moment: the level goes on from where it is.
 */
export class Adsr {
  level = 0;
  stage: AdsrStage = "done";

  start(): void {
    this.level = 0;
    this.stage = "attack";
  }

  release(): void {
    if (this.stage !== "done") this.stage = "release";
  }

  reset(): void {
    this.level = 0;
    this.stage = "done";
  }

  /** Advances by a stretch of time and returns the level at its end. */
  advance(time: Seconds, attack: Seconds, decay: Seconds, sustain: number, release: Seconds): number {
    let left = time;
    if (this.stage === "attack") {
      const toTop = (1 - this.level) * attack;
      if (left < toTop) {
        this.level += left / attack;
        return this.level;
      }
      left -= toTop;
      this.level = 1;
      this.stage = "decay";
    }
    if (this.stage === "decay") {
      const keep = decay > 0 ? Math.exp((-FALL * left) / decay) : 0;
      this.level = sustain + (this.level - sustain) * keep;
    } else if (this.stage === "release") {
      this.level *= release > 0 ? Math.exp((-FALL * left) / release) : 0;
      if (this.level < SILENT) this.reset();
    }
    return this.level;
  }
}
