import type { Hertz, Metres, Seconds } from "../../audio";
import { CONTROL } from "../kernels/layout";
import { DelayLine } from "./delay-line";
import { OnePole } from "./one-pole";
import { Ramp } from "./ramp";

/** Metres per second. */
const SPEED_OF_SOUND = 343;
/** How far the mouths of horn and drum are from their axes, in metres. */
const HORN = 0.19;
const DRUM = 0.16;
/** The least of a mouth's level that is heard when it points away: the drum spreads more. */
const HORN_BEHIND = 0.15;
const DRUM_BEHIND = 0.55;
/** The drum turns a little slower than the horn, the other way round, and takes so much longer to come to its speed. */
const DRUM_SPEED = -0.9;
const DRUM_HEAVIER = 4;
/** Farthest that a microphone may stand, and the longest way from a mouth to it. */
const FARTHEST = 2;
const LONGEST = (FARTHEST + HORN) / SPEED_OF_SOUND;

/** A mouth that turns before two microphones: the way to each swings, and with it time and level. */
class Rotor {
  angle = 0;
  speed = 0;
  private readonly line: DelayLine;
  private readonly ways = [new Ramp(), new Ramp()] as const;
  private readonly gains = [new Ramp(), new Ramp()] as const;

  constructor(
    private readonly rate: Hertz,
    private readonly radius: Metres,
    private readonly behind: number,
  ) {
    this.line = new DelayLine(LONGEST * rate + 4);
  }

  /** One control step on: the speed (turns a second) nears what is wanted in `inertia` seconds. */
  turn(wanted: number, inertia: Seconds): void {
    const step = CONTROL / this.rate;
    this.speed += (inertia <= 0 ? 1 : 1 - Math.exp(-step / inertia)) * (wanted - this.speed);
    this.angle += this.speed * step;
    this.angle -= Math.floor(this.angle);
  }

  /** Microphones `distance` metres from the axis, `apart` turns from one another. */
  aim(distance: Metres, apart: number): void {
    for (let c = 0; c < 2; c++) {
      const turned = Math.cos(2 * Math.PI * (this.angle + (c === 0 ? -apart : apart) / 2));
      const way = Math.sqrt(distance ** 2 + this.radius ** 2 - 2 * distance * this.radius * turned);
      const facing = this.behind + ((1 - this.behind) * (1 + turned)) / 2;
      this.ways[c as 0 | 1].aim(2 + (way / SPEED_OF_SOUND) * this.rate);
      this.gains[c as 0 | 1].aim((facing * distance) / way);
    }
  }

  write(x: number): void {
    this.line.write(x);
  }

  /** What a microphone hears; of each, once a frame. */
  heard(channel: 0 | 1): number {
    return this.line.between(this.ways[channel].next()) * this.gains[channel].next();
  }

  reset(): void {
    this.angle = 0;
    this.speed = 0;
    this.line.clear();
    for (let c = 0; c < 2; c++) {
      this.ways[c as 0 | 1].forget();
      this.gains[c as 0 | 1].forget();
    }
  }
}

/**
 * A cabinet in which a horn and a drum turn: what is high goes into the horn, what is low into the drum, and two microphones hear both come and go. Time and
 * level follow from where the mouths are (J. O. Smith and others, 2002, on simulating the Doppler effect).
 */
export class Rotary {
  readonly ring: number;
  private readonly horn: Rotor;
  private readonly drum: Rotor;
  private readonly split: OnePole;
  private readonly mix = new Ramp();
  private wanted = 0;
  private inertia = 0;
  private distance = 1;
  private apart = 0;

  constructor(rate: Hertz) {
    this.horn = new Rotor(rate, HORN, HORN_BEHIND);
    this.drum = new Rotor(rate, DRUM, DRUM_BEHIND);
    this.split = new OnePole(rate);
    this.ring = Math.ceil(LONGEST * rate) + 4;
  }

  /** `speed` in turns a second, `apart` in turns between the microphones, `mix` 0 to 1 from the sound as it was. */
  tune(mix: number, speed: Hertz, inertia: Seconds, crossover: Hertz, distance: Metres, apart: number): void {
    this.mix.aim(mix);
    this.wanted = speed;
    this.inertia = inertia;
    this.split.tune(crossover);
    this.distance = Math.min(FARTHEST, Math.max(2 * HORN, distance));
    this.apart = apart;
  }

  control(): void {
    const { horn, drum, wanted, inertia } = this;
    horn.turn(wanted, inertia);
    drum.turn(wanted * DRUM_SPEED, inertia * DRUM_HEAVIER);
    horn.aim(this.distance, this.apart);
    drum.aim(this.distance, this.apart);
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { horn, drum } = this;
    for (let i = from; i < to; i++) {
      const l = left[i] as number;
      const r = right[i] as number;
      const both = (l + r) / 2;
      const low = this.split.low(both);
      drum.write(low);
      horn.write(both - low);
      const mix = this.mix.next();
      left[i] = l + mix * (horn.heard(0) + drum.heard(0) - l);
      right[i] = r + mix * (horn.heard(1) + drum.heard(1) - r);
    }
  }

  reset(): void {
    this.horn.reset();
    this.drum.reset();
    this.split.reset();
  }
}
