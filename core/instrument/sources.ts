import type { Instrument } from "./instrument";

/** A source of modulation: its name in routes, what people read, whether it also goes below zero, and if each voice has its own. */
export interface SourceSpec {
  readonly id: string;
  readonly label: string;
  readonly bipolar: boolean;
  readonly perVoice: boolean;
  readonly help: string;
}

/** The sources that every instrument has; its LFOs and macros come on top. */
export const SOURCES: readonly SourceSpec[] = [
  { id: "velocity", label: "Velocity", bipolar: false, perVoice: true, help: "How hard the key was struck." },
  { id: "key", label: "Key", bipolar: true, perVoice: true, help: "Distance from middle C: ±1 is five octaves." },
  { id: "random", label: "Random", bipolar: true, perVoice: true, help: "A new value for each note." },
  { id: "amp", label: "Amp envelope", bipolar: false, perVoice: true, help: "The layer's amp envelope." },
  { id: "wheel", label: "Mod wheel", bipolar: false, perVoice: false, help: "Controller 1." },
  { id: "pressure", label: "Pressure", bipolar: false, perVoice: false, help: "Channel pressure (aftertouch)." },
];

/** All sources of a document, in the order in which lists show them. */
export function listSources(instrument: Instrument): SourceSpec[] {
  return [
    ...SOURCES,
    ...instrument.lfos.map((u) => ({
      id: `lfos/${u.id}`,
      label: u.name,
      bipolar: true,
      perVoice: true,
      help: "A slow movement.",
    })),
    ...instrument.macros.map((u) => ({
      id: `macros/${u.id}`,
      label: u.name,
      bipolar: false,
      perVoice: false,
      help: "A macro's dial.",
    })),
  ];
}
