import { number, time } from "../number";
import type { UnitSpec } from "../unit";

const bend = <const I extends string>(id: I, label: string, value: number, help: string) =>
  number({ id, label, unit: "percent", min: -1, max: 1, default: value, mod: "linear", help });

/** What all envelopes of six segments have. */
export const segments = [
  time("delay", "Delay", 0, 10, "Time before the attack."),
  time("attack", "Attack", 0.001, 10, "Time to full level."),
  bend("attackBend", "Attack bend", 0, "Curve of the attack: 0 % linear, above fast at first, below slow at first."),
  time("hold", "Hold", 0, 10, "Time at full level."),
  time("decay", "Decay", 0.5, 20, "Time from full level to the sustain level."),
  bend("decayBend", "Decay bend", 1, "0 %: a straight line; 100 %: evenly in decibels, as things die away."),
  number({
    id: "sustain",
    label: "Sustain",
    unit: "percent",
    min: 0,
    max: 1,
    default: 1,
    mod: "linear",
    help: "Level while the key is held.",
  }),
  time("release", "Release", 0.3, 20, "Time from note off to silence."),
  bend("releaseBend", "Release bend", 1, "0 %: a straight line; 100 %: evenly in decibels, as things die away."),
] as const;

/** The amplitude envelope of a layer. */
export const amp = {
  kind: "amp",
  role: "amp",
  label: "Amp envelope",
  help: "Level of each note over time.",
  params: segments,
} as const satisfies UnitSpec;
