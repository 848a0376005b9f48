import { blockOf } from "../cell-block";
import { number, time } from "../number";
import { ON } from "../on";
import { BUSES, both, type UnitSpec, type VoiceCell } from "../unit";

/** Decibels of an octave of level. */
const OCTAVE = 20 * Math.log10(2);

const decibels = <const I extends string>(id: I, label: string, help: string) =>
  number({ id, label, unit: "decibels", min: -24, max: 24, default: 0, mod: "linear", help });

const CELL: VoiceCell = {
  kernel: "transient",
  tune: (read, out, _pitch, rate) => {
    const share = (seconds: number) => 1 - Math.exp(-1 / Math.max(1, seconds * rate));
    both(out, 0, read("attack") / OCTAVE);
    both(out, 1, read("sustain") / OCTAVE);
    both(out, 2, share(0.0005));
    both(out, 3, share(0.04));
    both(out, 4, share(Math.max(0.002, read("length"))));
  },
};

/** Makes beginnings and what follows them louder or softer. */
export const transient = {
  kind: "transient",
  role: "stage",
  label: "Transient shaper",
  help: "Changes the level of attack and sustain of each note, at any level.",
  places: ["stage", ...BUSES],
  params: [
    ON,
    decibels("attack", "Attack", "Gain of the attack."),
    decibels("sustain", "Sustain", "Gain of the sustain."),
    time("length", "Length", 0.03, 0.3, "Length of the attack."),
  ],
  cell: CELL,
  block: blockOf(CELL),
} as const satisfies UnitSpec;
