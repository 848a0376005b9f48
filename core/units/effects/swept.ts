import { SweptDelay } from "../../dsp";
import { swingRate, sync } from "../beat";
import { feedback, mix, rate, spread, time } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** What tells one short swinging delay from another: its usual values, and how far its times go. */
interface Usual {
  readonly rate: number;
  readonly time: number;
  readonly longest: number;
  readonly depth: number;
  readonly deepest: number;
  readonly feedback: number;
  readonly spread: number;
}

/** A short delay that swings, as a kind of unit. */
const swept = <K extends string>(kind: K, label: string, help: string, usual: Usual) =>
  ({
    kind,
    role: "effect",
    label,
    help,
    places: BUSES,
    params: [
      ON,
      mix(0.5, "Balance of dry and wet sound."),
      rate(usual.rate),
      sync("Length of one cycle as a note value of the tempo."),
      time("delay", "Delay", usual.time, usual.longest, "Average delay time."),
      time("depth", "Depth", usual.depth, usual.deepest, "Modulation depth of the delay time."),
      feedback(usual.feedback, "Feedback of the delayed sound; below 0 inverted."),
      spread(usual.spread),
    ],
    block: (frames) => {
      const unit = new SweptDelay(frames);
      return {
        unit,
        tune: (read, tempo) =>
          unit.tune(
            read("mix"),
            read("delay"),
            read("depth"),
            swingRate(read("rate"), read("sync"), tempo),
            read("feedback"),
            read("spread") / 360,
          ),
      };
    },
  }) as const satisfies UnitSpec;

/** A copy whose delay swings, as if others played along. */
export const chorus = swept("chorus", "Chorus", "Chorus: a modulated, delayed copy thickens the sound.", {
  rate: 0.6,
  time: 0.012,
  longest: 0.04,
  depth: 0.003,
  deepest: 0.02,
  feedback: 0,
  spread: 90,
});

/** A very short delay that swings, with feedback. */
export const flanger = swept(
  "flanger",
  "Flanger",
  "Flanger: a short modulated delay sweeps a comb through the spectrum.",
  {
    rate: 0.25,
    time: 0.003,
    longest: 0.02,
    depth: 0.002,
    deepest: 0.01,
    feedback: 0.5,
    spread: 45,
  },
);
