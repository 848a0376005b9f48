import { blockOf } from "../cell-block";
import { number, time } from "../number";
import { ON } from "../on";
import { BUSES, both, type UnitSpec, type VoiceCell } from "../unit";

/** Decibels of an octave of level. */
const OCTAVE = 20 * Math.log10(2);

const decibels = <I extends string>(id: I, label: string, help: string) =>
  number({ id, label, unit: "decibels", min: -24, max: 24, default: 0, mod: "linear", help });

const CELL: VoiceCell = {
  kernel: "transient",
  tune: (read, out, _pitch, rate) => {
    const share = (seconds: number) => 1 - Math.exp(-1 / Math.max(1, seconds * rate));
    both(out, 0, read("begins") / OCTAVE);
    both(out, 1, read("goesOn") / OCTAVE);
    both(out, 2, share(0.0005));
    both(out, 3, share(0.04));
    both(out, 4, share(Math.max(0.002, read("length"))));
  },
};

/** Makes beginnings and what follows them louder or softer. */
export const transient = {
  kind: "transient",
  role: "stage",
  label: "Transient",
  help: "Makes the beginning of each note louder or softer, and what follows it, however loud it is.",
  places: ["stage", ...BUSES],
  params: [
    ON,
    decibels("begins", "Beginning", "How much louder what begins is."),
    decibels("goesOn", "Going on", "How much louder what goes on is."),
    time("length", "Length", 0.03, 0.3, "How long a beginning lasts."),
  ],
  cell: CELL,
  block: blockOf(CELL),
} as const satisfies UnitSpec;
