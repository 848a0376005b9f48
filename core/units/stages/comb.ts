import { mix, number, time } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

/** The lowest pitch that its line is long enough for. */
const LOWEST = 16;

/** A comb tuned to the key: a string, a pipe. */
export const comb = {
  kind: "comb",
  role: "stage",
  label: "Comb",
  help: "Comb filter tuned to the note: strings and pipes.",
  places: ["stage"],
  params: [
    ON,
    mix(0.7, "Balance of dry sound and comb."),
    number({
      id: "transpose",
      label: "Transpose",
      unit: "semitones",
      min: -36,
      max: 36,
      default: 0,
      mod: "linear",
      help: "Pitch relative to the note.",
    }),
    time("decay", "Decay", 1, 20, "Decay by 60 dB."),
    number({
      id: "damping",
      label: "Damping",
      unit: "hertz",
      min: 200,
      max: 20000,
      default: 6000,
      taper: "log",
      mod: "octaves",
      help: "High cut in the feedback path.",
    }),
    {
      type: "choice",
      id: "ends",
      label: "Ends",
      choices: [
        { id: "closed", label: "Both closed" },
        { id: "open", label: "One open" },
      ],
      default: "closed",
      help: "Both closed: all harmonics. One open: odd harmonics, an octave lower, as in a stopped pipe.",
    },
  ],
  cell: {
    kernel: "comb",
    pitched: true,
    ring: 1 / LOWEST,
    most: (rate) => 2 ** Math.ceil(Math.log2(rate / LOWEST)),
    // Turned upside down in one step it would click.
    variant: (read) => read("ends"),
    tune: (read, out, pitch, rate) => {
      const cycles = 2 ** (pitch + read("transpose") / 12);
      const period = 1 / Math.max(cycles, LOWEST / rate);
      const corner = 2 * Math.PI * Math.min(0.49, read("damping") / rate);
      const fresh = 1 - Math.exp(-corner);
      // The low pass takes time of its own: that much less is left for the line.
      const w = 2 * Math.PI * cycles;
      const kept = 1 - fresh;
      const late = w < 3 ? Math.atan2(kept * Math.sin(w), 1 - kept * Math.cos(w)) / w : 0;
      const lost = fresh / Math.hypot(1 - kept * Math.cos(w), kept * Math.sin(w));
      // One round loses so much that 60 dB are lost in the time; what the low pass takes at the pitch itself is given back as far as that is stable.
      const round = 10 ** ((-3 * period) / (Math.max(0.001, read("decay")) * rate));
      both(out, 0, period - late);
      both(out, 1, Math.min(0.9999, round / lost) * (read("ends") === 1 ? -1 : 1));
      both(out, 2, fresh);
      both(out, 3, read("mix"));
    },
  },
} as const satisfies UnitSpec;
