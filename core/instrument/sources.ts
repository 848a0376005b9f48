import { byIdentity } from "./by-identity";
import type { Instrument } from "./instrument";

/** A source of modulation: its name in routes, what people read, whether it also goes below zero, and if each voice has its own. */
export interface SourceSpec {
  readonly id: string;
  readonly label: string;
  readonly bipolar: boolean;
  readonly perVoice: boolean;
  /** Whether it comes in steps from outside and is smoothed unless its route says otherwise. */
  readonly stepped: boolean;
  readonly help: string;
}

const own = (id: string, label: string, bipolar: boolean, help: string): SourceSpec => ({
  id,
  label,
  bipolar,
  perVoice: true,
  stepped: false,
  help,
});

/** The sources that every instrument has; controllers, envelopes, LFOs and macros come on top. */
export const SOURCES: readonly SourceSpec[] = [
  own("velocity", "Velocity", false, "Velocity of the note."),
  own("release", "Release velocity", false, "Release velocity of the note; 0 until it ends."),
  own("key", "Key", true, "Distance from middle C: ±1 is five octaves."),
  own("random", "Random", true, "New random value for each note."),
  own("repeat", "Repeat", false, "Number of the repeat that sounds: 0 the first, 1 the sixteenth."),
  own("time", "Time", false, "Seconds since the note began."),
  own("amp", "Amp envelope", false, "The layer's amp envelope."),
  { ...own("notePressure", "Note pressure", false, "Pressure on the note's own key."), stepped: true },
  { ...own("slide", "Note timbre (CC 74)", false, "Per-note controller 74 in MPE."), stepped: true },
  { ...own("wheel", "Mod wheel", false, "Controller 1."), perVoice: false, stepped: true },
  { ...own("pressure", "Pressure", false, "Channel pressure (aftertouch)."), perVoice: false, stepped: true },
  {
    ...own("bend", "Pitch wheel", true, "Pitch wheel, besides the pitch that it bends."),
    perVoice: false,
    stepped: true,
  },
];

const NAMED: Readonly<Record<number, string>> = {
  2: "Breath",
  4: "Foot",
  7: "Volume",
  11: "Expression",
  74: "Brightness",
};

/** The controller of a source's name; null for other sources. */
export function controllerOf(source: string): number | null {
  const match = /^controllers\/(\d{1,3})$/.exec(source);
  const number = match ? Number(match[1]) : 128;
  return number < 128 ? number : null;
}

/** All sources of a document, in the order in which lists show them; of the controllers the usual ones and those in use. The very same list as long as none is another. */
export function listSources(instrument: Instrument): readonly SourceSpec[] {
  const sources = sourcesOf(instrument);
  const same =
    sources.length === listed.length &&
    sources.every((s, i) => s.id === listed[i]?.id && s.label === listed[i].label && s.perVoice === listed[i].perVoice);
  if (!same) listed = sources;
  return listed;
}

let listed: readonly SourceSpec[] = [];

const sourcesOf = byIdentity((instrument: Instrument): readonly SourceSpec[] => {
  const used = instrument.routes.flatMap((r) => [controllerOf(r.source), controllerOf(r.scale ?? "")]);
  const controllers = [...new Set([...Object.keys(NAMED).map(Number), ...used.filter((n) => n !== null)])];
  return [
    ...SOURCES,
    ...instrument.envelopes.map((u) => own(`envelopes/${u.id}`, u.name, false, "Envelope of each note.")),
    ...instrument.lfos.map((u) => ({
      ...own(`lfos/${u.id}`, u.name, true, "Low-frequency oscillator."),
      perVoice: u.params.retrigger === "note",
    })),
    ...instrument.macros.map((u) => ({ ...own(`macros/${u.id}`, u.name, false, "A macro's dial."), perVoice: false })),
    ...controllers
      .sort((a, b) => a - b)
      .map((n) => ({
        ...own(`controllers/${n}`, NAMED[n] ? `${NAMED[n]} (CC ${n})` : `CC ${n}`, false, `Controller ${n}.`),
        perVoice: false,
        stepped: true,
      })),
  ];
});
