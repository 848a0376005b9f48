import type { NumberParam, UnitSpec } from "../spec";

const time = <I extends string>(id: I, label: string, value: number, max: number, help: string) =>
  ({
    type: "number",
    id,
    label,
    unit: "seconds",
    min: 0,
    max,
    default: value,
    taper: "square",
    mod: "linear",
    help,
  }) as const satisfies NumberParam;

/** The amplitude envelope of a layer: attack, decay, sustain, release. */
export const amp = {
  kind: "amp",
  role: "amp",
  label: "Amp envelope",
  help: "How the level rises, falls and dies away.",
  params: [
    time("attack", "Attack", 0.001, 10, "Time to full level."),
    time("decay", "Decay", 0.5, 20, "Time to fall to the sustain level."),
    {
      type: "number",
      id: "sustain",
      label: "Sustain",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      taper: "linear",
      mod: "linear",
      help: "Level while the key is held, as a share of full level.",
    },
    time("release", "Release", 0.3, 20, "Time to die away by 60 dB once the key is let go."),
  ],
} as const satisfies UnitSpec;
